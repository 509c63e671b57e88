import { fieldNamed } from '../../form/model.js';
import { codeText } from '../../form/code-text.js';
import {
  isControlUse,
  type HandOnUse,
  type SetAllUse,
  type SetNamedUse,
  type SetUse,
  type Use,
} from '../../form/uses.js';
import type { ChangeRun } from '../change-runs.js';
import { fleeting } from '../effects.js';
import { parameterFor, pascal } from '../form-names.js';
import { startsAsConstants, valueOf } from '../initial-values.js';
import { functionAt } from '../handed-functions.js';
import { stepArguments } from '../step-functions.js';
import type { Draft } from './draft.js';

import { changeCode, fieldText, previousName, property, setterCall, valuesOf } from './setter-calls.js';

/** The object that the values begin as, where it stands by itself. */
function startText(draft: Draft): string {
  draft.needs.reset = true;
  return draft.names.initial;
}

/** What takes the place of a use of the form; undefined leaves its text. */
export function useText(use: Use, draft: Draft): string | undefined {
  if (isControlUse(use)) return undefined;
  switch (use.kind) {
    case 'read':
    case 'depend':
      return undefined;
    case 'read-all':
      draft.needs.values = true;
      return draft.model.holder ? undefined : draft.names.values;
    case 'set':
      return setText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return `${use.parameters} => ${setterCall(use.assignments, draft, false)}`;
    case 'hand-on': {
      const text = use.stable
        ? `change${pascal(use.field)}`
        : functionAt(handlerText(use, draft), draft.context.text(use.span.file), use.span);
      return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
    }
    case 'hand-on-all':
      draft.hook?.called.add('all');
      return use.shorthand === undefined ? draft.names.setter : `${use.shorthand}: ${draft.names.setter}`;
    case 'set-all': {
      draft.hook?.called.add('all');
      if (use.step) return stepText(use, use.step, draft);
      const code = codeText(use.code, draft.printer);
      if (!use.merge) return `${draft.names.setter}(${code})`;
      const previous = previousName(code);
      return `${draft.names.setter}((${previous}) => ({ ...${previous}, ...${code} }))`;
    }
    default: {
      const never: never = use;
      return never;
    }
  }
}

/** New values that a function works out from the ones before. */
function stepText(use: SetAllUse, { name, takesValues }: NonNullable<SetAllUse['step']>, draft: Draft): string {
  const given = stepArguments(use, draft.printer);
  const { setter } = draft.names;
  if (!takesValues) return `${setter}(${name}(${given.join(', ')}))`;
  // what is gone by the time React asks for it is asked now
  if (fleeting.test(given.join(' '))) return `${setter}(${name}(${[valuesOf(draft), ...given].join(', ')}))`;
  const previous = previousName(given.join(' '));
  return `${setter}((${previous}) => ${name}(${[previous, ...given].join(', ')}))`;
}

function setText(use: SetUse, draft: Draft): string {
  if (use.resetsAll && startsAsConstants(draft.model) && !comesAround(draft)) return resetText(draft);
  if (use.whole) {
    draft.hook?.called.add('all');
    return `${draft.names.setter}(${codeText(use.whole.code, draft.printer)})`;
  }
  return setterCall(use.assignments, draft, use.repeats, use);
}

/** Whether a reset by the hook would be told to the code that asks for it, again and again. */
function comesAround({ hook, model }: Draft): boolean {
  return hook?.file.calls.resetsPage === true && model.life?.().followsReset === true;
}

function resetText(draft: Draft): string {
  if (!draft.hook) return `${draft.names.setter}(${startText(draft)})`;
  draft.hook.called.add('reset');
  return `${draft.hook.reset}()`;
}

/** One change in the place of several that follow one another. */
export function runText(run: ChangeRun, draft: Draft): string {
  if (run.resetsAll && !comesAround(draft)) return resetText(draft);
  const assignments = run.uses.flatMap((use) => use.assignments);
  const last = assignments.filter(
    (one, index) => assignments.findLastIndex(({ field }) => field === one.field) === index,
  );
  const [first] = run.uses;
  const fresh = run.uses.every((use) => use.fresh);
  return setterCall(last, draft, false, first && { ...first, fresh });
}

function namedText(use: SetNamedUse, draft: Draft): string {
  const key = codeText(use.key, draft.printer);
  const value = codeText(use.value, draft.printer);
  // a package may take only names that it knows, of which nobody can say here whether this is one
  const byName = draft.hook?.file.calls.anyName || !draft.model.typescript;
  if (draft.hook?.file.calls.from && byName && !use.rest.length) {
    draft.hook.called.add('one');
    return `${draft.hook.one}(${key}, ${value})`;
  }
  draft.hook?.called.add('all');
  const previous = previousName(`${key} ${value}`);
  const rest = use.rest.map(({ field, value: given }) =>
    property(
      field,
      given.kind === 'initial'
        ? valueOf(fieldNamed(draft.model, field), draft.printer)
        : changeCode(given.kind === 'value' ? given.code : given.body, draft, previous, field),
    ),
  );
  return `${draft.names.setter}((${previous}) => ({ ...${previous}, ${[`[${key}]: ${value}`, ...rest].join(', ')} }))`;
}

/** A function that takes the place of a setter that is handed on. */
export function handlerText(use: HandOnUse, draft: Draft): string {
  const type = fieldNamed(draft.model, use.field).type ?? 'unknown';
  const { typescript } = draft.model;
  const { setter } = draft.names;
  const typed = typescript && (!use.typed || use.stable);
  const { hook } = draft;
  if (hook && (use.takes === 'value' || hook.file.calls.looksBack?.by === 'function')) {
    hook.called.add('one');
    const name = use.takes === 'value' ? parameterFor(use.field) : 'next';
    const own = use.takes === 'value' ? type : `${type} | ((${use.field}: ${type}) => ${type})`;
    return `(${name}${typed || (typescript && use.takes !== 'value') ? `: ${own}` : ''}) => ${hook.one}(${fieldText(use.field, draft)}, ${name})`;
  }
  hook?.called.add('all');
  if (use.takes === 'value') {
    const name = parameterFor(use.field);
    return `(${name}${typed ? `: ${type}` : ''}) => ${setter}((prev) => ({ ...prev, ${property(use.field, name)} }))`;
  }
  const parameter = typescript ? `(next: ${type} | ((${use.field}: ${type}) => ${type}))` : '(next)';
  const quote = draft.context.style.quote;
  return `${parameter} => ${setter}((prev) => ({ ...prev, ${use.field}: typeof next === ${quote}function${quote} ? next(prev.${use.field}) : next }))`;
}
