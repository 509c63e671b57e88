import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code } from '../../form/code.js';
import type { Field } from '../../form/model.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { plainCode, spanOf } from '../code.js';
import { kindOf, kindOfType } from '../form-parts.js';
import { memberOfOpaque, memberTypeSaid, memberTypeText } from '../member-types.js';
import { holderOf } from '../value-tracing.js';
import type { HeldObject } from './held.js';
import type { Slot } from './held-starts.js';

function isConstant(node: t.Node): boolean {
  if (t.isLiteral(node) && !t.isTemplateLiteral(node)) return true;
  if (t.isTemplateLiteral(node)) return node.expressions.length === 0;
  if (t.isIdentifier(node)) return node.name === 'undefined';
  if (t.isTSAsExpression(node)) return isConstant(node.expression);
  if (t.isUnaryExpression(node)) return isConstant(node.argument);
  if (t.isArrayExpression(node)) return node.elements.every((element) => element !== null && isConstant(element));
  return (
    t.isObjectExpression(node) &&
    node.properties.every((property) => t.isObjectProperty(property) && isConstant(property.value))
  );
}

/** A value of the object as a field: its kind, type and initial value. */
export function fieldOf(slot: Slot, state: HeldObject, site: FormSite): Field {
  const { initial } = slot;
  const script = initial?.script ?? site.script;
  const inferred = initial && initial.suffix === undefined ? expressionTypes(script).typeOf(initial.path) : undefined;
  // a text that says something may be one of a few
  const isOpen = inferred === undefined || (t.isStringLiteral(initial?.path.node) && initial.path.node.value !== '');
  const opaque = isOpen && !slot.name.includes('.') ? memberOfOpaque(state, slot.name, site) : undefined;
  const written = site.script.typescript ? (memberTypeText(state, slot.name, site) ?? opaque) : undefined;
  const controls = state.bound.filter(({ field }) => holderOf(field) === slot.name);
  const control = controls.find(({ field }) => field === slot.name)?.control;
  const rows = controls.some(({ field }) => field.includes('[]'));
  const suffix = initial?.suffix ?? '';
  const text = initial
    ? script.text.slice(initial.path.node.start ?? 0, initial.path.node.end ?? 0) + suffix
    : 'undefined';
  const isField = state.fields.some((candidate) => candidate.name === slot.name);
  const type = written ?? inferred;
  const said = (site.script.typescript ? memberTypeSaid(state, slot.name, site) : undefined) ?? type;
  const span = initial ? spanOf(script.file, initial.path) : spanOf(site.script.file, state.variable.call);
  const constant = initial ? suffix === '' && isConstant(initial.path.node) : true;
  return {
    name: slot.name,
    kind: rows ? 'list of rows' : control ? kindOf(control, said) : kindOfType(said),
    role: isField ? 'field' : 'status',
    type,
    typeWritten: written !== undefined && written !== inferred,
    initial: {
      code: initial ? withSuffix(plainCode(script.file, initial.path), suffix) : undefined,
      text: slot.untold ? wholeText(state, site) : text,
      when:
        state.initialOnce && (!constant || slot.untold)
          ? 'once'
          : constant && !slot.untold
            ? 'constant'
            : 'each-render',
    },
    ...commentsOf(slot, state, initial?.path.parentPath, script),
    names: slot.alias === undefined ? {} : { value: slot.alias },
    declared: span,
    ...(slot.absent ? { absent: true } : {}),
  };
}

/** What the object begins as, where no value of it is told by itself. */
function wholeText({ untold }: HeldObject, { script }: FormSite): string {
  return untold ? script.text.slice(untold.node.start ?? 0, untold.node.end ?? 0) : 'undefined';
}

/** A member of what a piece of code gives. */
function withSuffix(code: Code, suffix: string): Code {
  return suffix === ''
    ? code
    : { ...code, holes: [{ kind: 'given', start: code.start, end: code.end, code, suffix, wrap: false }] };
}

/** Comments of a value: at its initial value, and in the one case of the reducer that speaks of it alone. */
function commentsOf(
  slot: Slot,
  state: HeldObject,
  property: NodePath | null | undefined,
  script: Script,
): Pick<Field, 'commentsBefore' | 'commentBehind'> {
  const own = commentsAround(property, script);
  const { reducer } = state;
  const reducerText = reducer?.script.text ?? '';
  const inCases = (reducer?.cases.cases ?? []).flatMap(({ statements }) => {
    const start = statements[0]?.node.leadingComments?.[0]?.start ?? statements[0]?.node.start ?? 0;
    const end = statements.at(-1)?.node.end ?? 0;
    const code = reducerText.slice(start, end);
    const named = state.slots.filter(({ name }) =>
      new RegExp(`\\b${name}\\b`).test(code.replace(/\/\/.*|\/\*[\s\S]*?\*\//g, '')),
    );
    if (named.length !== 1 || named[0]?.name !== slot.name) return [];
    return (reducer?.script.ast.comments ?? [])
      .filter((comment) => (comment.start ?? 0) >= start && (comment.end ?? 0) <= end)
      .map((comment) => reducerText.slice(comment.start ?? 0, comment.end ?? 0));
  });
  return {
    ...own,
    commentsBefore: [...own.commentsBefore, ...inCases.filter((comment) => !own.commentsBefore.includes(comment))],
  };
}

/** Comments at a property of the initial state: on lines of their own before it, and behind it on its line. */
function commentsAround(
  property: NodePath | null | undefined,
  script: Script,
): Pick<Field, 'commentsBefore' | 'commentBehind'> {
  if (!property?.isObjectProperty() || !property.parentPath.isObjectExpression())
    return { commentsBefore: [], commentBehind: undefined };
  const { start, end } = spanOf(script.file, property);
  const siblings = property.parentPath.node.properties;
  const previous = siblings[siblings.indexOf(property.node) - 1];
  const from = previous?.end ?? property.parentPath.node.start ?? 0;
  const textOf = (comment: t.Comment): string => script.text.slice(comment.start ?? 0, comment.end ?? 0);
  const all = script.ast.comments ?? [];
  const before = all.filter(
    (comment) =>
      (comment.start ?? 0) >= from &&
      (comment.end ?? 0) <= start &&
      /(^|\n)[ \t]*$/.test(script.text.slice(0, comment.start ?? 0)),
  );
  const behind = all.filter(
    (comment) => (comment.start ?? 0) >= end && /^,?[ \t]*$/.test(script.text.slice(end, comment.start ?? 0)),
  );
  return {
    commentsBefore: before.map(textOf),
    commentBehind: behind.length ? behind.map(textOf).join(' ') : undefined,
  };
}
