import * as t from '@babel/types';
import type { LedgerEntry } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { AngularComponent } from './component.js';
import { moduleEdits, type FileEdit } from './writing.js';

/** The directive that told a form's values leaves its component's list of imports, where no other form uses it. */
export function feedingEdits(
  model: FormModel,
  { home, script, template, ...rest }: AngularComponent,
  ledger: LedgerEntry[],
): FileEdit[] {
  const name = model.template?.feed?.directive;
  const alone = template.elements.filter(({ tag }) => tag === 'form').length === 1 && home?.script === script;
  const listed = home?.list?.elements.find((one) => t.isIdentifier(one) && one.name === name);
  if (name === undefined || !alone || !listed) return [];
  const edits = moduleEdits({ home, script, template, ...rest }, [], name);
  ledger.push({
    entry: 'retired',
    span: { file: script.file, start: listed.start ?? 0, end: listed.end ?? 0 },
    what: name,
    why: 'no form of this template tells its values through it any more',
  });
  return edits?.edits ?? [];
}
