import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { isBefore, versionOf } from '../../source/packages.js';
import { pascal } from '../form-names.js';
import { attributesOf } from '../jsx-controls.js';
import {
  isSeenAt,
  nameIn,
  referencesTo,
  says,
  saysAt,
  stays,
  takenApart,
  takeStatement,
} from '../package-leaving/leaving.js';
import { declaredBy, forgetNames } from '../package-leaving/hook-form.js';
import { callOf, membersTaken } from '../package-leaving/members.js';
import { kindsOf, rowKinds } from '../package-leaving/rows.js';
import type { ListChange, OwnList, TakenApart } from './form.js';

/** How many values each change of a list takes, besides what it is told of the focus. */
const arities: Readonly<Record<ListChange, number>> = {
  append: 1,
  prepend: 1,
  insert: 2,
  remove: 1,
  swap: 2,
  move: 2,
  update: 2,
  replace: 1,
};

/** Which of its values is a new row. */
const givesRow: Readonly<Partial<Record<ListChange, number>>> = { append: 0, prepend: 0, insert: 1, update: 1 };

function isChange(member: string): member is ListChange {
  return Object.hasOwn(arities, member);
}

/**
 * `const { fields, append, remove } = useFieldArray({ control, name: 'lines' })`: the keys of its rows, and functions that
 * change it.
 * @returns whether it is said so; reasons for parts of it are told at their places
 */
export function sayList(apart: TakenApart, call: NodePath<t.CallExpression>): boolean {
  const { leaving, lists, fields } = apart;
  const [given, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const declared = declaredBy(call);
  if (!given?.isObjectExpression() || more.length || !declared) return false;
  const [named, rules] = [memberNamed(given, 'name'), memberNamed(given, 'rules')];
  const name = named?.isStringLiteral() ? named.node.value : undefined;
  if (name === undefined || !fields.includes(name) || lists.has(name)) return false;
  const own = new Set(['name', 'control', 'rules']);
  const other = given.node.properties.find((one) => !t.isObjectProperty(one) || !own.has(keyOf(one)));
  if (other || (rules && !rules.isObjectExpression())) return false;
  const list = listNamed(apart, name, call);
  const kinds = rowKinds(apart, name);
  if (kinds) {
    apart.rows.set(name, kinds);
    apart.kinds.set(name, 'rows');
  }
  lists.set(name, list);
  if (rules?.isObjectExpression())
    apart.rules.push({
      field: name,
      rules,
      at: call.node.start ?? 0,
      shownWhen: [],
      numeric: false,
      element: undefined,
      leaving,
    });
  const taken = membersTaken(declared.target);
  forgetNames(leaving, [declared.target]);
  for (const path of taken.unclear) stays(leaving, path, 'the list is handed on as a whole');
  for (const [member, local] of taken.locals)
    if (isChange(member) && nameIn(leaving, local) === local) list.changes.set(member, local);
  for (const { member, path } of taken.places) {
    if (member === 'fields') sayRowsDrawn(apart, list, path);
    else if (isChange(member)) sayChange(apart, list, member, path);
    else stays(leaving, path, `${member} of a list is not said without the package yet`);
  }
  if (!apart.rows.has(name)) stays(leaving, call, 'what its rows hold is told neither by its start nor by a new row');
  takeStatement(leaving, declared.statement);
  return true;
}

function keyOf({ key }: t.ObjectProperty): string {
  return t.isIdentifier(key) ? key.name : '';
}

function listNamed({ leaving }: TakenApart, name: string, call: NodePath<t.CallExpression>): OwnList {
  const single = name.endsWith('s') ? name.slice(0, -1) : name;
  const keys = nameIn(leaving, `${single}Keys`, `${name}RowKeys`);
  return {
    name,
    keys,
    setKeys: nameIn(leaving, `set${pascal(keys)}`, `setKeysOf${pascal(name)}`),
    arrange: nameIn(leaving, `arrange${pascal(name)}`, `arrange${pascal(name)}Rows`),
    moved: nameIn(leaving, `moved${pascal(name)}`, `moved${pascal(name)}Rows`),
    changes: new Map(),
    called: new Set(),
    focusing: new Set(),
    still: new Set(),
    leaving,
    call,
  };
}

/** `fields.map((row, index) => …)`, with the key of each row, and `fields.length`. */
function sayRowsDrawn(apart: TakenApart, list: OwnList, path: NodePath): void {
  const { leaving, names } = apart;
  const member = path.parentPath;
  const asked = member?.isMemberExpression() && path.key === 'object' ? member.node.property : undefined;
  if (member && t.isIdentifier(asked, { name: 'length' }) && isSeenAt(leaving, path, names.values)) {
    says(leaving, path, `${names.values}.${list.name}`);
    return;
  }
  const call = member && t.isIdentifier(asked, { name: 'map' }) ? callOf(member) : undefined;
  const [fn] = call ? (call.get('arguments') as NodePath[]) : [];
  if (!fn?.isFunction() || fn.node.params.length > 2 || !isSeenAt(leaving, path, list.keys)) {
    stays(leaving, path, 'its rows are looked at as the package knows them');
    return;
  }
  says(leaving, path, list.keys);
  const [row] = fn.get('params') as NodePath[];
  if (!row) return;
  const key = nameIn(leaving, 'key', 'rowKey', 'keyOfRow');
  const askedFor = row.isIdentifier()
    ? referencesTo(leaving, row).map((one): [string | undefined, NodePath] => {
        const around = one.parentPath;
        const isMember = around?.isMemberExpression() && one.key === 'object' && !around.node.computed;
        return isMember
          ? [t.isIdentifier(around.node.property) ? around.node.property.name : undefined, around]
          : ['', one];
      })
    : row.isObjectPattern()
      ? takenApart(row).flatMap(([name, local]): [string | undefined, NodePath][] =>
          local.isIdentifier() ? referencesTo(leaving, local).map((one) => [name, one]) : [[undefined, local]],
        )
      : [[undefined, row] as [string | undefined, NodePath]];
  for (const [name, place] of askedFor)
    if (name === 'id') says(leaving, place, key);
    else stays(leaving, place, 'it is the row as it was when the list last changed');
  says(leaving, row, key);
}

/** A call that changes the list: it stays one, of a function of the component. */
function sayChange(apart: TakenApart, list: OwnList, member: ListChange, path: NodePath): void {
  const { leaving, rows, kinds } = apart;
  const call = callOf(path);
  const given = call ? (call.get('arguments') as NodePath[]) : [];
  const options = given.at(-1);
  const off = options?.isObjectExpression() && memberNamed(options, 'shouldFocus');
  const isOff = off ? off.isBooleanLiteral({ value: false }) && options.node.properties.length === 1 : false;
  const values = isOff ? given.slice(0, -1) : given;
  if (!call || arities[member] !== values.length) {
    stays(leaving, call ?? path, 'what it does to the list is not told here');
    return;
  }
  const row = values[givesRow[member] ?? -1];
  if (row?.isArrayExpression() || values.some((one) => member === 'remove' && one.isArrayExpression())) {
    stays(leaving, call, 'it speaks of several rows at once');
    return;
  }
  const own = row && !rows.has(list.name) ? kindsOf({ path: row, script: leaving.script }, leaving) : undefined;
  if (own) {
    rows.set(list.name, own);
    kinds.set(list.name, 'rows');
  }
  const focuses = /^(?:append|prepend|insert)$/.test(member) && !isOff;
  if (focuses) {
    list.focusing.add(member);
    apart.needs.add('focusField');
  }
  // without types nothing tells whether it is one row, or several
  const isTold =
    !row || leaving.script.typescript || kindsOf({ path: row, script: leaving.script }, leaving) !== undefined;
  if (!isTold && !isRowAsked(apart, row)) stays(leaving, row, 'whether it is one row or several is not told');
  if (isOff && options) {
    const before = values.at(-1);
    saysAt(leaving, before?.node.end ?? 0, options.node.end ?? 0, '');
    list.still.add(member);
  } else if (focuses && isInEffect(call)) stays(leaving, call, 'a row that comes by itself would take the focus');
  const name =
    list.changes.get(member) ?? nameIn(leaving, `${member}${pascal(list.name)}`, `${member}${pascal(list.name)}Row`);
  list.changes.set(member, name);
  list.called.add(member);
  leaving.turns.push({ path: call, does: 'whole', at: call.node.end ?? 0 });
  if (!isSeenAt(leaving, path, name)) stays(leaving, path, `${name} means something else here`);
  else if (!path.isIdentifier({ name })) says(leaving, path, name);
}

/** Whether a value is a row of the form, as it is now: `getValues(`lines.${index}`)`. */
function isRowAsked({ form }: TakenApart, row: NodePath): boolean {
  const callee = row.isCallExpression() ? row.node.callee : undefined;
  return form.taken.places.some(({ member, path }) => path.node === callee && /^(?:getValues|watch)$/.test(member));
}

function isInEffect(path: NodePath): boolean {
  return (
    path.findParent(
      (one) =>
        one.isCallExpression() && /^(?:\w+\.)?use(?:Layout|Insertion)?Effect$/.test(one.get('callee').toString()),
    ) !== null
  );
}

/** Notes a control of a list's rows: the first of them may get the focus. */
export function notesControl(apart: TakenApart, list: string, key: string, element: NodePath<t.JSXElement>): void {
  const at = element.node.start ?? 0;
  const first = apart.firstControls.get(list);
  if (!first || at < (first.element.node.start ?? 0)) apart.firstControls.set(list, { key, element });
}

/** The first version of which it was measured when a list’s rules are asked anew as its rows change. */
const momentsSince = '7.92';

/** Leaves by hand what asks more of a list than its rows tell, in the form’s component and in those that it is handed to. */
export function refuseLists(apart: TakenApart, parts: readonly { apart: TakenApart }[]): void {
  const { lists, firstControls, schema, rules, leaving } = apart;
  if (!lists.size) return;
  const version = versionOf('react-hook-form', leaving.script.file, leaving.context);
  const isOlder = version !== undefined && isBefore(version, momentsSince);
  for (const { name, focusing, still, call, leaving: own } of lists.values()) {
    if (isOlder && (schema !== undefined || rules.some(({ field }) => field === name)))
      stays(
        own,
        call,
        `when ${version} of the package asks its rules anew is not known; it is from ${momentsSince} on`,
      );
    if ([...focusing].some((member) => still.has(member)))
      stays(own, call, 'a new row gets the focus at one place and not at another');
    const first = firstControls.get(name);
    const type = first && attributesOf(first.element).find((one) => one.name === 'type')?.text;
    if (focusing.size && (!first || type === 'radio'))
      stays(own, call, 'which control of a new row gets the focus is not told');
  }
  for (const { leaving: own, form } of [apart, ...parts.map((part) => part.apart)])
    for (const { member, path } of form.taken.places) {
      const [field] = member === 'setValue' ? ((callOf(path)?.get('arguments') ?? []) as NodePath[]) : [];
      if (field?.isStringLiteral() && lists.has(field.node.value))
        stays(own, path, 'the package makes new keys for all rows here');
    }
}
