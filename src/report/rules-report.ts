import path from 'node:path';
import type { FormModel } from '../form/model.js';
import type { StatedSchema } from '../rules/json-schema/write.js';
import type { LineOf } from './inspect-report.js';
import { counted } from './paint.js';
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
