import type { Span } from '../../form/code.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import type { AngularComponent } from '../component.js';
import { placedUses } from '../disabled.js';
import { useEdits } from '../use-edits.js';
import type { FileEdit } from '../writing.js';
import { classEdits } from './class-edits.js';
import { draftOf, wholeUses } from './draft.js';
import { givenEdits, parameterTypes } from './given-edits.js';
import { replacedLoops } from './loops.js';
import { controlEdits, formEdits } from './markup-edits.js';
import { importAndModuleEdits } from './module-edits.js';
import { disabledText, ruleLines, schemaRuleTexts } from './rule-texts.js';
import { rowEdits } from './rows-text.js';
import { streamEdits, withoutStreams } from './changes.js';
import { namedErrorEdits } from './named-errors.js';
import { unwritable } from './unwritable.js';
import { useText } from './use-texts.js';

/** Writes a form over a model signal, with its rules as a function over the model's paths. */
export function writeSignalModel(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const draft = draftOf(model, context, component, useText);
  const byHand = unwritable(draft);
  if (byHand.length) return leftByHand(byHand);
  const ledger: LedgerEntry[] = [];
  const given = givenEdits(draft, ledger);
  const taken = ({ file, start }: Span): boolean =>
    given.some((edit) => edit.file === file && edit.start <= start && edit.end > start);
  const loops = replacedLoops(draft);
  const inLoop = ({ file, start, end }: Span): boolean =>
    loops.some((span) => span.file === file && span.start <= start && span.end >= end);
  const whole = placedUses(wholeUses(model), model);
  for (const { span } of whole.filter((use) => inLoop(use.span)))
    ledger.push({ entry: 'carried', span, what: 'the loop over rows', why: 'a block repeats them' });
  const uses = withoutStreams(whole.filter(({ span }) => !taken(span) && !inLoop(span)));
  const edits: FileEdit[] = useEdits({ ...model, uses }, context, (use) => useText(use, draft), ledger);
  const { stated } = schemaRuleTexts(draft);
  const disabling = model.controls.flatMap((control) => disabledText(control, draft) ?? []);
  edits.push(...given, ...parameterTypes(draft, ledger), ...formEdits(draft, ledger));
  for (const control of model.controls) edits.push(...controlEdits(control, stated, draft, ledger));
  edits.push(...streamEdits(draft, ledger));
  edits.push(...namedErrorEdits(draft, (use) => useText(use, draft), ledger), ...rowEdits(draft, ledger));
  edits.push(...classEdits(draft, [...ruleLines(stated, draft), ...new Set(disabling)], ledger));
  edits.push(
    ...importAndModuleEdits(
      draft,
      edits,
      [...stated.flatMap(({ needs }) => needs), ...(disabling.length ? ['disabled'] : [])],
      ledger,
    ),
  );
  for (const span of model.follows ?? [])
    ledger.push({
      entry: 'carried',
      takenOver: true,
      span,
      what: 'the signal of all values',
      why: `${draft.values} is one itself`,
    });
  for (const other of model.others)
    ledger.push({
      entry: 'kept',
      span: { ...model.span, end: model.span.start },
      what: `member ${other.name}`,
      why: other.why,
    });
  return { edits, creates: [], deletes: [], dependencies: [], ledger };
}
