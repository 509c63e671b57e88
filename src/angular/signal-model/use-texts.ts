import { codeText } from '../../form/code-text.js';
import type { Span } from '../../form/code.js';
import type { AskUse, ResetUse, SetAllUse, SetUse, Use } from '../../form/uses.js';
import { errorKind } from '../../rules/signal-rules.js';
import { indentAt, quoted } from '../../source/style.js';
import { isFollowed } from '../control-parameters.js';
import { keyed, textOfUse } from '../use-texts.js';
import { laidOver, nameOfBefore } from '../writing.js';
import { treeText, valueText, type SignalDraft } from './draft.js';
import { madeRowText } from '../made-row.js';
import { askedOf, namedErrors } from './named-errors.js';
import { resetText } from './reset-text.js';
import { changeRowsText, rowsText, rowTree, rowValue } from './rows-text.js';

/** What takes the place of a use of the form; undefined where it cannot be said. */
export function useText(use: Use, draft: SignalDraft): string | undefined {
  return textOfUse(
    use,
    {
      read: ({ key, field, row }, inTemplate) =>
        keyed(key, row ? rowValue(field, row, inTemplate, draft) : valueText(field, inTemplate, draft)),
      'read-all': ({ key, span }, inTemplate) => {
        const all = valueText(undefined, inTemplate, draft);
        const copied = draft.context.text(span.file).charAt(span.start) === '{';
        return keyed(key, copied ? `{ ...${all} }` : all);
      },
      set: (one, inTemplate) => setText(one, inTemplate, draft),
      'set-all': (one, inTemplate) => setAllText(one, inTemplate, draft),
      reset: (one, inTemplate) => resettingText(one, inTemplate, draft),
      ask: (one, inTemplate) => askText(one, inTemplate, draft),
      rows: (one, inTemplate) => rowsText(one, inTemplate, draft),
      'change-rows': (one, inTemplate) => changeRowsText(one, inTemplate, draft),
      'make-row': (one) => madeRowText(one, draft),
    },
    draft.component,
  );
}

function setText(use: SetUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  const [assignment] = use.assignments;
  if (!assignment || assignment.value.kind !== 'value') return undefined;
  const { operator, code } = assignment.value;
  const value = codeText(code, draft.printer);
  const { row } = use;
  const old = row ? rowValue(assignment.field, row, inTemplate, draft) : valueText(assignment.field, inTemplate, draft);
  const given = operator === undefined ? value : `${old} ${operator} ${value}`.trimEnd();
  const tree = row ? rowTree(assignment.field, row, inTemplate, draft) : treeText(assignment.field, inTemplate, draft);
  return tree && `${tree}().value.set(${given})`;
}

function setAllText(use: SetAllUse, inTemplate: boolean, draft: SignalDraft): string {
  const own = `${inTemplate ? '' : 'this.'}${draft.values}`;
  const value = codeText(use.code, draft.printer);
  if (!use.merge) return `${own}.set(${value})`;
  const name = nameOfBefore(value);
  return `${own}.update((${name}) => (${laidOver(name, value)}))`;
}

function resettingText(use: ResetUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  if (use.row) return undefined;
  const values = resetText(use, draft);
  if (values === undefined) return undefined;
  if (values === draft.startName) {
    draft.needs.start = true;
    if (inTemplate) draft.needs.startMember = true;
  }
  const reset = `${treeText(use.of, inTemplate, draft)}().reset(${values})`;
  if (!use.clearsSubmitted || !asksSubmitted(draft)) return reset;
  if (!standsAlone(use.span, inTemplate, draft)) return undefined;
  draft.needs.submitted = true;
  const lowered = `${inTemplate ? '' : 'this.'}${draft.submitted}.set(false)`;
  if (inTemplate) return `${lowered}; ${reset}`;
  const text = draft.context.text(use.span.file);
  const { newline, semicolon } = draft.context.style;
  return `${lowered}${semicolon}${newline}${indentAt(text, use.span.start)}${reset}`;
}

/** Whether a use is a statement of its own, so that several may take its place. */
function standsAlone({ file, start, end }: Span, inTemplate: boolean, { context }: SignalDraft): boolean {
  const text = context.text(file);
  const [before, behind] = [text.slice(0, start).trimEnd(), text.slice(end).trimStart()];
  return inTemplate ? /[;"']$/.test(before) && /^[;"']/.test(behind) : !/=>$/.test(before) && /^[;}]/.test(behind);
}

/** Whether something asks whether the form was sent. */
export function asksSubmitted({ model }: SignalDraft): boolean {
  return model.uses.some((use) => use.kind === 'ask' && use.member === 'submitted');
}

const same = /^(touched|dirty|invalid|valid|pending|disabled)$/;
const turned: Record<string, string> = { untouched: 'touched', pristine: 'dirty', enabled: 'disabled' };

function askText(use: AskUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  const { asks, member, of } = use;
  // a control that may be missing is asked for its state only where it is there
  const mayMiss = use.through !== undefined && use.joint === '?.' ? '?.' : '';
  const own = treeOf(use, inTemplate, draft);
  if (own === undefined) return undefined;
  const tree = `${own}${mayMiss}`;
  if (!asks || member === undefined) return isFollowed(use, draft.model.template?.asked) ? own : undefined;
  if (asks.error !== undefined) return errorText(use, inTemplate, draft);
  if (member === 'submitted' && of === undefined && !asks.given) {
    draft.needs.submitted = true;
    return `${inTemplate ? '' : 'this.'}${draft.submitted}()`;
  }
  if (same.test(member) && !asks.given) return `${tree}().${member}()`;
  const opposite = turned[member];
  if (opposite !== undefined && !asks.given) return `!${tree}().${opposite}()`;
  const leaf = use.through !== undefined || draft.model.fields.some(({ name }) => name === of);
  if (use.through !== undefined && member === 'value' && !asks.given) return `${tree}().value()`;
  if (member === 'errors' && leaf && (isCondition(use, draft) || saysNamed(use, inTemplate, draft)))
    return `${tree}().invalid()`;
  if (/^markAs(Touched|Dirty)$/.test(member) && leaf && asks.given?.length === 0) return `${tree}().${member}()`;
  if (member === 'markAllAsTouched' && asks.given?.length === 0 && asks.statement && !inTemplate)
    return touchText(use, draft);
  return undefined;
}

/** Whether each error can be asked for that a name stands for which the template gives to all. */
function saysNamed(use: AskUse, inTemplate: boolean, draft: SignalDraft): boolean {
  const named = inTemplate ? namedErrors(use, draft) : undefined;
  return named?.chains.every((chain) => errorText(askedOf(use, chain), true, draft) !== undefined) ?? false;
}

/** The field tree that is asked; undefined where the class has none at hand. */
function treeOf({ through, of, row }: AskUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  if (through !== undefined) return through;
  return row && of !== undefined ? rowTree(of, row, inTemplate, draft) : treeText(of, inTemplate, draft);
}

/** Every field of a group is touched: the fields of each group, one group behind the other. */
function touchText({ of, span }: AskUse, draft: SignalDraft): string {
  const { context, model } = draft;
  const inside = model.fields.filter(({ name }) => of === undefined || name.startsWith(`${of}.`));
  const groups = new Set(inside.map(({ name }) => name.split('.').slice(0, -1).join('.')));
  const joint = context.style.semicolon + context.style.newline + indentAt(context.text(span.file), span.start);
  const touched = (tree: string): string => `for (const [, field] of ${tree}) field().markAsTouched()`;
  return [...groups]
    .map((group) => {
      if (!group.endsWith('[]')) return touched(treeText(group, false, draft));
      return `for (const row of ${treeText(group.slice(0, -2), false, draft)}) ${touched('row')}`;
    })
    .join(joint);
}

/** Whether an error of a kind is there, or what its rule says of it. */
function errorText(use: AskUse, inTemplate: boolean, draft: SignalDraft): string | undefined {
  const { asks, of, through } = use;
  const { error = '', detail } = asks ?? {};
  // the error itself gets a name here
  if (inTemplate && asks && /^\s*;?\s*as\s+\w/.test(draft.context.text(asks.span.file).slice(asks.span.end)))
    return undefined;
  const tree = treeOf(use, inTemplate, draft) ?? '';
  const limit = limits[`${error}.${detail ?? ''}`];
  if (detail !== undefined && through !== undefined)
    return limit && `${tree}().errors().find((error) => error instanceof ${limit.error})?.${limit.member}`;
  if (detail !== undefined) return limit && detailText(of, limit.rule, inTemplate, draft);
  draft.needs.hasError = true;
  const own = inTemplate ? '' : 'this.';
  return `${own}${draft.hasError}(${tree}, ${inTemplate ? `'${errorKind(error)}'` : quoted(errorKind(error), draft.context.style)})`;
}

/** What an error carries of its rule: that rule, and where the package's own error keeps it. */
const limits: Partial<Record<string, { rule: string; error: string; member: string }>> = {
  'min.min': { rule: 'min', error: 'MinValidationError', member: 'min' },
  'max.max': { rule: 'max', error: 'MaxValidationError', member: 'max' },
  'minlength.requiredLength': { rule: 'min-length', error: 'MinLengthValidationError', member: 'minLength' },
  'maxlength.requiredLength': { rule: 'max-length', error: 'MaxLengthValidationError', member: 'maxLength' },
};

/** The limit that an error carries is the one that its rule states. */
function detailText(
  of: string | undefined,
  kind: string,
  inTemplate: boolean,
  { model }: SignalDraft,
): string | undefined {
  const rule = model.rules.find(({ fields, constraint }) => fields[0] === of && constraint?.kind === kind);
  const limit = rule?.constraint && 'value' in rule.constraint ? rule.constraint.value : undefined;
  if (limit === undefined) return undefined;
  if (/^-?\d+(\.\d+)?$/.test(limit)) return limit;
  const own = /^this\.(\w+)$/.exec(limit)?.[1];
  if (own === undefined) return undefined;
  return inTemplate ? own : limit;
}

/** Whether what is asked only opens or closes something: nothing takes the errors themselves. */
function isCondition({ asks, inTemplate }: AskUse, { context }: SignalDraft): boolean {
  if (!asks) return false;
  const text = context.text(asks.span.file);
  const behind = text.slice(asks.span.end).trimStart();
  const before = text.slice(0, asks.span.start).trimEnd();
  if (inTemplate) return /^(&&|\?(?!\.)|"|'|\)\s*\{)/.test(behind) || (/^\|\|/.test(behind) && /[!(]$/.test(before));
  return /^(&&|\?(?!\.)|\))/.test(behind) && /(if\s*\(|!|&&|\|\|)$/.test(before);
}
