import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { Rule } from '../../form/rules.js';
import type { Unclear } from '../../form/model.js';
import type { LoadScript } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { declarationNamed } from '../../source/type-members.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import { readSignalRules, type SchemaFunction } from '../../rules/signal-rules.js';

/** The function that states the rules: handed over in place, or by a name of this file or another. */
function schemaFunction(node: t.Node | undefined, script: Script, load: LoadScript): SchemaFunction | undefined {
  if (t.isArrowFunctionExpression(node) || t.isFunctionExpression(node) || t.isFunctionDeclaration(node))
    return { fn: node, script };
  if (t.isCallExpression(node) && t.isIdentifier(node.callee, { name: 'schema' }))
    return schemaFunction(node.arguments[0], script, load);
  if (!t.isIdentifier(node)) return undefined;
  const found = declarationNamed(node.name, script, load);
  const declared = t.isVariableDeclarator(found?.node) ? (found.node.init ?? undefined) : found?.node;
  return found && declared && !t.isIdentifier(declared) ? schemaFunction(declared, found.script, load) : undefined;
}

/**
 * The rules of a form's schema, the fields that it disables, and what of it is not understood.
 * @param fields the form's fields, those of rows among them, with their types
 */
export function schemaRules(
  schema: t.Node | undefined,
  fields: readonly { name: string; type: string | undefined }[],
  script: Script,
  load: LoadScript,
): { rules: Rule[]; unclear: Unclear[]; disabled: Map<string, Span> } {
  const disabled = new Map<string, Span>();
  if (!schema) return { rules: [], unclear: [], disabled };
  const place = { file: script.file, start: schema.start ?? 0, end: schema.end ?? 0 };
  const found = schemaFunction(schema, script, load);
  const [parameter] = found?.fn.params ?? [];
  if (!found || !t.isIdentifier(parameter)) {
    const what = script.text.slice(place.start, place.end).split('\n')[0] ?? '';
    return { rules: [], disabled, unclear: [{ span: place, what, why: 'which rules it states is not clear' }] };
  }
  const read = readSignalRules(found, (node, from) => schemaFunction(node, from, load));
  const unclear = [
    ...read.others.map(({ what, start, end, script: { file } }) => ({
      span: { file, start, end },
      what,
      why: 'it states more than a rule of one field',
    })),
    ...read.rules
      .filter(({ conditional }) => conditional)
      .map(({ start, end, script: { file, text } }) => ({
        span: { file, start, end },
        what: text.slice(start, end).split('\n')[0] ?? '',
        why: 'the rule counts only under a condition',
      })),
  ];
  const rules = read.rules.map(({ path, constraint, message, start, end, script: { file } }): Rule => {
    const name = path.join('.');
    const field = fields.find((one) => one.name === name);
    const own =
      constraint.kind === 'required' && field?.type === 'boolean' ? ({ kind: 'required-true' } as const) : constraint;
    const inside = fields.filter((one) => name === '' || one.name.startsWith(`${name}.`)).map((one) => one.name);
    return {
      fields: field ? [name] : inside,
      kind: ruleKindOf(own),
      condition: conditionOf(own),
      message,
      moment: 'change',
      stated: 'signal-rules',
      span: { file, start, end },
      constraint: own,
      ...(field ? {} : { of: name }),
    };
  });
  for (const {
    path,
    start,
    end,
    script: { file },
  } of read.disabled)
    disabled.set(path.join('.'), { file, start, end });
  return { rules, unclear, disabled };
}
