import path from 'node:path';
import * as t from '@babel/types';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';

/** A class of the project that a component, or a class it asks for, has injected. */
export interface InjectedClass {
  name: string;
  /** Absolute path of the file that exports it. */
  file: string;
}

/**
 * The classes of the project that the classes of a file ask for, and those that these ask for.
 * @param load parses another file of the project
 */
export function injectedClasses(script: Script, load: LoadScript, seen = new Set<string>()): InjectedClass[] {
  if (seen.has(script.file)) return [];
  seen.add(script.file);
  const names = askedNames(script);
  const found: InjectedClass[] = [];
  for (const statement of script.ast.program.body) {
    if (!t.isImportDeclaration(statement) || !statement.source.value.startsWith('.')) continue;
    const wanted = statement.specifiers.flatMap((one) =>
      t.isImportSpecifier(one) && names.has(one.local.name) && t.isIdentifier(one.imported) ? [one.imported.name] : [],
    );
    if (!wanted.length) continue;
    const other = load(script.file, statement.source.value);
    if (!other) continue;
    for (const name of wanted) found.push({ name, file: path.resolve(other.file) });
    found.push(...injectedClasses(other, load, seen));
  }
  return found;
}

/** Names that a file hands to `inject(…)` and `@Inject(…)`, and types of its constructors' parameters. */
export function askedNames(script: Script): Set<string> {
  const names = new Set<string>();
  t.traverseFast(script.ast, (node) => {
    const asks = t.isCallExpression(node) && t.isIdentifier(node.callee) && /^[iI]nject$/.test(node.callee.name);
    const [token] = asks ? node.arguments : [];
    if (t.isIdentifier(token)) names.add(token.name);
    if (!t.isClassMethod(node, { kind: 'constructor' })) return;
    for (const parameter of node.params) {
      const target = t.isTSParameterProperty(parameter) ? parameter.parameter : parameter;
      const type = t.isIdentifier(target) ? target.typeAnnotation : undefined;
      const named = t.isTSTypeAnnotation(type) ? type.typeAnnotation : undefined;
      if (t.isTSTypeReference(named) && t.isIdentifier(named.typeName)) names.add(named.typeName.name);
    }
  });
  return names;
}
