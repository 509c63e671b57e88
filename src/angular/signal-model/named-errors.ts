import type { LedgerEntry } from '../../form/ledger.js';
import type { AskUse } from '../../form/uses.js';
import { templateChain, type Chain } from '../chains.js';
import { placeOf } from '../template.js';
import type { TemplateVariable } from '../template-model.js';
import { isInTemplate } from '../use-edits.js';
import type { FileEdit } from '../writing.js';
import { wholeUses, type SignalDraft } from './draft.js';

/** Errors of a field to which the template gives a name: `@if (town.touched && town.errors; as errors)`. */
export interface NamedErrors {
  /** Where the name is given, from behind the condition on. */
  naming: { start: number; end: number };
  /** What is asked of the name. */
  chains: Chain[];
}

/**
 * The name that a condition gives to the errors it asks for, and where each of these is asked.
 * @returns undefined where it gives none, or more than single errors are taken from it
 */
export function namedErrors({ asks, member, inTemplate }: AskUse, draft: SignalDraft): NamedErrors | undefined {
  if (!asks || member !== 'errors' || asks.error !== undefined || !inTemplate) return undefined;
  const { template } = draft.component;
  const { span } = asks;
  const behind = /^\s*;?\s*as\s+(\w+)/.exec(draft.context.text(span.file).slice(span.end));
  const variable = template.variables.find((one) => isGivenAt(one, behind?.[1], span, draft));
  if (!behind || !variable?.over) return undefined;
  // of two conditions it would be the errors of whichever holds
  const over = placeOf(variable.over, template.place);
  if (draft.context.text(span.file).slice(over.start, over.end).includes('||')) return undefined;
  const chains = template.names
    .filter((name) => name.variable === variable)
    .map((name) => templateChain(name, template.place));
  const single = chains.every(
    ({ links }) =>
      links.length > 1 &&
      links.length < 4 &&
      links.slice(1).every(({ key, call, computed }) => key && !call && !computed),
  );
  return single ? { naming: { start: span.end, end: span.end + behind[0].length }, chains } : undefined;
}

function isGivenAt(
  { kind, name, over }: TemplateVariable,
  wished: string | undefined,
  span: { start: number; end: number },
  { component }: SignalDraft,
): boolean {
  if (kind !== 'alias' || name !== wished || !over) return false;
  const { start, end } = placeOf(over, component.template.place);
  return start <= span.start && end >= span.end;
}

/**
 * Fields are asked for each error where the template asked a name for it; the name goes.
 * @param textOf what asks the field for an error of a kind, or for what that carries
 */
export function namedErrorEdits(
  draft: SignalDraft,
  textOf: (use: AskUse) => string | undefined,
  ledger: LedgerEntry[],
): FileEdit[] {
  return wholeUses(draft.model).flatMap((use): FileEdit[] => {
    const named = use.kind === 'ask' && isInTemplate(use.span, draft.component) ? namedErrors(use, draft) : undefined;
    if (use.kind !== 'ask' || !named) return [];
    const { file } = use.span;
    ledger.push({
      entry: 'retired',
      span: { file, ...named.naming },
      takenOver: true,
      what: 'the errors’ name',
      why: 'the field is asked',
    });
    return [
      { file, ...named.naming, text: '' },
      ...named.chains.flatMap((chain): FileEdit[] => {
        const asked = askedOf(use, chain);
        const text = textOf(asked);
        ledger.push({
          entry: 'carried',
          takenOver: true,
          span: asked.span,
          what: asked.asks?.error ?? '',
          why: text ?? '',
        });
        return text === undefined ? [] : [{ ...asked.span, text }];
      }),
    ];
  });
}

/** What a chain asks of the errors that a use gave a name to. */
export function askedOf(use: AskUse, { file, start, links }: Chain): AskUse {
  const [, error, detail] = links;
  const span = { file, start, end: links.at(-1)?.end ?? start };
  return {
    ...use,
    span,
    asks: { span, statement: false, error: error?.key ?? '', ...(detail ? { detail: detail.key } : {}) },
  };
}
