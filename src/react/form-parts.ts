import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Constraint, Rule } from '../form/rules.js';
import type { Control, ValueKind } from '../form/model.js';
import { nativeKind } from '../markup/element-kinds.js';
import { saysWhatShows } from '../markup/shown-parts.js';
import { constraintOfAttribute, ruleKindOf } from '../rules/native.js';
import type { Script } from '../source/script.js';
import type { FunctionPath } from './components.js';
import { functionOf } from './components.js';
import { spanOf } from './code.js';
import { attribute, changedBy, shownBy, type JsxAttribute, type JsxControl } from './jsx-controls.js';
import { plainWiring } from './plain-wiring.js';
import { helpedControl } from './spread-helpers.js';
import { changedFields, shownField, type Lens } from './value-tracing.js';
import { walk } from '../source/traverse.js';

/** Kind of value that a control edits. */
export function kindOf(control: JsxControl, type: string | undefined): ValueKind {
  const multiple = attribute(control, 'multiple') !== undefined;
  const list = type !== undefined && /\[\]|Set</.test(type);
  return nativeKind({ tag: control.tag, type: control.type, multiple, list }) ?? kindOfType(type);
}

/** Kind of value a written or inferred type holds. */
export function kindOfType(type: string | undefined): ValueKind {
  const bare = type?.replace(/\s*\|\s*(null|undefined)\b/g, '').trim();
  if (bare === undefined || bare === 'string') return bare === undefined ? 'other' : 'text';
  if (bare === 'number' || bare === 'boolean') return bare;
  if (bare === 'Date') return 'date';
  if (bare === 'File' || bare === 'FileList') return 'file';
  if (/^['"].*['"]$/.test(bare)) return 'choice';
  if (/\[\]$|^Array</.test(bare)) return /^(string|number)\[\]$/.test(bare) ? 'many choices' : 'list of rows';
  if (bare.startsWith('{')) return 'group';
  return 'other';
}

/** The argument that a handler gives a field, where it is more than the event's own value. */
function wayInOf(fn: FunctionPath | undefined, script: Script, lens: Lens, field: string): string | undefined {
  let found: string | undefined;
  walk(fn, {
    CallExpression(call) {
      const callee = call.get('callee');
      const argument = call.node.arguments[0];
      if (found !== undefined || !callee.isIdentifier() || !argument || !lens.changesOf(callee).includes(field)) return;
      found = script.text.slice(argument.start ?? 0, argument.end ?? 0);
    },
  });
  if (found === undefined || /^\w+(\.\w+)*\.(value|checked|valueAsNumber)$/.test(found) || /^\w+$/.test(found))
    return undefined;
  return found;
}

/** What ties a candidate control to the fields of a form. */
export interface BoundControl {
  control: JsxControl;
  field: string;
  model: Control;
}

/** A control as the model has it, as far as its element alone tells. */
export function namedControl(script: Script, field: string, control: JsxControl): Control {
  return {
    field,
    element: control.tag,
    type: control.type,
    name: control.name,
    label: control.label,
    shows: undefined,
    changes: undefined,
    wayIn: undefined,
    span: spanOf(script.file, control.element),
  };
}

/**
 * The controls of a component that show or change fields of an approach.
 * @param candidates elements that may be controls, in order
 */
export function bindControls(
  script: Script,
  candidates: readonly JsxControl[],
  lens: Lens,
  ownValueNames: readonly string[],
): BoundControl[] {
  const bound: BoundControl[] = [];
  for (const control of candidates) {
    const shown = shownBy(control, ownValueNames);
    const changes = changedBy(control);
    const changed = changes.map((change) => ({
      change,
      fields: change.value ? changedFields(change.value, lens) : [],
    }));
    const shownName = shown?.value ? shownField(shown.value, lens) : undefined;
    const helped = shownName === undefined && control.spread ? helpedControl(control.element, lens) : undefined;
    const field = shownName ?? helped?.field ?? fieldByHandlers(control, changed, lens);
    if (field === undefined) continue;
    const base = /^[^.[]+/.exec(field)?.[0] ?? field;
    const used =
      changed.find((candidate) => candidate.fields.includes(base) || candidate.fields.includes(field)) ?? changed[0];
    bound.push({
      control,
      field,
      model: {
        ...namedControl(script, field, control),
        shows: shown?.name ?? helped?.shows,
        changes: used?.change.name ?? helped?.changes,
        wayIn: wayInOf(used?.change.value ? functionOf(used.change.value) : undefined, script, lens, base),
        ...wiringOf(control, field, lens, script),
      },
    });
  }
  return bound;
}

function wiringOf(control: JsxControl, field: string, lens: Lens, script: Script): Pick<Control, 'wiring'> {
  const wiring = plainWiring(control, field, lens, script);
  return wiring ? { wiring } : {};
}

/** Whether a handler looks at what its event brings. */
function takesEvent(handler: NodePath): boolean {
  const fn = functionOf(handler);
  if (!fn) return true;
  if (!fn.node.params.length) return false;
  return fn.node.params.some((parameter) =>
    t.isIdentifier(parameter) ? (fn.scope.getOwnBinding(parameter.name)?.references ?? 0) > 0 : true,
  );
}

/** An element that shows no value but whose handler stores what the event brings, or a component given value and setter. */
function fieldByHandlers(
  control: JsxControl,
  changed: { change: JsxAttribute; fields: string[] }[],
  lens: Lens,
): string | undefined {
  const fields = [...new Set(changed.flatMap((candidate) => candidate.fields))];
  // a control that keeps its own value may still say that something else changes
  if (control.intrinsic && !changed.some(({ change }) => change.value && takesEvent(change.value))) return undefined;
  if (control.intrinsic)
    return control.type === 'file' || !(attribute(control, 'value') ?? attribute(control, 'checked'))
      ? fields[0]
      : undefined;
  // a component that shows a value from elsewhere keeps that one
  const own = attribute(control, 'value') ?? attribute(control, 'checked');
  if (own?.value) return undefined;
  const told = new Set(changed.flatMap(({ change, fields: set }) => (saysWhatShows(change.name) ? [] : set)));
  for (const candidate of control.attributes) {
    if (saysWhatShows(candidate.name) || /^(errors?|errorText|invalid|message|loading|busy)$/.test(candidate.name))
      continue;
    const shown = candidate.value && !candidate.value.isFunction() ? shownField(candidate.value, lens) : undefined;
    if (shown !== undefined && told.has(/^[^.[]+/.exec(shown)?.[0] ?? shown)) return shown;
  }
  return undefined;
}

/** Names under which React knows the attributes that state a rule. */
const constraintAttributes = ['required', 'minLength', 'maxLength', 'min', 'max', 'step', 'pattern'];

/** Rules that stand as constraint attributes on controls. */
export function nativeRules(script: Script, bound: readonly BoundControl[]): Rule[] {
  const rules: Rule[] = [];
  for (const { control, field } of bound) {
    if (!control.intrinsic) continue;
    const unchecked = leavesRulesToCode(control.element);
    const seen = { element: control.tag, type: control.type === 'range' ? 'number' : control.type };
    const add = (constraint: Constraint | undefined, condition: string, path: NodePath): void => {
      rules.push({
        fields: [field],
        kind: constraint ? ruleKindOf(constraint) : 'range',
        condition,
        message: undefined,
        moment: 'submit',
        stated: 'native',
        span: spanOf(script.file, path),
        ...(constraint ? { constraint } : {}),
      });
    };
    for (const name of constraintAttributes) {
      const found = attribute(control, name);
      // without the browser's own checks only the length of what is typed is kept
      if (!found || (unchecked && name !== 'maxLength')) continue;
      const value = found.value ? script.text.slice(found.value.node.start ?? 0, found.value.node.end ?? 0) : undefined;
      if (value === 'false') continue;
      const stated = {
        name: name.toLowerCase(),
        value: found.text ?? value ?? '',
        bound: found.text === undefined && value !== undefined,
      };
      const constraint = constraintOfAttribute(stated, seen);
      if (constraint === undefined && name !== 'step' && name !== 'min' && name !== 'max') continue;
      add(
        constraint === 'conditional' || constraint === undefined ? undefined : constraint,
        name === 'required' ? 'required' : `${name} ${value ?? ''}`,
        found.path,
      );
    }
    if (control.type === 'email' && !unchecked) add({ kind: 'email' }, 'email', control.element);
  }
  return rules;
}

/** Whether the form around a control tells the browser not to check anything. */
function leavesRulesToCode(element: NodePath): boolean {
  const form = element.findParent(
    (parent) => parent.isJSXElement() && t.isJSXIdentifier(parent.node.openingElement.name, { name: 'form' }),
  );
  return (
    form?.isJSXElement() === true &&
    form.node.openingElement.attributes.some((one) => t.isJSXAttribute(one) && one.name.name === 'noValidate')
  );
}

/** The fields an expression reads, in order. */
export function fieldsRead(path: NodePath, lens: Lens): string[] {
  const found: string[] = [];
  const visit = (inner: NodePath): void => {
    const field = lens.fieldOf(inner);
    if (field !== undefined && !found.includes(field)) found.push(field);
  };
  visit(path);
  walk(path, { Identifier: visit, MemberExpression: visit });
  return found;
}
