import type { NodePath } from '@babel/traverse';
import type { FormModel } from '../../form/model.js';
import type { Rule } from '../../form/rules.js';
import { readSchema, type SchemaRule } from '../../rules/json-schema/read.js';
import { isSchema, jsonOf } from '../../rules/json-schema/schema.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import { followPointer } from '../../source/json-pointer.js';
import type { FormSite } from '../approach.js';
import { readHeldObject } from '../held-object/read.js';
import type { HeldObject } from '../held-object/held.js';
import { spanOf } from '../code.js';
import { schemaBehind, type SchemaFile } from './state.js';

/** Reads a form whose fields and rules stand in a schema. */
export function readSchemaForm(site: FormSite, state: HeldObject): FormModel {
  const model = readHeldObject(site, state, 'declared-schema');
  const first = state.variable.call.get('arguments')[0] as NodePath | undefined;
  const schema = first ? schemaBehind(first, site) : undefined;
  const value = schema ? jsonOf(schema.script.text) : undefined;
  if (!schema || !isSchema(value)) return model;
  const stated = readSchema(value).rules.filter(({ message }) => message !== undefined);
  const moment = model.rules.find((rule) => rule.stated === 'code')?.moment ?? 'submit';
  return {
    ...model,
    files: [...model.files, schema.script.file],
    rules: [...model.rules, ...stated.map((rule) => ruleOf(rule, schema, moment))],
  };
}

function ruleOf(rule: SchemaRule, schema: SchemaFile, moment: Rule['moment']): Rule {
  const place = followPointer(schema.object, rule.pointer) ?? schema.object;
  return {
    fields: [rule.field],
    kind: ruleKindOf(rule.constraint),
    condition: conditionOf(rule.constraint),
    message: rule.message,
    moment,
    stated: 'json-schema',
    span: spanOf(schema.script.file, place),
    constraint: rule.constraint,
    keyed: true,
    ...(rule.guards.length ? { guards: rule.guards } : {}),
  };
}
