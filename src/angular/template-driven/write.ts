import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import type { FileEdit } from '../writing.js';
import { useEdits } from '../use-edits.js';
import type { AngularComponent } from '../component.js';
import { classEdits, watchEdits } from './class-edits.js';
import { rowEdits } from './rows-text.js';
import { draftOf } from './make-draft.js';
import { unwritable } from './unwritable.js';
import { useText } from './use-texts.js';
import { formEdits, findRuleMembers, controlEdits } from './form-edits.js';
import { importAndModuleEdits } from './module-edits.js';
import { withStreams } from './streams.js';
import { besideOnce } from '../written-once.js';

/** Writes a form whose template holds `ngModel` controls and whose class holds a plain object of values. */
export function writeTemplateDriven(read: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const model = withStreams(read, context);
  const byHand = unclearEntries(model);
  const draft = draftOf(model, context, component);
  byHand.push(...unwritable(draft));
  if (byHand.length) return leftByHand(byHand);
  const ledger: LedgerEntry[] = [];
  findRuleMembers(draft);
  const uses = useEdits(model, context, (use) => useText(use, draft), ledger);
  const edits: FileEdit[] = [
    ...uses,
    ...watchEdits(draft, ledger),
    ...formEdits(draft, ledger),
    ...rowEdits(draft),
    ...model.controls.flatMap((control, index) => controlEdits(control, index, draft, ledger)),
    ...classEdits(draft, ledger),
  ];
  const directives = [...new Set([...draft.ruleMembers.values()].flat().map(({ directive }) => directive))];
  edits.push(...importAndModuleEdits(draft, edits, directives, ledger));
  for (const other of model.others)
    ledger.push({
      entry: 'kept',
      span: { ...model.span, end: model.span.start },
      what: `member ${other.name}`,
      why: other.why,
    });
  return { edits, creates: besideOnce(model.file, directives, context), deletes: [], dependencies: [], ledger };
}
