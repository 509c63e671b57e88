import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { isWithin, spanAt } from '../../course/cell.js';
import { fieldOf } from '../../course/roles.js';
import type { GatedMessage, Status } from '../../form/life.js';
import { bare, returnedValue, type Placed } from '../../source/behind-names.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { constantBehind, gated, keyOf, statusAt, statusIn, type Here, type Look } from './gates.js';
import { functionBehind, memoised, remember } from './names.js';
import type { Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** The places of the markup that show messages, with the status that opens each. */
export function messagesOf(scene: Scene, status: readonly Status[]): GatedMessage[] {
  const look: Look = { scene, status, found: [], depth: 0 };
  const { component, script, region } = scene.site;
  const root: NodePath = scene.site.regions.length > 1 && region.element ? region.element : component.path;
  walk(root, {
    JSXExpressionContainer(container) {
      const child = container.parentPath.isJSXElement() || container.parentPath.isJSXFragment();
      const nested = container.findParent((parent) => parent.isJSXExpressionContainer() && isChild(parent));
      if (!child || nested || isMadeElsewhere(container, component.path)) return;
      const at = { path: container as NodePath, script };
      visit(
        { path: container.get('expression') as NodePath, script },
        { gates: [], shownAt: at, keys: new Map(), wrong: undefined },
        look,
      );
    },
    JSXElement(element) {
      if (element.findParent((parent) => parent.isJSXExpressionContainer() && isChild(parent))) return;
      if (isMadeElsewhere(element, component.path)) return;
      handed(
        element,
        script,
        { gates: [], shownAt: { path: element, script }, keys: new Map(), wrong: undefined },
        look,
      );
    },
  });
  return once(look.found);
}

/** Whether markup stands in a function of the component that the markup calls: it is looked at where it is called. */
function isMadeElsewhere(path: NodePath, component: NodePath): boolean {
  const fn = path.findParent((parent) => parent.isFunction());
  if (!fn || fn.node === component.node) return false;
  if (fn.isClassMethod()) return !t.isIdentifier(fn.node.key, { name: 'render' });
  return (
    fn.isFunctionDeclaration() ||
    fn.parentPath?.isVariableDeclarator() === true ||
    fn.parentPath?.isClassProperty() === true
  );
}

function isChild(container: NodePath): boolean {
  return container.parentPath?.isJSXElement() === true || container.parentPath?.isJSXFragment() === true;
}

function once(found: readonly GatedMessage[]): GatedMessage[] {
  const kept = new Map(found.map((one) => [`${one.span.file}:${one.span.start}:${one.field ?? ''}`, one]));
  return [...kept.values()].sort((a, b) => a.span.start - b.span.start);
}

/** Messages that a component of the project is handed: `<Complaint text={touched.row && errors.row} />`. */
function handed(element: NodePath<t.JSXElement>, script: Placed['script'], here: Here, look: Look): void {
  if (!/^[A-Z]/.test(tagOf(element))) return;
  for (const { name, value } of attributesOf(element)) {
    if (!value || /^(on|aria|class|key|id)/.test(name) || value.isFunction()) continue;
    const before = look.found.length;
    if (/err|problem|message|text|complaint|help|hint|issue|fault|invalid|warn|trouble|when|show/i.test(name))
      visit({ path: value, script }, here.made ? here : { ...here, shownAt: { path: element, script } }, look);
    if (look.found.length > before) return;
  }
}

function visit(at: Placed, here: Here, look: Look): void {
  if (look.depth > 14) return;
  const deeper = { ...look, depth: look.depth + 1 };
  const path = memoised(at.path);
  const { script } = at;
  const down = (to: NodePath, more: Partial<Here> = {}): void => {
    visit({ path: to, script }, { ...here, ...more }, deeper);
  };
  if (path.isLogicalExpression({ operator: '&&' })) {
    down(path.get('right'), gated(path.get('left'), script, here, look));
    return;
  }
  if (path.isLogicalExpression()) {
    down(path.get('left'));
    down(path.get('right'));
    return;
  }
  if (path.isConditionalExpression()) {
    down(path.get('consequent'), gated(path.get('test'), script, here, look));
    down(path.get('alternate'), gated(path.get('test'), script, here, look, true));
    return;
  }
  if (path.isJSXElement() || path.isJSXFragment()) {
    inElement(path, script, here, deeper);
    return;
  }
  if (path.isCallExpression() || path.isOptionalCallExpression()) {
    called(path as NodePath<t.CallExpression>, script, here, deeper);
    return;
  }
  if (path.isTemplateLiteral()) {
    for (const one of path.get('expressions')) down(one as NodePath);
    return;
  }
  leaf({ path, script }, here, deeper);
}

function inElement(
  element: NodePath<t.JSXElement | t.JSXFragment>,
  script: Placed['script'],
  here: Here,
  look: Look,
): void {
  const at = { path: element as NodePath, script };
  const own = here.made ? here : { ...here, shownAt: at };
  const before = look.found.length;
  if (element.isJSXElement()) handed(element, script, own, look);
  for (const child of element.get('children')) {
    if (child.isJSXExpressionContainer()) visit({ path: child.get('expression') as NodePath, script }, own, look);
    if (child.isJSXElement() || child.isJSXFragment()) inElement(child, script, own, look);
  }
  const text = element.node.children.some((child) => t.isJSXText(child) && child.value.trim() !== '');
  const wrong = here.wrong ?? ruleShownIn(at, look);
  if (look.found.length === before && text && wrong) report(wrong[0] ?? null, own, look);
}

/** The field of a rule whose message an element is: `{tooHeavy && <small>…</small>}`. */
function ruleShownIn(at: Placed, { scene }: Look): string[] | undefined {
  const rule = scene.model.rules.find(
    ({ stated, message, span }) => stated === 'code' && message !== undefined && isWithin(span, at),
  );
  return rule?.fields.slice(0, 1);
}

/** A call in the markup: a list of messages, or a function of the component that gives one. */
function called(call: NodePath<t.CallExpression>, script: Placed['script'], at: Here, look: Look): void {
  let here = at;
  const callee = call.get('callee') as NodePath;
  const [first] = call.get('arguments') as (NodePath | undefined)[];
  if (
    (callee.isMemberExpression() || callee.isOptionalMemberExpression()) &&
    t.isIdentifier(callee.node.property, { name: 'map' })
  ) {
    if (statusIn(callee.get('object') as NodePath, script, look).has('errors')) report(null, here, look);
    else if (first?.isFunction()) {
      const body = first.get('body') as NodePath;
      visit({ path: body.isBlockStatement() ? (returnedValue(body) ?? body) : bare(body), script }, here, look);
    }
    return;
  }
  const target = functionBehind({ path: callee, script }, look.scene.trail, look.scene.given);
  if (look.scene.checks({ path: call, script })) {
    report(nearestField(here.shownAt, look), here, look);
    return;
  }
  if (!target?.path.isFunction()) return;
  const keys = new Map(here.keys);
  here = { ...here, made: true };
  (call.get('arguments') as NodePath[]).forEach((argument, index) => {
    const parameter = target.path.isFunction() ? target.path.node.params[index] : undefined;
    const name = argument.isStringLiteral()
      ? argument.node.value
      : argument.isIdentifier()
        ? here.keys.get(argument.scope.getBinding(argument.node.name))
        : undefined;
    if (name !== undefined && t.isIdentifier(parameter)) keys.set(target.path.scope.getBinding(parameter.name), name);
  });
  remember(look.scene.given, target, call, script);
  const body = target.path.get('body') as NodePath;
  if (!body.isBlockStatement()) {
    visit({ path: bare(body), script: target.script }, { ...here, keys }, look);
    return;
  }
  let gates: Partial<Here> = {};
  for (const one of body.get('body')) {
    if (one.isIfStatement()) {
      const inner = one.get('consequent');
      const value = inner.isReturnStatement()
        ? inner
        : inner.isBlockStatement()
          ? returnedValue(inner)?.parentPath
          : undefined;
      const gives =
        value?.isReturnStatement() && value.node.argument ? bare(value.get('argument') as NodePath) : undefined;
      const nothing =
        !gives ||
        gives.isNullLiteral() ||
        gives.isStringLiteral({ value: '' }) ||
        (gives.isIdentifier() && gives.node.name === 'undefined');
      if (nothing)
        gates = { ...gates, ...gated(one.get('test'), target.script, { ...here, ...gates, keys }, look, true) };
      else
        visit(
          { path: gives, script: target.script },
          { ...here, ...gates, ...gated(one.get('test'), target.script, { ...here, ...gates, keys }, look), keys },
          look,
        );
    }
    if (one.isReturnStatement() && one.node.argument)
      visit({ path: bare(one.get('argument') as NodePath), script: target.script }, { ...here, ...gates, keys }, look);
  }
}

/** What stands at the end: a message kept in status, or a name for something worked out. */
function leaf({ path, script }: Placed, here: Here, look: Look): void {
  const { scene } = look;
  if (path.isMemberExpression() || path.isOptionalMemberExpression()) {
    const object = path.get('object') as NodePath;
    const about = statusAt({ path: object, script }, look);
    if (about?.role === 'errors') {
      report(keyOf(path, here), here, look);
      return;
    }
    if (about?.role === 'message') {
      report(null, here, look);
      return;
    }
  }
  const own = statusAt({ path, script }, look);
  if (own && /^(errors|message)$/.test(own.role)) {
    if (own.shape === 'by-field') return;
    const worked = own.derived && path.isIdentifier() ? constantBehind(path) : undefined;
    const before = look.found.length;
    if (worked) visit({ path: worked, script }, here, look);
    if (look.found.length > before) return;
    report(own.role === 'errors' ? (fieldOf(own, scene) ?? nearestField(here.shownAt, look)) : null, here, look);
    return;
  }
  if (!path.isIdentifier()) return;
  const init = constantBehind(path);
  if (init) visit({ path: init, script }, here, look);
}

function report(about: string | null, here: Here, look: Look): void {
  const known = look.scene.model.fields.some(
    ({ name }) => about !== null && (name === about || about.startsWith(`${name}.`) || name.startsWith(`${about}.`)),
  );
  const field = known ? about : null;
  const roles = here.gates.flatMap((gate) => gate.roles);
  const after = [...new Set(roles)];
  const apart = here.gates.filter((gate) => gate.roles.length);
  const all = after.length > 1 && (apart.length > 1 || apart.some((gate) => gate.all));
  look.found.push({ field, after, ...(all ? { all: true } : {}), span: spanAt(here.shownAt) });
}

/** The field whose control stands nearest to a place of the markup. */
function nearestField({ path, script }: Placed, { scene }: Look): string | null {
  const here = scene.model.controls.filter(({ span }) => span.file === script.file);
  for (let around: NodePath | null = path; around; around = around.parentPath) {
    const { start, end } = around.node;
    const inside = here.filter(({ span }) => span.start >= (start ?? 0) && span.end <= (end ?? 0));
    const names = [...new Set(inside.map(({ field }) => field))];
    if (names.length === 1) return names[0] ?? null;
    if (names.length > 1) return null;
  }
  return null;
}
