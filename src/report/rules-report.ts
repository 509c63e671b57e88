import path from 'node:path';
import type { FormModel } from '../form/model.js';
import type { Guard } from '../form/rules.js';
import type { ReadSchema } from '../rules/json-schema/read.js';
import { conditionOf } from '../rules/native.js';
import type { StatedSchema } from '../rules/json-schema/write.js';
import type { LineOf } from './inspect-json.js';
import { counted, type Paint } from './paint.js';
import { columns } from './table.js';

/** A form's schema as JSON, with the rules that it does not state. */
export function rulesJson(model: FormModel, stated: StatedSchema, cwd: string, lineOf: LineOf): object {
  return {
    version: 1,
    form: model.name,
    file: relative(model.file, cwd),
    schema: stated.schema,
    beside: stated.unstated.map(({ rule, why }) => ({
      fields: rule.fields,
      kind: rule.kind,
      condition: rule.condition,
      message: rule.message ?? null,
      moment: rule.moment,
      file: relative(rule.span.file, cwd),
      line: lineOf(rule.span.file, rule.span.start),
      why,
    })),
  };
}

function relative(file: string, cwd: string): string {
  return path.relative(cwd, file).split(path.sep).join('/');
}

/** The rules that a schema does not state, for people; empty where it states all. */
export function besideText({ unstated }: StatedSchema, cwd: string, lineOf: LineOf): string {
  if (!unstated.length) return '';
  const rows = unstated.map(({ rule, why }) => [
    rule.fields.join(', '),
    rule.condition.replace(/\s+/g, ' '),
    rule.message === undefined ? 'no message' : `“${rule.message}”`,
    `${relative(rule.span.file, cwd)}:${lineOf(rule.span.file, rule.span.start)}`,
    why,
  ]);
  const title = `${counted(unstated.length, 'rule')} with no JSON Schema form, beside the schema:`;
  return `${title}\n${columns(rows, { indent: '  ' })}`;
}

/** The fields and rules of a schema that stands by itself, for people. */
export function schemaRulesText({ fields, rules, troubles }: ReadSchema, paint: Paint): string {
  const head = ['FIELD', 'RULE', 'MESSAGE', 'POINTER'].map((title) => paint.dim(title));
  const rows = rules.map((rule) => [
    rule.field,
    [...rule.guards.map(guardWords), conditionOf(rule.constraint)].join(', '),
    rule.message === undefined ? paint.dim('no message') : `“${rule.message}”`,
    paint.dim(rule.pointer),
  ]);
  const out = [`${counted(fields.length, 'field')}: ${fields.map(({ name }) => name).join(', ')}`];
  if (rows.length) out.push('', columns([head, ...rows]));
  if (troubles.length)
    out.push(
      '',
      'Not read as rules of a form',
      columns(
        troubles.map(({ pointer, why }) => [pointer || '/', why]),
        { indent: '  ' },
      ),
    );
  return out.join('\n');
}

/** A guard in words. */
export function guardWords(guard: Guard): string {
  switch (guard.is) {
    case 'equals':
      return `where ${guard.field} is ${guard.literal}`;
    case 'differs':
      return `where ${guard.field} is not ${guard.literal}`;
    case 'meets':
      return `where ${guard.field} meets ${conditionOf(guard.constraint)}`;
    case 'breaks':
      return `where ${guard.field} breaks ${conditionOf(guard.constraint)}`;
    case 'filled':
    case 'empty':
    case 'not-blank':
    case 'blank':
    case 'true':
    case 'false':
      return `where ${guard.field} is ${guard.is.replace('-', ' ')}`;
    default: {
      const never: never = guard;
      return never;
    }
  }
}
