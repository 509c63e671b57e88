import type { Span } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { argumentAt } from '../control-parameters.js';
import type { FileEdit } from '../writing.js';
import type { SignalDraft } from './draft.js';

/** Methods that were given the form ask the member that holds it: parameter and argument go. */
export function givenEdits(draft: SignalDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, form } = draft;
  return (model.template?.given ?? []).flatMap(({ parameter, argument, method, name }) => {
    const spans = [parameter, ...argument, ...handedOn(method, draft)];
    for (const span of spans) ledger.push({ entry: 'retired', span, what: name, why: `${method} asks ${form} itself` });
    return spans.map((span) => ({ ...listed(span, context.text(span.file)), text: '' }));
  });
}

/** Places of the class that hand the form on to a method that was given it by the template as well. */
export function handedOn(method: string, { model, component }: Pick<SignalDraft, 'model' | 'component'>): Span[] {
  return model.uses.flatMap((use) =>
    use.kind === 'ask' &&
    use.member === undefined &&
    !use.inTemplate &&
    argumentAt(use.span, component)?.name === method
      ? [use.span]
      : [],
  );
}

/** Parameters that stand for whichever control they are given take a field now. */
export function parameterTypes({ model, context }: SignalDraft, ledger: LedgerEntry[]): FileEdit[] {
  return (model.template?.asked ?? []).flatMap(({ parameter, name, method }) => {
    const text = context.text(parameter.file).slice(parameter.start, parameter.end);
    const typed = /\b(?:AbstractControl|FormControl|FormGroup|NgModel|NgModelGroup)\b(?:<[^>]*>)?/.exec(text);
    if (!typed) return [];
    const start = parameter.start + typed.index;
    ledger.push({ entry: 'carried', span: parameter, what: name, why: `${method} is given a field` });
    return [{ file: parameter.file, start, end: start + typed[0].length, text: 'FieldTree<unknown>' }];
  });
}

/** A parameter or an argument with its type and the comma that goes along. */
function listed({ file, start, end }: Span, text: string): Span {
  const typed = /^\s*:\s*[\w<>, ]+?(?=\s*[,)])/.exec(text.slice(end))?.[0] ?? '';
  const last = end + typed.length;
  const behind = /^\s*,\s*/.exec(text.slice(last));
  if (behind) return { file, start, end: last + behind[0].length };
  const before = /,\s*$/.exec(text.slice(0, start));
  return { file, start: start - (before?.[0].length ?? 0), end: last };
}
