import * as t from '@babel/types';
import { indentAt } from '../../source/style.js';
import type { ClassDraft, ClassMember } from './class-draft.js';
import { atDepth, bodyText, byHand, memberIndent, textWithin } from './function-text.js';

type Call = (name: string) => string;

/**
 * The effects that stand for the class's moments: after the first view, after later ones, and at the end.
 * @returns the text by the name of the method; empty where it is a part of another one's
 */
export function effectTexts(
  draft: ClassDraft,
  members: ReadonlyMap<string, ClassMember>,
  call: Call,
): Map<string, string> {
  const texts = new Map<string, string>();
  const method = (name: string): t.ClassMethod | undefined => {
    const member = members.get(name);
    if (member && !t.isClassMethod(member)) byHand(draft, member, 'this moment is written as a property');
    return t.isClassMethod(member) ? member : undefined;
  };
  const mount = method('componentDidMount');
  const unmount = method('componentWillUnmount');
  const update = method('componentDidUpdate');
  if (mount) texts.set('componentDidMount', mountText(draft, mount, unmount, call));
  if (unmount) texts.set('componentWillUnmount', mount ? '' : endText(draft, unmount, call));
  if (update) texts.set('componentDidUpdate', updateText(draft, update, call));
  return texts;
}

/** A body's lines at the depth they have inside an effect of the function. */
function inner(draft: ClassDraft, body: t.BlockStatement, steps = 1): string {
  const own = memberIndent(draft) + draft.style.indent;
  return atDepth(bodyText(draft, body), own, memberIndent(draft) + draft.style.indent.repeat(steps));
}

function mountText(draft: ClassDraft, mount: t.ClassMethod, unmount: t.ClassMethod | undefined, call: Call): string {
  const { style } = draft;
  const indent = memberIndent(draft);
  const step = indent + style.indent;
  const end = style.semicolon;
  // what is done to the page after the first view is done before it is painted
  const body = draft.script.text.slice(mount.body.start ?? 0, mount.body.end ?? 0);
  const onPage = !mount.async && /\.(?:focus|select|scroll\w*|getBoundingClientRect)\(/.test(body);
  const lines: string[] = [`${indent}${call(onPage ? 'useLayoutEffect' : 'useEffect')}(() => {`];
  if (mount.async) {
    lines.push(
      `${step}const begin = async () => {`,
      inner(draft, mount.body, 2),
      `${step}}${end}`,
      `${step}void begin()${end}`,
    );
  } else lines.push(inner(draft, mount.body));
  if (unmount) lines.push(`${step}return () => {`, inner(draft, unmount.body, 2), `${step}}${end}`);
  lines.push(`${indent}}, [])${end}`);
  return lines.filter((line) => line !== '').join(style.newline);
}

function endText(draft: ClassDraft, unmount: t.ClassMethod, call: Call): string {
  const { style } = draft;
  const indent = memberIndent(draft);
  return [
    `${indent}${call('useEffect')}(() => () => {`,
    inner(draft, unmount.body),
    `${indent}}, [])${style.semicolon}`,
  ].join(style.newline);
}

/**
 * `if (before.town !== this.state.town) { … }` follows one value: an effect does, with the value before in a ref.
 * What follows anything else is one effect that keeps state and props of the view before.
 */
function updateText(draft: ClassDraft, update: t.ClassMethod, call: Call): string {
  const { style, script, names } = draft;
  const indent = memberIndent(draft);
  const step = indent + style.indent;
  const end = style.semicolon;
  const followed = followedValues(draft, update);
  if (!followed) return wholeUpdate(draft, update, call);
  const texts: string[] = [];
  const used = new Set<string>();
  for (const { statement, of, key } of followed) {
    const body = statement.consequent;
    const now = `${of === 'state' ? names.state : names.props}.${key}`;
    const last = key.split('.').at(-1) ?? key;
    let name = `last${last.charAt(0).toUpperCase()}${last.slice(1)}`;
    while (used.has(name) || new RegExp(`\\b${name}\\b`).test(script.text)) name += 'Value';
    used.add(name);
    const inside = t.isBlockStatement(body)
      ? atDepth(bodyText(draft, body), indentAt(script.text, statement.start ?? 0) + style.indent, step)
      : step + textWithin(draft, body.start ?? 0, body.end ?? 0);
    texts.push(
      [
        `${indent}const ${name} = ${call('useRef')}(${now})${end}`,
        `${indent}${call('useEffect')}(() => {`,
        `${step}if (${name}.current === ${now}) return${end}`,
        `${step}${name}.current = ${now}${end}`,
        inside,
        `${indent}}, [${now}])${end}`,
      ].join(style.newline),
    );
  }
  return texts.join(style.newline);
}

/** The values that an update follows one by one; undefined where it does anything else. */
function followedValues(
  { script }: ClassDraft,
  update: t.ClassMethod,
): { statement: t.IfStatement; of: 'state' | 'props'; key: string }[] | undefined {
  const [beforeProps, beforeState] = update.params.map((one) => (t.isIdentifier(one) ? one.name : undefined));
  const followed: { statement: t.IfStatement; of: 'state' | 'props'; key: string }[] = [];
  for (const statement of update.body.body) {
    if (!t.isIfStatement(statement) || statement.alternate) return undefined;
    const compared = comparison(statement.test, script.text, beforeProps, beforeState);
    const body = script.text.slice(statement.consequent.start ?? 0, statement.consequent.end ?? 0);
    const looksBack = [beforeProps, beforeState].some(
      (name) => name !== undefined && new RegExp(`\\b${name}\\b`).test(body),
    );
    // a return leaves out what follows
    if (!compared || looksBack || /\breturn\b/.test(body)) return undefined;
    followed.push({ statement, ...compared });
  }
  return followed;
}

/** An effect after every view but the first, which knows state and props of the view before. */
function wholeUpdate(draft: ClassDraft, update: t.ClassMethod, call: Call): string {
  const { style, script, names } = draft;
  const indent = memberIndent(draft);
  const step = indent + style.indent;
  const end = style.semicolon;
  const [before, last] = [unusedName(script.text, 'viewBefore'), unusedName(script.text, 'before', 'lastView')];
  const body = script.text.slice(update.body.start ?? 0, update.body.end ?? 0);
  const taken = update.params.flatMap((one, index): string[] => {
    const of = index === 0 ? names.props : index === 1 ? names.state : undefined;
    const asked = Object.keys(t.getBindingIdentifiers(one)).some((name) => new RegExp(`\\b${name}\\b`).test(body));
    if (!asked) return [];
    if (of === undefined) {
      byHand(draft, one, 'a function has no moment just before the page changes');
      return [];
    }
    const annotation = 'typeAnnotation' in one ? one.typeAnnotation : undefined;
    const pattern = script.text.slice(one.start ?? 0, annotation?.start ?? one.end ?? 0);
    return [`${step}const ${pattern} = ${last}.${of}${end}`];
  });
  const both = taken.length === 2 ? `${names.props}, ${names.state}` : /\.(\w+);?$/.exec(taken[0] ?? '')?.[1];
  const kept = both ?? names.state;
  const type = script.typescript
    ? `<{ ${kept
        .split(', ')
        .map((name) => `${name}: typeof ${name}`)
        .join('; ')} } | undefined>(undefined)`
    : '()';
  return [
    `${indent}const ${before} = ${call('useRef')}${type}${end}`,
    `${indent}${call('useEffect')}(() => {`,
    `${step}const ${last} = ${before}.current${end}`,
    `${step}${before}.current = { ${kept} }${end}`,
    `${step}if (!${last}) return${end}`,
    ...taken,
    inner(draft, update.body),
    `${indent}})${end}`,
  ].join(style.newline);
}

function unusedName(text: string, ...wished: string[]): string {
  return wished.find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? `${wished.at(-1) ?? ''}Kept`;
}

function comparison(
  test: t.Expression,
  text: string,
  beforeProps: string | undefined,
  beforeState: string | undefined,
): { of: 'state' | 'props'; key: string } | undefined {
  if (!t.isBinaryExpression(test) || !/^!==?$/.test(test.operator)) return undefined;
  const sides = [test.left, test.right].map((one) => text.slice(one.start ?? 0, one.end ?? 0));
  for (const [before, of] of [
    [beforeState, 'state'],
    [beforeProps, 'props'],
  ] as const) {
    if (before === undefined) continue;
    const old = sides.find((side) => side.startsWith(`${before}.`));
    const key = old?.slice(before.length + 1);
    if (key !== undefined && sides.includes(`this.${of}.${key}`) && /^[\w.]+$/.test(key)) return { of, key };
  }
  return undefined;
}
