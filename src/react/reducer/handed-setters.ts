import { fieldNamed, type FormModel } from '../../form/model.js';
import { functionAt } from '../handed-functions.js';
import type { HandOnAllUse, HandOnUse, SetUse } from '../../form/uses.js';
import { parameterFor, pascal } from '../form-names.js';
import { type ReducerDraft } from './draft.js';
import { str } from './pieces.js';

/** A function that takes the place of a setter that is handed on. */
export function handOnText(use: HandOnUse, draft: ReducerDraft): string {
  const text = use.stable
    ? stableName(use)
    : functionAt(handlerText(use, draft), draft.context.text(use.span.file), use.span);
  return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
}

/** A function that takes all values, in the place of the setter of their object. */
export function handOnAllText(use: HandOnAllUse, draft: ReducerDraft): string {
  const { names, model } = draft;
  const typed = model.typescript && !use.typed;
  const quotedType = (type: string): string => str(draft, type);
  const merges = use.takes === 'value' && !mayHoldMore(model);
  if (merges) draft.needs.changed = true;
  else draft.needs.replaced = true;
  if (use.takes !== 'value') draft.needs.updated = true;
  const next = `next${typed ? `: ${names.state}${use.takes === 'value' ? '' : ` | ((state: ${names.state}) => ${names.state})`}` : ''}`;
  const text = merges
    ? `(values${typed ? `: ${names.state}` : ''}) => ${names.dispatch}({ type: ${quotedType('changed')}, values })`
    : `(${next}) => ${names.dispatch}({ type: ${quotedType('replaced')}, next })`;
  const placed = functionAt(text, draft.context.text(use.span.file), use.span);
  return use.shorthand === undefined ? placed : `${use.shorthand}: ${placed}`;
}

/** The name of a function that stays the same from view to view and changes one field. */
export function stableName(use: HandOnUse): string {
  return `change${pascal(use.field)}`;
}

/** A function that dispatches, in the place of the setter of one field. */
export function handlerText(use: HandOnUse, draft: ReducerDraft): string {
  const field = fieldNamed(draft.model, use.field);
  const { typescript } = draft.model;
  const type = field.type ?? 'unknown';
  const parameter = parameterFor(use.field);
  draft.needs.changed = true;
  const given = parameter === use.field ? parameter : `${use.field}: ${parameter}`;
  const change = `{ type: ${str(draft, 'changed')}, values: { ${given} } }`;
  if (use.takes === 'value') {
    const written = typescript && (!use.typed || use.stable) ? `(${parameter}: ${type})` : `(${parameter})`;
    return `${written} => ${draft.names.dispatch}(${change})`;
  }
  const value = 'next';
  const update = draft.actions.actionFor(
    field,
    {
      kind: 'from-previous',
      body: { ...field.declared, holes: [] },
      block: false,
      reads: [field.name],
      parameter: undefined,
      // the function that is handed over stays what it is
      whole: { ...field.declared, holes: [] },
    },
    { ...setLike(use), repeats: false },
  );
  const written = typescript ? `(${value}: ${type} | ((${field.name}: ${type}) => ${type}))` : `(${value})`;
  const asChange = `{ type: ${str(draft, 'changed')}, values: { ${field.name}: ${value} } }`;
  return `${written} => ${draft.names.dispatch}(typeof ${value} === ${str(draft, 'function')} ? { type: ${str(draft, update.type)}, update: ${value} } : ${asChange})`;
}

function setLike(use: HandOnUse): SetUse {
  return {
    kind: 'set',
    span: use.span,
    where: use.where,
    assignments: [],
    resetsAll: false,
    statement: undefined,
    arrowBody: false,
    fresh: false,
    repeats: false,
    called: undefined,
  };
}

/** Whether the values may hold more than the fields at some time, or lack some: laid over others they would not be the same. */
export function mayHoldMore({ holder, fields, uses }: FormModel): boolean {
  return (
    holder?.start?.open === true ||
    holder?.start?.empty === true ||
    fields.some(({ absent }) => absent) ||
    uses.some((use) => (use.kind === 'set' || use.kind === 'set-all') && use.open === true)
  );
}
