import type { NodePath } from '@babel/traverse';
import { spanOfNode } from '../../form/code.js';
import * as t from '@babel/types';
import { classChain, type Chain } from '../chains.js';

import type { Member } from '../component.js';
import { viewsBetween } from '../form-site.js';
import { arrayUses } from './rows.js';
import { arraysIn } from './array-links.js';
import { callsOf, shownFields } from './shown-fields.js';
import { type Draft, arraysReading, controlPath, reading, refer } from './bound-controls.js';
import { controlOrGroupUse } from './class-uses.js';

/** Members that stand for a control or for all of them: `get town() { return this.form.get('town'); }`. */
export function findAliases(draft: Draft): void {
  const { members, script } = draft.site.component;
  for (const member of members.values()) {
    const returned = returnedNode(member);
    if (!returned) continue;
    const text = script.text
      .slice(returned.start ?? 0, returned.end ?? 0)
      .replace(/\s+as\s+[\w<>[\]., |]+$/, '')
      .replace(/^\(|\)$/g, (mark, at: number) => (at === 0 ? '' : mark));
    const path = controlPath(text, draft);
    const { name } = draft.form.member;
    const array = arraysIn(draft.form.group).find(({ field }) => field === path);
    if (array) draft.aliases.set(member.name, { field: undefined, member, controls: false, array: array.field });
    else if (path !== undefined && (draft.controls.has(path) || draft.groups.has(path)))
      draft.aliases.set(member.name, { field: path, member, controls: false });
    else if (new RegExp(`^this\\.${name}\\.controls$`).test(text.replace(/\s/g, '')))
      draft.aliases.set(member.name, { field: undefined, member, controls: true });
  }
}

function returnedNode(member: Member): t.Node | undefined {
  const { node } = member;
  const strip = (value: t.Node | null | undefined): t.Node | undefined =>
    t.isTSAsExpression(value) || t.isTSNonNullExpression(value) ? strip(value.expression) : (value ?? undefined);
  if (t.isClassMethod(node) && node.kind === 'get') {
    const [only] = node.body.body;
    return node.body.body.length === 1 && t.isReturnStatement(only) ? strip(only.argument) : undefined;
  }
  return t.isClassProperty(node) ? strip(node.value) : undefined;
}

/** A method that enables fields while they are shown: a template does so by itself. */
export function retireShownFields(draft: Draft): void {
  const { component } = draft.site;
  const found = shownFields(component, (text) => controlPath(text, draft));
  if (!found) return;
  const conditional = found.fields.every((field) =>
    draft.bound.some(
      (one) =>
        one.field === field && viewsBetween(one.element, draft.site.form).some(({ kind }) => kind === 'condition'),
    ),
  );
  const calls = callsOf(found.member);
  if (!conditional || calls.length !== found.member.references.length) return;
  const { node, name } = found.member;
  for (const field of found.fields) draft.kept.add(field);
  draft.retired.push({ start: node.start ?? 0, end: node.end ?? 0, what: `method ${name}` });
  for (const call of calls) draft.retired.push({ ...call, what: `call of ${name}` });
}

/** Links of a chain that name a field behind an alias of all controls: `f.town`, `f['town']`. */
export function aliasedField(
  chain: Chain,
  alias: { field: string | undefined; controls: boolean },
  draft: Draft,
): { field: string; count: number } | undefined {
  if (!alias.controls) return alias.field === undefined ? undefined : { field: alias.field, count: 1 };
  const key = chain.links[1];
  const known = key && !key.call && (draft.controls.has(key.key) || draft.groups.has(key.key));
  return known ? { field: key.key, count: 2 } : undefined;
}

/** Whether a place stands in a statement that the model tells in full. */
function isTold({ node }: NodePath, { skipped, retired }: Draft): boolean {
  const at = node.start ?? 0;
  return [...skipped, ...retired].some(({ start, end }) => start <= at && end > at);
}

/** Uses of the form through getters and members that stand for a control or a group. */
export function aliasUses(alias: { field: string | undefined; member: Member; controls: boolean }, draft: Draft): void {
  const { script } = draft.site.component;
  for (const path of alias.member.references) {
    const span = spanOfNode(script.file, path.node);
    refer(draft, alias.member.name, span);
    if (isTold(path, draft)) continue;
    const chain = classChain(script.file, path, alias.member.name);
    if (arrayUses(chain, arraysReading(draft), path)) continue;
    const found = aliasedField(chain, alias, draft);
    if (found) draft.uses.push(controlOrGroupUse(reading(chain, draft, path), found, draft));
    else draft.unclear.push({ span, what: alias.member.name, why: 'which control is meant is told only when it runs' });
  }
}
