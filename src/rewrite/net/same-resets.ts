import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import { broughtByReset, fieldsOf, type FormModel } from '../../form/model.js';
import type { ResetUse } from '../../form/uses.js';
import { parseScript } from '../../source/script.js';
import type { Caught } from './caught.js';
import type { FormMatch } from './form-match.js';
import { printerOf } from './told-changes.js';

/** Values that a reset gives, by field; `=` for code. */
interface Reset {
  use: ResetUse;
  /** Undefined where they are not one object that is written out. */
  values: Map<string, string> | undefined;
  /** Whether other values are spread into it. */
  spreads: boolean;
}

/** Resets of the whole form that would leave a field out, or give it another value. */
export function resetDifferences(
  { before, after }: { before: FormModel; after: FormModel },
  texts: { before(file: string): string; after(file: string): string },
  match: FormMatch,
): Caught[] {
  const left = resetsOf(after, texts.after, match.nameBefore);
  const names = fieldsOf(before).flatMap(({ name, role }) => (role === 'field' && match.field(name) ? [name] : []));
  return resetsOf(before, texts.before, (name) => name).flatMap((reset): Caught[] => {
    const index = left.findIndex(
      (other) => isSame(reset, other, names) && (after.approach !== 'signal-model' || bringsSame(reset, other, before)),
    );
    // what resets to whatever it is given stands for each of its calls
    if (index >= 0 && !isGiven(left[index], texts.after)) left.splice(index, 1);
    const { span } = reset.use;
    const what = texts.before(span.file).slice(span.start, span.end);
    return index >= 0 ? [] : [{ check: 'equality', span, what, why: 'no reset of the result gives these values' }];
  });
}

/** Whether a reset brings what the function around it is given. */
function isGiven(reset: Reset | undefined, textOf: (file: string) => string): boolean {
  const given = reset?.use.values;
  if (!given || reset.values) return false;
  const text = textOf(given.file);
  const name = text.slice(given.start, given.end);
  return /^\w+$/.test(name) && new RegExp(`\\(${name}(?::[^()]*)?\\)[^;{}]*\\{[^}]*$`).test(text.slice(0, given.start));
}

/** Whether a reset that gave no values is one to what it brought by itself: the starts, or null. */
function bringsSame({ use }: Reset, { values, spreads }: Reset, before: FormModel): boolean {
  if (use.values || !values || spreads) return true;
  return before.fields.every((field) => {
    const { name, initial } = field;
    const now = values.get(name);
    const old = broughtByReset(field, before);
    const literal = /^(?:'(.*)'|"(.*)"|(-?[\d.]+|true|false|null))$/.exec(initial.text);
    const start = literal ? (literal[1] ?? literal[2] ?? literal[3]) : undefined;
    if (now === undefined || (old === 'initial' && start === undefined)) return true;
    return now === (old === 'null' ? 'null' : start);
  });
}

function isSame(old: Reset, now: Reset, names: readonly string[]): boolean {
  if (!old.values || !now.values) return !old.values === !now.values || old.use.values === undefined;
  const { values } = now;
  if (![...old.values].every(([field, value]) => values.get(field) === value)) return false;
  // what a reset names for every field it names for all of them
  const nulls = [...values.values()].filter((value) => value === 'null').length;
  return now.spreads || old.values.size > 0 || nulls < 2 || names.every((name) => values.has(name));
}

function resetsOf(model: FormModel, textOf: (file: string) => string, named: (name: string) => string): Reset[] {
  const printer = printerOf(model, textOf, named);
  return model.uses.flatMap((use): Reset[] => {
    if (use.kind !== 'reset' || use.of !== undefined) return [];
    if (!use.values) return [{ use, values: new Map(), spreads: false }];
    const text = codeText(use.values, printer).replaceAll('§', 'ƒ');
    const object = objectIn(`(${text})`) ?? constantNamed(text.trim(), textOf(use.values.file));
    if (!object) return [{ use, values: undefined, spreads: false }];
    return [{ use, ...valuesIn(object, '', named) }];
  });
}

function objectIn(text: string): t.ObjectExpression | undefined {
  const parsed = parseScript('values.ts', text);
  const [statement] = parsed.ok ? parsed.script.ast.program.body : [];
  const object = t.isExpressionStatement(statement) ? statement.expression : undefined;
  return t.isObjectExpression(object) ? object : undefined;
}

/** The object that a constant of the file is, or that a function of the file gives. */
function constantNamed(text: string, file: string): t.ObjectExpression | undefined {
  const name = /^(\w+)(?:\(\))?$/.exec(text)?.[1];
  if (name === undefined) return undefined;
  const parsed = parseScript('values.ts', file);
  for (const statement of parsed.ok ? parsed.script.ast.program.body : []) {
    if (!t.isVariableDeclaration(statement)) continue;
    const found = statement.declarations.find(({ id }) => t.isIdentifier(id, { name }))?.init;
    const value = t.isArrowFunctionExpression(found) ? found.body : found;
    if (t.isObjectExpression(value)) return value;
  }
  return undefined;
}

/** The values of an object by their whole paths. */
function valuesIn(
  object: t.ObjectExpression,
  path: string,
  named: (name: string) => string,
): Pick<Reset, 'spreads'> & { values: Map<string, string> } {
  const values = new Map<string, string>();
  let spreads = false;
  for (const property of object.properties) {
    if (t.isSpreadElement(property)) spreads = true;
    if (!t.isObjectProperty(property)) continue;
    const { key, value } = property;
    const own = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    if (own === undefined) continue;
    const name = [path, own.replace('ƒ', '')].filter(Boolean).join('.');
    const inner = t.isObjectExpression(value) ? valuesIn(value, name, named) : undefined;
    for (const [field, text] of inner?.values ?? [[named(name), literalOf(value)]]) values.set(field, text);
    spreads ||= inner?.spreads === true;
  }
  return { values, spreads };
}

function literalOf(value: t.Node): string {
  if (t.isNullLiteral(value)) return 'null';
  if (t.isStringLiteral(value) || t.isNumericLiteral(value) || t.isBooleanLiteral(value)) return String(value.value);
  return '=';
}
