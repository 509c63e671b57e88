import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field } from '../form/model.js';
import type { Rule } from '../form/rules.js';
import { rulesOfStatements, rulesOfValue } from '../rules/code.js';
import { errorWords } from '../rules/message-keys.js';
import type { StatedRule } from '../rules/stated-rule.js';
import type { RuleLens } from '../rules/meanings.js';
import { ruleKindOf } from '../rules/native.js';
import { bare } from '../source/behind-names.js';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import { blockingVariables } from './blocking-conditions.js';
import { spanOf } from './code.js';
import { earliest, isIn, momentInHook, momentOf, momentOfFunction, type Moment } from './rule-moments.js';
import { holderOf, type Lens } from './value-tracing.js';
import { type RuleFunction, type RuleSite, ruleFunctions } from './rule-functions.js';
import { walk } from '../source/traverse.js';

/** How a reader's own lens tells rules from other code. */
export function ruleLens(
  lens: Lens,
  isValues: (path: NodePath) => boolean,
  fields: readonly Pick<Field, 'name' | 'kind' | 'type' | 'role'>[],
  load: LoadScript,
): RuleLens {
  // status that is kept beside the fields is none of them
  const own = fields.filter(({ role }) => role === 'field');
  const kinds = new Map(own.map(({ name, kind, type }) => [name, bareKind(kind, type)]));
  return {
    fieldOf: (path) => {
      const field = lens.fieldOf(path);
      return field !== undefined && kinds.has(holderOf(field)) ? field : undefined;
    },
    isValues,
    kindOf: (field) => kinds.get(field),
    fields: [...kinds.keys()],
    status: fields.filter(({ role }) => role === 'status').map(({ name }) => name),
    changes: (callee) => lens.changesAny?.(callee) === true || lens.changesOf(callee).some((field) => kinds.has(field)),
    load,
  };
}

/** A number field whose value is text counts as text. */
function bareKind(kind: Field['kind'], type: string | undefined): string {
  if (type === 'string') return 'text';
  return type !== undefined && /^number\b/.test(type) ? 'number' : kind;
}

/** The rules that a component states in code, wherever it does so. */
export function rulesInCode(site: RuleSite, functions: readonly RuleFunction[] = ruleFunctions(site)): Rule[] {
  const stated: { rule: StatedRule; moment: Moment; by?: RuleFunction }[] = [];
  for (const found of functions) {
    const inside = isIn(found.fn, site.component);
    const own = found.calls.length
      ? found.calls.map((call) => momentInHook(call, found, site) ?? momentOf(call, site))
      : inside
        ? [momentOfFunction(found.fn, site)]
        : [];
    const moment = earliest(own);
    for (const rule of found.rules)
      if (!isAnswer(rule, found) && !isStateOfForm(rule)) stated.push({ rule, moment, by: found });
  }
  for (const rule of rulesWhileRendering(site)) stated.push({ rule, moment: 'change' });
  const kept: typeof stated = [];
  for (const one of stated) {
    const known = kept.find(({ rule }) => isSame(rule, one.rule));
    if (known) known.moment = earliest([known.moment, one.moment]);
    else kept.push(one);
  }
  return kept.map(({ rule, moment, by }) => ruleOf(rule, moment, by));
}

/** Whether a text tells how a send went rather than what a person has to mend: it comes once something was waited for. */
function isAnswer({ at, key }: StatedRule, { fn }: RuleFunction): boolean {
  if (key !== undefined || !fn.node.async) return false;
  let waited: number | undefined;
  walk(fn, {
    Function: (inner) => inner.skip(),
    AwaitExpression(path) {
      waited ??= path.node.start ?? 0;
    },
  });
  return waited !== undefined && (at.node.start ?? 0) > waited;
}

/** Whether a text is no message but a state that the code asks for: `state === 'busy'`. */
function isStateOfForm({ message, script }: StatedRule): boolean {
  return (
    message !== undefined &&
    /^[a-z][\w-]*$/.test(message) &&
    new RegExp(`[!=]==? ?['"]${message}['"]`).test(script.text)
  );
}

function isSame(a: StatedRule, b: StatedRule): boolean {
  return (
    a.at.node === b.at.node &&
    (a.key === b.key || a.key === undefined || b.key === undefined) &&
    a.message === b.message &&
    a.fields.join() === b.fields.join() &&
    JSON.stringify(a.constraint) === JSON.stringify(b.constraint)
  );
}

function ruleOf(rule: StatedRule, moment: Moment, by: RuleFunction | undefined): Rule {
  // a member of the group that holds the values goes by its own name
  const names = (field: string): boolean => field === rule.key || field.endsWith(`.${rule.key ?? ''}`);
  const own = rule.key !== undefined && !rule.fields.some(names);
  // the field that bears the message stands first
  const { key } = rule;
  const fields =
    key === undefined || own
      ? rule.fields
      : [...rule.fields.filter(names), ...rule.fields.filter((field) => !names(field))];
  const constraint: StatedRule['constraint'] =
    rule.constraint.kind === 'equal' && rule.constraint.to === fields[0]
      ? { kind: 'equal', to: fields[1] ?? '' }
      : rule.constraint;
  return {
    fields,
    kind: rule.constraint.kind === 'custom' ? 'custom' : ruleKindOf(rule.constraint),
    condition: rule.condition,
    message: rule.message,
    ...(rule.computed ? { computed: true } : {}),
    moment,
    stated: 'code',
    span: spanOf(rule.script.file, rule.at),
    constraint,
    ...(rule.guards.length ? { guards: rule.guards } : {}),
    ...(own && rule.key !== undefined ? { key: rule.key } : {}),
    ...(rule.key === undefined ? {} : { keyed: true }),
    ...(by ? { statedIn: { fn: spanOf(by.script.file, by.fn), piece: spanOf(by.script.file, rule.piece) } } : {}),
  };
}

/** Rules whose messages are worked out while rendering: `const placeError = place ? '' : 'Where?'`. */
function rulesWhileRendering({ component, script, lens }: RuleSite): StatedRule[] {
  const found: StatedRule[] = [];
  if (!component.isFunction()) return found;
  const body = component.get('body') as NodePath;
  if (!body.isBlockStatement()) return found;
  const branches = body.get('body').filter((statement) => statement.isIfStatement() && !returns(statement));
  found.push(...rulesOfStatements(branches, script, lens));
  for (const statement of body.get('body')) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const value = declarator.get('init') as NodePath;
      const { id } = declarator.node;
      if (!value.node || !t.isIdentifier(id) || bare(value).isFunction() || bare(value).isCallExpression()) continue;
      found.push(
        ...rulesOfValue({ path: value, script }, fieldNamedBy(id.name, lens), lens).filter(
          ({ fields }) => fields.length > 0 && isErrorName(id.name),
        ),
      );
    }
  }
  return [...found, ...rulesBesideMessages(body, script, lens, blockingVariables(component))];
}

/** Whether a statement of a component ends it early. */
function returns(statement: NodePath): boolean {
  let found = false;
  walk(statement, {
    Function: (inner) => inner.skip(),
    ReturnStatement() {
      found = true;
    },
  });
  return found;
}

function isErrorName(name: string): boolean {
  return errorWords.test(name);
}

/** The field that a variable's name speaks of: `placeError`, `errorForPlace`. */
export function fieldNamedBy(name: string, lens: RuleLens): string | undefined {
  const plain = name
    .replace(/(Error|Problem|Message|Warning|Hint|Issue|Invalid)s?$/, '')
    .replace(/^(error|problem|message)(For|Of|In)?/, '');
  const lower = plain.charAt(0).toLowerCase() + plain.slice(1);
  return lens.kindOf(lower) === undefined ? undefined : lower;
}

/**
 * Conditions that stand right beside a message in the markup: `{weight > 2000 && <span class="warning">…</span>}`, or
 * `{tooHeavy && <small>…</small>}` where the same condition keeps the form from being sent.
 */
function rulesBesideMessages(
  body: NodePath,
  script: Script,
  lens: RuleLens,
  blocking: ReadonlySet<unknown>,
): StatedRule[] {
  const found: StatedRule[] = [];
  walk(body, {
    JSXExpressionContainer(container) {
      const value = container.get('expression') as NodePath;
      if (!value.isLogicalExpression({ operator: '&&' })) return;
      const shown = bare(value.get('right'));
      const test = bare(value.get('left'));
      const blocks = test.isIdentifier() && blocking.has(test.scope.getBinding(test.node.name));
      if (!shown.isJSXElement() || (!isErrorElement(shown.node) && !blocks)) return;
      const key = blocks ? fieldNamedBy(test.node.name, lens) : undefined;
      found.push(...rulesOfValue({ path: value, script }, key, lens, blocks));
    },
  });
  return found;
}

function isErrorElement(element: t.JSXElement): boolean {
  return element.openingElement.attributes.some(
    (attribute) =>
      t.isJSXAttribute(attribute) &&
      t.isJSXIdentifier(attribute.name) &&
      /^(className|role|id)$/.test(attribute.name.name) &&
      t.isStringLiteral(attribute.value) &&
      errorWords.test(attribute.value.value),
  );
}
