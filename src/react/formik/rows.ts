import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf } from '../jsx-controls.js';
import { quoted } from '../../source/style.js';
import { addFunction, type Block } from '../package-leaving/block.js';
import { addRowChange, rowFunction } from '../package-leaving/row-changes.js';
import { kindsOf, rowKinds } from '../package-leaving/rows.js';
import { typedAs, valuesWith } from '../package-leaving/apart.js';
import { drawnText, isSeenAt, referencesTo, says, stays, takenApart, textIn } from '../package-leaving/leaving.js';
import { changeOf } from './changes.js';
import { sayMember } from './places.js';
import type { TakenApart } from './form.js';

/** `<FieldArray name="lines">{({ push, remove }) => …}</FieldArray>`: what the function draws, and what changes the list. */
export function sayRows(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving } = apart;
  const attributes = attributesOf(element);
  const opening = element.get('openingElement');
  const list = attributes.find(({ name }) => name === 'name')?.text;
  const other = attributes.find(({ name }) => name !== 'name' && name !== 'render');
  if (list === undefined || !apart.fields.includes(list) || other) {
    stays(leaving, other?.path ?? opening, 'which list it is, or when it checks, is told only when the form runs');
    return;
  }
  const child = element.get('children').find((one) => one.isJSXExpressionContainer());
  const inner = child?.isJSXExpressionContainer() ? (child.get('expression') as NodePath) : undefined;
  const fn = attributes.find(({ name }) => name === 'render')?.value ?? inner;
  const body = fn?.isArrowFunctionExpression() ? (fn.get('body') as NodePath) : undefined;
  const [given, ...more] = fn?.isArrowFunctionExpression() ? (fn.get('params') as NodePath[]) : [];
  if (!body || more.length || body.isBlockStatement()) {
    stays(leaving, opening, 'it does more than draw a part of the page');
    return;
  }
  for (const place of given ? membersOf(apart, given) : [])
    if (place.member === 'form') sayForm(apart, place.path);
    else sayHelper(apart, list, place);
  if (!apart.rows.has(list)) stays(leaving, opening, 'what its rows hold is not told by the first of them');
  says(leaving, element, () => drawnText(leaving, element, body));
}

/** Errors and touched of a list’s rows are kept by their names: what looks for them inside of the list is left by hand. */
export function refuseNested({ leaving, form, rows }: TakenApart): void {
  if (!rows.size) return;
  for (const { member, path } of form.taken.places) {
    if (!/^(errors|touched)$/.test(member)) continue;
    const asked = path.parentPath;
    const node = asked?.node;
    const isMember = t.isMemberExpression(node) || t.isOptionalMemberExpression(node);
    const key = isMember && !node.computed && t.isIdentifier(node.property) ? node.property.name : undefined;
    const outer = asked?.parentPath;
    const plain =
      key !== undefined &&
      path.key === 'object' &&
      (!rows.has(key) ||
        (member === 'errors'
          ? outer?.isUnaryExpression({ operator: 'typeof' }) === true || isTextWhere(asked, key, leaving.script.text)
          : outer?.isMemberExpression() !== true && outer?.isOptionalMemberExpression() !== true));
    if (!plain) stays(leaving, asked ?? path, 'it looks for what is kept of rows inside of a list');
  }
}

/** Whether an error of a whole list is shown where it was asked whether it is a text. */
function isTextWhere(asked: NodePath | null | undefined, list: string, text: string): boolean {
  const around = asked?.findParent(
    (one) => one.isLogicalExpression({ operator: '&&' }) || one.isConditionalExpression(),
  );
  const said = around ? text.slice(around.node.start ?? 0, asked?.node.start ?? 0) : '';
  return new RegExp(`typeof [\\w.]*errors\\.${list} === (['"])string\\1`).test(said);
}

/** The form as the list’s function is given it: `form.values.lines`. */
function sayForm(apart: TakenApart, path: NodePath): void {
  const member = path.parentPath;
  const name = member?.isMemberExpression() && t.isIdentifier(member.node.property) ? member.node.property.name : '';
  if (!member || name === '') stays(apart.leaving, path, 'the form is handed on as a whole');
  else sayMember(apart, { member: name, path: member, local: undefined });
}

interface Helper {
  member: string;
  path: NodePath;
}

/** The places where a helper of the list is asked for, by its name. */
function membersOf({ leaving }: TakenApart, given: NodePath): Helper[] {
  if (given.isObjectPattern())
    return takenApart(given).flatMap(([member, value]): Helper[] =>
      value.isIdentifier()
        ? referencesTo(leaving, value).map((path) => ({ member: member ?? '', path }))
        : [{ member: '', path: value }],
    );
  if (!given.isIdentifier()) return [{ member: '', path: given }];
  return referencesTo(leaving, given).map((path): Helper => {
    const parent = path.parentPath;
    const member =
      parent?.isMemberExpression() && t.isIdentifier(parent.node.property) ? parent.node.property.name : '';
    return { member, path: member === '' || !parent ? path : parent };
  });
}

/** `push` and `remove`; the others are left by hand. */
function sayHelper(apart: TakenApart, list: string, { member, path }: Helper): void {
  const { leaving, names, needs } = apart;
  const call = path.parentPath;
  const [first, ...more] = call?.isCallExpression() ? (call.get('arguments') as NodePath[]) : [];
  if (
    !call?.isCallExpression() ||
    path.key !== 'callee' ||
    !first ||
    more.length ||
    !isSeenAt(leaving, call, names.values)
  ) {
    stays(leaving, path, 'what it does to the list is not told here');
    return;
  }
  const kinds = apart.rows.get(list) ?? rowKinds(apart, list);
  if (member === 'push') {
    const own = kinds ?? kindsOf({ path: first, script: leaving.script }, leaving);
    if (own) {
      apart.rows.set(list, own);
      apart.kinds.set(list, 'rows');
    }
    leaving.turns.push({ path: call, does: 'whole' });
    says(leaving, call, () =>
      changeOf(apart, valuesWith(apart, `${list}: [...${names.values}.${list}, ${textIn(leaving, first)}]`)),
    );
    needs.add('change');
    return;
  }
  if (member !== 'remove') {
    stays(leaving, path, 'what it does to the list is not said without the package yet');
    return;
  }
  needs.add(`without ${list}`).add('change').add('touched');
  leaving.turns.push({ path: call, does: 'whole' });
  says(leaving, call, () => `${rowFunction(apart, 'remove', list)}(${textIn(leaving, first)})`);
}

/** Functions that change rows, and take them out of lists. */
export function addRowFunctions(apart: TakenApart, block: Block): void {
  const index = typedAs('index', apart.leaving.script.typescript ? 'number' : undefined);
  for (const list of apart.rows.keys()) {
    addRowChange(apart, list, block);
    if (apart.needs.has(`without ${list}`))
      addFunction(block, `function ${rowFunction(apart, 'remove', list)}(${index})`, withoutLines(apart, list));
  }
}

/** What an object says of all fields of a list's rows as left. */
export function allLeft({ names, rows, leaving }: TakenApart): string[] {
  return [...rows].map(([list, kinds]) => {
    const keys = [...kinds.keys()].map((key) => quoted(key, leaving.context.style)).join(', ');
    const each = `[${keys}].map((key) => [\`${list}.\${at}.\${key}\`, true])`;
    return `...Object.fromEntries(${names.values}.${list}.flatMap((_, at) => ${each}))`;
  });
}

/** The lines of the function that takes a row out of a list: what was left of the rows behind it moves along. */
function withoutLines({ names }: TakenApart, list: string): string[] {
  return [
    `${names.change}({ ...${names.values}, ${list}: ${names.values}.${list}.filter((_, at) => at !== index) });`,
    `const moved = Object.entries(${names.touched}).flatMap(([name, left]) => {`,
    `  const [, at, key] = /^${list}\\.(\\d+)\\.(\\w+)$/.exec(name) ?? [];`,
    `  if (name === '${list}') return [];`,
    '  if (at === undefined || Number(at) < index) return [[name, left]];',
    `  return Number(at) === index ? [] : [[\`${list}.\${Number(at) - 1}.\${key}\`, left]];`,
    '});',
    `const isLeft = moved.some(([name]) => /^${list}\\./.test(String(name)));`,
    `${names.setTouched}({ ...Object.fromEntries(moved), ${list}: isLeft });`,
  ];
}
