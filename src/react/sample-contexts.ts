import * as t from '@babel/types';
import type { LoadScript } from '../source/project-files.js';
import { declarationNamed } from '../source/type-members.js';
import { samplerWith } from '../source/sample-values.js';
import type { Script } from '../source/script.js';
import { exportedAs } from './exported-names.js';

/** A context that a form asks for and that nobody provides where it is shown by itself. */
export interface SampleContext {
  /** Name under which its module exports it. */
  exported: string;
  /** The file that declares it. */
  file: string;
  /** What is provided, as JavaScript source. */
  source: string;
}

/**
 * The contexts that a file asks for, itself or through hooks of the project, where they begin as nothing and their type
 * is written.
 * @param load parses another file of the project
 */
export function sampleContexts(script: Script, load: LoadScript): SampleContext[] {
  const found = new Map<string, SampleContext>();
  const seen = new Set<string>();
  const visit = (from: Script, depth: number): void => {
    if (seen.has(from.file) || depth > 3) return;
    seen.add(from.file);
    for (const name of askedNames(from)) {
      const context = declaredContext(name, from, load);
      if (context) found.set(`${context.file}:${context.exported}`, context);
    }
    for (const module of hookModules(from)) {
      const other = load(from.file, module);
      if (other) visit(other, depth + 1);
    }
  };
  visit(script, 0);
  return [...found.values()];
}

function askedNames(script: Script): string[] {
  const names = new Set<string>();
  t.traverseFast(script.ast, (node) => {
    if (!t.isCallExpression(node)) return;
    const { callee } = node;
    const called = t.isMemberExpression(callee) ? callee.property : callee;
    const [context] = node.arguments;
    if (t.isIdentifier(called) && /^use(?:Context)?$/.test(called.name) && t.isIdentifier(context))
      names.add(context.name);
  });
  return [...names];
}

/** Modules of the project from which a file takes hooks. */
function hookModules(script: Script): string[] {
  return script.ast.program.body.flatMap((node) => {
    if (!t.isImportDeclaration(node)) return [];
    return node.specifiers.some(({ local }) => /^use[A-Z]/.test(local.name)) ? [node.source.value] : [];
  });
}

function declaredContext(name: string, script: Script, load: LoadScript): SampleContext | undefined {
  const found = declarationNamed(name, script, load);
  return found && t.isVariableDeclarator(found.node) && t.isIdentifier(found.node.id)
    ? contextOf(found.node.id.name, found.node, found.script, load)
    : undefined;
}

function contextOf(
  name: string,
  { id, init }: t.VariableDeclarator,
  script: Script,
  load: LoadScript,
): SampleContext | undefined {
  if (!t.isCallExpression(init)) return undefined;
  const called = t.isMemberExpression(init.callee) ? init.callee.property : init.callee;
  const [begins] = init.arguments;
  const bare = t.isTSNonNullExpression(begins) || t.isTSAsExpression(begins) ? begins.expression : begins;
  const isNothing =
    bare === undefined ||
    t.isNullLiteral(bare) ||
    t.isIdentifier(bare, { name: 'undefined' }) ||
    (t.isObjectExpression(bare) && !bare.properties.length);
  const annotated = t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation) ? id.typeAnnotation : undefined;
  const written = t.isTSTypeReference(annotated?.typeAnnotation) ? annotated.typeAnnotation : init;
  const [type] = written.typeParameters?.params ?? [];
  const exported = exportedAs(script, name);
  if (!t.isIdentifier(called, { name: 'createContext' }) || !isNothing || !type || exported === undefined)
    return undefined;
  const source = samplerWith(load).valueOf({ node: type, script }, name.replace(/Context$/, ''), 0);
  return source === 'undefined' ? undefined : { exported, file: script.file, source };
}
