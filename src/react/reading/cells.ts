import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormModel } from '../../form/model.js';
import type { NewValue } from '../../form/uses.js';
import { bare, returnedValue, type Placed } from '../../source/behind-names.js';
import type { Cell, Telling } from '../../course/cell.js';
import { isReactHook } from '../hook-calls.js';
import { through, type NameTrail } from './names.js';
import { walk } from '../../source/traverse.js';

/** The state of a component and its hooks that holds no field. */
export function cellsOf(places: readonly Placed[], model: FormModel): Cell[] {
  const fields = new Set(
    model.fields.filter(({ role }) => role === 'field').map(({ names, name }) => names.value ?? name),
  );
  const held = new Set(model.holder ? [model.holder.name] : []);
  const found: Cell[] = [];
  for (const at of places) {
    const { path, script } = at;
    walk(path, {
      VariableDeclarator(declarator) {
        const call = declarator.get('init') as NodePath;
        const { id } = declarator.node;
        if (!call.node || !call.isCallExpression()) return;
        const [start] = call.get('arguments') as (NodePath | undefined)[];
        const type = call.node.typeParameters?.params[0];
        const keeps = isReactHook(call, 'useState') || (isReactHook(call, 'useReducer') && model.uses.length === 0);
        if (t.isArrayPattern(id) && keeps) {
          const [value, setter] = id.elements;
          if (!t.isIdentifier(value) || fields.has(value.name)) return;
          if (held.has(value.name) && model.uses.length > 0) return;
          const { scope } = declarator;
          found.push({
            name: value.name,
            start,
            type,
            at: { path: declarator, script },
            value: scope.getBinding(value.name),
            setter: t.isIdentifier(setter) ? scope.getBinding(setter.name) : undefined,
            kind: 'variable',
          });
        }
        if (
          t.isIdentifier(id) &&
          isReactHook(call, 'useRef') &&
          start &&
          /^(Boolean|Null|Numeric|String|Object)/.test(start.type)
        )
          found.push({
            name: id.name,
            start,
            type,
            at: { path: declarator, script },
            value: declarator.scope.getBinding(id.name),
            setter: undefined,
            kind: 'ref',
          });
      },
    });
  }
  return [...found, ...memberCells(places, model)];
}

/** Members of a class's state, or of the object that holds the values, which are no fields. */
function memberCells(places: readonly Placed[], model: FormModel): Cell[] {
  const [component] = places;
  if (!component) return [];
  const status = model.fields.filter(({ role }) => role === 'status').map(({ name }) => name);
  const beside = model.approach === 'class-state' ? model.others.map(({ name }) => name) : [];
  return [...new Set([...status, ...beside])].map((name) => ({
    name,
    start: undefined,
    type: undefined,
    begins: model.fields.find((field) => field.name === name)?.initial.text.trim(),
    at: component,
    value: undefined,
    setter: undefined,
    kind: 'member',
  }));
}

/** The cell that an expression asks, through hooks of the project. */
export function cellAsked(at: Placed, cells: readonly Cell[], trail: NameTrail): Cell | undefined {
  const { path } = through(at, trail);
  if (path.isIdentifier()) {
    const binding = path.scope.getBinding(path.node.name);
    const own = binding && cells.find((cell) => cell.value === binding);
    if (own) return own;
    const declared = binding?.path;
    const from = declared?.isVariableDeclarator() && t.isObjectPattern(declared.node.id) ? declared.node : undefined;
    const key = from ? patternKey(from.id as t.ObjectPattern, path.node.name) : undefined;
    if (key !== undefined && from?.init && isState(from.init))
      return cells.find((cell) => cell.kind === 'member' && cell.name === key);
    return undefined;
  }
  if (!path.isMemberExpression() && !path.isOptionalMemberExpression()) return undefined;
  const { object, property, computed } = path.node;
  if (computed || !t.isIdentifier(property)) return undefined;
  if (property.name === 'current') {
    const ref = t.isIdentifier(object) ? path.scope.getBinding(object.name) : undefined;
    return ref ? cells.find((cell) => cell.kind === 'ref' && cell.value === ref) : undefined;
  }
  const member = cells.find((cell) => cell.kind === 'member' && cell.name === property.name);
  return member && (isState(object) || t.isIdentifier(object)) ? member : undefined;
}

function isState(node: t.Node): boolean {
  return (
    (t.isMemberExpression(node) &&
      t.isThisExpression(node.object) &&
      t.isIdentifier(node.property, { name: 'state' })) ||
    t.isIdentifier(node)
  );
}

function patternKey(pattern: t.ObjectPattern, name: string): string | undefined {
  for (const one of pattern.properties)
    if (t.isObjectProperty(one) && t.isIdentifier(one.key) && t.isIdentifier(one.value, { name })) return one.key.name;
  return undefined;
}

/** What a call or an assignment tells of cells. */
export function tellings(at: Placed, cells: readonly Cell[], model: FormModel, trail: NameTrail): Telling[] {
  const { path, script } = at;
  if (path.isAssignmentExpression()) {
    const left = path.get('left') as NodePath;
    const cell = left.isMemberExpression() ? cellAsked({ path: left, script }, cells, trail) : undefined;
    return cell ? [{ cell, value: bare(path.get('right')), at }] : [];
  }
  if (!path.isCallExpression()) return [];
  const callee = through({ path: path.get('callee') as NodePath, script }, trail).path;
  const [first] = path.get('arguments') as (NodePath | undefined)[];
  if (callee.isIdentifier()) {
    const binding = callee.scope.getBinding(callee.node.name);
    const cell = binding && cells.find((one) => one.setter === binding);
    if (cell) return [{ cell, value: first ? given(first) : undefined, at }];
  }
  const isSetState =
    callee.isMemberExpression() &&
    t.isThisExpression(callee.node.object) &&
    t.isIdentifier(callee.node.property, { name: 'setState' });
  const setsHeld = fromUses(at, cells, model);
  const object = (isSetState || setsHeld.length) && first ? given(first) : undefined;
  const written = object?.isObjectExpression() ? memberTellings(object, cells, at) : [];
  return written.length || isSetState ? written : setsHeld;
}

/** What an object that is put into state tells of cells. */
function memberTellings(object: NodePath<t.ObjectExpression>, cells: readonly Cell[], at: Placed): Telling[] {
  return object.get('properties').flatMap((property): Telling[] => {
    if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) return [];
    const { name } = property.node.key;
    const cell = cells.find((one) => one.kind === 'member' && one.name === name);
    return cell ? [{ cell, value: bare(property.get('value') as NodePath), at }] : [];
  });
}

/** Status that stands beside the values: what the uses of the model say of it. */
function fromUses(at: Placed, cells: readonly Cell[], model: FormModel): Telling[] {
  const { start, end } = at.path.node;
  const use = model.uses.find(
    ({ kind, span }) =>
      (kind === 'set' || kind === 'set-all') &&
      span.file === at.script.file &&
      span.start >= (start ?? 0) &&
      span.end <= (end ?? 0),
  );
  if (use?.kind !== 'set') return [];
  return use.assignments.flatMap(({ field, value }): Telling[] => {
    const cell = cells.find((one) => one.kind === 'member' && one.name === field);
    return cell ? [{ cell, value: undefined, text: textOf(value, field, at, model), at }] : [];
  });
}

function textOf(value: NewValue, field: string, at: Placed, model: FormModel): string | undefined {
  if (value.kind === 'initial') return model.fields.find(({ name }) => name === field)?.initial.text;
  const code = value.kind === 'value' ? value.code : value.block ? undefined : value.body;
  return code?.file === at.script.file ? at.script.text.slice(code.start, code.end) : undefined;
}

/** The value that a setter is given: an updater stands for what it returns. */
function given(path: NodePath): NodePath {
  const plain = bare(path);
  return plain.isArrowFunctionExpression() ? (returnedValue(plain) ?? plain) : plain;
}
