import { codeText, type CodePrinter } from '../../form/code-text.js';
import { fieldNamed, type Field, type FormModel } from '../../form/model.js';
import type { Hole } from '../../form/code.js';
import type { NewValue, SetUse } from '../../form/uses.js';
import { pascal } from '../form-names.js';

/** An action that computes a field's value from its previous one. */
export interface ComputedAction {
  type: string;
  field: string;
  payload: { name: string; type: string; argument: string }[];
  /** What the reducer does: an expression for the field's value, or statements that return the next state. */
  expression: string | undefined;
  statements: string | undefined;
  /** The next state, where several fields are computed from one another. */
  state?: string;
  /** Nothing may render again when the value stays the same. */
  guarded: boolean;
}

/** The name of an action by what its arithmetic does to the field. */
function verbOf(body: string, field: string): string {
  if (new RegExp(`state\\.${field} \\+ `).test(body)) return 'Increased';
  if (new RegExp(`state\\.${field} - `).test(body)) return 'Decreased';
  if (body === `!state.${field}`) return 'Toggled';
  if (/^\[\.\.\.state\.|\.concat\(/.test(body)) return 'Added';
  if (/^state\.\w+\.filter\(/.test(body)) return 'Removed';
  return 'Updated';
}

/** Collects the actions behind a form's updates from previous values. */
export interface ActionCollector {
  /** The actions so far, each name once. */
  readonly list: readonly ComputedAction[];
  /** The action for a change, the same one for the same arithmetic; the payload's arguments are those of this change. */
  actionFor(field: Field, value: FromPrevious, use: SetUse): ComputedAction;
  /** The action for a change of several fields at once; undefined where a part of it cannot live in the reducer. */
  actionForAll(use: SetUse): ComputedAction | undefined;
}

type FromPrevious = Extract<NewValue, { kind: 'from-previous' }>;
type Arithmetic = Pick<ComputedAction, 'payload' | 'expression' | 'statements'>;

/** Starts an empty collection of actions for a form. */
export function actionCollector(model: FormModel, printer: CodePrinter): ActionCollector {
  const list: ComputedAction[] = [];
  const freeType = (wished: string): string => {
    let type = wished;
    for (let number = 2; list.some((known) => known.type === type); number++) type = `${wished}${number}`;
    return type;
  };
  return {
    list,
    actionFor(field, value, use) {
      const made = movedArithmetic(field, value, model, printer) ?? handedOver(field, value, printer);
      const guarded = use.repeats;
      const twin = list.find(
        (known) =>
          known.field === field.name &&
          known.expression === made.expression &&
          known.statements === made.statements &&
          known.guarded === guarded,
      );
      if (twin) return { ...twin, payload: made.payload };
      const verb = made.statements === undefined ? verbOf(made.expression ?? '', field.name) : 'Updated';
      const action = { ...made, field: field.name, type: freeType(`${field.name}${verb}`), guarded };
      list.push(action);
      return action;
    },
    actionForAll(use) {
      const made = togetherMoved(use, model, printer);
      if (!made) return undefined;
      const twin = list.find((known) => known.state === made.state);
      if (twin) return { ...twin, payload: made.payload };
      const [first = '', ...others] = use.assignments.map(({ field }) => field);
      const type = freeType(`${first}${others.map((name) => `And${pascal(name)}`).join('')}Updated`);
      const action = { ...made, field: first, type, guarded: false, expression: undefined, statements: undefined };
      list.push(action);
      return action;
    },
  };
}

/** A change of several fields as one expression for the next state: `{ ...state, from: state.to, to: state.from }`. */
function togetherMoved(
  { assignments, repeats }: SetUse,
  model: FormModel,
  printer: CodePrinter,
): { state: string; payload: ComputedAction['payload'] } | undefined {
  if (repeats) return undefined;
  const payload: ComputedAction['payload'] = [];
  const parts: string[] = [];
  for (const { field, value } of assignments) {
    const own = fieldNamed(model, field);
    if (value.kind === 'from-previous') {
      const moved = movedArithmetic(own, value, model, printer);
      if (moved?.expression === undefined) return undefined;
      for (const one of moved.payload) {
        const known = payload.find(({ name }) => name === one.name);
        if (known && known.argument !== one.argument) return undefined;
        if (!known) payload.push(one);
      }
      parts.push(`${field}: ${moved.expression}`);
    } else if (
      value.kind === 'value' &&
      value.operator === undefined &&
      (own.type !== undefined || !model.typescript)
    ) {
      if (payload.some(({ name }) => name === field)) return undefined;
      payload.push({ name: field, type: own.type ?? '', argument: codeText(value.code, printer) });
      parts.push(`${field}: action.${field}`);
    } else return undefined;
  }
  return { state: `{ ...state, ${parts.join(', ')} }`, payload };
}

/** Arithmetic that can live in the reducer; undefined where a value it needs has no type that could be written. */
function movedArithmetic(
  field: Field,
  value: FromPrevious,
  model: FormModel,
  outer: CodePrinter,
): Arithmetic | undefined {
  if (value.whole && (value.body === value.whole || value.body.start === value.whole.start)) return undefined;
  const payload: ComputedAction['payload'] = [];
  let possible = true;
  const captured = (place: Extract<Hole, { kind: 'captured' }>): string | undefined => {
    if (!place.stable || (model.typescript && place.type === undefined)) {
      possible = false;
      return undefined;
    }
    const argument = outer.textOf(value.body.file).slice(place.start, place.end);
    let name = place.name === 'type' ? `${field.name}Type` : place.name;
    const clash = payload.find((known) => known.name === name);
    if (clash && clash.argument !== argument) name = `${name}${payload.length + 1}`;
    if (!payload.some((known) => known.name === name)) payload.push({ name, type: place.type ?? '', argument });
    return withKey(place.shorthand, `action.${name}`);
  };
  const printer: CodePrinter = {
    ...outer,
    hole(place) {
      if (place.kind === 'previous') return withKey(place.shorthand, `state.${place.field}`);
      if (place.kind === 'captured') return captured(place);
      if (place.kind !== 'returned') return undefined;
      if (place.unchanged) return 'state';
      const text = codeText(place.value, printer);
      return text === field.name ? `{ ...state, ${field.name} }` : `{ ...state, ${field.name}: ${text} }`;
    },
    use() {
      possible = false;
      return undefined;
    },
  };
  const text = codeText(value.body, printer);
  if (!possible || /\b(await|yield|this)\b|<[A-Za-z]+[\s/>]/.test(text)) return undefined;
  return value.block
    ? { payload, expression: undefined, statements: text }
    : { payload, expression: text, statements: undefined };
}

/** The function that computes the value stays where it is and is handed over in the action. */
function handedOver(field: Field, value: FromPrevious, printer: CodePrinter): Arithmetic {
  const type = field.type ?? 'unknown';
  const own = {
    ...printer,
    hole: (hole: Hole) => (hole.kind === 'previous' ? withKey(hole.shorthand, hole.field) : undefined),
  };
  const body = codeText(value.body, own);
  const argument = value.whole
    ? codeText({ ...value.whole, holes: [] }, printer)
    : `(${field.name}) => ${/^\{/.test(body) && !value.block ? `(${body})` : body}`;
  return {
    payload: [{ name: 'update', type: `(${field.name}: ${type}) => ${type}`, argument }],
    expression: `action.update(state.${field.name})`,
    statements: undefined,
  };
}

function withKey(key: string | undefined, text: string): string {
  return key === undefined ? text : `${key}: ${text}`;
}
