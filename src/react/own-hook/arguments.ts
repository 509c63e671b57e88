import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { editedStretch, type Edit } from '../../source/edits.js';
import { movedLines } from '../../source/moved-lines.js';
import { indentAt } from '../../source/style.js';
import { spanOf } from '../code.js';
import { functionAround } from '../components.js';
import { givenTypes } from './move-types.js';
import { leave, type Move } from './move.js';
import { walk } from '../../source/traverse.js';

/** What becomes of a hook's parameters. */
export interface GivenArguments {
  /** Constants of the component for arguments that are needed more than once. */
  lines: string[];
  /** The same for arguments that are the same at any time: they stand above the component. */
  above: string[];
  /** Statements that do nothing where an argument is not given. */
  gone: Set<t.Node>;
  /** Code of the hook that stays in any case. */
  kept: NodePath[];
}

interface Parameter {
  name: string;
  /** Where the hook's body speaks of it. */
  references: NodePath[];
  /** Its type as the hook writes it, the hook's own type parameters included. */
  type: string | undefined;
  /** The argument in the component; undefined where none is given. */
  argument: NodePath | undefined;
  /** What stands for it where none is given. */
  fallback: NodePath | undefined;
}

/**
 * Puts what the component hands over in the place of the hook's parameters.
 * @param edits of the component's file; arguments are written with those that lie in them
 */
export function argumentEdits(move: Move, edits: readonly Edit[]): GivenArguments | undefined {
  const { hook, site, context } = move;
  const given: GivenArguments = { lines: [], above: [], gone: new Set(), kept: [] };
  const parameters = parametersOf(move);
  if (!parameters) return undefined;
  const end = context.style.semicolon;
  for (const { name, argument, fallback, references, type } of parameters) {
    if (!references.length) continue;
    if (!argument && !fallback) {
      if (!withoutArgument(move, references, given)) return undefined;
      continue;
    }
    const source = argument ? site.script : hook.script;
    const node = (argument ?? fallback)?.node;
    const written = argument ? editedText(source.text, argument, edits) : textAt(source.text, node);
    const from = indentAt(source.text, node?.start ?? 0);
    const to = indentAt(site.script.text, hook.declaration.node.start ?? 0);
    const text = movedLines(written, (line) => (line.startsWith(from) ? to + line.slice(from.length) : line));
    const simple =
      t.isIdentifier(node) ||
      t.isStringLiteral(node) ||
      t.isNumericLiteral(node) ||
      t.isBooleanLiteral(node) ||
      (t.isMemberExpression(node) && !node.computed);
    const isFunction = argument ? isFunctionValue(argument) : false;
    let value = text;
    const isLater = references.some((one) => functionAround(one)?.node !== hook.fn.node);
    if (!simple && (references.length > 1 || isFunction || (isLater && !isLiteral(node)))) {
      value = site.component.path.scope.hasBinding(name) ? context.freeName(`${name}OfForm`, `form${name}`) : name;
      const typed = type === undefined || !site.script.typescript ? '' : `: ${withTypes(type, move)}`;
      const line = `const ${value}${typed} = ${text}${end}`;
      if (argument && isLiteral(argument.node)) given.above.push(line);
      else given.lines.push(line);
    }
    for (const reference of references) {
      const inner = /^\w+$/.test(value) ? reference.scope.getBinding(value) : undefined;
      if (inner && !inner.scope.path.isProgram() && inner.scope.path.node !== hook.fn.node) {
        leave(move, spanOf(hook.script.file, reference), name, `${value} means something else inside of the hook`);
        return undefined;
      }
      if (isFunction && simplified(move, reference, value)) continue;
      const short = t.isObjectProperty(reference.parent) && reference.parent.shorthand ? `${name}: ` : '';
      move.edits.push({ start: reference.node.start ?? 0, end: reference.node.end ?? 0, text: short + value });
    }
  }
  return given;
}

function textAt(text: string, node: t.Node | undefined): string {
  return text.slice(node?.start ?? 0, node?.end ?? 0);
}

/** An argument with the edits that lie in it; a method as an arrow function. */
function editedText(text: string, { node }: NodePath, edits: readonly Edit[]): string {
  const start = node.start ?? 0;
  const arrow: Edit[] = [];
  if (t.isObjectMethod(node)) {
    const open = text.indexOf('(', node.key.end ?? 0);
    arrow.push({ start, end: open, text: node.async ? 'async ' : '' });
    arrow.push({ start: node.body.start ?? 0, end: node.body.start ?? 0, text: '=> ' });
  }
  return editedStretch(text, start, node.end ?? 0, [...edits, ...arrow]);
}

function parametersOf(move: Move): Parameter[] | undefined {
  const { hook } = move;
  const found: Parameter[] = [];
  const refuse = (path: NodePath): undefined => {
    leave(
      move,
      spanOf(hook.script.file, path),
      'parameters of the hook',
      'they are taken in a way that is not followed',
    );
    return undefined;
  };
  const values = hook.call.get('arguments') as NodePath[];
  if (values.some((value) => value.isSpreadElement())) return refuse(hook.call);
  for (const [index, parameter] of (hook.fn.get('params') as NodePath[]).entries()) {
    const target = parameter.isAssignmentPattern() ? (parameter.get('left') as NodePath) : parameter;
    const fallback = parameter.isAssignmentPattern() ? (parameter.get('right') as NodePath) : undefined;
    const argument = values[index];
    const written = typeText(target.node, hook.script.text);
    if (target.isIdentifier()) {
      const binding = hook.fn.scope.getOwnBinding(target.node.name);
      if (binding && !binding.constant) return refuse(target);
      const references = binding?.referencePaths ?? [];
      const parts = argument?.isObjectExpression() ? partsOf(references, argument, written) : undefined;
      if (parts) found.push(...parts);
      else found.push({ name: target.node.name, argument, fallback, references, type: written });
      continue;
    }
    if (!target.isObjectPattern()) return refuse(target);
    const object = argument ?? fallback;
    if (!object?.isObjectExpression()) return refuse(target);
    const properties = new Map<string, NodePath>();
    for (const property of object.get('properties')) {
      const member = memberOf(property);
      if (!member) return refuse(property);
      properties.set(member.name, member.value);
    }
    for (const property of target.get('properties')) {
      if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) return refuse(property);
      const value = property.get('value') as NodePath;
      const inner = value.isAssignmentPattern() ? (value.get('left') as NodePath) : value;
      if (!inner.isIdentifier()) return refuse(property);
      const binding = hook.fn.scope.getOwnBinding(inner.node.name);
      if (binding && !binding.constant) return refuse(property);
      found.push({
        references: binding?.referencePaths ?? [],
        type: written === undefined ? undefined : `${written}['${property.node.key.name}']`,
        name: inner.node.name,
        argument: properties.get(property.node.key.name),
        fallback: value.isAssignmentPattern() ? (value.get('right') as NodePath) : undefined,
      });
    }
  }
  return found;
}

/** Whether an expression is the same at any time: literals, and objects and lists of them. */
function isLiteral(node: t.Node | null | undefined): boolean {
  if (t.isTemplateLiteral(node)) return node.expressions.length === 0;
  if (t.isLiteral(node)) return true;
  if (t.isArrayExpression(node)) return node.elements.every((one) => isLiteral(one));
  return (
    t.isObjectExpression(node) &&
    node.properties.every((one) => t.isObjectProperty(one) && !one.computed && isLiteral(one.value))
  );
}

function typeText(node: t.Node, text: string): string | undefined {
  const annotation = 'typeAnnotation' in node ? node.typeAnnotation : undefined;
  if (!t.isTSTypeAnnotation(annotation)) return undefined;
  const { typeAnnotation: type } = annotation;
  return text.slice(type.start ?? 0, type.end ?? 0);
}

/** A member of an object that is handed over; a method where it could be an arrow function as well. */
function memberOf(property: NodePath): { name: string; value: NodePath } | undefined {
  if (!property.isObjectProperty() && !property.isObjectMethod()) return undefined;
  const { key, computed } = property.node;
  if (computed || !t.isIdentifier(key)) return undefined;
  if (property.isObjectProperty()) return { name: key.name, value: property.get('value') as NodePath };
  const { kind, generator, typeParameters } = property.node;
  return kind === 'method' && !generator && !typeParameters && !asksItself(property)
    ? { name: key.name, value: property }
    : undefined;
}

/** Whether a method speaks of the object it stands in, or of its arguments as a list. */
function asksItself(method: NodePath): boolean {
  let found = false;
  walk(method, {
    FunctionDeclaration: (inner) => inner.skip(),
    FunctionExpression: (inner) => inner.skip(),
    ThisExpression() {
      found = true;
    },
    Super() {
      found = true;
    },
    Identifier({ node }) {
      if (node.name === 'arguments') found = true;
    },
  });
  return found;
}

/** The members of an object that is handed over, where the hook asks for nothing but its members. */
function partsOf(
  references: readonly NodePath[],
  argument: NodePath<t.ObjectExpression>,
  type: string | undefined,
): Parameter[] | undefined {
  const parts = new Map<string, Parameter>();
  const values = new Map<string, NodePath>();
  for (const property of argument.get('properties')) {
    const member = memberOf(property);
    if (!member) return undefined;
    values.set(member.name, member.value);
  }
  for (const reference of references) {
    const member = reference.parentPath;
    const asked = member?.isMemberExpression() && !member.node.computed ? member.node.property : undefined;
    if (!member || !t.isIdentifier(asked)) return undefined;
    const known = parts.get(asked.name) ?? {
      name: asked.name,
      argument: values.get(asked.name),
      fallback: undefined,
      references: [],
      type: type === undefined ? undefined : `${type}['${asked.name}']`,
    };
    known.references.push(member);
    parts.set(asked.name, known);
  }
  return [...parts.values()];
}

/** A type with the component's types in the place of the hook's type parameters. */
function withTypes(type: string, move: Move): string {
  let text = type;
  for (const [name, given] of givenTypes(move)) text = text.replace(new RegExp(`\\b${name}\\b`, 'g'), given);
  return text;
}

function isFunctionValue(path: NodePath): boolean {
  if (path.isFunction()) return true;
  if (!path.isIdentifier()) return false;
  const declared = path.scope.getBinding(path.node.name)?.path;
  if (declared?.isFunctionDeclaration()) return true;
  const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  return init?.node !== undefined && init.node !== null && init.isFunction();
}

/** Code that asks whether a function is given: it is. */
function simplified(move: Move, reference: NodePath, value: string): boolean {
  const { hook } = move;
  const parent = reference.parentPath;
  const text = (node: t.Node): string => hook.script.text.slice(node.start ?? 0, node.end ?? 0);
  const cut = (from: number, to: number): void => {
    move.edits.push({ start: from, end: to, text: '' });
  };
  if (parent?.isConditionalExpression() && reference.key === 'test') {
    cut(parent.node.start ?? 0, parent.node.consequent.start ?? 0);
    cut(parent.node.consequent.end ?? 0, parent.node.end ?? 0);
    return true;
  }
  if (parent?.isLogicalExpression({ operator: '&&' }) && reference.key === 'left') {
    cut(parent.node.start ?? 0, parent.node.right.start ?? 0);
    return true;
  }
  if (parent?.isOptionalCallExpression() && reference.key === 'callee') {
    const end = reference.node.end ?? 0;
    const open = hook.script.text.indexOf('(', end);
    move.edits.push({ start: reference.node.start ?? 0, end: open, text: value });
    return text(parent.node) !== '';
  }
  return false;
}

/** Code that asks for an argument which the component does not give. */
function withoutArgument(move: Move, references: readonly NodePath[], given: GivenArguments): boolean {
  for (const reference of references) {
    const parent = reference.parentPath;
    const statement = parent?.parentPath;
    if (parent?.isOptionalCallExpression() && statement?.isExpressionStatement()) {
      remove(move, statement, given);
      continue;
    }
    if (parent?.isConditionalExpression() && reference.key === 'test') {
      move.edits.push({ start: parent.node.start ?? 0, end: parent.node.alternate.start ?? 0, text: '' });
      move.edits = move.edits.filter(
        (edit) =>
          edit.text === '' ||
          !(edit.start >= (parent.node.start ?? 0) && edit.end <= (parent.node.alternate.start ?? 0)),
      );
      // the call of it in the branch that goes is no place of its own
      continue;
    }
    if (parent?.isIfStatement() && reference.key === 'test' && !parent.node.alternate) {
      remove(move, parent, given);
      continue;
    }
    const inGone = reference.findParent(
      (outer) =>
        given.gone.has(outer.node) ||
        (outer.parentPath?.isConditionalExpression() === true &&
          outer.key === 'consequent' &&
          references.some((other) => other.parent === outer.parent && other.key === 'test')),
    );
    if (inGone) continue;
    leave(
      move,
      spanOf(move.hook.script.file, reference),
      move.hook.script.text.slice(reference.node.start ?? 0, reference.node.end ?? 0),
      'the component does not hand it over, and the hook asks for it here',
    );
    return false;
  }
  return true;
}

function remove(move: Move, statement: NodePath, given: GivenArguments): void {
  given.gone.add(statement.node);
  const { text } = move.hook.script;
  let start = statement.node.start ?? 0;
  let end = statement.node.end ?? 0;
  while (/[ \t]/.test(text[start - 1] ?? '')) start--;
  while (/[ \t\r]/.test(text[end] ?? '')) end++;
  if (text[end] === '\n') end++;
  move.edits.push({ start, end, text: '' });
  const caught = caughtOnlyIn(statement);
  if (caught) move.edits.push({ ...caught, text: '' });
}

/** What a `catch` takes, with its parentheses, where nothing but a statement of it looks at that. */
function caughtOnlyIn(statement: NodePath): { start: number; end: number } | undefined {
  const clause = statement.parentPath?.parentPath;
  if (!clause?.isCatchClause() || !t.isIdentifier(clause.node.param)) return undefined;
  const references = clause.scope.getBinding(clause.node.param.name)?.referencePaths ?? [];
  return references.every((one) => one.isDescendant(statement))
    ? { start: (clause.node.start ?? 0) + 'catch'.length, end: (clause.node.body.start ?? 0) - 1 }
    : undefined;
}
