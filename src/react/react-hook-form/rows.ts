import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { wholeLines } from '../../source/removal.js';
import { pascal } from '../form-names.js';
import { attributesOf } from '../jsx-controls.js';
import { typedAs, valuesWith, type Kind } from '../package-leaving/apart.js';
import { addFunction, addState, importedFor, type Block } from '../package-leaving/block.js';
import { isSeenAt, nameIn, referencesTo, says, saysAt, stays, takenApart, textIn } from '../package-leaving/leaving.js';
import { callOf, membersTaken } from '../package-leaving/members.js';
import { kindsOf, rowKinds, type RowField } from '../package-leaving/rows.js';
import { memberType } from '../package-leaving/starts.js';
import { nameText } from '../package-leaving/ties.js';
import type { Stated } from './block.js';
import type { ListChange, OwnList, OwnRules, TakenApart } from './form.js';

/** How many values each change of a list takes, besides what it is told of the focus. */
const arities: Readonly<Record<ListChange, readonly number[]>> = {
  append: [1],
  prepend: [1],
  insert: [2],
  remove: [1],
  swap: [2],
  move: [2],
  update: [2],
  replace: [1],
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
  const declarator = call.parentPath;
  const statement = declarator.parentPath;
  if (!given?.isObjectExpression() || more.length || !declarator.isVariableDeclarator()) return false;
  if (!statement?.isVariableDeclaration() || statement.node.declarations.length > 1) return false;
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
  const taken = membersTaken(declarator.get('id') as NodePath);
  for (const path of taken.unclear) stays(leaving, path, 'the list is handed on as a whole');
  for (const [member, local] of taken.locals) {
    const binding = call.scope.getBinding(local);
    if (binding) leaving.gone.add(binding);
    if (isChange(member) && nameIn(leaving, local) === local) list.changes.set(member, local);
  }
  const id = declarator.get('id') as NodePath;
  const whole = id.isIdentifier() ? id.scope.getBinding(id.node.name) : undefined;
  if (whole) leaving.gone.add(whole);
  for (const { member, path } of taken.places) {
    if (member === 'fields') sayRowsDrawn(apart, list, path);
    else if (isChange(member)) sayChange(apart, list, member, path);
    else stays(leaving, path, `${member} of a list is not said without the package yet`);
  }
  if (!apart.rows.has(name)) stays(leaving, call, 'what its rows hold is told neither by its start nor by a new row');
  const { start, end } = wholeLines(leaving.script.text, {
    start: statement.node.start ?? 0,
    end: statement.node.end ?? 0,
  });
  saysAt(leaving, start, end, '');
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
    focus: nameIn(leaving, `focus${pascal(name)}`, `focus${pascal(name)}Row`),
    changes: new Map(),
    called: new Set(),
    focusing: new Set(),
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
  const key =
    ['key', 'rowKey', 'keyOfRow'].find((name) => !leaving.site.component.path.scope.hasBinding(name)) ?? 'key_';
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
  if (!call || !arities[member].includes(values.length)) {
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
  if (focuses) list.focusing.add(member);
  if (isOff && options) {
    const before = values.at(-1);
    saysAt(leaving, before?.node.end ?? 0, options.node.end ?? 0, '');
    if (list.focusing.has(member)) stays(leaving, call, 'a new row gets the focus at one place and not at another');
  } else if (focuses && isInEffect(call)) stays(leaving, call, 'a row that comes by itself would take the focus');
  const name =
    list.changes.get(member) ?? nameIn(leaving, `${member}${pascal(list.name)}`, `${member}${pascal(list.name)}Row`);
  list.changes.set(member, name);
  list.called.add(member);
  leaving.turns.push({ path: call, does: 'whole', at: call.node.end ?? 0 });
  if (!isSeenAt(leaving, path, name)) stays(leaving, path, `${name} means something else here`);
  else if (!path.isIdentifier({ name })) says(leaving, path, name);
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

/** Whether a new row of any list gets the focus. */
export function focusesRows({ lists }: TakenApart): boolean {
  return [...lists.values()].some(({ focusing }) => focusing.size > 0);
}

/** Leaves by hand what asks more of a list than its rows tell. */
export function refuseLists(apart: TakenApart): void {
  const { leaving, lists, firstControls, form } = apart;
  for (const { name, focusing, call, leaving: own } of lists.values()) {
    const first = firstControls.get(name);
    const type = first && attributesOf(first.element).find((one) => one.name === 'type')?.text;
    if (focusing.size && (!first || type === 'radio'))
      stays(own, call, 'which control of a new row gets the focus is not told');
  }
  if (!lists.size) return;
  for (const { member, path } of form.taken.places) {
    const call = member === 'setValue' || member === 'reset' ? callOf(path) : undefined;
    const [field] = call ? (call.get('arguments') as NodePath[]) : [];
    if (member === 'setValue' && field?.isStringLiteral() && lists.has(field.node.value))
      stays(leaving, path, 'the package makes new keys for all rows here');
  }
}

/** The state that holds the keys of each list's rows. */
export function addKeys({ lists, names, needs }: TakenApart, block: Block): void {
  for (const { name, keys, setKeys, called } of lists.values())
    addState(
      block,
      [keys, called.size || needs.has('reset') ? setKeys : undefined],
      undefined,
      `() => ${names.values}.${name}.map((_, at) => at)`,
    );
}

/** The statements by which keys begin anew, with all values as they are now. */
export function freshKeys({ lists }: TakenApart, next: string): string[] {
  return [...lists.values()].map(({ name, setKeys }) => `${setKeys}(${next}.${name}.map((_, at) => at));`);
}

/** The call that changes a field of a row. */
export function changeOfRow(apart: TakenApart, { list, index, key }: RowField, next: string): string {
  const { leaving, needs, rowChanges } = apart;
  needs.add(`change ${list}`).add('change');
  const name = rowChanges.get(list) ?? nameIn(leaving, `change${pascal(list)}`, `change${pascal(list)}Row`);
  rowChanges.set(list, name);
  return `${name}(${textIn(leaving, index)}, ${nameText(apart, key)}, ${next})`;
}

/** The condition under which the rules of a list are asked anew when its rows change; undefined where they never are. */
export function asksAnew(
  { schema, rules, names, needs }: TakenApart,
  { moments: { before, after } }: Pick<Stated, 'moments'>,
  { name, called }: OwnList,
): string | undefined {
  if (!called.size || !(schema !== undefined || rules.some(({ field }) => field === name))) return undefined;
  const late = after === 'onSubmit' || (before === 'onBlur' && after !== 'onChange') ? undefined : names.submitted;
  const early = /^on(?:Submit|Blur)$/.test(before) ? undefined : `!${names.submitted}`;
  if (late !== undefined || early !== undefined) needs.add('recheck');
  if (late !== undefined && early !== undefined) return 'true';
  if (late !== undefined || early !== undefined) needs.add('submitted');
  return late ?? early;
}

/** Adds the functions that change lists, and those that change a field of a row. */
export function addLists(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving, rows, lists } = apart;
  const typed = (name: string, type: string): string => typedAs(name, leaving.script.typescript ? type : undefined);
  for (const list of rows.keys()) {
    if (!needs.has(`change ${list}`)) continue;
    addFunction(
      block,
      `function ${apart.rowChanges.get(list) ?? ''}(${typed('index', 'number')}, ${typed('name', 'string')}, ${typed('value', valueTypes(rows.get(list)))})`,
      [
        `const ${list} = ${names.values}.${list}.map((row, at) => (at === index ? { ...row, [name]: value } : row));`,
        `${apart.changes(`{ ...${names.values}, ${list} }`, `\`${list}.\${index}.\${name}\``)};`,
      ],
    );
  }
  for (const list of lists.values()) addList(apart, stated, block, list);
}

/** The types of values that a row holds. */
export function valueTypes(kinds: ReadonlyMap<string, Kind> | undefined): string {
  const held = [...(kinds?.values() ?? [])];
  const types = (['text', 'number', 'flag', 'list'] as const).filter((kind) => held.includes(kind));
  const said = { text: 'string', number: 'number', flag: 'boolean', list: 'string[]' };
  return types.length ? types.map((kind) => said[kind]).join(' | ') : 'string';
}

function addList(apart: TakenApart, stated: Stated, block: Block, list: OwnList): void {
  const { names, leaving, firstControls } = apart;
  const { typescript } = leaving.script;
  const used = [...list.changes].filter(([member]) => list.called.has(member));
  if (!used.length) return;
  const type = typescript && stated.type !== undefined ? memberType(stated.type, list.name, leaving) : undefined;
  const numbers = typescript ? 'number[]' : undefined;
  const moves = used.some(([member]) => !/^(?:append|replace)$/.test(member));
  const kept = moves ? keptOfRows(apart, stated, list) : [];
  const rows = `${names.values}.${list.name}`;
  if (kept.length) addMoved(block, list, typescript);
  addFunction(block, `function ${list.arrange}(${typedAs(list.name, type)}, ${typedAs('from', numbers)})`, [
    `const fresh = Math.max(-1, ...${list.keys}) + 1;`,
    `${list.setKeys}(from.map((old, at) => ${list.keys}[old] ?? fresh + at));`,
    ...kept.map(([set, held]) => `${set}(${list.moved}(${held}, from));`),
    ...setRows(apart, stated, list),
  ]);
  const first = firstControls.get(list.name);
  if (list.focusing.size && first) {
    const name = `\`${list.name}.\${index}.${first.key}\``;
    addFunction(block, `function ${list.focus}(${typedAs('index', typescript ? 'number' : undefined)})`, [
      `const control = ${names.formRef}.current?.elements.namedItem(${name});`,
      'if (control instanceof HTMLElement) control.focus();',
    ]);
  }
  const flush = list.focusing.size ? importedFor(block, leaving, 'react-dom', 'flushSync') : '';
  for (const [member, name] of used) addListChange(block, list, member, { name, rows, type, flush });
}

/** What is kept of each row by its names, and is to move with it: setter and state. */
function keptOfRows(apart: TakenApart, stated: Stated, list: OwnList): [string, string][] {
  const { names, needs, schema, rules } = apart;
  const when = asksAnew(apart, stated, list);
  // a schema tells the errors of all rows anew
  const isAnew = when === 'true' || (stated.moments.before === 'onSubmit' && when !== undefined);
  const keeps = schema ? !isAnew : rules.some(({ row }) => row?.list === list.name);
  return [
    ...(keeps ? [[names.setErrors, names.errors] as [string, string]] : []),
    ...(needs.has('touched') ? [[names.setTouched, names.touched] as [string, string]] : []),
  ];
}

/** The function that gives what is kept of rows the names of their new places. */
function addMoved(block: Block, { moved, name }: OwnList, typescript: boolean): void {
  const kept = typescript
    ? `${moved}<Kept>(kept: Partial<Record<string, Kept>>, from: number[])`
    : `${moved}(kept, from)`;
  addFunction(block, `function ${kept}`, [
    `const ${typedAs('moved', typescript ? 'Partial<Record<string, Kept>>' : undefined)} = {};`,
    'for (const name of Object.keys(kept)) {',
    `  const [, old, key] = /^${name}\\.(\\d+)\\.(.+)$/.exec(name) ?? [];`,
    '  const place = from.indexOf(Number(old));',
    '  if (old === undefined) moved[name] = kept[name];',
    `  else if (place >= 0) moved[\`${name}.\${place}.\${key}\`] = kept[name];`,
    '}',
    'return moved;',
  ]);
}

/** The statements that set the rows, and ask the rules of the list itself anew when the package does. */
function setRows(apart: TakenApart, stated: Stated, list: OwnList): string[] {
  const { names } = apart;
  const when = asksAnew(apart, stated, list);
  const { name } = list;
  if (when === undefined) return [`${names.setValues}(${valuesWith(apart, name)});`];
  const gate = when === 'true' ? '' : `if (${when}) `;
  return [
    `const next = ${valuesWith(apart, name)};`,
    `${names.setValues}(next);`,
    ...(apart.schema
      ? [
          `const all = Object.keys({ ...${names.errors}, ...${names.check}(next) });`,
          `${gate}${names.recheck}(next, ...all.filter((field) => /^${name}(?:\\.|$)/.test(field)));`,
        ]
      : [`${gate}${names.recheck}(next, '${name}');`]),
  ];
}

interface ChangeText {
  name: string;
  rows: string;
  type: string | undefined;
  flush: string;
}

/** What a function that changes a list takes, with its types where there are any. */
export function listParameters(member: ListChange, type: string | undefined): string {
  const number = (parameter: string): string => typedAs(parameter, type && 'number');
  const row = typedAs('row', type && `${type}[number]`);
  const said: Record<ListChange, string> = {
    append: row,
    prepend: row,
    insert: `${number('index')}, ${row}`,
    remove: number('index'),
    swap: `${number('one')}, ${number('other')}`,
    move: `${number('from')}, ${number('to')}`,
    update: `${number('index')}, ${row}`,
    replace: typedAs('next', type),
  };
  return said[member];
}

function addListChange(block: Block, list: OwnList, member: ListChange, text: ChangeText): void {
  const { name, rows, type, flush } = text;
  const all = `${rows}.map((_, at) => at)`;
  const arrange = (next: string, from: string): string => `${list.arrange}(${next}, ${from});`;
  const focused = (index: string, call: string): string[] =>
    list.focusing.has(member) ? [`${flush}(() => ${call.replace(/;$/, '')});`, `${list.focus}(${index});`] : [call];
  const inOrder = (order: string): string => `${order}.flatMap((at) => ${rows}.slice(at, at + 1))`;
  const bodies: Record<ListChange, string[]> = {
    append: focused(`${rows}.length`, arrange(`[...${rows}, row]`, `[...${all}, -1]`)),
    prepend: focused('0', arrange(`[row, ...${rows}]`, `[-1, ...${all}]`)),
    insert: focused(
      'index',
      arrange(
        `[...${rows}.slice(0, index), row, ...${rows}.slice(index)]`,
        `[...${all}.slice(0, index), -1, ...${all}.slice(index)]`,
      ),
    ),
    remove: [
      `const from = ${all}.filter((at) => at !== index);`,
      arrange(`${rows}.filter((_, at) => at !== index)`, 'from'),
    ],
    swap: [
      `const from = ${rows}.map((_, at) => (at === one ? other : at === other ? one : at));`,
      arrange(inOrder('from'), 'from'),
    ],
    move: [
      `const order = ${all};`,
      'order.splice(to, 0, ...order.splice(from, 1));',
      arrange(inOrder('order'), 'order'),
    ],
    update: [
      arrange(
        `${rows}.map((old, at) => (at === index ? row : old))`,
        `${rows}.map((_, at) => (at === index ? -1 : at))`,
      ),
    ],
    replace: [arrange('next', 'next.map(() => -1)')],
  };
  addFunction(block, `function ${name}(${listParameters(member, type)})`, bodies[member]);
}

/** Rules of the rows of one list that follow one another, and rules of the form, in order. */
export function byList(rules: readonly OwnRules[]): { list: string | undefined; rules: OwnRules[] }[] {
  const groups: { list: string | undefined; rules: OwnRules[] }[] = [];
  for (const own of rules) {
    const list = own.row?.list;
    const last = groups.at(-1);
    if (last && list !== undefined && last.list === list) last.rules.push(own);
    else groups.push({ list, rules: [own] });
  }
  return groups;
}
