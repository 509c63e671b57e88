import path from 'node:path';
import * as t from '@babel/types';
import type { LoadScript } from '../source/project-files.js';
import { functionSource, samplerWith, spySource } from '../source/sample-values.js';
import type { Script } from '../source/script.js';
import { declarationNamed, type TypeInFile } from '../source/type-members.js';
import { askedNames } from './injected.js';

/** Something injected that cannot be made by itself, and what stands in for it. */
export interface StandIn {
  name: string;
  /** Absolute path of the file that exports it. */
  file: string;
  /** Its value as JavaScript source: methods record their calls and answer as their types say. */
  source: string;
}

/**
 * What stands in for abstract classes and tokens that a component asks for.
 * @param load parses another file of the project
 */
export function standIns(script: Script, load: LoadScript): StandIn[] {
  return [...askedNames(script)].flatMap((name): StandIn[] => {
    const found = declarationNamed(name, script, load);
    if (!found) return [];
    const file = path.resolve(found.script.file);
    if (t.isClassDeclaration(found.node) && found.node.abstract === true)
      return [{ name, file, source: instanceSource(found.node, found.script, load) }];
    const source = t.isVariableDeclarator(found.node) ? tokenSource(found.node, found.script, load) : undefined;
    return source === undefined ? [] : [{ name, file, source }];
  });
}

/** An object with what the members of a class say of themselves. */
function instanceSource(node: t.ClassDeclaration, script: Script, load: LoadScript): string {
  const sampler = samplerWith(load);
  const parts = node.body.body.flatMap((member): string[] => {
    if (!('key' in member) || !t.isIdentifier(member.key)) return [];
    const { name } = member.key;
    const valueOf = (type: t.Node): string => sampler.valueOf({ node: type, script }, name, 0);
    const put = (source: string): string[] => [`${JSON.stringify(name)}: ${source}`];
    if (t.isClassMethod(member) || t.isTSDeclareMethod(member)) {
      if (member.kind === 'constructor') return [];
      if (member.kind === 'method') return put(functionSource({ typeAnnotation: member.returnType }, name, valueOf));
      return t.isTSTypeAnnotation(member.returnType) ? put(valueOf(member.returnType)) : [];
    }
    if (!t.isClassProperty(member)) return [];
    return t.isTSTypeAnnotation(member.typeAnnotation) ? put(valueOf(member.typeAnnotation)) : put(spySource(name));
  });
  return `{ ${parts.join(', ')} }`;
}

/** A value for a token that has no factory of its own: `new InjectionToken<Clock>('clock')`. */
function tokenSource(declared: t.VariableDeclarator, script: Script, load: LoadScript): string | undefined {
  const { init } = declared;
  if (!t.isNewExpression(init) || !t.isIdentifier(init.callee, { name: 'InjectionToken' })) return undefined;
  const [type] = init.typeParameters?.params ?? [];
  if (init.arguments.length > 1 || !type) return undefined;
  const asked: TypeInFile = { node: type, script };
  const name = t.isIdentifier(declared.id) ? declared.id.name.toLowerCase() : 'given';
  return samplerWith(load).valueOf(asked, name, 0);
}
