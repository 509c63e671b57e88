import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode, type Hole } from '../../form/code.js';
import type { NewValue, Use } from '../../form/uses.js';
import { classChain, templateChain, type Chain } from '../chains.js';
import { codeOf } from '../class-reading.js';
import { joinedValue, signalChange } from '../signal-changes.js';
import { allUse, fieldUse, setUse } from '../uses.js';
import { listUse } from './rows.js';
import { linksOf } from './storage.js';
import { type Draft, spanIn, reading, refer } from './found-fields.js';
import { rootsOf } from './roots.js';
import { rowsReading } from './rows-reading.js';
import { isBinding, isPlainChange, unclearAt } from './places.js';

/** Every place that reads or changes the members in which values live. */
export function storageUses(draft: Draft): void {
  const { component } = draft.site;
  for (const root of rootsOf(draft)) {
    const member = component.members.get(root);
    for (const path of member?.references ?? []) {
      refer(draft, root, spanOfNode(component.script.file, path.node));
      if (isInFeeder(path, draft)) continue;
      storageUse(classChain(component.script.file, path, root), root, draft, path);
    }
    for (const path of member?.aliases ?? []) {
      const span = spanOfNode(component.script.file, path.node);
      draft.unclear.push({ span, what: `const { ${root} } = this`, why: `${root} is taken out of the component` });
    }
    for (const name of component.template.names) {
      if (name.name !== root || name.variable) continue;
      refer(draft, root, spanIn(draft.site, name));
      if (isBinding(name, draft)) continue;
      storageUse(templateChain(name, component.template.place), root, draft);
    }
  }
  for (const name of component.template.names) {
    if (name.name !== '$event' || name.attribute?.name !== 'ngModelChange') continue;
    const field = draft.fields.find(({ bound }) =>
      bound.some(({ changes }) => changes.some((one) => one === name.attribute)),
    );
    const inRow = draft.rowControls.find(({ bound }) => bound.changes.some((one) => one === name.attribute));
    if (inRow && !isPlainChange(name.attribute, draft))
      draft.uses.push({
        kind: 'read',
        field: `${inRow.list.field}[].${inRow.binding.keys.join('.')}`,
        key: undefined,
        where: 'event',
        row: inRow.binding.row,
        span: spanIn(draft.site, name),
      });
    if (!field || isPlainChange(name.attribute, draft)) continue;
    draft.uses.push({
      kind: 'read',
      field: field.name,
      key: undefined,
      where: 'event',
      span: spanIn(draft.site, name),
    });
  }
}

/** Whether a place stands in a method that only takes in what controls give. */
function isInFeeder({ node }: NodePath, { feeders }: Draft): boolean {
  const at = node.start ?? 0;
  return [...feeders.methods.values()].some(({ start, end }) => start <= at && end > at);
}

function storageUse(chain: Chain, root: string, draft: Draft, path?: NodePath): void {
  const here = reading(chain, draft, path);
  for (const list of draft.lists) {
    const count = list.storage.root === root ? linksOf(chain, list.storage) : 0;
    if (count > 0 && list.storage.signal) return unclearAt(draft, chain, `the signal ${root} holds rows`);
    if (count > 0) return listUse(chain, count, list, rowsReading(draft), path);
  }
  const own = draft.fields.filter(({ storage }) => storage?.root === root);
  const signal = own.some(({ storage }) => storage?.signal);
  if (signal && chain.links[0]?.call === undefined) {
    const setter = chain.links[1];
    const [value] = setter?.call?.arguments ?? [];
    const single = own.find(({ storage }) => storage?.keys.length === 0);
    const joined = setter?.key === 'update' && single ? joinedValue(here, path) : undefined;
    const given: NewValue | undefined = joined
      ? { kind: 'value', ...joined }
      : setter?.key === 'set' && value
        ? { kind: 'value', code: codeOf(chain.file, value) }
        : undefined;
    if (setter && single && given) {
      const statement = chain.ending.kind === 'statement' ? chain.ending.statement : undefined;
      draft.uses.push(setUse(here, single.name, given, { start: chain.start, end: setter.end }, statement));
      return;
    }
    const whole = single ? undefined : signalChange(here, 1, path);
    if (whole) draft.uses.push(whole);
    else unclearAt(draft, chain, `the signal ${root} is handed on or updated by a function`);
    return;
  }
  if (signal && path && inReactive(path))
    unclearAt(draft, chain, `a computed value or an effect follows ${root}, which would no longer be a signal`, true);
  const candidates = own
    .map((field) => ({ field, count: field.storage ? linksOf(chain, field.storage) : 0 }))
    .sort((a, b) => b.count - a.count);
  const best = candidates[0];
  if (best && best.count > 0) {
    if (best.count === chain.links.length || chain.links[best.count])
      draft.uses.push(fieldUse(here, best.field.name, best.count));
    return;
  }
  const [, next] = chain.links;
  if (next?.computed) return unclearAt(draft, chain, `a key of ${root} is computed here`);
  const start = signal || chain.links[0]?.call ? 1 : 1;
  if (chain.links.length > start && next) {
    if (own.some(({ storage }) => storage?.keys[0] === next.key && storage.keys.length > 1)) {
      const key = next.key;
      if (chain.ending.kind === 'assigned') return unclearAt(draft, chain, `the group ${key} is replaced as a whole`);
      draft.uses.push({ ...fieldUse(here, key, 2), field: key } as Use);
      return;
    }
    draft.uses.push(fieldUse(here, next.key, 2));
    return;
  }
  const shared = path ? whyShared(path, root) : undefined;
  if (shared !== undefined) return unclearAt(draft, chain, shared);
  draft.uses.push(merged(allUse(here, 1, 'held'), root, here.text));
}

/** Why the object itself is wanted at a place, not only its values: something changes or follows it through a reference. */
function whyShared(path: NodePath, root: string): string | undefined {
  const { parentPath: parent } = path;
  const changed = `${root} is changed through a reference here, which controls do not have`;
  if (parent?.isCallExpression() && path.key === 0 && isAssign(parent.node)) return changed;
  if (parent?.isAssignmentExpression() && path.key === 'right')
    return 'the object is kept elsewhere as well, where it would not follow the controls';
  if (!parent?.isVariableDeclarator() || path.key !== 'init' || !t.isIdentifier(parent.node.id)) return undefined;
  const references = path.scope.getBinding(parent.node.id.name)?.referencePaths ?? [];
  const changes = references.some((reference) => {
    const around = reference.parentPath;
    if (around?.isCallExpression() && reference.key === 0 && isAssign(around.node)) return true;
    const target = around?.isMemberExpression() && reference.key === 'object' ? around : undefined;
    const holder = target?.parentPath;
    return (
      (holder?.isAssignmentExpression() === true && target?.key === 'left') ||
      holder?.isUpdateExpression() === true ||
      holder?.isUnaryExpression({ operator: 'delete' }) === true
    );
  });
  return changes ? changed : undefined;
}

function isAssign({ callee }: t.CallExpression): boolean {
  return (
    t.isMemberExpression(callee) &&
    t.isIdentifier(callee.object, { name: 'Object' }) &&
    t.isIdentifier(callee.property, { name: 'assign' })
  );
}

/** `model = { ...model, town }` merges values in: the spread of what is there already goes. */
function merged(use: Use, root: string, text: string): Use {
  if (use.kind !== 'set-all') return use;
  const spread = new RegExp(`^\\{\\s*(\\.\\.\\.this\\.${root}\\s*,\\s*)`).exec(
    text.slice(use.code.start, use.code.end),
  );
  if (!spread?.[1]) return use;
  const start = use.code.start + spread[0].length - spread[1].length;
  const hole: Hole = { kind: 'text', start, end: start + spread[1].length, text: '' };
  return { ...use, merge: true, code: { ...use.code, holes: [hole] } };
}

function inReactive(path: NodePath): boolean {
  return (
    path.findParent(
      (parent) =>
        parent.isCallExpression() &&
        t.isIdentifier(parent.node.callee) &&
        /^(computed|effect|linkedSignal|resource|toObservable)$/.test(parent.node.callee.name),
    ) !== null
  );
}
