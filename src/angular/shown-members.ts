import path from 'node:path';
import * as t from '@babel/types';
import { importersIn } from '../source/importers.js';
import type { LoadScript } from '../source/project-files.js';
import { declarationNamed, typeMembers, type TypeInFile } from '../source/type-members.js';
import type { Workspace } from '../source/workspace.js';
import type { AngularComponent, Member } from './component.js';

/**
 * Members of a component that somebody else may ask for, and that are not there any more, or are private now.
 * @returns what is wrong, in words: a base class, an interface, or another file that asks for one
 */
export function missedMembers(
  before: AngularComponent,
  after: AngularComponent,
  workspace: Workspace,
  load: LoadScript,
): { name: string; why: string }[] {
  const closed = (member: Member | undefined): boolean => member === undefined || accessOf(member) === 'private';
  const gone = [...before.members.values()].filter(
    (member) => accessOf(member) !== 'private' && closed(after.members.get(member.name)),
  );
  const told = gone.flatMap(({ name }) => asksAbove(name, before, load));
  const hidden = [...before.members.values()].filter(
    (member) => accessOf(member) === 'public' && accessOf(after.members.get(member.name)) !== 'public',
  );
  if (!hidden.length) return told;
  const users = importersIn(workspace)(before.script.file, before.name) ?? [];
  const texts = users
    .filter((file) => !/\.(?:spec|test|stories)\./.test(file))
    .map((file) => ({
      file,
      text: [file, file.replace(/\.ts$/, '.html')].map((one) => textOf(one, workspace)).join('\n'),
    }));
  return [...told, ...hidden.flatMap(({ name }) => asksElsewhere(name, texts))];
}

function accessOf(member: Member | undefined): 'public' | 'protected' | 'private' | undefined {
  if (!member) return undefined;
  if (member.name.startsWith('#')) return 'private';
  return 'accessibility' in member.node ? (member.node.accessibility ?? 'public') : 'public';
}

/** Whether a class or an interface above the component asks for a member. */
function asksAbove(
  name: string,
  { path, script }: AngularComponent,
  load: LoadScript,
): { name: string; why: string }[] {
  const found: { name: string; why: string }[] = [];
  for (let at: TypeInFile | undefined = { node: path.node, script }; at && t.isClass(at.node);) {
    const above: t.Node | null | undefined = at.node.superClass;
    if (!above) break;
    const base: string = t.isIdentifier(above) ? above.name : 'its base class';
    const read: TypeInFile | undefined = t.isIdentifier(above) ? declarationNamed(base, at.script, load) : undefined;
    if (!read || !t.isClass(read.node)) {
      found.push({
        name,
        why: `${base} could not be read, and may ask for ${name}, which would not be there any more`,
      });
      break;
    }
    const text = read.script.text.slice(read.node.start ?? 0, read.node.end ?? 0);
    if (new RegExp(`\\bthis\\.${name}\\b|\\babstract\\b[^;{]*\\b${name}\\b`).test(text))
      found.push({ name, why: `${base} asks for ${name}, which would not be there any more` });
    at = read;
  }
  for (const one of path.node.implements ?? []) {
    const named = t.isTSExpressionWithTypeArguments(one) && t.isIdentifier(one.expression) ? one.expression.name : '';
    const type = declarationNamed(named, script, load);
    if (type && typeMembers(type, load).has(name))
      found.push({ name, why: `${named} asks for ${name}, which would not be there any more` });
  }
  return found;
}

function textOf(file: string, workspace: Workspace): string {
  const read = workspace.exists(file) ? workspace.read(file) : undefined;
  return read?.ok ? read.text : '';
}

/** Other files that take the component's class and ask something of theirs for such a member. */
function asksElsewhere(
  name: string,
  texts: readonly { file: string; text: string }[],
): { name: string; why: string }[] {
  const asks = new RegExp(`(?<!\\bthis)[!?]?\\.${name}\\b`);
  return texts
    .filter(({ text }) => asks.test(text))
    .map(({ file }) => ({ name, why: `${path.basename(file)} asks for ${name}, which it would not find any more` }));
}
