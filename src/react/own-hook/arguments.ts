import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOf } from '../code.js';
import { leave, type Move } from './inline.js';

/** What becomes of a hook's parameters. */
export interface GivenArguments {
  /** Constants of the component for arguments that are needed more than once. */
  lines: string[];
  /** Statements that do nothing where an argument is not given. */
  gone: Set<t.Node>;
  /** Code of the hook that stays in any case. */
  kept: NodePath[];
}

interface Parameter {
  name: string;
  /** The argument in the component; undefined where none is given. */
  argument: NodePath | undefined;
  /** What stands for it where none is given. */
  fallback: NodePath | undefined;
}

/** Puts what the component hands over in the place of the hook's parameters. */
export function argumentEdits(move: Move): GivenArguments | undefined {
  const { hook, site, context } = move;
  const given: GivenArguments = { lines: [], gone: new Set(), kept: [] };
  const parameters = parametersOf(move);
  if (!parameters) return undefined;
  const end = context.style.semicolon;
  for (const { name, argument, fallback } of parameters) {
    const binding = hook.fn.scope.getOwnBinding(name);
    const references = binding?.referencePaths ?? [];
    if (!references.length) continue;
    if (binding && !binding.constant) {
      leave(move, spanOf(hook.script.file, binding.path), name, 'a parameter of the hook is assigned anew');
      return undefined;
    }
    if (!argument && !fallback) {
      if (!withoutArgument(move, references, given)) return undefined;
      continue;
    }
    const source = argument ? site.script : hook.script;
    const node = (argument ?? fallback)?.node;
    const text = source.text.slice(node?.start ?? 0, node?.end ?? 0);
    const simple =
      t.isIdentifier(node) ||
      t.isStringLiteral(node) ||
      t.isNumericLiteral(node) ||
      t.isBooleanLiteral(node) ||
      (t.isMemberExpression(node) && !node.computed);
    const isFunction = argument ? isFunctionValue(argument) : false;
    let value = text;
    if (!simple && (references.length > 1 || isFunction)) {
      value = site.component.path.scope.hasBinding(name) ? context.freeName(`${name}OfForm`, `form${name}`) : name;
      given.lines.push(`const ${value} = ${text}${end}`);
    }
    for (const reference of references) {
      if (/^\w+$/.test(value) && reference.scope.getBinding(value) && reference.scope.getBinding(value) !== binding) {
        const inner = reference.scope.getBinding(value);
        if (inner && !inner.scope.path.isProgram()) {
          leave(move, spanOf(hook.script.file, reference), name, `${value} means something else inside of the hook`);
          return undefined;
        }
      }
      if (isFunction && simplified(move, reference, value)) continue;
      const short = t.isObjectProperty(reference.parent) && reference.parent.shorthand ? `${name}: ` : '';
      move.edits.push({ start: reference.node.start ?? 0, end: reference.node.end ?? 0, text: short + value });
    }
  }
  return given;
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
    if (target.isIdentifier()) {
      found.push({ name: target.node.name, argument, fallback });
      continue;
    }
    if (!target.isObjectPattern()) return refuse(target);
    const object = argument ?? fallback;
    if (!object?.isObjectExpression()) return refuse(target);
    const properties = new Map<string, NodePath>();
    for (const property of object.get('properties')) {
      if (property.isObjectProperty() && t.isIdentifier(property.node.key) && !property.node.computed)
        properties.set(property.node.key.name, property.get('value') as NodePath);
      else return refuse(property);
    }
    for (const property of target.get('properties')) {
      if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) return refuse(property);
      const value = property.get('value') as NodePath;
      const inner = value.isAssignmentPattern() ? (value.get('left') as NodePath) : value;
      if (!inner.isIdentifier()) return refuse(property);
      found.push({
        name: inner.node.name,
        argument: properties.get(property.node.key.name),
        fallback: value.isAssignmentPattern() ? (value.get('right') as NodePath) : undefined,
      });
    }
  }
  return found;
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
      String((reference.node as t.Identifier).name),
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
}
