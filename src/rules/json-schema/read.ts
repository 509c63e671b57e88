import type { Constraint, Guard } from '../../form/rules.js';
import type { Held } from './constraints.js';
import { isSchema, type Json, type Schema } from './schema.js';

/** A rule as a schema states it. */
export interface SchemaRule {
  field: string;
  constraint: Constraint;
  guards: Guard[];
  message: string | undefined;
  comments: string[];
  /** Where it stands, as a JSON pointer. */
  pointer: string;
}

/** A field as a schema declares it. */
export interface SchemaField {
  name: string;
  held: Held;
  title: string | undefined;
  initial: Json | undefined;
  comments: string[];
}

/** A place of a schema that says something no rule of a form says. */
export interface SchemaTrouble {
  pointer: string;
  why: string;
}

/** What a schema says of a form. */
export interface ReadSchema {
  fields: SchemaField[];
  rules: SchemaRule[];
  troubles: SchemaTrouble[];
}

interface Place {
  pointer: string;
  field: string;
  held: Held;
  guards: Guard[];
}

interface Reading extends ReadSchema {
  heldOf(field: string): Held | undefined;
}

/** Keywords that describe a field and state no rule. */
const describing = new Set([
  'title',
  'description',
  'default',
  'items',
  '$comment',
  'format',
  'errorMessage',
  'examples',
  'readOnly',
  'deprecated',
]);

/** Reads the fields and rules of a form's schema. Each rule keeps its place in the order of its field's rules. */
export function readSchema(schema: Schema): ReadSchema {
  const held = new Map<string, Held>();
  const reading: Reading = { fields: [], rules: [], troubles: [], heldOf: (field) => held.get(field) };
  const properties = isSchema(schema['properties']) ? schema['properties'] : {};
  const declare = (at: Schema, before: string): void => {
    for (const [name, property] of Object.entries(at)) {
      if (!isSchema(property)) continue;
      const field = before + name;
      held.set(field, heldBy(property));
      const { title } = property;
      reading.fields.push({
        name: field,
        held: heldBy(property),
        title: typeof title === 'string' ? title : undefined,
        initial: property['default'],
        comments: commentsOf(property),
      });
      if (isSchema(property['properties'])) declare(property['properties'], `${field}.`);
    }
  };
  declare(properties, '');
  const asked = messagesForMissing(schema);
  propertiesRules(properties, '/properties', '', [], reading);
  readAll(schema['allOf'], '/allOf', [], reading);
  condition(schema, '', [], reading);
  const rules = reading.rules.map((rule) => withMissing(rule, asked));
  return { fields: reading.fields, rules, troubles: reading.troubles };
}

/** The messages that a form gives where a field is missing. */
function messagesForMissing(schema: Schema): Map<string, Json> {
  const whole = schema['errorMessage'];
  const asked = isSchema(whole) ? whole['required'] : undefined;
  return new Map(isSchema(asked) ? Object.entries(asked) : []);
}

/** A limit that a number which is none breaks as well. */
function withMissing(rule: SchemaRule, asked: ReadonlyMap<string, Json>): SchemaRule {
  const { constraint, message, field, guards } = rule;
  const asks = /^(min|max|above|below|present)$/.test(constraint.kind);
  if (!asks || guards.length || message === undefined || asked.get(field) !== message) return rule;
  const { kind } = constraint;
  if (kind === 'present') return { ...rule, constraint: { kind, missing: 'fails' } };
  return kind === 'min' || kind === 'max' || kind === 'above' || kind === 'below'
    ? { ...rule, constraint: { ...constraint, nan: 'fails' } }
    : rule;
}

/** How a field's values stand in JSON, by its schema. */
function heldBy(schema: Schema): Held {
  const { type } = schema;
  const types = Array.isArray(type) ? type : [type];
  const nullable = types.includes('null');
  const [first] = types.filter((one) => one !== 'null');
  const known = ['string', 'number', 'boolean', 'array', 'object'] as const;
  const found = first === 'integer' ? 'number' : known.find((one) => one === first);
  return { type: found, nullable };
}

function commentsOf(schema: Schema): string[] {
  const comment = schema['$comment'];
  return typeof comment === 'string' ? comment.split('\n') : [];
}

function escaped(name: string): string {
  return name.replace(/~/g, '~0').replace(/\//g, '~1');
}

function propertiesRules(properties: Schema, pointer: string, before: string, guards: Guard[], reading: Reading): void {
  for (const [name, property] of Object.entries(properties)) {
    const field = before + name;
    const held = reading.heldOf(field);
    const at = `${pointer}/${escaped(name)}`;
    if (!isSchema(property)) continue;
    if (!held) {
      reading.troubles.push({ pointer: at, why: `it speaks of ${field}, which the properties do not declare` });
      continue;
    }
    fieldRules(property, { pointer: at, field, held, guards }, reading);
    if (isSchema(property['properties']))
      propertiesRules(property['properties'], `${at}/properties`, `${field}.`, guards, reading);
  }
}

/** Conditions on the whole form. */
function readAll(list: Json | undefined, pointer: string, guards: Guard[], reading: Reading): void {
  if (!Array.isArray(list)) return;
  list.forEach((one, index) => {
    if (!isSchema(one)) return;
    const at = `${pointer}/${index}`;
    if (isSchema(one['properties'])) propertiesRules(one['properties'], `${at}/properties`, '', guards, reading);
    readAll(one['allOf'], `${at}/allOf`, guards, reading);
    condition(one, at, guards, reading);
  });
}

function condition(schema: Schema, pointer: string, guards: Guard[], reading: Reading): void {
  const { if: when, then } = schema;
  if (!isSchema(when) || !isSchema(then)) return;
  const own = formGuards(when, reading);
  if (!own) {
    reading.troubles.push({ pointer: `${pointer}/if`, why: 'its condition is more than this tool reads' });
    return;
  }
  const all = [...guards, ...own];
  if (isSchema(then['properties'])) propertiesRules(then['properties'], `${pointer}/then/properties`, '', all, reading);
  readAll(then['allOf'], `${pointer}/then/allOf`, all, reading);
}

/** The guards that a condition on the whole form stands for. */
function formGuards(when: Schema, reading: Reading): Guard[] | undefined {
  if (Array.isArray(when['allOf'])) {
    const parts = when['allOf'].map((one) => (isSchema(one) ? formGuards(one, reading) : undefined));
    const known = parts.flatMap((part) => part ?? []);
    return parts.every((part) => part !== undefined) ? known : undefined;
  }
  if (!isSchema(when['properties'])) return undefined;
  const found: Guard[] = [];
  const visit = (properties: Schema, before: string): boolean =>
    Object.entries(properties).every(([name, schema]) => {
      const field = before + name;
      if (!isSchema(schema)) return false;
      if (isSchema(schema['properties'])) return visit(schema['properties'], `${field}.`);
      const held = reading.heldOf(field);
      const guards = held ? guardsOf(field, schema, held) : undefined;
      found.push(...(guards ?? []));
      return guards !== undefined;
    });
  return visit(when['properties'], '') ? found : undefined;
}

/** What a schema of one field says as guards. */
function guardsOf(field: string, schema: Schema, held: Held): Guard[] | undefined {
  if (Array.isArray(schema['allOf'])) {
    const parts = schema['allOf'].map((one) => (isSchema(one) ? guardsOf(field, one, held) : undefined));
    return parts.every((part) => part !== undefined) ? parts.flatMap((part) => part ?? []) : undefined;
  }
  const text = JSON.stringify(schema);
  const is = (like: Schema): boolean => JSON.stringify(like) === text;
  if (is({ const: true })) return [{ field, is: 'true' }];
  if (is({ const: false })) return [{ field, is: 'false' }];
  if ('const' in schema && Object.keys(schema).length === 1)
    return [{ field, is: 'equals', literal: JSON.stringify(schema['const']) }];
  const not = schema['not'];
  if (isSchema(not) && Object.keys(schema).length === 1) {
    if ('const' in not && JSON.stringify(not) !== '{"const":0}' && Object.keys(not).length === 1)
      return [{ field, is: 'differs', literal: JSON.stringify(not['const']) }];
    const filled = constraintsOf(schema);
    if (filled?.length === 1 && filled[0]?.constraint.kind === 'required') return [{ field, is: 'filled' }];
    const met = constraintsOf(not);
    if (met?.length === 1 && met[0]?.constraint.kind === 'required') return [{ field, is: 'empty' }];
    const [only] = met ?? [];
    return met?.length === 1 && only ? [{ field, is: 'breaks', constraint: only.constraint }] : undefined;
  }
  if (is({ maxLength: 0 })) return [{ field, is: 'empty' }];
  if (is({ type: 'string', pattern: '\\S' })) return [{ field, is: 'not-blank' }];
  if (is({ type: 'string', pattern: '^\\s*$' })) return [{ field, is: 'blank' }];
  const met = constraintsOf(schema);
  if (!met) return undefined;
  return met.map(({ constraint }): Guard =>
    constraint.kind === 'required' ? { field, is: 'filled' } : { field, is: 'meets', constraint },
  );
}

/** The rules of one field's schema: its keywords in the order of their messages, then its `allOf`. */
function fieldRules(schema: Schema, place: Place, reading: Reading): void {
  const { field, held, pointer, guards } = place;
  const add = (constraint: Constraint, message: string | undefined, keyword: string): void => {
    reading.rules.push({
      field,
      constraint,
      guards,
      message,
      comments: commentsOf(schema),
      pointer: `${pointer}/${keyword}`,
    });
  };
  const whole = schema['errorMessage'];
  const own = withoutDescription(schema, pointer);
  const stated = constraintsOf(own);
  if (stated) {
    const messages = isSchema(whole) ? whole : {};
    const order = Object.keys(messages);
    const rank = (keyword: string): number => (order.includes(keyword) ? order.indexOf(keyword) : order.length);
    for (const { constraint, keyword } of [...stated].sort((a, b) => rank(a.keyword) - rank(b.keyword))) {
      const message = typeof whole === 'string' ? whole : messages[keyword];
      add(constraint, typeof message === 'string' ? message : undefined, keyword);
    }
  } else if (Object.keys(own).length)
    reading.troubles.push({ pointer, why: `this tool has no rule for ${Object.keys(own).join(', ')}` });
  const list = schema['allOf'];
  if (Array.isArray(list))
    list.forEach((one, index) => {
      if (isSchema(one)) fieldRules(one, { ...place, pointer: `${pointer}/allOf/${index}` }, reading);
    });
  const { if: when, then } = schema;
  if (!isSchema(when) || !isSchema(then)) return;
  const inner = guardsOf(field, when, held);
  if (!inner) reading.troubles.push({ pointer: `${pointer}/if`, why: 'its condition is more than this tool reads' });
  else fieldRules(then, { ...place, pointer: `${pointer}/then`, guards: [...guards, ...inner] }, reading);
}

/** A field's schema without what only describes it, or is read elsewhere. */
function withoutDescription(schema: Schema, pointer: string): Schema {
  const declares = /^(\/properties\/[^/]+)+$/.test(pointer);
  return Object.fromEntries(
    Object.entries(schema).filter(([keyword, value]) => {
      if (describing.has(keyword) || /^(allOf|if|then|properties|required)$/.test(keyword)) return false;
      if (declares && (keyword === 'type' || keyword === 'enum')) return false;
      // an empty text or a date: what the control itself sees to
      return !(keyword === 'anyOf' && JSON.stringify(value) === '[{"maxLength":0},{"format":"date"}]');
    }),
  );
}

/** The constraints that some keywords stand for together; undefined where one of them stands for none. */
function constraintsOf(keywords: Schema): { constraint: Constraint; keyword: string }[] | undefined {
  const { type, ...rest } = keywords;
  const found: { constraint: Constraint; keyword: string }[] = [];
  for (const [keyword, value] of Object.entries(rest)) {
    const constraint = constraintOf(keyword, value);
    if (!constraint) return undefined;
    found.push({ constraint, keyword });
  }
  if (type === 'integer') found.push({ constraint: { kind: 'integer' }, keyword: 'type' });
  else if (type !== undefined && !found.length) return undefined;
  return found;
}

const limits = new Map<string, 'min' | 'max' | 'above' | 'below'>([
  ['minimum', 'min'],
  ['maximum', 'max'],
  ['exclusiveMinimum', 'above'],
  ['exclusiveMaximum', 'below'],
]);

function constraintOf(keyword: string, value: Json): Constraint | undefined {
  if (typeof value === 'number') {
    const kind = limits.get(keyword);
    if (kind) return { kind, value: String(value) };
    if ((keyword === 'minLength' || keyword === 'minItems') && value === 1) return { kind: 'required' };
    if (keyword === 'minLength' || keyword === 'minItems') return { kind: 'min-length', value: String(value) };
    if (keyword === 'maxLength' || keyword === 'maxItems') return { kind: 'max-length', value: String(value) };
  }
  if (keyword === 'const' && value === true) return { kind: 'required-true' };
  if (keyword === 'enum' && Array.isArray(value))
    return { kind: 'one-of', values: value.map((one) => JSON.stringify(one)) };
  if (keyword === 'pattern' && typeof value === 'string') return patternConstraint(value);
  if (keyword !== 'not' || !isSchema(value)) return undefined;
  const text = JSON.stringify(value);
  if (text === '{"type":"null"}') return { kind: 'present' };
  if (['{"enum":["",null]}', '{"enum":[0,null]}', '{"const":0}', '{"enum":["",0,false,null]}'].includes(text))
    return { kind: 'required' };
  if (typeof value['pattern'] === 'string' && Object.keys(value).length === 1)
    return { kind: 'pattern', form: 'expression', value: literalOf(value['pattern']), not: true };
  return undefined;
}

function literalOf(pattern: string): string {
  return `/${pattern.replace(/\\[\s\S]|\//g, (part) => (part === '/' ? '\\/' : part))}/`;
}

function patternConstraint(pattern: string): Constraint {
  if (pattern === '\\S') return { kind: 'not-blank' };
  const least = /^\\S\[\\s\\S\]\{(\d+),\}\\S$/.exec(pattern)?.[1];
  if (least !== undefined) return { kind: 'min-length', value: String(Number(least) + 2), trimmed: true };
  const most = /^\^\\s\*\(\?:\\S\(\?:\[\\s\\S\]\{0,(\d+)\}\\S\)\?\)\?\\s\*\$$/.exec(pattern)?.[1];
  if (most !== undefined) return { kind: 'max-length', value: String(Number(most) + 2), trimmed: true };
  return { kind: 'pattern', form: 'expression', value: literalOf(pattern) };
}
