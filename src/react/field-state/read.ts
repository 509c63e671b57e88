import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment, SetUse, Use } from '../../form/uses.js';
import type { Field, FormModel, OwnedName, Unclear } from '../../form/model.js';
import type { ExpressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { capturedHoles, plainCode, shorthandKey, spanOf, updaterValue } from '../code.js';
import { functionOf } from '../components.js';
import { mayHaveEffects } from '../effects.js';
import { nativeRules } from '../form-parts.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { receiverOf } from '../receivers.js';
import { referencesTo } from '../state-variables.js';
import { dependencyAt, handlerNameAround, mayRepeat, readsLatest, surroundingOf } from '../surroundings.js';
import { changedFields } from '../value-tracing.js';
import { frameOf } from '../form-frame.js';
import type { FieldVariables, Variable } from './variables.js';
import { typesWith, fieldOf } from './fields.js';
import { walk } from '../../source/traverse.js';

/** Reads a form that keeps one state variable for each field. */
export function readFieldState(site: FormSite, found: FieldVariables): FormModel {
  const { script } = site;
  const types = typesWith(script, found);
  const unclear: Unclear[] = [];
  const fields = found.fields.map((variable) => fieldOf(variable, found, types, script, unclear));
  const uses = found.fields.flatMap((variable) => usesOf(variable, found, site, types, unclear));
  return {
    ...frameOf(site),
    approach: 'field-state',
    fields,
    controls: found.bound.map(({ model }) => model),
    uses: uses.sort((a, b) => a.span.start - b.span.start || b.span.end - a.span.end),
    ...rulesAndMessages(
      {
        script,
        component: found.component,
        lens: ruleLens(found.lens, (path) => isGathered(path, fields), fields, site.load),
      },
      nativeRules(script, found.bound),
    ),
    others: found.others.map(({ variable, why, status }) => ({
      name: variable.name,
      line: script.lines.lineAt(variable.state.declarator.node.start ?? 0),
      why,
      status,
      setter: variable.state.change?.node.name,
    })),
    declarations: declarationsOf(found, script),
    names: found.fields.flatMap(({ state }) => ownedNames(script, [state.value, state.change])),
    unclear,
    handlers: handlerCount(found),
    stateVariables: found.fields.length,
  };
}

/** Whether a name stands for an object that gathers fields: `const entry = { row, kilos }`. */
function isGathered(path: NodePath, fields: readonly Field[]): boolean {
  const declared = path.isIdentifier() ? path.scope.getBinding(path.node.name)?.path : undefined;
  const init = declared?.isVariableDeclarator() ? declared.node.init : undefined;
  if (!t.isObjectExpression(init) || !init.properties.length) return false;
  return init.properties.every(
    (one) =>
      t.isObjectProperty(one) &&
      t.isIdentifier(one.key) &&
      t.isIdentifier(one.value, { name: one.key.name }) &&
      fields.some(
        ({ role, names }) => role === 'field' && one.key.type === 'Identifier' && names.value === one.key.name,
      ),
  );
}

/** Names that belong to the form and every reference to which is accounted for. */
function ownedNames(script: Script, identifiers: (NodePath<t.Identifier> | undefined)[]): OwnedName[] {
  return identifiers
    .filter((identifier) => identifier !== undefined)
    .map((identifier) => ({ file: script.file, name: identifier.node.name, declaredAt: identifier.node.start ?? 0 }));
}

function declarationsOf(found: FieldVariables, script: Script): FormModel['declarations'] {
  const isField = (node: t.Node): boolean => found.fields.some(({ state }) => state.declarator.node === node);
  return found.fields.map(({ name, state }) => {
    const { declarations } = state.declaration.node;
    const statement = spanOf(script.file, state.declaration);
    const what = `state variable ${name}`;
    if (declarations.length === 1) return { role: 'state' as const, span: statement, what };
    const index = declarations.indexOf(state.declarator.node);
    if (declarations.every(isField)) {
      // the first one stands for the whole statement, the others for nothing of their own
      return {
        role: 'state' as const,
        span:
          index === 0 ? statement : { ...spanOf(script.file, state.declarator), end: state.declarator.node.start ?? 0 },
        what,
      };
    }
    const next = declarations[index + 1];
    const previous = declarations[index - 1];
    const { start, end } = spanOf(script.file, state.declarator);
    const span = next
      ? { file: script.file, start, end: next.start ?? end }
      : { file: script.file, start: previous?.end ?? start, end };
    return { role: 'state' as const, span, statement, what };
  });
}

/** The statement that consists of a call alone. */
function statementOf(path: NodePath, file: string): SetUse['statement'] {
  const parent = path.parentPath;
  if (parent?.isUnaryExpression({ operator: 'void' }) && parent.parentPath.isExpressionStatement())
    return spanOf(file, parent.parentPath);
  return parent?.isExpressionStatement() ? spanOf(file, parent) : undefined;
}

function usesOf(
  variable: Variable,
  found: FieldVariables,
  site: FormSite,
  types: ExpressionTypes,
  unclear: Unclear[],
): Use[] {
  const { script } = site;
  const { state, name } = variable;
  const reads = referencesTo(state.value).map((path): Use => ({
    kind: 'read',
    field: name,
    key: shorthandKey(path),
    where: surroundingOf(path, found.component, found.submits),
    span: spanOf(script.file, path),
  }));
  const changes = referencesTo(state.change).map((path) => changeOf(path, variable, found, site, types, unclear));
  return [...reads, ...changes.filter((use) => use !== undefined)];
}

function changeOf(
  path: NodePath,
  variable: Variable,
  found: FieldVariables,
  site: FormSite,
  types: ExpressionTypes,
  unclear: Unclear[],
): Use | undefined {
  const { script } = site;
  const { name } = variable;
  const where = surroundingOf(path, found.component, found.submits);
  const call = path.parentPath;
  const listed = dependencyAt(path, script.file, where);
  if (listed) return listed;
  if (call?.isCallExpression() && path.key === 'callee') {
    const value = newValue(call, variable, script, types);
    if (!value) {
      unclear.push({
        span: spanOf(script.file, call),
        what: script.text.slice(call.node.start ?? 0, call.node.end ?? 0),
        why: 'the arguments of the update are spread',
      });
      return undefined;
    }
    const isChange = (inner: t.CallExpression): boolean =>
      t.isIdentifier(inner.callee) &&
      found.fields.some(({ state }) => t.isIdentifier(inner.callee, { name: state.change?.node.name ?? '' }));
    return {
      kind: 'set',
      assignments: [{ field: name, value }],
      resetsAll: false,
      statement: statementOf(call, script.file),
      arrowBody: call.parentPath.isArrowFunctionExpression() && call.key === 'body',
      fresh: readsLatest(call, found.component, isChange),
      repeats: mayRepeat(call, found.component, (candidate) => isSettled(candidate, found)),
      called: handlerNameAround(call, found.component),
      where,
      span: spanOf(script.file, call),
    };
  }
  const receiver = receiverOf(site, path);
  const shorthand = shorthandKey(path);
  return {
    kind: 'hand-on',
    field: name,
    takes: receiver.updater ? 'updater' : 'value',
    typed: receiver.typed,
    stable: receiver.stable,
    shorthand,
    where,
    span: spanOf(script.file, path),
  };
}

/** Whether a name keeps its value from render to render: state, and what the component was given. */
function isSettled(name: string, found: FieldVariables): boolean {
  const binding = found.component.scope.getBinding(name);
  if (!binding) return true;
  if (binding.scope.path.isProgram() || binding.kind === 'param') return true;
  const declared = binding.path;
  if (!declared.isVariableDeclarator()) return false;
  const init = declared.node.init;
  if (t.isCallExpression(init) && t.isIdentifier(init.callee) && /^use/.test(init.callee.name)) return true;
  if (
    t.isCallExpression(init) &&
    t.isMemberExpression(init.callee) &&
    t.isIdentifier(init.callee.property) &&
    /^use/.test(init.callee.property.name)
  )
    return true;
  return t.isIdentifier(init) || t.isBinaryExpression(init) || t.isUnaryExpression(init);
}

function newValue(
  call: NodePath<t.CallExpression>,
  variable: Variable,
  script: Script,
  types: ExpressionTypes,
): Assignment['value'] | undefined {
  const argument = call.get('arguments')[0];
  if (!argument)
    return {
      kind: 'value',
      code: { file: script.file, start: call.node.end ?? 0, end: call.node.end ?? 0, holes: [] },
    };
  if (argument.isSpreadElement() || argument.isArgumentPlaceholder()) return undefined;
  if (argument.isFunctionExpression() || argument.isArrowFunctionExpression()) {
    return updaterValue(script.file, argument, variable.name, types);
  }
  const fn = argument.isIdentifier() || argument.isCallExpression() ? functionOf(argument) : undefined;
  const written = argument.isIdentifier() ? argument.scope.getBinding(argument.node.name)?.path : undefined;
  const mayBeFunction =
    written &&
    /SetStateAction/.test(script.text.slice(written.node.start ?? 0, written.node.end ?? 0)) &&
    !written.isVariableDeclarator();
  if (fn || mayBeFunction) {
    const whole = plainCode(script.file, argument);
    return {
      kind: 'from-previous',
      body: whole,
      block: false,
      reads: [variable.name],
      parameter: undefined,
      whole: { ...whole, holes: capturedHoles(argument, () => true, types) },
    };
  }
  const code = plainCode(script.file, argument);
  return mayHaveEffects(argument) ? { kind: 'value', code, effects: true } : { kind: 'value', code };
}

/** Functions of the component that change fields: what people count when they compare. */
function handlerCount(found: FieldVariables): number {
  let count = 0;
  walk(found.component, {
    Function(path) {
      if (path.isObjectMethod() || path.isClassMethod() || path.isClassPrivateMethod()) return;
      const setsHere = path.get('body') as NodePath;
      let direct = false;
      walk(setsHere, {
        Function: (inner) => inner.skip(),
        Identifier(inner) {
          if (inner.isReferencedIdentifier() && found.lens.changesOf(inner).length) direct = true;
        },
      });
      if (setsHere.isExpression() && changedFields(setsHere, found.lens).length) direct = true;
      if (direct) count += 1;
    },
  });
  return count;
}
