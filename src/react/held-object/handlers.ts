import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment, Code, Hole, Span, Unclear, Use } from '../../form/model.js';
import type { Script } from '../../source/script.js';
import { plainCode, shorthandKey, spanOf } from '../code.js';
import { functionAround, functionOf, type FunctionPath } from '../components.js';
import { attribute, type JsxControl } from '../jsx-controls.js';
import type { Effect } from './effects.js';

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

/** Names that a handler takes out of its event: local name to what it stands for. */
function eventNames(fn: FunctionPath): { parameter: string; names: Map<string, string> } {
  const names = new Map<string, string>();
  const first = fn.node.params[0];
  const parameter = t.isIdentifier(first) ? first.name : 'e';
  const take = (pattern: t.Node, base: string): void => {
    if (t.isIdentifier(pattern)) names.set(pattern.name, base);
    if (t.isAssignmentPattern(pattern)) take(pattern.left, base);
    if (!t.isObjectPattern(pattern)) return;
    for (const property of pattern.properties) {
      if (t.isObjectProperty(property) && t.isIdentifier(property.key))
        take(property.value, `${base}.${property.key.name}`);
    }
  };
  if (t.isObjectPattern(first)) take(first, 'e');
  const body = fn.get('body') as NodePath;
  if (body.isBlockStatement()) {
    for (const statement of body.node.body) {
      if (!t.isVariableDeclaration(statement)) continue;
      for (const { id, init } of statement.declarations) {
        const base = memberText(init, parameter, names);
        if (base !== undefined && (t.isObjectPattern(id) || /\.(target|currentTarget)(\.\w+)?$/.test(base)))
          take(id, base);
      }
    }
  }
  return { parameter, names };
}

/** `e.target` as text, where an expression is nothing but members of the event. */
function memberText(
  node: t.Node | null | undefined,
  parameter: string,
  names: ReadonlyMap<string, string>,
): string | undefined {
  if (t.isIdentifier(node)) return node.name === parameter ? parameter : names.get(node.name);
  if (t.isTSAsExpression(node)) return memberText(node.expression, parameter, names);
  if (!t.isMemberExpression(node) || node.computed || !t.isIdentifier(node.property)) return undefined;
  const base = memberText(node.object, parameter, names);
  return base === undefined ? undefined : `${base}.${node.property.name}`;
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

function controlType(control: JsxControl): string {
  if (control.tag === 'select') return attribute(control, 'multiple') ? 'select-multiple' : 'select-one';
  if (control.tag === 'textarea') return 'textarea';
  return control.type ?? 'text';
}

/** What is known of the control that calls a handler. */
interface ControlFacts {
  type: string | undefined;
  name: string | undefined;
}

/** The value a handler gives when one particular control calls it: choices by the control's type or name are made. */
function valueFor(
  path: NodePath,
  file: string,
  event: { parameter: string; names: Map<string, string> },
  facts: ControlFacts,
  depth = 0,
  keepsLocals = false,
): Code {
  const known = (node: t.Node): string | undefined => {
    const text = memberText(node, event.parameter, event.names);
    if (text === undefined) return undefined;
    if (text.endsWith('.type')) return facts.type;
    return text.endsWith('.name') || text.endsWith('.id') ? facts.name : undefined;
  };
  const decided = (test: t.Node): boolean | undefined => {
    if (!t.isBinaryExpression(test) || !/^[=!]==?$/.test(test.operator)) return undefined;
    const [a, b] = t.isStringLiteral(test.right)
      ? [known(test.left), test.right.value]
      : [known(test.right), t.isStringLiteral(test.left) ? test.left.value : undefined];
    if (a === undefined || b === undefined) return undefined;
    return test.operator.startsWith('=') === (a === b);
  };
  if (path.isConditionalExpression()) {
    const answer = decided(path.node.test);
    if (answer !== undefined)
      return valueFor(
        path.get(answer ? 'consequent' : 'alternate') as NodePath,
        file,
        event,
        facts,
        depth,
        keepsLocals,
      );
  }
  const changed = path.isIdentifier() ? assignedValue(path, decided) : undefined;
  if (changed && depth < 4) return valueFor(changed, file, event, facts, depth + 1, keepsLocals);
  const own = path.isIdentifier() ? constantBehind(path, event.names) : undefined;
  if (own && depth < 4 && !(keepsLocals && !decides(own)))
    return valueFor(own, file, event, facts, depth + 1, keepsLocals);
  if (keepsLocals) return plainCode(file, path);
  const holes: Hole[] = [];
  const visit = (inner: NodePath): void => {
    if (!inner.isIdentifier() || !inner.isReferencedIdentifier()) return;
    const shorthand = inner.node === path.node ? undefined : shorthandKey(inner);
    const place = {
      start: inner.node.start ?? 0,
      end: inner.node.end ?? 0,
      ...(shorthand === undefined ? {} : { shorthand }),
    };
    const text = event.names.get(inner.node.name);
    if (text !== undefined && isEventName(inner, event)) {
      holes.push({ kind: 'text', ...place, text });
      return;
    }
    const constant = constantBehind(inner, event.names);
    if (constant && depth < 4) {
      const code = valueFor(constant, file, event, facts, depth + 1);
      holes.push({ kind: 'given', ...place, code, suffix: '', wrap: !inner.parentPath.isCallExpression() });
    }
  };
  visit(path);
  path.traverse({ Identifier: visit });
  return { ...plainCode(file, path), holes };
}

/**
 * What a variable holds that is given one value and, under conditions on the control, others:
 * `let next = value; if (type === 'number') next = Number(value);`
 */
function assignedValue(
  path: NodePath<t.Identifier>,
  decided: (test: t.Node) => boolean | undefined,
): NodePath | undefined {
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (!binding || binding.constant || !declared?.isVariableDeclarator() || !declared.node.init) return undefined;
  let value = declared.get('init') as NodePath;
  for (const change of binding.constantViolations) {
    const statement = change.parentPath;
    if (!change.isAssignmentExpression({ operator: '=' }) || !statement?.isExpressionStatement()) return undefined;
    let reached: boolean | undefined = true;
    for (let at: NodePath = statement; at.parentPath && !at.parentPath.isFunction(); at = at.parentPath) {
      const outer: NodePath = at.parentPath;
      if (outer.isIfStatement()) {
        const answer = decided(outer.node.test);
        if (answer === undefined) return undefined;
        if (answer !== (at.key === 'consequent')) reached = false;
      } else if (!outer.isBlockStatement()) return undefined;
    }
    if (reached) value = change.get('right');
  }
  return value;
}

/** The variables that a condition does nothing but assign; undefined where it does more. */
function onlyAssigns(statement: NodePath<t.IfStatement>): string[] | undefined {
  const names: string[] = [];
  const visit = (path: NodePath): boolean => {
    if (!path.node) return true;
    if (path.isBlockStatement()) return path.get('body').every(visit);
    if (path.isIfStatement()) return visit(path.get('consequent')) && visit(path.get('alternate') as NodePath);
    const { expression } = path.isExpressionStatement() ? path.node : { expression: undefined };
    if (!t.isAssignmentExpression(expression) || !t.isIdentifier(expression.left)) return false;
    names.push(expression.left.name);
    return true;
  };
  return visit(statement) ? names : undefined;
}

/** Whether an expression chooses between values, so that one of them can be told for a control. */
function decides(path: NodePath): boolean {
  return path.isConditionalExpression();
}

function isEventName(path: NodePath<t.Identifier>, event: { names: Map<string, string> }): boolean {
  const binding = path.scope.getBinding(path.node.name);
  return binding !== undefined && !binding.scope.path.isProgram() && event.names.has(path.node.name);
}

/** The initial value of a constant that a handler declares for itself. */
function constantBehind(path: NodePath<t.Identifier>, names: ReadonlyMap<string, string>): NodePath | undefined {
  if (names.has(path.node.name)) return undefined;
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (
    !binding?.constant ||
    !declared?.isVariableDeclarator() ||
    !t.isIdentifier(declared.node.id) ||
    !declared.node.init
  )
    return undefined;
  const around = functionAround(declared);
  const here = functionAround(path);
  // a constant of the handler is also known to the updater that it hands over
  const outer = here?.parentPath.isCallExpression() && here.listKey === 'arguments' ? functionAround(here) : undefined;
  return around &&
    here &&
    (around.node === here.node || around.node === outer?.node) &&
    around.parentPath.isProgram() === false &&
    declared.parentPath.parentPath?.parentPath?.isFunction()
    ? (declared.get('init') as NodePath)
    : undefined;
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
  const value = container.get('expression') as NodePath;
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
  if (onlyMakes(fn, call) && named.every(({ value }) => value.isIdentifier() || value.node === fn.node)) {
    const uses = named.map((entry): Use => ({
      kind: 'made-handler',
      parameters: `(${event.parameter})`,
      assignments: [{ field: entry.field, value: { kind: 'value', code: valueOf(entry) } }, ...effect.rest],
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

/** Names that a handler declares for a change alone, and that the values of single fields do not need. */
function sparesOf(call: NodePath, needed: readonly Code[], file: string): Span[] {
  const fn = functionAround(call);
  if (!fn) return [];
  const inside = (node: t.Node, span: { start: number; end: number }): boolean =>
    (node.start ?? 0) >= span.start && (node.end ?? 0) <= span.end;
  const whole = { start: call.node.start ?? 0, end: call.node.end ?? 0 };
  const spares: Span[] = [];
  // what a hole stands for is printed from elsewhere
  const isNeeded = (node: t.Node): boolean =>
    needed.some((code) => inside(node, code) && !code.holes.some((hole) => inside(node, hole)));
  const isSpare = (name: string): boolean => {
    const binding = fn.scope.getOwnBinding(name) ?? call.scope.getBinding(name);
    return (
      binding !== undefined &&
      binding.references > 0 &&
      binding.referencePaths.every(
        ({ node }) => !isNeeded(node) && (inside(node, whole) || spares.some((span) => inside(node, span))),
      )
    );
  };
  const body = fn.get('body') as NodePath;
  const statements = body.isBlockStatement() ? body.get('body') : [];
  for (const statement of [...statements].reverse()) {
    if (statement.isIfStatement()) {
      const assigned = onlyAssigns(statement);
      if (assigned?.length && assigned.every(isSpare)) spares.push(spanOf(file, statement));
      continue;
    }
    if (!statement.isVariableDeclaration() || statement.node.declarations.length !== 1) continue;
    const [declarator] = statement.node.declarations;
    const names = Object.keys(t.getBindingIdentifiers(statement.node));
    if (names.every(isSpare)) spares.push(spanOf(file, statement));
    else if (t.isObjectPattern(declarator?.id)) {
      const { properties } = declarator.id;
      const isGone = (index: number): boolean => {
        const property = properties[index];
        return t.isObjectProperty(property) && t.isIdentifier(property.value) && isSpare(property.value.name);
      };
      for (let first = 0; first < properties.length; first++) {
        if (!isGone(first)) continue;
        let last = first;
        while (isGone(last + 1)) last++;
        const next = properties[last + 1];
        spares.push({
          file,
          start: next ? (properties[first]?.start ?? 0) : (properties[first - 1]?.end ?? properties[first]?.start ?? 0),
          end: next ? (next.start ?? 0) : (properties[last]?.end ?? 0),
        });
        first = last;
      }
    }
  }
  return spares;
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
  return {
    kind: 'set-named',
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
      ...argumentHoles(outer, use, position, effect.value.path, script),
      ...(called ? argumentHoles(fn, called, -1, effect.value.path, script) : []),
    ];
    const ordered = holes.sort((a, b) => a.start - b.start);
    const code = wholeArgument({ ...value, holes: ordered });
    choices.push({ field, value: { kind: 'value', code: value } });
    const assignments: Assignment[] = [{ field, value: { kind: 'value', code } }, ...effect.rest];
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

/** A value that is nothing but one argument is that argument's own code. */
function wholeArgument(code: Code): Code {
  const only = code.holes.length === 1 ? code.holes[0] : undefined;
  return only?.kind === 'given' && only.start === code.start && only.end === code.end && only.suffix === ''
    ? only.code
    : code;
}

/** The other arguments of a call, in the places of the parameters they are given for. */
function argumentHoles(
  outer: FunctionPath,
  call: NodePath<t.CallExpression>,
  position: number,
  value: NodePath,
  script: Script,
): Hole[] {
  const holes: Hole[] = [];
  for (const [index, parameter] of outer.node.params.entries()) {
    if (index === position || !t.isIdentifier(parameter)) continue;
    const given = call.get('arguments')[index];
    for (const reference of outer.scope.getBinding(parameter.name)?.referencePaths ?? []) {
      const start = reference.node.start ?? 0;
      if (start < (value.node.start ?? 0) || start >= (value.node.end ?? 0)) continue;
      const shorthand = reference.node === value.node ? undefined : shorthandKey(reference);
      const place = { start, end: reference.node.end ?? 0, ...(shorthand === undefined ? {} : { shorthand }) };
      if (given)
        holes.push({
          kind: 'given',
          ...place,
          code: plainCode(script.file, given),
          suffix: '',
          wrap:
            !given.isIdentifier() && !given.isMemberExpression() && !given.isLiteral() && reference.node !== value.node,
        });
      else holes.push({ kind: 'text', ...place, text: 'undefined' });
    }
  }
  return holes;
}
