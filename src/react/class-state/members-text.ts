import * as t from '@babel/types';
import { memberName, type ClassDraft } from './class-draft.js';
import { functionName, memberIndent, textWithin } from './function-text.js';

/** The comments that stand before a member and behind it, as lines of their own. */
export function commentsOf(draft: ClassDraft, member: t.Node | undefined): string[] {
  const { text } = draft.script;
  const before = (member?.leadingComments ?? []).filter((comment) => !isBehindOther(draft, comment));
  return before.map((comment) => text.slice(comment.start ?? 0, comment.end ?? 0));
}

function isBehindOther(draft: ClassDraft, comment: t.Comment): boolean {
  const { text, lines } = draft.script;
  const start = comment.start ?? 0;
  const before = text.slice(lines.lineStart(start), start).trim();
  return before !== '' && before !== '{';
}

/** Comments inside of a node, in order. */
export function innerComments(draft: ClassDraft, node: t.Node): string[] {
  return (draft.script.ast.comments ?? [])
    .filter((comment) => (comment.start ?? 0) > (node.start ?? 0) && (comment.end ?? 0) < (node.end ?? 0))
    .map((comment) => draft.script.text.slice(comment.start ?? 0, comment.end ?? 0));
}

/** Comments of a member, before it and behind it, each on a line of its own. */
export function comments(draft: ClassDraft, member: t.Node | undefined): string {
  const { style } = draft;
  const indent = memberIndent(draft);
  const behind = (member?.trailingComments ?? []).filter((comment) => isBehindOther(draft, comment));
  const all = [
    ...commentsOf(draft, member),
    ...behind.map((comment) => draft.script.text.slice(comment.start ?? 0, comment.end ?? 0)),
  ];
  return all.map((text) => indent + text + style.newline).join('');
}

/** Comments at the end of the class's body, behind the last member. */
export function trailingComments(draft: ClassDraft): string {
  const last = draft.path.node.body.body.at(-1);
  const behind = (last?.trailingComments ?? []).filter((comment) => !isBehindOther(draft, comment));
  const indent = memberIndent(draft);
  return behind
    .map((comment) => draft.style.newline + indent + draft.script.text.slice(comment.start ?? 0, comment.end ?? 0))
    .join('');
}

/** `save = async (event) => { … }` becomes a constant of the function. */
export function arrowText(draft: ClassDraft, member: t.ClassProperty, indent: string): string {
  const { script, style } = draft;
  const value = member.value;
  if (!value) return '';
  const type = t.isTSTypeAnnotation(member.typeAnnotation)
    ? script.text.slice(member.typeAnnotation.start ?? 0, member.typeAnnotation.end ?? 0)
    : '';
  return `${indent}const ${functionName(draft, memberName(member) ?? '')}${type} = ${textWithin(draft, value.start ?? 0, value.end ?? 0)}${style.semicolon}`;
}

/** A method becomes a function inside the function. */
export function methodText(draft: ClassDraft, member: t.ClassMethod, indent: string): string {
  const { script } = draft;
  const open = script.text.indexOf('(', member.key.end ?? 0);
  const types = script.text.slice(member.key.end ?? 0, open);
  const async = member.async ? 'async ' : '';
  return `${indent}${async}function ${functionName(draft, memberName(member) ?? '')}${types}${textWithin(draft, open, member.end ?? 0)}`;
}
