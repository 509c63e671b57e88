import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field, Initial, Unclear } from '../../form/model.js';
import { expressionTypes, type ExpressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import { plainCode, spanOf } from '../code.js';
import { functionOf, type FunctionPath } from '../components.js';
import { kindOf, kindOfType } from '../form-parts.js';
import { referencesTo } from '../state-variables.js';
import type { FieldVariables, Variable } from './variables.js';
import { walk } from '../../source/traverse.js';

/** Types of expressions, with the types of the form's own variables known. */
export function typesWith(script: Script, found: FieldVariables): ExpressionTypes {
  const plain = expressionTypes(script);
  const typeOfVariable = new Map<unknown, string | undefined>();
  for (const { state } of [...found.fields, ...found.others.map(({ variable }) => variable)]) {
    if (!state.value) continue;
    typeOfVariable.set(
      state.call.scope.getBinding(state.value.node.name),
      writtenType(state.call, script) ?? initialType(state.call, plain),
    );
  }
  return expressionTypes(script, (binding) => typeOfVariable.get(binding));
}

function writtenType(call: NodePath<t.CallExpression>, script: Script): string | undefined {
  const argument = call.node.typeParameters?.params[0];
  if (!argument) return undefined;
  const text = script.text.slice(argument.start ?? 0, argument.end ?? 0);
  return call.node.arguments.length || /\|\s*undefined$/.test(text) ? text : `${text} | undefined`;
}

function initialType(call: NodePath<t.CallExpression>, types: ExpressionTypes): string | undefined {
  const argument = call.get('arguments')[0];
  if (!argument) return undefined;
  const lazy = functionOf(argument);
  if (!lazy) return types.typeOf(argument);
  const returned = lazy.node.returnType;
  if (t.isTSTypeAnnotation(returned)) return undefined;
  if (argument.isIdentifier() && argument.scope.getBinding(argument.node.name)?.scope.path.isProgram()) {
    return `ReturnType<typeof ${argument.node.name}>`;
  }
  const body = lazy.get('body') as NodePath;
  if (!body.isBlockStatement()) return types.typeOf(body);
  const last = body.get('body').at(-1);
  return last?.isReturnStatement() && last.node.argument ? types.typeOf(last.get('argument') as NodePath) : undefined;
}

/** Whether an initial value is the same at every time and in every instance: literals, and objects and lists of them. */
function isConstant(node: t.Node | undefined): boolean {
  if (node === undefined) return true;
  if (t.isStringLiteral(node) || t.isNumericLiteral(node) || t.isBooleanLiteral(node) || t.isNullLiteral(node))
    return true;
  if (t.isIdentifier(node, { name: 'undefined' })) return true;
  if (t.isTemplateLiteral(node)) return node.expressions.length === 0;
  if (t.isUnaryExpression(node)) return isConstant(node.argument);
  if (t.isTSAsExpression(node) || t.isTSSatisfiesExpression(node)) return isConstant(node.expression);
  if (t.isArrayExpression(node)) return node.elements.every((element) => element !== null && isConstant(element));
  if (t.isObjectExpression(node)) {
    return node.properties.every(
      (property) => t.isObjectProperty(property) && !property.computed && isConstant(property.value),
    );
  }
  return false;
}

/** Whether an expression only names constants of the module that stand above the component. */
function isModuleConstant(path: NodePath, component: FunctionPath): boolean {
  let root = path;
  while (root.isMemberExpression() && !root.node.computed) root = root.get('object');
  if (!root.isIdentifier()) return false;
  const binding = root.scope.getBinding(root.node.name);
  if (!binding?.scope.path.isProgram() || !binding.constant) return false;
  if (binding.kind === 'module') return true;
  return binding.kind === 'const' && (binding.identifier.start ?? 0) < (component.node.start ?? 0);
}

function initialOf(variable: Variable, found: FieldVariables, script: Script, unclear: Unclear[]): Initial {
  const argument = variable.state.call.get('arguments')[0];
  if (!argument) return { code: undefined, text: 'undefined', when: 'constant' };
  const code = plainCode(script.file, argument);
  const text = script.text.slice(code.start, code.end);
  const lazy = argument.isFunction() || (argument.isIdentifier() && functionOf(argument) !== undefined);
  for (const other of found.fields) {
    if (!other.state.value || other === variable) continue;
    const inside = referencesTo(other.state.value).some(
      (path) => (path.node.start ?? 0) >= code.start && (path.node.end ?? 0) <= code.end,
    );
    if (inside) {
      unclear.push({
        span: code,
        what: text,
        why: `the initial value of ${variable.name} is taken from ${other.name}, another field`,
      });
    }
  }
  const needs = capturedNeeds(argument, found);
  if (lazy) return { code, text, when: 'once', callable: true, ...needs };
  const constant = isConstant(argument.node) || isModuleConstant(argument, found.component);
  return { code, text, when: constant ? 'constant' : 'each-render', ...needs };
}

/** The last declaration of the component that an expression refers to. */
function capturedNeeds(path: NodePath, found: FieldVariables): Pick<Initial, 'needsFrom'> {
  let last = -1;
  const visit = (inner: NodePath): void => {
    const binding =
      inner.isIdentifier() && inner.isReferencedIdentifier() ? inner.scope.getBinding(inner.node.name) : undefined;
    if (binding?.scope.path.node === found.component.node && binding.kind !== 'param')
      last = Math.max(last, binding.identifier.start ?? 0);
  };
  visit(path);
  walk(path, { Identifier: visit });
  return last < 0 ? {} : { needsFrom: last };
}

/** A state variable as a field: its kind, type and initial value. */
export function fieldOf(
  variable: Variable,
  found: FieldVariables,
  types: ExpressionTypes,
  script: Script,
  unclear: Unclear[],
): Field {
  const { state, name } = variable;
  const written = writtenType(state.call, script);
  const type = written ?? initialType(state.call, types);
  const controls = found.bound.filter(({ field }) => field === name);
  const control = controls[0]?.control;
  const rows = found.bound.some(({ field }) => field.startsWith(`${name}[]`));
  const argument = state.call.get('arguments')[0];
  const initial = initialOf(variable, found, script, unclear);
  const generic = found.component.node.typeParameters;
  if (written !== undefined && generic && t.isTSTypeParameterDeclaration(generic)) {
    const parameter = generic.params.find((candidate) => new RegExp(`\\b${String(candidate.name)}\\b`).test(written));
    if (parameter)
      unclear.push({
        span: spanOf(script.file, state.call),
        what: written,
        why: `its type speaks of ${String(parameter.name)}, a type parameter of the component`,
      });
  }
  return {
    name,
    kind:
      rows && !/^(?:string|number|boolean)$/.test(type ?? '')
        ? 'list of rows'
        : control
          ? kindOf(control, type)
          : kindOfType(type),
    role: 'field',
    type,
    typeWritten: written !== undefined,
    initial,
    ...commentsOf(variable, script),
    names: { value: name, ...(state.change ? { setter: state.change.node.name } : {}) },
    declared: argument ? spanOf(script.file, state.declarator) : spanOf(script.file, state.declarator),
  };
}

/** Comments on lines of their own directly above a declaration, and behind it on its last line. */
function commentsOf({ state }: Variable, script: Script): Pick<Field, 'commentsBefore' | 'commentBehind'> {
  const statement = state.declaration.node;
  const textOf = (comment: t.Comment): string => script.text.slice(comment.start ?? 0, comment.end ?? 0);
  const lastLine = script.lines.lineAt((statement.end ?? 1) - 1);
  const behind = (statement.trailingComments ?? []).filter(
    (comment) => script.lines.lineAt(comment.start ?? 0) === lastLine,
  );
  const before = (statement.leadingComments ?? []).filter((comment) => {
    const start = comment.start ?? 0;
    return script.text.slice(script.lines.lineStart(start), start).trim() === '';
  });
  return {
    commentsBefore: before.map(textOf),
    commentBehind: behind.length ? behind.map(textOf).join(' ') : undefined,
  };
}
