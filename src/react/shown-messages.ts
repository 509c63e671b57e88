import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormModel } from '../form/model.js';
import type { Rule, ShownMessage } from '../form/rules.js';
import type { RuleLens } from '../rules/meanings.js';
import { bare } from '../source/behind-names.js';
import { spanOf } from './code.js';
import { errorWords } from '../rules/message-keys.js';
import { fieldNamedBy, rulesInCode } from './form-rules.js';
import { ruleFunctions, type RuleFunction, type RuleSite } from './rule-functions.js';
import { walk } from '../source/traverse.js';

/** A variable of a component that holds messages. */
interface Holder {
  name: string;
  /** What its name says it is about, where it holds one message. */
  about: string | undefined;
  /** It is worked out anew at every render, or in an effect. */
  live: boolean;
}

/** The rules of a form, with those of its markup first, and where their messages show. */
export function rulesAndMessages(site: RuleSite, native: readonly Rule[]): Pick<FormModel, 'rules' | 'messages'> {
  const functions = ruleFunctions(site);
  return { rules: [...native, ...rulesInCode(site, functions)], messages: shownMessages(site, functions) };
}

/** The places of a component's markup that show messages of rules. */
function shownMessages(site: RuleSite, functions: readonly RuleFunction[]): ShownMessage[] {
  const { component, script, lens } = site;
  const holders = messageHolders(component, functions, lens);
  const found: ShownMessage[] = [];
  walk(component, {
    Identifier(path) {
      const binding = path.isReferencedIdentifier() ? path.scope.getBinding(path.node.name) : undefined;
      const inside = binding && !holders.has(binding) ? messagesIn(path) : undefined;
      const holder = inside ? { about: undefined, live: false } : holders.get(binding);
      if (!holder || !isInMarkup(path, component)) return;
      const place = showingPlace(path);
      if (!place) return;
      if (inside) {
        const of = inside.parentPath;
        const key = of?.isMemberExpression() || of?.isOptionalMemberExpression() ? keyRead(of.node) : undefined;
        found.push({ key, span: spanOf(script.file, path), waits: true, live: false });
        return;
      }
      const member = path.parentPath;
      const keyed = (member.isMemberExpression() || member.isOptionalMemberExpression()) && path.key === 'object';
      const key = keyed ? keyRead(member.node) : holder.about;
      found.push({ key, span: spanOf(script.file, path), waits: waitsFor(path, place, holders), live: holder.live });
    },
  });
  return found;
}

/** The member that holds messages in what a hook gives: `form.errors`. */
function messagesIn(path: NodePath): NodePath | undefined {
  const member = path.parentPath;
  if (!member?.isMemberExpression() || path.key !== 'object' || member.node.computed) return undefined;
  return t.isIdentifier(member.node.property) && errorWords.test(member.node.property.name) ? member : undefined;
}

function keyRead(node: t.MemberExpression | t.OptionalMemberExpression): string | undefined {
  // a part of the one message that there is: `problem.text`
  if (
    t.isIdentifier(node.property) &&
    /^(text|message|msg|reason|words|code|kind|type|field)$/.test(node.property.name)
  )
    return undefined;
  if (!node.computed) return t.isIdentifier(node.property) ? node.property.name : undefined;
  return t.isStringLiteral(node.property) ? node.property.value : undefined;
}

function messageHolders(component: NodePath, functions: readonly RuleFunction[], lens: RuleLens): Map<unknown, Holder> {
  const holders = new Map<unknown, Holder>();
  const calls = new Set(functions.flatMap((one) => one.calls.map(({ node }) => node)));
  const body = component.isFunction() ? (component.get('body') as NodePath) : undefined;
  if (!body?.isBlockStatement()) return holders;
  const inEffect = effectSetters(functions);
  for (const statement of body.get('body')) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const init = declarator.get('init') as NodePath;
      const { id } = declarator.node;
      const made = init.node ? bare(init) : undefined;
      const computed =
        made?.isCallExpression() === true && !isHook(made.node) && (calls.has(made.node) || memoOf(made, calls));
      if (t.isIdentifier(id)) {
        if (!computed && !errorWords.test(id.name)) continue;
        if (!computed && (made?.isFunction() ?? false)) continue;
        holders.set(declarator.scope.getBinding(id.name), {
          name: id.name,
          about: fieldNamedBy(id.name, lens),
          live: computed || made?.isCallExpression() === false,
        });
      }
      if (t.isObjectPattern(id) && made?.isCallExpression())
        for (const local of Object.keys(t.getBindingIdentifiers(id)))
          if (errorWords.test(local))
            holders.set(declarator.scope.getBinding(local), { name: local, about: undefined, live: false });
      if (!t.isArrayPattern(id)) continue;
      const [value, setter] = id.elements;
      if (!t.isIdentifier(value) || !errorWords.test(value.name)) continue;
      const live = t.isIdentifier(setter) && inEffect.has(setter.name);
      holders.set(declarator.scope.getBinding(value.name), {
        name: value.name,
        about: fieldNamedBy(value.name, lens),
        live,
      });
    }
  }
  return holders;
}

function isHook({ callee, arguments: given }: t.CallExpression): boolean {
  return t.isIdentifier(callee) && /^use[A-Z]/.test(callee.name) && !(callee.name === 'useMemo' && given.length > 0);
}

/** Whether a call is `useMemo` around a call of a function of rules. */
function memoOf(call: NodePath<t.CallExpression>, calls: ReadonlySet<t.Node>): boolean {
  if (!t.isIdentifier(call.node.callee, { name: 'useMemo' })) return false;
  const fn = call.node.arguments[0];
  return t.isArrowFunctionExpression(fn) && calls.has(fn.body);
}

/** Setters that an effect calls with what a function of rules gives. */
function effectSetters(functions: readonly RuleFunction[]): Set<string> {
  const found = new Set<string>();
  for (const { calls } of functions)
    for (const call of calls) {
      const setter = call.parentPath;
      if (!setter.isCallExpression() || !t.isIdentifier(setter.node.callee)) continue;
      const effect = setter.findParent(
        (parent) =>
          parent.isCallExpression() &&
          t.isIdentifier(parent.node.callee) &&
          /^use\w*Effect$/.test(parent.node.callee.name),
      );
      if (effect) found.add(setter.node.callee.name);
    }
  return found;
}

/** Whether a path stands in what a component renders, not in a handler of it. */
function isInMarkup(path: NodePath, component: NodePath): boolean {
  const jsx = path.findParent((parent) => parent.isJSXExpressionContainer() || parent.isJSXSpreadAttribute());
  if (!jsx) {
    // a helper that renders one field, or a constant that stands for some markup
    const call = path.findParent((parent) => parent.isCallExpression());
    return (
      call?.isCallExpression() === true &&
      /^(map|values|entries|keys)$/.test(nameOfCallee(call.node)) &&
      call.isDescendant(component)
    );
  }
  const attribute = jsx.parentPath;
  if (
    attribute?.isJSXAttribute() &&
    t.isJSXIdentifier(attribute.node.name) &&
    /^on[A-Z]/.test(attribute.node.name.name)
  )
    return false;
  return true;
}

function nameOfCallee({ callee }: t.CallExpression): string {
  return t.isMemberExpression(callee) && t.isIdentifier(callee.property) ? callee.property.name : '';
}

/** The place of the markup that would show a value: a child, or a property of another component. */
function showingPlace(path: NodePath): NodePath | undefined {
  const jsx = path.findParent((parent) => parent.isJSXExpressionContainer() || parent.isJSXSpreadAttribute());
  if (!jsx) return path;
  const attribute = jsx.parentPath;
  if (!attribute?.isJSXAttribute()) return jsx;
  const element = attribute.parentPath;
  const own =
    element.isJSXOpeningElement() && t.isJSXIdentifier(element.node.name) && /^[a-z]/.test(element.node.name.name);
  return own ? undefined : jsx;
}

/** Whether something else than messages decides that a place is shown. */
function waitsFor(path: NodePath, place: NodePath, holders: ReadonlyMap<unknown, Holder>): boolean {
  const tests: NodePath[] = [];
  for (let at: NodePath | null = path; at && !at.isFunction(); at = at.parentPath) {
    const parent: NodePath | null = at.parentPath;
    if (parent?.isLogicalExpression() && at.key === 'right') tests.push(parent.get('left'));
    if (parent?.isLogicalExpression() && at.key === 'left') tests.push(parent.get('left'));
    if (parent?.isConditionalExpression()) tests.push(parent.get('test'));
  }
  if (place.isJSXExpressionContainer() && place.parentPath.isJSXAttribute()) tests.push(place);
  return tests.some((test) => {
    let other = false;
    const visit = (inner: NodePath): void => {
      if (!inner.isIdentifier() || !inner.isReferencedIdentifier()) return;
      if (!holders.has(inner.scope.getBinding(inner.node.name)) && inner.node.name !== 'undefined') other = true;
    };
    visit(test);
    walk(test, { Identifier: visit });
    return other;
  });
}
