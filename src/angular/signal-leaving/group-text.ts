import * as t from '@babel/types';
import { isRowField } from '../../form/model.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import { initialNode } from '../class-reading.js';
import { accessText, commentsIn, fieldTree, keyText, type FieldTree } from '../writing.js';
import { leaveNode, textAt, type Leaving, type ListOfRows } from './leaving.js';

const literal = /^(?:'[^']*'|"[^"]*"|-?\d[\d_.]*|true|false|null)$/;
const told: Record<string, RegExp> = { string: /^['"]/, number: /^-?\d/, boolean: /^(true|false)$/ };

/** The group of a form's controls up to where its rules come: `new FormGroup({ … }`. */
export function groupOf(leaving: Leaving, indent: string): string | undefined {
  const { found, leaves, component, context, lists } = leaving;
  const { script } = component;
  const model = found.model.node;
  const call = initialNode(found.model);
  const start = t.isCallExpression(call) ? call.arguments[0] : undefined;
  if (!start) return leaveNode(leaving, script, model, 'what it starts with is not clear');
  const named = t.isIdentifier(start) || (t.isCallExpression(start) && t.isIdentifier(start.callee));
  const whole = textAt(script, start);
  let missing = false;
  const valueOf = (path: string): string => {
    const leaf = leaves.find((one) => one.path === path);
    const node = leaf?.part?.node;
    const text = node && leaf?.part ? textAt(leaf.part.script, node) : undefined;
    const list = lists.some((one) => one.path === path);
    if (text !== undefined && literal.test(text) && !list) return text;
    if (named) return whole + path.split('.').map(accessText).join('');
    if (text !== undefined && leaf?.part?.script === script) return text;
    missing = true;
    return 'undefined';
  };
  const items = (tree: FieldTree, at: string): Item[] =>
    [...tree.children].map(([key, child]): Item => {
      const own = at === '' ? key : `${at}.${key}`;
      const lead = `${keyText(key, context)}: `;
      const comments = commentsOf(own, start, leaving);
      if (!child.field)
        return {
          ...comments,
          lead: `${lead}new FormGroup(`,
          value: { open: '{', close: '})', items: items(child, own) },
        };
      const list = lists.find(({ path }) => path === own);
      if (list) return { ...comments, lead, value: `new FormArray(${valueOf(own)}.map(${list.make}))` };
      return {
        ...comments,
        lead,
        value: controlText(valueOf(own), leaves.find(({ path }) => path === own)?.type, own, leaving),
      };
    });
  const group: Group = {
    open: 'new FormGroup({',
    close: '}',
    items: items(fieldTree(leaving.model.fields.filter(({ name }) => !isRowField(name))), ''),
  };
  const text = laidOut(group, context.style, indent, context.style.width);
  return missing ? leaveNode(leaving, script, start, 'what each field starts with is not told') : text;
}

/** Comments that stand with a field in the object that the form starts with. */
function commentsOf(
  path: string,
  start: t.Node,
  { component }: Leaving,
): { commentsBefore: string[]; commentBehind: string | undefined } {
  const { script } = component;
  let object: t.Node | undefined = start;
  let before = start.start ?? 0;
  let own: t.Node | undefined;
  for (const key of path.split('.')) {
    if (!t.isObjectExpression(object)) return { commentsBefore: [], commentBehind: undefined };
    const at: number = object.properties.findIndex(
      (one) =>
        t.isObjectProperty(one) &&
        (t.isIdentifier(one.key, { name: key }) || t.isStringLiteral(one.key, { value: key })),
    );
    const found: t.Node | undefined = object.properties[at];
    before = (at > 0 ? object.properties[at - 1]?.end : object.start) ?? 0;
    own = found;
    object = t.isObjectProperty(found) ? found.value : undefined;
  }
  if (!own) return { commentsBefore: [], commentBehind: undefined };
  const between = commentsIn(script, { start: before, end: own.start ?? 0 });
  const isBehind = (from: number, comment: { start: number }): boolean =>
    !script.text.slice(from, comment.start).includes('\n');
  const lineEnd = script.text.indexOf('\n', own.end ?? 0);
  const behind = commentsIn(script, { start: own.end ?? 0, end: lineEnd < 0 ? script.text.length : lineEnd });
  return {
    commentsBefore: between.filter((one) => before === start.start || !isBehind(before, one)).map(({ text }) => text),
    commentBehind: behind[0]?.text,
  };
}

/** A control with its start, and its type where the start does not tell it. */
function controlText(value: string, type: string | undefined, path: string, { type: all, context }: Leaving): string {
  const clear = !literal.test(value) || (type !== undefined && told[type]?.test(value) === true);
  const { quote } = context.style;
  const keys = path
    .split('.')
    .map((key) => `[${quote}${key}${quote}]`)
    .join('');
  // a type that needs no name of another file stands there itself
  const own =
    type !== undefined && /^(?:(?:string|number|boolean|null|undefined|'[^']*'|"[^"]*")(?: \| )?)+$/.test(type)
      ? type
      : `${all}${keys}`;
  return `new FormControl${clear ? '' : `<${own}>`}(${value}, { nonNullable: true })`;
}

/** Functions that make the controls of a row, for above the class. */
export function rowMakers({ lists, context }: Leaving): string {
  const { newline, semicolon, width, indent } = context.style;
  return lists
    .map(({ make, type, keys }: ListOfRows) => {
      const group: Group = {
        open: 'new FormGroup({',
        close: '})',
        items: keys.map(({ key }) => ({
          lead: `${keyText(key, context)}: `,
          value: `new FormControl(row${accessText(key)}, { nonNullable: true })`,
        })),
      };
      const text = laidOut(group, context.style, indent, width);
      const head = `const ${make} = (row: ${type}) =>`;
      return `/** The controls of one row. */${newline}${head}${newline}${indent}${text}${semicolon}${newline}${newline}`;
    })
    .join('');
}
