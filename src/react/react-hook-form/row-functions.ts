import { typedAs, valuesWith } from '../package-leaving/apart.js';
import { addFunction, addState, importedFor, type Block } from '../package-leaving/block.js';
import { addRowChange } from '../package-leaving/row-changes.js';
import { memberType } from '../package-leaving/starts.js';
import type { Stated } from './block.js';
import type { ListChange, OwnList, OwnRules, TakenApart } from './form.js';

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
  for (const list of apart.rows.keys()) addRowChange(apart, list, block);
  for (const list of apart.lists.values()) addList(apart, stated, block, list);
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
  const first = firstControls.get(list.name)?.key ?? '';
  const focus = (index: string): string => `${names.focusField}(\`${list.name}.\${${index}}.${first}\`);`;
  const flush = list.focusing.size ? importedFor(block, leaving, 'react-dom', 'flushSync') : '';
  for (const [member, name] of used) addListChange(block, list, member, { name, rows, type, flush, focus });
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
  /** The call that gives the first control of a row the focus. */
  focus(index: string): string;
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
  const { name, rows, type, flush, focus } = text;
  const all = `${rows}.map((_, at) => at)`;
  const arrange = (next: string, from: string): string => `${list.arrange}(${next}, ${from});`;
  const focused = (index: string, call: string): string[] =>
    list.focusing.has(member) ? [`${flush}(() => ${call.replace(/;$/, '')});`, focus(index)] : [call];
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
