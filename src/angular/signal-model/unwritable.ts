import { codeText } from '../../form/code-text.js';
import { spanOfNode } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Control } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { placeByHand, unclearEntries } from '../../form/writing.js';
import { attributeOf, elementAt, isCheckedByPage } from '../form-site.js';
import { isBefore, versionOf } from '../../source/packages.js';
import { hasDisabled } from '../disabled.js';
import { typeOf } from '../values-text.js';
import type { SignalDraft } from './draft.js';
import { isConstant, mayBeNull, resetsToNull, wholeUses } from './draft.js';
import { handedOn } from './given-edits.js';
import { resetText } from './reset-text.js';
import { disabledText, schemaRuleTexts } from './rule-texts.js';
import { isInTemplate } from '../use-edits.js';
import { rowTrouble, whyNotBoundInRow, whyNotOfRow } from './rows-text.js';
import { followedStreams, isSetByClass, streamTrouble, withoutStreams } from './changes.js';
import { useText } from './use-texts.js';

/** The first version whose directive is called as the writer calls it. */
const signalFormsSince = '21.0.7';

/** What keeps the form from becoming one over a model signal. */
export function unwritable(draft: SignalDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries = unclearEntries(model, true);
  const version = versionOf('@angular/forms', model.file, context);
  if (version !== undefined && isBefore(version, signalFormsSince))
    entries.push(
      placeByHand(
        { ...model.span, end: model.span.start },
        context,
        `@angular/forms ${version} calls what ties a control to its field otherwise; ${signalFormsSince} and later are written`,
      ),
    );
  for (const stream of followedStreams(draft)) {
    const why = streamTrouble(stream, draft);
    if (why !== undefined) entries.push(placeByHand(stream.span, context, why));
  }
  for (const use of withoutStreams(wholeUses(model))) {
    const why = whyNot(use, draft);
    if (why !== undefined) entries.push(placeByHand(use.span, context, why));
  }
  for (const control of model.controls) {
    const why = whyNotBound(control, draft);
    if (why !== undefined) entries.push(placeByHand(control.span, context, why));
  }
  for (const field of draft.fields) {
    if (!resetsToNull(field, model) || mayBeNull(field)) continue;
    const reset = model.uses.find(({ kind }) => kind === 'reset');
    if (reset && useText(reset, draft) === undefined)
      entries.push(
        placeByHand(
          field.declared,
          context,
          `a reset leaves ${field.name} null, which a ${field.kind} control of a form over a signal cannot hold`,
        ),
      );
  }
  entries.push(...rowTrouble(draft));
  const { stated, unstated } = schemaRuleTexts(draft);
  const form = elementAt(draft.component, model.template?.element?.start);
  if (isCheckedByPage(form))
    for (const { constraint, span } of model.rules)
      if (constraint?.kind === 'pattern')
        entries.push(placeByHand(span, context, 'the page checks it, and a field’s control may not bear the pattern'));
  for (const rule of unstated) entries.push(placeByHand(rule.span, context, 'no rule of a schema function says this'));
  const { program } = draft.component.script;
  for (const name of new Set(['form', 'signal', 'FormField', ...stated.flatMap(({ needs }) => needs)])) {
    const own = program.scope.getOwnBinding(name);
    if (!own || own.kind === 'module') continue;
    const why = `${name} means something else in this file, and the form needs the package’s ${name}`;
    entries.push(placeByHand(spanOfNode(model.file, own.identifier), context, why));
  }
  return entries;
}

function whyNot(use: Use, draft: SignalDraft): string | undefined {
  if (use.kind === 'read-all' && use.what === 'shown' && hasDisabled(draft.model))
    return 'values of disabled controls are left out here, and a form over a signal keeps them';
  if (use.kind === 'ask' && isGiven(use, draft)) return undefined;
  if (useText(use, draft) !== undefined) return undefined;
  const ofRow = whyNotOfRow(use, isInTemplate(use.span, draft.component));
  if (ofRow !== undefined) return ofRow;
  if (use.kind === 'reset' && resetText(use, draft) !== undefined)
    return 'that it was sent is forgotten as well, which takes a statement of its own';
  return use.kind === 'reset'
    ? 'what the reset brings to every field is not told by the code'
    : 'a form over a signal has nothing that says this';
}

/** Whether a use only hands the form to a method of the class, which asks the member instead. */
function isGiven(use: Use, draft: SignalDraft): boolean {
  const given = draft.model.template?.given ?? [];
  return given.some(({ argument, method }) =>
    [...argument, ...handedOn(method, draft)].some(
      ({ file, start }) => file === use.span.file && start === use.span.start,
    ),
  );
}

/** Whether code only gives members constants, so that it does not matter which value a field has by then. */
function looksAtNothing(code: string): boolean {
  const constant = /(?:'[^']*'|"[^"]*"|-?\d+|true|false|null|undefined)/.source;
  const statement = new RegExp(`^\\s*\\w+(?:\\s*=\\s*${constant}|\\.set\\(${constant}\\))\\s*$`);
  return code.split(';').every((one) => one.trim() === '' || statement.test(one));
}

const native = /^(input|select|textarea)$/;

function whyNotBound(control: Control, draft: SignalDraft): string | undefined {
  const { field, element, type, binding } = control;
  const { fields, model } = draft;
  const own = fields.find(({ name }) => name === field);
  if (!native.test(element)) return 'a control of the project would have to take a field itself';
  if (type === 'file') return 'a file control cannot be tied to a field';
  if (!own || binding?.standalone) return 'the control is no part of the form’s values';
  const inRow = whyNotBoundInRow(control, draft);
  if (inRow !== undefined) return inRow;
  if (binding?.updateOn) return 'it takes what was typed later than a field does';
  const at = elementAt(draft.component, control.span.start);
  const listener = at && attributeOf(at, 'input', 'event');
  const onKeys = [
    ...(listener ? [listener.value ?? ''] : []),
    ...(binding?.event === 'input' ? binding.changed.map(({ code }) => codeText(code, draft.printer)) : []),
  ];
  if (!onKeys.every(looksAtNothing))
    return 'code runs on each key, and would run before the field takes what was typed';
  const switching = binding?.disabled?.usableWhile;
  const late = switching?.again && isSetByClass(switching.of, draft.model);
  if (late) return 'the class sets what switches it, which a signal would tell later';
  if (switching?.again && switching.again.given === undefined && own && !isConstant(own.initial.text))
    return 'what it begins anew with is worked out, and would be worked out again';
  if (binding?.disabled && disabledText(control, draft) === undefined)
    return 'what disables it is no condition on fields alone, which a schema could follow';
  if (
    binding?.shownWhen &&
    model.approach === 'template-driven' &&
    model.rules.some(({ fields: of }) => of.includes(field))
  )
    return 'its rules count only while it is shown';
  return typeTrouble(typeOf(own), own.kind, element, type);
}

/** Why a control does not take values of a type. */
function typeTrouble(type: string, kind: string, element: string, inputType: string | undefined): string | undefined {
  const plain = type.replace(/\s+/g, '');
  if (/\bany\b|\bundefined\b|\bunknown\b/.test(plain)) return `its type ${type} is not one that a field can hold`;
  if (kind === 'many choices') return 'several choices are not supported by a field’s control';
  if (kind === 'boolean') return plain === 'boolean' ? undefined : `a tick box holds true or false, not ${type}`;
  if (kind === 'number') return /^(number|number\|null|null\|number)$/.test(plain) ? undefined : `its type is ${type}`;
  const isText = !/\b(number|boolean|null|Date|object)\b|[[\]{}]/.test(plain);
  if (isText) return undefined;
  return `a ${inputType ?? element} control holds text, not ${type}`;
}
