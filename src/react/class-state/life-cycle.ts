import * as t from '@babel/types';
import { indentAt } from '../../source/style.js';
import {
  atDepth,
  bodyText,
  byHand,
  memberIndent,
  textWithin,
  type ClassDraft,
  type ClassMember,
} from './function-text.js';

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
  if (unmount && readsState(draft, unmount, members))
    byHand(draft, unmount.key, 'it reads the state at the end, when an effect would still see the first one');
  if (mount) texts.set('componentDidMount', mountText(draft, mount, unmount, call));
  if (unmount) texts.set('componentWillUnmount', mount ? '' : endText(draft, unmount, call));
  if (update) texts.set('componentDidUpdate', updateText(draft, update, call));
  return texts;
}

function readsState(draft: ClassDraft, method: t.ClassMethod, members: ReadonlyMap<string, ClassMember>): boolean {
  const text = draft.script.text.slice(method.start ?? 0, method.end ?? 0);
  if (/\bthis\.state\b/.test(text)) return true;
  return [...members].some(
    ([name, member]) =>
      new RegExp(`\\bthis\\.${name}\\b`).test(text) &&
      member !== method &&
      /\bthis\.state\b/.test(draft.script.text.slice(member.start ?? 0, member.end ?? 0)),
  );
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
  const lines: string[] = [`${indent}${call('useEffect')}(() => {`];
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

/** `if (before.town !== this.state.town) { … }` follows one value: an effect does, with the value before in a ref. */
function updateText(draft: ClassDraft, update: t.ClassMethod, call: Call): string {
  const { style, script, names } = draft;
  const indent = memberIndent(draft);
  const step = indent + style.indent;
  const end = style.semicolon;
  const [beforeProps, beforeState] = update.params.map((one) => (t.isIdentifier(one) ? one.name : undefined));
  const texts: string[] = [];
  const used = new Set<string>();
  for (const statement of update.body.body) {
    const test = t.isIfStatement(statement) && !statement.alternate ? statement.test : undefined;
    const compared = test && comparison(test, script.text, beforeProps, beforeState);
    if (!t.isIfStatement(statement) || !compared) {
      byHand(draft, statement, 'what it follows is not clear: it is no comparison of one value with the one before');
      continue;
    }
    const body = statement.consequent;
    const bodySource = script.text.slice(body.start ?? 0, body.end ?? 0);
    if ([beforeProps, beforeState].some((name) => name !== undefined && new RegExp(`\\b${name}\\b`).test(bodySource))) {
      byHand(draft, statement, 'it looks at more of what was before');
      continue;
    }
    const now = `${compared.of === 'state' ? names.state : names.props}.${compared.key}`;
    const last = compared.key.split('.').at(-1) ?? compared.key;
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
