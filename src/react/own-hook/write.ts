import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import { writeHeldObject } from '../holder-writing/write.js';
import { statusEntries, statusTaken, statusVariables } from '../status-variables.js';
import { hookFile, statusMembers, submitMember } from '../form-hook/hook-file.js';
import { plainSubmit } from './submit.js';

/**
 * Writes a form whose values a hook of the project keeps; the hook is written once and used again by the next form.
 * Status that the form keeps for itself moves along, and a submit that asks the rules first becomes the hook's.
 */
export function writeOwnHook(model: FormModel, context: WriteContext): RewritePlan {
  const script = context.script(model.file);
  const hook = hookFile(model.file, model.typescript, context);
  const all = statusVariables(model, script);
  const free = context.freeName(submitMember) === submitMember;
  const submit = free ? plainSubmit(model, script, all) : undefined;
  const kept = (setter: string | undefined): boolean => setter !== undefined && submit?.keepsFlag === true;
  const status = all.map((one) =>
    one.role === 'submitting' && kept(one.setter) ? { ...one, setter: undefined } : one,
  );
  const edits = [...status.map(({ edit }) => edit), ...(submit?.edits ?? [])];
  const call = {
    also: [...statusTaken(status, statusMembers), ...(submit ? [submitMember] : [])],
    more: submit?.rules,
  };
  const plan = writeHeldObject(model, context, hook, call, { edits, lines: [], adds: [] });
  if (plan.ledger.some(({ entry }) => entry === 'by-hand')) return plan;
  const told: LedgerEntry[] = submit
    ? [
        {
          entry: 'carried',
          span: submit.span,
          what: 'submit handler',
          why: `the hook asks ${submit.rules} and keeps the errors`,
        },
        ...submit.takenOver.map((span): LedgerEntry => ({
          entry: 'retired',
          span,
          what: context.text(span.file).slice(span.start, span.end),
          why: `${submitMember} of the hook does it`,
          takenOver: true,
        })),
      ]
    : [];
  return { ...plan, edits: [...plan.edits, ...edits], ledger: [...plan.ledger, ...statusEntries(status), ...told] };
}
