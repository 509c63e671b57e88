import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Field, FormModel } from '../../form/model.js';
import { leftByHand, placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import type { LoadScript } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import { laidOut } from '../../source/layout.js';
import { indentAt } from '../../source/style.js';
import { shorthandKey } from '../code.js';
import { referencesTo, type StateVariable } from '../state-variables.js';
import { emptyValue } from './empty-values.js';
import { comparedWithNull, isGuarded, type IsHeld } from './fill-tests.js';

/** What the parts of the step share. */
interface Filling {
  model: FormModel;
  context: WriteContext;
  script: Script;
  variable: StateVariable;
  /** Name of the object, and of what sets it. */
  held: string;
  setter: string;
  /** Name of the flag that tells whether it is filled, and of what sets that. */
  flag: string;
  raise: string;
  isHeld: IsHeld;
  /** What each field begins as. */
  starts: Map<string, string>;
  edits: RewritePlan['edits'];
  byHand: LedgerEntry[];
}

/**
 * Gives an object that is null until it is filled a start of its own, and a flag beside it that tells whether it is
 * filled: every way of holding values has a place for these.
 * @param held the variable that holds it, and the object's type without null where one is written
 */
export function fillLater(
  model: FormModel,
  context: WriteContext,
  {
    script,
    variable,
    type,
    load,
  }: { script: Script; variable: StateVariable; type: TypeInFile | undefined; load: LoadScript },
): RewritePlan {
  const { value, change } = variable;
  if (!value || !change) return leftByHand(unclearEntries(model));
  const held = value.node.name;
  const flag = context.freeName('filled', `${held}Filled`, 'isFilled');
  const filling: Filling = {
    model,
    context,
    script,
    variable,
    held,
    setter: change.node.name,
    flag,
    raise: context.freeName(`set${flag.charAt(0).toUpperCase()}${flag.slice(1)}`),
    isHeld: (node) => t.isIdentifier(node, { name: held }),
    starts: new Map(),
    edits: [],
    byHand: [...unclearEntries(model)],
  };
  const members = typeMembers(type, load);
  for (const name of new Set([...members.keys(), ...model.fields.map((field) => field.name)])) {
    const member = members.get(name);
    if (member?.optional) continue;
    const field = model.fields.find((one) => one.name === name);
    const start = member
      ? emptyValue({ node: member.node, script: member.script }, load)
      : field && untypedStart(field, model);
    if (start === undefined)
      filling.byHand.push(
        placeByHand(
          field?.declared ?? spanOfNode(script.file, variable.call.node),
          context,
          `nothing tells what ${name} would begin as before it is filled`,
        ),
      );
    else filling.starts.set(name, start);
  }
  declare(filling, type && type.script.text.slice(type.node.start ?? 0, type.node.end ?? 0));
  for (const reference of referencesTo(value)) sayHeld(reference, filling);
  for (const reference of referencesTo(change)) saySet(reference, filling);
  if (filling.byHand.length) return leftByHand(filling.byHand);
  return { edits: filling.edits, creates: [], deletes: [], dependencies: [], ledger: accountOf(filling) };
}

/** What a field begins as before it is filled, where no type tells: what its control shows. */
function untypedStart({ kind, name }: Field, model: FormModel): string {
  const shown = kind === 'text' || kind === 'choice' || model.controls.some(({ field }) => field === name);
  return kind === 'boolean' ? 'false' : shown ? "''" : 'undefined';
}

/** The object begins as values of its own, and the flag is declared behind it. */
function declare(filling: Filling, type: string | undefined): void {
  const { variable, script, context, starts, flag, raise, edits } = filling;
  const { style } = context;
  const { call, declaration } = variable;
  const callee = script.text.slice(call.node.callee.start ?? 0, call.node.callee.end ?? 0);
  const items = [...starts].map(([key, text]) => ({
    lead: `${/^[\w$]+$/.test(key) ? key : `'${key}'`}: `,
    value: text.replaceAll("'", style.quote),
  }));
  const indent = indentAt(script.text, declaration.node.start ?? 0);
  const head = `${callee}${type === undefined ? '' : `<${type}>`}(`;
  const used = (call.node.start ?? 0) - script.text.lastIndexOf('\n', call.node.start ?? 0) + head.length + 1;
  const text = `${head}${laidOut({ open: '{', close: '}', items }, style, indent, used)})`;
  const line = `const [${flag}, ${raise}] = ${callee}(false)${style.semicolon}`;
  edits.push(
    { file: script.file, start: call.node.start ?? 0, end: call.node.end ?? 0, text },
    {
      file: script.file,
      start: declaration.node.end ?? 0,
      end: declaration.node.end ?? 0,
      text: style.newline + indent + line,
    },
  );
}

function put(
  { edits, script }: Filling,
  { start, end }: { start?: number | null | undefined; end?: number | null | undefined },
  text: string,
): void {
  edits.push({ file: script.file, start: start ?? 0, end: end ?? 0, text });
}

function leave({ byHand, context, script }: Filling, path: NodePath, why: string): void {
  byHand.push(placeByHand(spanOfNode(script.file, path.node), context, why));
}

/** A place that speaks of the object: it asks whether it is filled, or for its values. */
function sayHeld(path: NodePath, filling: Filling): void {
  const { flag, held, isHeld } = filling;
  const parent = path.parentPath;
  if (!parent) return;
  if (parent.isUnaryExpression({ operator: '!' })) {
    const outer = parent.parentPath;
    if (outer.isUnaryExpression({ operator: '!' })) put(filling, outer.node, flag);
    else put(filling, parent.node, `!${flag}`);
    return;
  }
  const compared = comparedWithNull(parent.node, isHeld);
  if (compared) return put(filling, parent.node, compared === 'filled' ? flag : `!${flag}`);
  if (parent.isCallExpression() && t.isIdentifier(parent.node.callee, { name: 'Boolean' }))
    return put(filling, parent.node, flag);
  if (isAskedAlone(path)) return put(filling, path.node, flag);
  // what looks at the object looks at the flag as well
  if (parent.isArrayExpression() && isListOfHook(parent)) {
    const again = parent.node.elements.some((one) => one !== path.node && isHeld(one));
    return again ? undefined : put(filling, path.node, `${held}, ${flag}`);
  }
  const member = parent.isMemberExpression() || parent.isOptionalMemberExpression() ? parent : undefined;
  const asked = member && path.key === 'object' ? member : undefined;
  if (isGuarded(path, isHeld)) {
    if (asked?.isOptionalMemberExpression() && asked.node.optional) withoutMark(asked, filling);
    return;
  }
  if (asked) return sayLooseMember(asked, filling);
  const key = shorthandKey(path);
  if (parent.isSpreadElement()) return leave(filling, path, 'it may be spread before it is filled');
  if (parent.isVariableDeclarator() && !t.isIdentifier(parent.node.id))
    return leave(filling, path, 'its values are taken out before it is filled');
  const text = `${flag} ? ${held} : null`;
  const loose = parent.isExpression() && !parent.isCallExpression() && !parent.isArrayExpression();
  put(filling, path.node, key !== undefined ? `${key}: ${text}` : loose ? `(${text})` : text);
}

/** A member that is asked for before the object is filled. */
function sayLooseMember(member: NodePath, filling: Filling): void {
  const { flag, starts, script } = filling;
  const { node } = member;
  if (!t.isOptionalMemberExpression(node) || !t.isIdentifier(node.property) || node.computed)
    return leave(filling, member, 'it is asked for before it is filled');
  const { parent } = member;
  const other =
    t.isLogicalExpression(parent) && parent.left === node && /^(?:\?\?|\|\|)$/.test(parent.operator)
      ? script.text.slice(parent.right.start ?? 0, parent.right.end ?? 0).replaceAll('"', "'")
      : undefined;
  const plain = script.text.slice(node.start ?? 0, node.end ?? 0).replace('?.', '.');
  // it begins as what stands for it until it is there
  if (other !== undefined && starts.get(node.property.name) === other && t.isLogicalExpression(parent))
    return put(filling, { start: node.start, end: parent.end }, plain);
  const isTest =
    (t.isUnaryExpression(parent) && parent.operator === '!') ||
    (t.isJSXExpressionContainer(parent) && /^(?:''|false)$/.test(starts.get(node.property.name) ?? ''));
  if (isTest && t.isUnaryExpression(parent) && /^(?:''|false|0|null)$/.test(starts.get(node.property.name) ?? ''))
    return put(filling, node, plain);
  const text = `${flag} ? ${plain} : undefined`;
  put(filling, node, t.isJSXExpressionContainer(parent) ? text : `(${text})`);
}

function withoutMark(member: NodePath<t.OptionalMemberExpression>, filling: Filling): void {
  const { object, property, computed } = member.node;
  const { text } = filling.script;
  const start = object.end ?? 0;
  const mark = text.indexOf('?.', start);
  if (mark >= 0 && mark < (property.start ?? 0)) put(filling, { start: mark, end: mark + 2 }, computed ? '' : '.');
}

/** Whether nothing but the object being there is asked: it is a condition, or opens a part of the page. */
function isAskedAlone(path: NodePath): boolean {
  const parent = path.parentPath;
  if (!parent) return false;
  if ((parent.isConditionalExpression() || parent.isIfStatement()) && path.key === 'test') return true;
  if (!parent.isLogicalExpression({ operator: '&&' })) return false;
  // where it is null, null would be shown; where the flag is down, false is: a page shows neither
  let at: NodePath = parent;
  while (at.parentPath?.isLogicalExpression() || at.parentPath?.isParenthesizedExpression()) at = at.parentPath;
  const around = at.parentPath;
  const shows = around?.isJSXExpressionContainer() === true && !(around.parentPath?.isJSXAttribute() === true);
  const tests = (around?.isConditionalExpression() === true || around?.isIfStatement() === true) && at.key === 'test';
  const isTurned = around?.isUnaryExpression({ operator: '!' }) === true;
  const disables =
    around?.isJSXExpressionContainer() === true && /^(?:disabled|hidden|required|checked)$/.test(attributeName(around));
  if (path.key === 'left') return shows || tests || isTurned || disables;
  return tests || isTurned || disables;
}

function attributeName(container: NodePath): string {
  const attribute = container.parentPath;
  return attribute?.isJSXAttribute() && t.isJSXIdentifier(attribute.node.name) ? attribute.node.name.name : '';
}

function isListOfHook(list: NodePath): boolean {
  const call = list.parentPath;
  return (
    call?.isCallExpression() === true &&
    list.key === 1 &&
    /^use\w*(?:Effect|Memo|Callback)$/.test(calleeName(call.node.callee))
  );
}

function calleeName(callee: t.Node): string {
  if (t.isIdentifier(callee)) return callee.name;
  return t.isMemberExpression(callee) && t.isIdentifier(callee.property) ? callee.property.name : '';
}

/** A place that sets the object: it is filled, emptied or changed. */
function saySet(path: NodePath, filling: Filling): void {
  const { setter, raise, script, context } = filling;
  const parent = path.parentPath;
  if (parent?.isArrayExpression()) return;
  if (parent?.isCallExpression() && path.listKey === 'arguments' && calleeName(parent.node.callee) === 'then') {
    const found = context.freeName('found', 'loaded');
    const { newline, indent: step, semicolon } = context.style;
    const at = indentAt(script.text, parent.node.start ?? 0);
    const lines = script.typescript
      ? [`${setter}(${found})`, `${raise}(true)`]
      : [`if (${found}) ${setter}(${found})`, `${raise}(Boolean(${found}))`];
    const body = lines.map((line) => at + step + line + semicolon + newline).join('');
    return put(filling, path.node, `${script.typescript ? `(${found})` : `(${found})`} => {${newline}${body}${at}}`);
  }
  if (!parent?.isCallExpression() || path.key !== 'callee')
    return leave(filling, path, 'what sets the object is handed on, and would have to say as well that it is filled');
  const [first] = parent.get('arguments');
  if (!first || first.isNullLiteral() || first.isIdentifier({ name: 'undefined' }))
    return put(filling, parent.node, `${raise}(false)`);
  if (looksBack(first, filling)) {
    const called = first.isFunction() ? calledStep(first) : undefined;
    if (called) withoutNull(called, filling);
    const keeps = first.isFunction() && keepsNothing(called ?? first);
    if (!keeps && !isGuarded(path, filling.isHeld))
      leave(filling, parent, 'it changes the object, which may not be filled yet');
    return;
  }
  sayFilled(parent, first as NodePath<t.Expression>, filling);
}

/** Whether new values are laid over those before. */
function looksBack(given: NodePath, { isHeld }: Filling): boolean {
  if (given.isFunction()) return true;
  return (
    given.isObjectExpression() && given.node.properties.some((one) => t.isSpreadElement(one) && isHeld(one.argument))
  );
}

/** The function of the file that an update hands the object before to: `(plot) => typed(plot, 'name', value)`. */
function calledStep(update: NodePath<t.Function>): NodePath<t.Function> | undefined {
  const [parameter] = update.node.params;
  const { body } = update.node;
  if (!t.isCallExpression(body) || !t.isIdentifier(body.callee) || !t.isIdentifier(parameter)) return undefined;
  if (!t.isIdentifier(body.arguments[0], { name: parameter.name })) return undefined;
  const found = update.scope.getBinding(body.callee.name)?.path;
  return found?.isFunctionDeclaration() ? found : undefined;
}

/** A function of the object before takes and gives no null any more. */
function withoutNull(fn: NodePath<t.Function>, filling: Filling): void {
  const { edits, script } = filling;
  const [parameter] = fn.node.params;
  const types = [t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined, fn.node.returnType];
  for (const annotation of types) {
    const type = t.isTSTypeAnnotation(annotation) ? annotation.typeAnnotation : undefined;
    const parts = t.isTSUnionType(type) ? type.types.filter((part) => !t.isTSNullKeyword(part)) : [];
    const [own, ...more] = parts;
    if (!type || !own || more.length || edits.some(({ start }) => start === type.start)) continue;
    put(filling, type, script.text.slice(own.start ?? 0, own.end ?? 0));
  }
}

/** Whether a function of the object before leaves nothing where nothing was. */
function keepsNothing(fn: NodePath<t.Function>): boolean {
  const [parameter] = fn.node.params;
  const only = t.isBlockStatement(fn.node.body) ? fn.node.body.body[0] : undefined;
  const body = t.isReturnStatement(only) ? only.argument : fn.node.body;
  if (!t.isIdentifier(parameter)) return false;
  const isBefore: IsHeld = (node) => t.isIdentifier(node, { name: parameter.name });
  if (t.isLogicalExpression(body, { operator: '&&' })) return isBefore(body.left);
  if (t.isConditionalExpression(body))
    return isBefore(body.test) && (isBefore(body.alternate) || t.isNullLiteral(body.alternate));
  return false;
}

/** Whether what is given may be nothing, as far as its declaration tells. */
function mayMiss(given: NodePath, script: Script): boolean {
  const { node } = given;
  const declared = t.isIdentifier(node) ? given.scope.getBinding(node.name)?.path : undefined;
  const id = declared?.isVariableDeclarator() ? declared.node.id : declared?.node;
  const annotation = t.isIdentifier(id) ? id.typeAnnotation : undefined;
  const init = declared?.isVariableDeclarator() && !annotation ? declared.node.init : undefined;
  const from = annotation ?? init ?? node;
  const text = script.text.slice(from.start ?? 0, from.end ?? 0);
  return annotation
    ? /\b(?:null|undefined)\b/.test(text)
    : /\.find\(|\.get\(|\?\.|\.at\(|\b(?:null|undefined)\b/.test(text);
}

/** The object is given values: that it is filled is said behind them. */
function sayFilled(call: NodePath<t.CallExpression>, given: NodePath<t.Expression>, filling: Filling): void {
  const { raise, script, context, setter } = filling;
  const { style } = context;
  const { node } = given;
  const sure = t.isObjectExpression(node) || (script.typescript && !mayMiss(given, script));
  const text = script.text.slice(node.start ?? 0, node.end ?? 0);
  const named = t.isIdentifier(node) || (t.isMemberExpression(node) && /^[\w.]+$/.test(text));
  const parent = call.parentPath;
  const indent = indentAt(script.text, call.node.start ?? 0);
  const statement = parent.isExpressionStatement() ? parent : undefined;
  const isBlock = statement?.parentPath.isBlockStatement() === true;
  if (!sure && !named) {
    if (!isBlock) return leave(filling, call, 'whether it is filled is told by an answer that has no name here');
    const found = context.freeName('found', 'loaded', 'answer');
    const before = `const ${found} = `;
    put(filling, { start: call.node.start, end: node.start }, before);
    const lines = [`if (${found}) ${setter}(${found})`, `${raise}(Boolean(${found}))`];
    const line = style.semicolon + style.newline + indent;
    return put(filling, { start: node.end, end: call.node.end }, line + lines.join(line));
  }
  const then = `${raise}(${sure ? 'true' : `Boolean(${text})`})`;
  const first = sure ? '' : `if (${text}) `;
  if (isBlock) {
    const line = (style.semicolon || '') + style.newline + indent;
    if (first !== '') put(filling, { start: call.node.start, end: call.node.start }, first);
    return put(filling, { start: call.node.end, end: call.node.end }, line + then);
  }
  const alone = statement ?? (parent.isArrowFunctionExpression() && call.key === 'body' ? call : undefined);
  if (!alone) return leave(filling, call, 'that it is filled as well would have to be said in the same expression');
  const { newline, indent: step } = style;
  const line = newline + indent + step;
  const { semicolon } = style;
  put(filling, { start: call.node.start, end: call.node.start }, `{${line}${first}`);
  put(
    filling,
    { start: call.node.end, end: alone.node.end },
    `${semicolon}${line}${then}${semicolon}${newline}${indent}}`,
  );
}

/** What became of each use of the form, and of what declared it. */
function accountOf({ model, edits, variable, script, flag }: Filling): LedgerEntry[] {
  const touched = ({ file, start, end }: Span): boolean =>
    edits.some((edit) => edit.file === file && edit.start < end && edit.end > start);
  const ledger: LedgerEntry[] = [
    {
      entry: 'carried',
      span: spanOfNode(script.file, variable.declaration.node),
      what: 'an object that is filled later',
      why: `${flag} tells whether it is filled`,
    },
  ];
  for (const edit of edits)
    if (edit.start < edit.end)
      ledger.push({
        entry: 'carried',
        takenOver: true,
        span: { file: edit.file, start: edit.start, end: edit.end },
        what: (script.text.slice(edit.start, edit.end).split('\n')[0] ?? '').trim(),
        why: edit.text.split('\n')[0] ?? '',
      });
  for (const { span } of model.uses)
    ledger.push({
      entry: touched(span) ? 'carried' : 'kept',
      span,
      what: script.file === span.file ? script.text.slice(span.start, span.end) : '',
      why: touched(span) ? `${flag} tells whether there are values` : 'the same name means the same here',
    });
  for (const { span, what } of model.declarations.slice(1))
    ledger.push({ entry: 'kept', span, what, why: 'it stays as it is' });
  for (const control of model.controls)
    ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same value',
    });
  return ledger;
}
