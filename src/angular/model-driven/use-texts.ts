import { codeText } from '../../form/code-text.js';
import type { AskUse, ResetUse, SetAllUse, SetUse, Use } from '../../form/uses.js';
import { keyed, textOfUse } from '../use-texts.js';
import type { Span } from '../../form/code.js';
import { fieldTree, pathText as valuePath } from '../writing.js';
import { isDirectiveMember } from './names.js';
import { arrayText, changeRowsText, mayMiss, setRowsText } from './rows-text.js';
import { type ModelDraft, inGroup, controlText, formText } from './draft.js';
import { directiveAt } from './markup-edits.js';

/** The text that takes the place of a use; `inTemplate` tells where it will stand. */
export function useText(use: Use, draft: ModelDraft, inTemplate?: boolean): string | undefined {
  return textOfUse(
    use,
    {
      read({ key, field, row, span }, there) {
        const followed = row ? undefined : signalAt(span, draft);
        if (followed !== undefined) return keyed(key, `${followed}${valuePath(field)}`);
        const group = fieldTree(draft.model.fields).children.get(field);
        const own = draft.model.fields.some(({ name, kind }) => name === field && kind !== 'list of rows');
        const whole = (!own && group !== undefined) || field.endsWith('[]');
        const control = `${controlText(field, there, draft, row)}${mayMiss(row) && (there || whole) ? '?' : ''}`;
        return keyed(key, `${control}${whole ? '.getRawValue()' : '.value'}`);
      },
      'read-all': ({ key, what, span }, there) =>
        keyed(
          key,
          signalAt(span, draft) ?? `${formText(there, draft)}${what === 'shown' ? '.value' : '.getRawValue()'}`,
        ),
      set: (one, there) => setText(one, there, draft),
      'set-all': (one, there) => setAllText(one, there, draft),
      reset: (one, there) => resetText(one, there, draft),
      ask: (one, there) => askText(one, there, draft),
      rows: ({ list, what }, there) => `${arrayText(list, there, draft)}${what === 'items' ? '.controls' : ''}`,
      'change-rows': (one, there) => changeRowsText(one, there, draft),
    },
    draft.component,
    inTemplate,
  );
}

/** The signal of all values, where the code at a place has to follow these. */
function signalAt({ file, start, end }: Span, { signal }: ModelDraft): string | undefined {
  const follows = signal?.places.some((one) => one.file === file && one.start <= start && one.end >= end);
  return follows ? `this.${signal?.name ?? ''}()` : undefined;
}

function setText(use: SetUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const [assignment] = use.assignments;
  if (!assignment || assignment.value.kind !== 'value') return undefined;
  const control = controlText(assignment.field, inTemplate, draft, use.row);
  const value = codeText(assignment.value.code, draft.printer);
  const { operator } = assignment.value;
  const quiet = draft.followed.has(assignment.field) ? ', { emitEvent: false }' : '';
  if (operator === undefined) return `${control}.setValue(${value}${quiet})`;
  return `${control}.setValue(${control}.value ${operator}${value === '' ? '' : ` ${value}`}${quiet})`;
}

function setAllText(use: SetAllUse, inTemplate: boolean, draft: ModelDraft): string {
  const value = codeText(use.code, draft.printer);
  if (draft.rows.length && !use.merge) return setRowsText(use, value, draft);
  const full = isFullObject(use, draft);
  // code that follows a control runs when a person changes it, and not when the class does
  const quiet = draft.followed.size ? ', { emitEvent: false }' : '';
  return `${formText(inTemplate, draft)}.${!use.merge && full ? 'setValue' : 'patchValue'}(${value}${quiet})`;
}

/** Whether an object literal gives every field a value. */
function isFullObject(use: SetAllUse, draft: ModelDraft): boolean {
  const text = draft.context.text(use.code.file).slice(use.code.start, use.code.end);
  if (!text.trimStart().startsWith('{') || text.includes('...')) return false;
  const keys = [...fieldTree(inGroup(draft)).children.keys()];
  return keys.every((key) => new RegExp(`[{,\\s]['"]?${key}['"]?\\s*[:,}]`).test(text));
}

function resetText(use: ResetUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const values = use.values ? codeText(use.values, draft.printer) : '';
  if (use.of !== undefined) return `${controlText(use.of, inTemplate, draft, use.row)}.reset(${values})`;
  if (!use.clearsSubmitted) return `${formText(inTemplate, draft)}.reset(${values})`;
  const directive = directiveAt(use.span, draft);
  return directive === undefined ? undefined : `${directive}.resetForm(${values})`;
}

function askText(use: AskUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const source = draft.context.text(use.span.file).slice(use.span.start, use.span.end);
  if (use.of === undefined) {
    const keeps =
      draft.keepsDirective &&
      (isDirectiveMember(use.member) || !/\b(form|control)\b\s*[!?.]*$/.test(source.replace(/^(this\.)?\w+/, '')));
    if (keeps) return undefined;
    // the group itself takes the place of the directive's argument
    if (
      use.member === undefined &&
      draft.model.template?.given.some(({ argument }) => argument.some((one) => one.start === use.span.start))
    )
      return undefined;
    return `${formText(inTemplate, draft)}${use.joint === '' ? '' : '.'}`;
  }
  if (
    use.member === undefined &&
    draft.model.template?.given.some(({ argument }) => argument.some((one) => one.start === use.span.start))
  )
    return inTemplate ? controlText(use.of, true, draft) : undefined;
  const given = draft.model.template?.given.find(({ of, name }) => of === use.of && name === use.named);
  if (!inTemplate && given) return `${given.name}${use.joint === '' ? '' : '.'}`;
  return `${controlText(use.of, inTemplate, draft, use.row)}${use.joint === '' ? '' : '.'}`;
}
