import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Hole } from '../../form/code.js';
import type { StepFunction } from '../../form/model.js';
import type { SetAllUse } from '../../form/uses.js';
import { expandedType, type TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { isReserved } from '../form-names.js';
import { actionAt, type EffectContext } from './actions.js';
import type { ReducerCase, ReducerCases } from './cases.js';
import type { HeldObject } from './held.js';
import { fromPrevious, isUpdater, placeOf } from './whole-change.js';

/** Steps that a reader found so far, by the case of the reducer they come from. */
export type Steps = Map<ReducerCase, StepFunction>;

/** What is needed to make a function of a case. */
export interface StepContext {
  state: HeldObject;
  site: FormSite;
  steps: Steps;
  /** Tells calls that change the values. */
  isChange(call: t.CallExpression): boolean;
}

/** What a case takes from its action: the keys in the order in which it asks for them, and where it does. */
interface Asked {
  keys: { key: string; parameter: string }[];
  holes: Hole[];
}

/**
 * A dispatch whose case cannot be told field by field, as a call of a function of all values: the statements of the
 * case with what they take from the action as parameters.
 * @returns undefined where the case cannot stand by itself
 */
export function stepAt(
  call: NodePath<t.CallExpression>,
  why: string,
  { state, site, steps, isChange }: StepContext,
): Omit<SetAllUse, 'where'> | undefined {
  const { reducer } = state;
  const [argument, ...more] = call.get('arguments') as NodePath[];
  if (!reducer || !argument || more.length || reducer.cases.trouble !== undefined) return undefined;
  const action = actionAt(argument, contextOf(state, site, reducer.cases));
  if (typeof action === 'string') return undefined;
  const found = caseOf(reducer.cases, action.type);
  const replaced = found && replacedBy(found, reducer.cases);
  const values = replaced === undefined ? undefined : action.properties.get(replaced);
  if (values && values.code.file === site.script.file) {
    const updates = isUpdater(values.path)
      ? { from: { body: fromPrevious(values.path, state, site.script.file) } }
      : {};
    return {
      kind: 'set-all',
      code: values.code,
      merge: false,
      why,
      ...updates,
      ...placeOf(call, state.component, site.script.file, isChange),
      span: spanOf(site.script.file, call),
    };
  }
  const step = found && (steps.get(found) ?? stepOf(found, state, site, steps));
  if (!found || !step) return undefined;
  const given = step.parameters.map(({ key }): Code | undefined => action.properties.get(key)?.code);
  if (given.some((code, index) => code === undefined && !step.parameters[index]?.optional)) return undefined;
  steps.set(found, step);
  const { script } = site;
  return {
    kind: 'set-all',
    code: { ...spanOf(script.file, argument), holes: [] },
    merge: false,
    why,
    step: { name: step.name, takesValues: step.state.asked, arguments: given },
    fields: changedBy(found, reducer.cases, (key) => action.properties.get(key)?.path),
    ...placeOf(call, state.component, script.file, isChange),
    span: spanOf(script.file, call),
  };
}

function caseOf({ cases }: ReducerCases, type: string | undefined): ReducerCase | undefined {
  return cases.find(({ types }) => types.includes(type ?? ''));
}

/** The cases of which one dispatch at least is told only as a whole: all of theirs are. */
export function wholeCases(
  calls: readonly NodePath<t.CallExpression>[],
  { state, site }: Pick<StepContext, 'state' | 'site'>,
): Set<ReducerCase> {
  const found = new Set<ReducerCase>();
  for (const call of calls) {
    const [argument] = call.get('arguments') as NodePath[];
    if (!state.reducer || !argument) continue;
    const action = actionAt(argument, contextOf(state, site, state.reducer.cases));
    const own = typeof action === 'string' ? undefined : caseOf(state.reducer.cases, action.type);
    if (own && (state.effectAt(call).kind === 'unclear' || isLoose(own, state.reducer, site.load))) found.add(own);
  }
  return found;
}

/**
 * Whether a case sets a field by a name that its action types only as any of them: told field by field, the value would
 * have to be of that field's own type.
 */
function isLoose(found: ReducerCase, reducer: NonNullable<HeldObject['reducer']>, load: FormSite['load']): boolean {
  const { cases, script } = reducer;
  if (!script.typescript) return false;
  const partOf = (node: t.Node): string | undefined => {
    if (t.isIdentifier(node)) return cases.parts.get(node.name);
    const asked = t.isMemberExpression(node) && t.isIdentifier(node.object, { name: cases.action ?? '' });
    return asked && t.isIdentifier(node.property) ? node.property.name : undefined;
  };
  const keys = new Set<string>();
  const values = new Set<string>();
  for (const statement of found.statements)
    statement.traverse({
      ObjectProperty({ node }) {
        const [key, value] = [node.computed ? partOf(node.key) : undefined, partOf(node.value)];
        if (key === undefined || value === undefined) return;
        keys.add(key);
        values.add(value);
      },
    });
  if (!keys.size) return false;
  const asked = [...keys, ...values].map((key) => ({ key, parameter: key }));
  const types = typesOf(found, { keys: asked, holes: [] }, reducer, load)?.keys;
  return (
    [...keys].some((key) => /\bkeyof\b/.test(types?.get(key)?.text ?? '')) &&
    [...values].some((value) => types?.get(value)?.text === 'string')
  );
}

/** Whether a dispatch is one of some cases. */
export function isOfCases(
  call: NodePath<t.CallExpression>,
  cases: ReadonlySet<ReducerCase>,
  { state, site }: Pick<StepContext, 'state' | 'site'>,
): boolean {
  const [argument] = call.get('arguments') as NodePath[];
  if (!cases.size || !state.reducer || !argument) return false;
  const action = actionAt(argument, contextOf(state, site, state.reducer.cases));
  const own = typeof action === 'string' ? undefined : caseOf(state.reducer.cases, action.type);
  return own !== undefined && cases.has(own);
}

function contextOf(
  { slots, initialObject }: HeldObject,
  { script, load }: FormSite,
  cases: ReducerCases,
): EffectContext {
  return { cases, script, load, slots: slots.map(({ name }) => name), initialObject };
}

/**
 * The member of an action that a case puts in the place of all values, or has work them out:
 * `typeof action.next === 'function' ? action.next(state) : action.next`.
 */
function replacedBy({ statements }: ReducerCase, { action, parts }: ReducerCases): string | undefined {
  const [only, ...more] = statements;
  const given = only?.isReturnStatement() && !more.length ? (only.get('argument') as NodePath) : undefined;
  const chosen = given?.isConditionalExpression() ? given.node.alternate : given?.node;
  if (t.isIdentifier(chosen)) return parts.get(chosen.name);
  const isMember =
    t.isMemberExpression(chosen) && !chosen.computed && t.isIdentifier(chosen.object, { name: action ?? '' });
  if (!isMember || !t.isIdentifier(chosen.property)) return undefined;
  const test = given?.isConditionalExpression() ? given.node.test : undefined;
  const asksKind = t.isBinaryExpression(test) && t.isUnaryExpression(test.left, { operator: 'typeof' });
  return test && !asksKind ? undefined : chosen.property.name;
}

/** The statements of a case as a function; undefined where they need what stands around them. */
function stepOf(found: ReducerCase, { reducer }: HeldObject, site: FormSite, steps: Steps): StepFunction | undefined {
  const [first] = found.statements;
  const last = found.statements.at(-1);
  if (!reducer || !first || !last || !endsWithReturn(last)) return undefined;
  const { cases, script } = reducer;
  if (cases.state === undefined) return undefined;
  const asked = askedOf(found, cases);
  if (!asked) return undefined;
  const [type] = found.types;
  const name = freeName(type ?? '', [site, { script }], steps);
  const typed = script.typescript ? typesOf(found, asked, reducer, site.load) : undefined;
  if (name === undefined || (script.typescript && !typed)) return undefined;
  const comment = first.node.leadingComments?.[0]?.start;
  return {
    name,
    state: {
      name: cases.state,
      asked: asksFor(cases.state, found.statements),
      ...(typed ? { type: typed.state } : {}),
    },
    parameters: asked.keys.map(({ key, parameter }) => {
      const own = typed?.keys.get(key);
      return {
        name: parameter,
        key,
        ...(own ? { type: own.text } : {}),
        optional: own ? own.optional : !script.typescript,
      };
    }),
    body: {
      file: script.file,
      start: comment ?? first.node.start ?? 0,
      end: last.node.end ?? 0,
      holes: asked.holes.sort((a, b) => a.start - b.start),
    },
  };
}

function endsWithReturn(statement: NodePath): boolean {
  if (statement.isReturnStatement() || statement.isThrowStatement()) return true;
  if (statement.isBlockStatement()) {
    const last = statement.get('body').at(-1);
    return last !== undefined && endsWithReturn(last);
  }
  if (!statement.isIfStatement()) return false;
  const other = statement.get('alternate') as NodePath;
  return other.node !== null && endsWithReturn(statement.get('consequent')) && endsWithReturn(other);
}

/** Whether statements look at the values they are given. */
function asksFor(state: string, statements: readonly NodePath[]): boolean {
  let asks = false;
  for (const statement of statements)
    statement.traverse({
      Identifier(path) {
        if (path.isReferencedIdentifier() && path.node.name === state) asks = true;
      },
    });
  return asks;
}

/** What the statements of a case take from the action; undefined where they need the action itself, or other locals. */
function askedOf({ statements }: ReducerCase, cases: ReducerCases): Asked | undefined {
  const asked: Asked = { keys: [], holes: [] };
  const words = new Set<string>();
  const places: { path: NodePath; key: string }[] = [];
  let whole = false;
  const visit = (path: NodePath<t.Identifier>): void => {
    words.add(path.node.name);
    if (!path.isReferencedIdentifier()) return;
    const binding = path.scope.getBinding(path.node.name);
    if (!binding || binding.scope.path.isProgram()) return;
    const inside = statements.some(({ node }) => isWithin(binding.identifier, node));
    if (inside || path.node.name === cases.state) return;
    const part = cases.parts.get(path.node.name);
    if (part !== undefined) {
      if (!asked.keys.some(({ key }) => key === part)) asked.keys.push({ key: part, parameter: path.node.name });
      return;
    }
    const member = path.parentPath;
    const isAsked =
      path.node.name === cases.action &&
      member.isMemberExpression() &&
      !member.node.computed &&
      path.key === 'object' &&
      t.isIdentifier(member.node.property);
    if (isAsked && t.isIdentifier(member.node.property)) places.push({ path: member, key: member.node.property.name });
    else whole = true;
  };
  for (const statement of statements) statement.traverse({ Identifier: visit });
  if (whole || places.some(({ key }) => key === cases.discriminant)) return undefined;
  for (const { path, key } of places) {
    let known = asked.keys.find((one) => one.key === key);
    if (!known) {
      // the name is free where it stands for nothing else in these statements
      const own = places.filter((one) => one.key === key).length;
      const taken = countOf(key, statements, cases.action) > own || isReserved(key) || key === cases.state;
      known = { key, parameter: taken ? `given${key.charAt(0).toUpperCase()}${key.slice(1)}` : key };
      asked.keys.push(known);
    }
    // `{ kilos: action.kilos }` is `{ kilos }` then
    const { parent } = path;
    const short =
      t.isObjectProperty(parent) && !parent.computed && t.isIdentifier(parent.key, { name: known.parameter });
    const { start, end } = short ? parent : path.node;
    asked.holes.push({ kind: 'text', start: start ?? 0, end: end ?? 0, text: known.parameter });
  }
  return asked;
}

/** How often a name stands in statements as a name, not as the key of a property. */
function countOf(name: string, statements: readonly NodePath[], action: string | undefined): number {
  let count = 0;
  for (const statement of statements)
    statement.traverse({
      Identifier(path) {
        if (path.node.name !== name) return;
        const { parent } = path;
        const isKey = t.isObjectProperty(parent) && parent.key === path.node && !parent.computed && !parent.shorthand;
        const isMember = t.isMemberExpression(parent) && parent.property === path.node && !parent.computed;
        if (!isKey && (!isMember || isMemberOf(path.parentPath, action))) count += 1;
      },
    });
  return count;
}

function isMemberOf(path: NodePath | null, name: string | undefined): boolean {
  return path?.isMemberExpression() === true && t.isIdentifier(path.node.object, { name: name ?? '' });
}

function isWithin(inner: t.Node, outer: t.Node): boolean {
  return (inner.start ?? 0) >= (outer.start ?? 0) && (inner.end ?? 0) <= (outer.end ?? 0);
}

/** `FIELD_CHANGED`, `skill/edited` and `step` as the name of a function that stands for nothing else yet. */
function freeName(type: string, files: readonly { script: FormSite['script'] }[], steps: Steps): string | undefined {
  const words = type.split(/[^A-Za-z0-9]+|(?<=[a-z0-9])(?=[A-Z])/).filter(Boolean);
  const lower = words.map((word) => word.toLowerCase());
  const camel = lower.map((word, index) => (index ? word.charAt(0).toUpperCase() + word.slice(1) : word)).join('');
  if (!/^[a-z]/.test(camel)) return undefined;
  const taken = new Set([...steps.values()].map(({ name }) => name));
  for (const { script } of files) {
    t.traverseFast(script.ast, (node) => {
      if (t.isIdentifier(node) || t.isJSXIdentifier(node)) taken.add(node.name);
    });
  }
  const wished = [camel, `${camel}Values`, `next${camel.charAt(0).toUpperCase()}${camel.slice(1)}`];
  return wished.find((name) => !taken.has(name) && !isReserved(name));
}

/** The types of what a case is given, as the union of actions says them; undefined where they are not written. */
function typesOf(
  found: ReducerCase,
  { keys }: Asked,
  { fn, script, cases }: NonNullable<HeldObject['reducer']>,
  load: FormSite['load'],
): { state: string; keys: Map<string, { text: string; optional: boolean }> } | undefined {
  const [first, second] = fn.node.params;
  const annotation = (node: t.Node | undefined): t.Node | undefined => {
    const own = t.isAssignmentPattern(node) ? node.left : node;
    return own && 'typeAnnotation' in own && t.isTSTypeAnnotation(own.typeAnnotation)
      ? own.typeAnnotation.typeAnnotation
      : undefined;
  };
  const state = annotation(first);
  const action = annotation(second);
  if (!state) return undefined;
  const types = new Map<string, { text: string; optional: boolean }>();
  const members = action ? membersOf({ node: action, script }, load) : [];
  const own = members.filter((one) => found.types.includes(typeOfMember(one, cases.discriminant) ?? ''));
  for (const { key } of keys) {
    const texts = own.flatMap((member) => propertyOf(member, key) ?? []);
    const [one] = texts;
    if (!one || texts.some(({ file, text }) => file !== script.file && !isPlainType(text))) return undefined;
    types.set(key, {
      text: [...new Set(texts.map(({ text }) => text))].join(' | '),
      optional: texts.some(({ optional }) => optional),
    });
  }
  return { state: script.text.slice(state.start ?? 0, state.end ?? 0), keys: types };
}

/** Whether a type speaks of no names that a file would have to import. */
function isPlainType(text: string): boolean {
  return /^(?:string|number|boolean|null|undefined|unknown|['"][^'"]*['"]|[\s|[\]])+$/.test(text);
}

/** The members of a union, each down to what it is made of. */
function membersOf(type: TypeInFile, load: FormSite['load'], depth = 0): TypeInFile[] {
  const found = expandedType(type, load);
  if (!t.isTSUnionType(found.node) || depth > 4) return [found];
  return found.node.types.flatMap((node) => membersOf({ node, script: found.script }, load, depth + 1));
}

function signatures({ node }: TypeInFile): t.TSPropertySignature[] {
  const list = t.isTSTypeLiteral(node) ? node.members : t.isTSInterfaceBody(node) ? node.body : [];
  return list.filter((one): one is t.TSPropertySignature => t.isTSPropertySignature(one));
}

function typeOfMember(member: TypeInFile, discriminant: string): string | undefined {
  const own = signatures(member).find(({ key }) => t.isIdentifier(key, { name: discriminant }));
  const type = own?.typeAnnotation?.typeAnnotation;
  return t.isTSLiteralType(type) && t.isStringLiteral(type.literal) ? type.literal.value : undefined;
}

function propertyOf(member: TypeInFile, name: string): { text: string; optional: boolean; file: string } | undefined {
  const own = signatures(member).find(({ key }) => t.isIdentifier(key, { name }));
  const type = own?.typeAnnotation?.typeAnnotation;
  if (!own || !type) return undefined;
  const { script } = member;
  return {
    text: script.text.slice(type.start ?? 0, type.end ?? 0),
    optional: own.optional === true,
    file: script.file,
  };
}

/** The fields that a case may change; undefined where any of them may. */
function changedBy(
  { statements }: ReducerCase,
  cases: ReducerCases,
  given: (key: string) => NodePath | undefined,
): string[] | undefined {
  const fields = new Set<string>();
  let any = false;
  const look = (argument: NodePath): void => {
    if (argument.isIdentifier({ name: cases.state ?? '' })) return;
    if (!argument.isObjectExpression()) {
      any = true;
      return;
    }
    const [first, ...others] = argument.get('properties');
    const keeps = first?.isSpreadElement() === true && t.isIdentifier(first.node.argument, { name: cases.state ?? '' });
    if (!keeps) any = true;
    for (const property of others) {
      const key = property.isObjectProperty() ? nameOfKey(property, cases, given) : undefined;
      if (key === undefined) any = true;
      else fields.add(key);
    }
  };
  for (const statement of statements) {
    if (statement.isReturnStatement()) look(statement.get('argument') as NodePath);
    statement.traverse({
      Function: (inner) => inner.skip(),
      ReturnStatement: (inner) => look(inner.get('argument') as NodePath),
    });
  }
  return any ? undefined : [...fields];
}

function nameOfKey(
  property: NodePath<t.ObjectProperty>,
  cases: ReducerCases,
  given: (key: string) => NodePath | undefined,
): string | undefined {
  const { key, computed } = property.node;
  if (!computed) return t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
  const asked = t.isMemberExpression(key) && t.isIdentifier(key.object, { name: cases.action ?? '' });
  const name =
    asked && t.isIdentifier(key.property)
      ? key.property.name
      : t.isIdentifier(key)
        ? cases.parts.get(key.name)
        : undefined;
  const value = name === undefined ? undefined : given(name);
  return value?.isStringLiteral() ? value.node.value : undefined;
}
