import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { Rule } from '../../form/rules.js';
import type { Unclear } from '../../form/model.js';
import type { LoadScript } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { declarationNamed } from '../../source/type-members.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import { readSignalRules } from '../../rules/signal-rules.js';
import type { Leaf } from './found-form.js';

type SchemaFunction = t.ArrowFunctionExpression | t.FunctionExpression | t.FunctionDeclaration;

/** The function that states the rules: handed over in place, or by a name of this file or another. */
function schemaFunction(
  node: t.Node | undefined,
  script: Script,
  load: LoadScript,
): { fn: SchemaFunction; script: Script } | undefined {
  if (t.isArrowFunctionExpression(node) || t.isFunctionExpression(node) || t.isFunctionDeclaration(node))
    return { fn: node, script };
  if (t.isCallExpression(node) && t.isIdentifier(node.callee, { name: 'schema' }))
    return schemaFunction(node.arguments[0], script, load);
  if (!t.isIdentifier(node)) return undefined;
  const found = declarationNamed(node.name, script, load);
  const declared = t.isVariableDeclarator(found?.node) ? (found.node.init ?? undefined) : found?.node;
  return found && declared && !t.isIdentifier(declared) ? schemaFunction(declared, found.script, load) : undefined;
}

/** The rules of a form's schema, the fields that it disables, and what of it is not understood. */
export function schemaRules(
  schema: t.Node | undefined,
  leaves: readonly Leaf[],
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
  const { file } = found.script;
  const read = readSignalRules(found.fn.body, parameter.name, found.script);
  const unclear = [
    ...read.others.map(({ what, start, end }) => ({
      span: { file, start, end },
      what,
      why: 'it states more than a rule of one field',
    })),
    ...read.rules
      .filter(({ conditional }) => conditional)
      .map(({ start, end }) => ({
        span: { file, start, end },
        what: found.script.text.slice(start, end).split('\n')[0] ?? '',
        why: 'the rule counts only under a condition',
      })),
  ];
  const rules = read.rules.map(({ path, constraint, message, start, end }): Rule => {
    const name = path.join('.');
    const leaf = leaves.find((one) => one.path === name);
    const own =
      constraint.kind === 'required' && leaf?.type === 'boolean' ? ({ kind: 'required-true' } as const) : constraint;
    const inside = leaves.filter((one) => name === '' || one.path.startsWith(`${name}.`)).map((one) => one.path);
    return {
      fields: leaf ? [name] : inside,
      kind: ruleKindOf(own),
      condition: conditionOf(own),
      message,
      moment: 'change',
      stated: 'signal-rules',
      span: { file, start, end },
      constraint: own,
      ...(leaf ? {} : { of: name }),
    };
  });
  for (const { path, start, end } of read.disabled) disabled.set(path.join('.'), { file, start, end });
  return { rules, unclear, disabled };
}
