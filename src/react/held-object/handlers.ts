import { childOf } from '../../source/child-path.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment, Use } from '../../form/uses.js';
import type { Code, Hole } from '../../form/code.js';
import type { Unclear } from '../../form/model.js';
import type { Script } from '../../source/script.js';
import { spanOf } from '../code.js';
import { functionAround, functionOf, type FunctionPath, returnedFunction } from '../components.js';
import { attribute, type JsxControl } from '../jsx-controls.js';
import type { Effect } from './effects.js';
import { controlType, eventNames, handlerHoles, memberText, namedKeys, valueFor } from './control-values.js';
import { argumentHoles, withArguments, wholeArgument } from './handed-arguments.js';
import { sparesOf } from './spare-names.js';
import { walk } from '../../source/traverse.js';

/** A change whose field is named by something a handler is given. */
type NamedEffect = Extract<Effect, { kind: 'named' }>;

/** What is needed to follow a computed field name to the places that decide it. */
export interface HandlerContext {
  component: FunctionPath;
  script: Script;
  candidates: readonly JsxControl[];
  slots: readonly string[];
  where: (path: NodePath) => Use['where'];
}

/** What became of such a change: uses at other places, and the declaration that goes because of them. */
export interface Followed {
  uses: Use[];
  retired: NodePath[];
  unclear: Unclear[];
}

/** Whether a handler does nothing but take names from its event and make this one change. */
function onlyMakes(fn: FunctionPath, call: NodePath): boolean {
  const body = fn.get('body') as NodePath;
  if (body.node === call.node) return true;
  if (!body.isBlockStatement()) return false;
  const statements = body.get('body');
  return statements.every((statement, index) => {
    if (index === statements.length - 1) {
      const expression = statement.isExpressionStatement()
        ? statement.node.expression
        : statement.isReturnStatement()
          ? statement.node.argument
          : undefined;
      return expression === call.node;
    }
    return statement.isVariableDeclaration();
  });
}

/** The variable that holds a handler, with every place that refers to it. */
function holderOfHandler(fn: FunctionPath): { declaration: NodePath; references: NodePath[] } | undefined {
  if (fn.isFunctionDeclaration() && fn.node.id) {
    const binding = fn.parentPath.scope.getBinding(fn.node.id.name);
    return binding ? { declaration: fn, references: binding.referencePaths } : undefined;
  }
  let outer: NodePath = fn.parentPath;
  while (outer.isCallExpression()) outer = outer.parentPath;
  if (!outer.isVariableDeclarator() || !t.isIdentifier(outer.node.id)) return undefined;
  const binding = outer.scope.getBinding(outer.node.id.name);
  const declaration = outer.parentPath;
  return binding && declaration.isVariableDeclaration() && declaration.node.declarations.length === 1
    ? { declaration, references: binding.referencePaths }
    : undefined;
}

/** The control whose change attribute a reference stands in. */
function controlOf(
  reference: NodePath,
  candidates: readonly JsxControl[],
): { control: JsxControl; value: NodePath } | undefined {
  const container = reference.findParent((parent) => parent.isJSXExpressionContainer());
  const holder = container?.parentPath;
  if (!container || !holder?.isJSXAttribute()) return undefined;
  const control = candidates.find((candidate) => candidate.attributes.some((one) => one.path.node === holder.node));
  const value = childOf(container, 'expression');
  return control ? { control, value } : undefined;
}

/** Whether an expression asks the event for its control's name or id. */
function asksEvent(key: NodePath, event: { parameter: string; names: Map<string, string> }): 'name' | 'id' | undefined {
  const text = memberText(key.node, event.parameter, event.names);
  const asked = /\.(?:target|currentTarget)\.(name|id)$/.exec(text ?? '')?.[1];
  return asked === 'name' || asked === 'id' ? asked : undefined;
}

function nameBy(control: JsxControl, by: 'name' | 'id'): string | undefined {
  return by === 'name' ? control.name : attribute(control, 'id')?.text;
}

function unclearAt(path: NodePath, context: HandlerContext, why: string): Followed {
  const { script } = context;
  return {
    uses: [],
    retired: [],
    unclear: [
      { span: spanOf(script.file, path), what: script.text.slice(path.node.start ?? 0, path.node.end ?? 0), why },
    ],
  };
}

/** Follows a change of a computed field to the controls or calls that name the field. */
export function followNamed(call: NodePath<t.CallExpression>, effect: NamedEffect, context: HandlerContext): Followed {
  const fn = functionAround(call);
  if (!fn || fn.node === context.component.node)
    return unclearAt(call, context, 'the name of the field is computed while rendering');
  const event = eventNames(fn);
  const by = asksEvent(effect.key.path, event);
  if (by) return followControls(call, effect, fn, event, by, context);
  const key = effect.key.path;
  const binding = key.isIdentifier() ? key.scope.getBinding(key.node.name) : undefined;
  const maker = binding?.kind === 'param' ? binding.scope.path : undefined;
  const followed =
    binding && maker && key.isIdentifier() ? followCalls(call, effect, fn, maker, key, event, context) : undefined;
  return followed ?? anyField(call, effect, event, context);
}

/** The field is known only when the form runs: the change stays where it is and can be one of any. */
function anyField(
  call: NodePath<t.CallExpression>,
  effect: NamedEffect,
  event: ReturnType<typeof eventNames>,
  context: HandlerContext,
): Followed {
  const facts = { type: undefined, name: undefined };
  const code = valueFor(effect.value.path, context.script.file, event, facts, 0, true);
  const choices = context.slots.map((field): Assignment => ({ field, value: { kind: 'value', code } }));
  const { uses, retired, unclear } = switched(call, effect, choices, context);
  return { uses: uses.map((use) => (use.kind === 'set-named' ? { ...use, any: true } : use)), retired, unclear };
}

function followControls(
  call: NodePath<t.CallExpression>,
  effect: NamedEffect,
  fn: FunctionPath,
  event: ReturnType<typeof eventNames>,
  by: 'name' | 'id',
  context: HandlerContext,
): Followed {
  const { script } = context;
  const holder = holderOfHandler(fn);
  const places = holder ? holder.references.filter((reference) => !isDependency(reference)) : [fn as NodePath];
  const controls = places.map((reference) => controlOf(reference, context.candidates));
  const named: { control: JsxControl; value: NodePath; field: string }[] = [];
  for (const [index, found] of controls.entries()) {
    const field = found ? nameBy(found.control, by) : undefined;
    if (!found || (field === undefined && (found.control.spread || attribute(found.control, by))))
      return anyField(call, effect, event, context);
    if (field === undefined)
      return unclearAt(places[index] ?? call, context, `this control has no ${by} that could name a field`);
    if (!context.slots.includes(field))
      return unclearAt(places[index] ?? call, context, `this control's ${by} does not name a field`);
    named.push({ ...found, field });
  }
  const valueOf = (entry: (typeof named)[number]): Code =>
    valueFor(effect.value.path, script.file, event, { type: controlType(entry.control), name: entry.field });
  // what changes other values along stays the one handler that it is
  const staysShared = effect.rest.length > 0 && call.parentPath.isExpressionStatement();
  if (
    !staysShared &&
    onlyMakes(fn, call) &&
    named.every(({ value }) => value.isIdentifier() || value.node === fn.node)
  ) {
    const uses = named.map((entry): Use => ({
      kind: 'made-handler',
      parameters: `(${event.parameter})`,
      assignments: [
        { field: entry.field, value: { kind: 'value', code: valueOf(entry) } },
        ...effect.rest.map((one) => withoutHandler(one, fn, event, entry, script)),
      ],
      where: 'event',
      span: spanOf(script.file, entry.value),
    }));
    return {
      uses,
      retired: holder && !named.some(({ value }) => value.node === fn.node) ? [holder.declaration] : [],
      unclear: [],
    };
  }
  const choices = unique(
    named.map((entry): Assignment => {
      const facts = { type: controlType(entry.control), name: entry.field };
      const code = valueFor(effect.value.path, script.file, event, facts, 0, true);
      return { field: entry.field, value: { kind: 'value', code } };
    }),
  );
  return switched(call, effect, choices, context);
}

/** A value that changes along with the named field, where the handler of it is not around. */
function withoutHandler(
  rest: Assignment,
  fn: FunctionPath,
  event: ReturnType<typeof eventNames>,
  { control, field }: { control: JsxControl; field: string },
  { file, text }: Script,
): Assignment {
  const { value } = rest;
  if (value.kind === 'initial') return rest;
  const facts = { type: controlType(control), name: field };
  const told = (code: Code): Code => {
    const place = expressionAt(fn, code);
    if (!place) return code;
    const keys = namedKeys(place, event, field).filter((key) => text[key.start] === '[' && text[key.end - 1] === ']');
    const isInKey = (hole: Hole): boolean => keys.some(({ start, end }) => hole.start >= start && hole.end <= end);
    const taken = [...code.holes.filter((hole) => !isInKey(hole)), ...keys];
    const others = handlerHoles(place, file, event, facts).filter(
      (hole) => !taken.some(({ start, end }) => hole.start >= start && hole.end <= end),
    );
    return { ...code, holes: [...taken, ...others].sort((one, other) => one.start - other.start) };
  };
  return {
    ...rest,
    value: value.kind === 'value' ? { ...value, code: told(value.code) } : { ...value, body: told(value.body) },
  };
}

function expressionAt(fn: FunctionPath, { start, end }: Code): NodePath | undefined {
  let place: NodePath | undefined;
  walk(fn, {
    Expression(path) {
      if (path.node.start !== start || path.node.end !== end) return;
      place = path;
      path.stop();
    },
  });
  return place;
}

/** The handler does more than this change: it stays, and a switch over the name takes the place of the dispatch. */
function switched(
  call: NodePath<t.CallExpression>,
  effect: NamedEffect,
  choices: Assignment[],
  context: HandlerContext,
): Followed {
  const use = namedUse(call, effect, choices, context);
  if (effect.rest.length && use.kind === 'set-named' && !use.statement)
    return unclearAt(
      call,
      context,
      'the action also changes other values, in a place where only an expression can stand',
    );
  return { uses: [use], retired: [], unclear: [] };
}

function unique(assignments: Assignment[]): Assignment[] {
  return assignments.filter((one, index) => assignments.findIndex((other) => other.field === one.field) === index);
}

function isDependency(reference: NodePath): boolean {
  return reference.parentPath?.isArrayExpression() === true && reference.parentPath.listKey === 'arguments';
}

function namedUse(
  call: NodePath<t.CallExpression>,
  effect: NamedEffect,
  choices: Assignment[],
  context: HandlerContext,
): Use {
  const { script } = context;
  const parent = call.parentPath;
  const typedBy = typeOfBoth(effect, script);
  return {
    kind: 'set-named',
    ...(typedBy === undefined ? {} : { typedBy }),
    key: effect.key.code,
    value: effect.value.code,
    spares: sparesOf(
      call,
      [effect.key.code, ...choices.map(({ value }) => (value.kind === 'value' ? value.code : effect.key.code))],
      script.file,
    ),
    choices,
    rest: effect.rest,
    statement: parent.isExpressionStatement() ? spanOf(script.file, parent) : undefined,
    arrowBody: parent.isArrowFunctionExpression() && call.key === 'body',
    where: context.where(call),
    span: spanOf(script.file, call),
  };
}

/** The type behind a key and its value, where the function that takes both says `<K extends keyof V>(name: K, value: V[K])`. */
function typeOfBoth({ key, value }: NamedEffect, script: Script): string | undefined {
  const typeOf = (path: NodePath): t.TSType | undefined => {
    const binding = path.isIdentifier() ? path.scope.getBinding(path.node.name) : undefined;
    const annotation =
      binding?.kind === 'param' && t.isIdentifier(binding.path.node) ? binding.path.node.typeAnnotation : undefined;
    return t.isTSTypeAnnotation(annotation) ? annotation.typeAnnotation : undefined;
  };
  const [keyType, valueType] = [typeOf(key.path), typeOf(value.path)];
  if (!t.isTSTypeReference(keyType) || !t.isIdentifier(keyType.typeName)) return undefined;
  if (!t.isTSIndexedAccessType(valueType)) return undefined;
  const { name } = keyType.typeName;
  const isKey = t.isTSTypeReference(valueType.indexType) && t.isIdentifier(valueType.indexType.typeName, { name });
  const { objectType } = valueType;
  return isKey ? script.text.slice(objectType.start ?? 0, objectType.end ?? 0) : undefined;
}

/** A function of the form that is called with the field's name: each call becomes the change itself. */
function followCalls(
  call: NodePath<t.CallExpression>,
  effect: NamedEffect,
  fn: FunctionPath,
  maker: NodePath,
  key: NodePath<t.Identifier>,
  event: ReturnType<typeof eventNames>,
  context: HandlerContext,
): Followed | undefined {
  const { script } = context;
  const outer = maker as FunctionPath;
  const curried = outer.node !== fn.node;
  const holder = holderOfHandler(outer);
  const position = outer.node.params.findIndex((parameter) => t.isIdentifier(parameter, { name: key.node.name }));
  if (!holder || position < 0 || (curried && functionOf(outer)?.node !== outer.node))
    return unclearAt(call, context, 'the function that makes this change could not be followed to its calls');
  // a helper that gives an object of attributes stays as it is
  if (curried && returnedFunction(outer)?.node !== fn.node) return undefined;
  const pure = onlyMakes(fn, call);
  const uses: Use[] = [];
  const choices: Assignment[] = [];
  for (const reference of holder.references.filter((one) => !isDependency(one))) {
    const use = reference.parentPath;
    if (!use?.isCallExpression() || reference.key !== 'callee') return undefined;
    const given = use.get('arguments')[position];
    if (!given?.isStringLiteral()) return undefined;
    if (!context.slots.includes(given.node.value)) return unclearAt(use, context, 'the form has no field of this name');
    const field = given.node.value;
    // `change('row')(value)`: the function that comes back is called at once
    const called = curried && use.parentPath.isCallExpression() && use.key === 'callee' ? use.parentPath : undefined;
    if (called && event.names.size && !t.isIdentifier(called.node.arguments[0], { name: event.parameter }))
      return unclearAt(called, context, 'the event that this change takes apart has another name here');
    const change = called ?? use;
    const holder2 = curried ? controlOf(use, context.candidates) : undefined;
    const facts = { type: holder2 ? controlType(holder2.control) : 'text', name: field };
    const value = valueFor(effect.value.path, script.file, event, facts);
    const holes = [
      ...value.holes,
      ...argumentHoles(outer, use, position, value, script),
      ...(called ? argumentHoles(fn, called, -1, value, script) : []),
    ];
    const ordered = holes.sort((a, b) => a.start - b.start);
    const code = wholeArgument({ ...value, holes: ordered });
    choices.push({ field, value: { kind: 'value', code: value } });
    const rest = effect.rest.map((one) => withArguments(one, outer, use, script));
    const assignments: Assignment[] = [{ field, value: { kind: 'value', code } }, ...rest];
    const parent = change.parentPath;
    if (curried && !called) {
      uses.push({
        kind: 'made-handler',
        parameters: `(${event.parameter})`,
        assignments,
        where: 'event',
        span: spanOf(script.file, use),
      });
    } else {
      uses.push({
        kind: 'set',
        assignments,
        resetsAll: false,
        statement: parent?.isExpressionStatement() ? spanOf(script.file, parent) : undefined,
        arrowBody: parent?.isArrowFunctionExpression() === true && change.key === 'body',
        fresh: false,
        repeats: false,
        called: undefined,
        where: context.where(change),
        span: spanOf(script.file, change),
      });
    }
  }
  if (pure) return { uses, retired: [holder.declaration], unclear: [] };
  return switched(call, effect, unique(choices), context);
}
