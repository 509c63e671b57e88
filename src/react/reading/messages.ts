import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { GatedMessage, Status, StatusRole } from '../../form/life.js';
import { bare, type Placed } from '../../source/behind-names.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { cellAsked } from './cells.js';
import { functionBehind, remember, through } from './names.js';
import { fieldOf } from '../../course/roles.js';
import { memoised, spanAt, type Scene } from './scene.js';

/** Conditions on the way to a message, each with the roles it asks. */
type Gates = readonly { roles: StatusRole[]; all: boolean }[];

interface Look {
  scene: Scene;
  status: readonly Status[];
  found: GatedMessage[];
  depth: number;
}

interface Here {
  gates: Gates;
  /** The element that a person sees the message in. */
  shownAt: Placed;
  /** The key that a parameter stands for. */
  keys: ReadonlyMap<unknown, string>;
  /** The place of the markup stays: what is shown is made by a function. */
  made?: boolean;
  /** A rule's condition, or a message's own test, is among the gates. */
  wrong: string[] | undefined;
}

/** The places of the markup that show messages, with the status that opens each. */
export function messagesOf(scene: Scene, status: readonly Status[]): GatedMessage[] {
  const look: Look = { scene, status, found: [], depth: 0 };
  const { component, script, region } = scene.site;
  const root: NodePath = scene.site.regions.length > 1 && region.element ? region.element : component.path;
  root.traverse({
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
  if (look.found.length > before || !text || !here.wrong) return;
  const [field] = here.wrong;
  report(field ?? null, own, look);
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
      visit({ path: body.isBlockStatement() ? (returned(body) ?? body) : bare(body), script }, here, look);
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
  remember(look.scene.given, target.path, call, script);
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
          ? returned(inner)?.parentPath
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

function returned(block: NodePath<t.BlockStatement>): NodePath | undefined {
  const last = block.get('body').findLast((one) => one.isReturnStatement());
  const value = last?.get('argument') as NodePath | undefined;
  return value?.node ? bare(value) : undefined;
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

function constantBehind(path: NodePath<t.Identifier>): NodePath | undefined {
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (!binding?.constant || !declared?.isVariableDeclarator() || !t.isIdentifier(declared.node.id)) return undefined;
  const init = declared.get('init') as NodePath;
  if (!init.node || init.isFunction()) return undefined;
  return /^use(?!Memo)/.test(
    t.isCallExpression(init.node) && t.isIdentifier(init.node.callee) ? init.node.callee.name : '',
  )
    ? undefined
    : bare(init);
}

function keyOf(path: NodePath, here: Here): string | null {
  const { node } = path;
  if (!t.isMemberExpression(node) && !t.isOptionalMemberExpression(node)) return null;
  if (!node.computed)
    return t.isIdentifier(node.property) && !/^(form|root|_form|server|general|submit|base)$/.test(node.property.name)
      ? node.property.name
      : null;
  if (t.isStringLiteral(node.property)) return node.property.value;
  if (!t.isIdentifier(node.property)) return null;
  return here.keys.get(path.scope.getBinding(node.property.name)) ?? null;
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

/** A place with one more condition on the way. */
function gated(test: NodePath, script: Placed['script'], here: Here, look: Look, negated = false): Partial<Here> {
  const gate = rolesAsked(test, script, look, negated);
  const wrong = negated ? undefined : wrongFields(test, script, here, look);
  return { gates: [...here.gates, gate], ...(wrong ? { wrong } : {}) };
}

/** The roles of status that a condition asks and that open what it guards. */
function rolesAsked(test: NodePath, script: Placed['script'], look: Look, negated: boolean, depth = 0): Gates[number] {
  const none = { roles: [], all: false };
  const path = bare(test);
  if (depth > 6) return none;
  const asked = (to: NodePath, not = negated): Gates[number] => rolesAsked(to, script, look, not, depth + 1);
  if (path.isUnaryExpression({ operator: '!' })) {
    const inner = bare(path.get('argument'));
    return inner.isUnaryExpression({ operator: '!' }) ? asked(inner.get('argument')) : asked(inner, !negated);
  }
  if (path.isLogicalExpression()) {
    const sides = [asked(path.get('left')), asked(path.get('right'))].filter(({ roles }) => roles.length);
    const roles = [...new Set(sides.flatMap((side) => side.roles))];
    // what is denied of both holds for neither
    const together = path.node.operator === '&&' ? !negated : negated;
    return { roles, all: sides.some(({ all }) => all) || (together && sides.length > 1) };
  }
  if (path.isCallExpression() || path.isOptionalCallExpression()) {
    const callee = path.get('callee') as NodePath;
    if (
      (callee.isMemberExpression() && t.isIdentifier(callee.node.property, { name: 'includes' })) ||
      (callee.isMemberExpression() && t.isIdentifier(callee.node.property, { name: 'has' }))
    )
      return asked(callee.get('object') as NodePath);
    const target = functionBehind({ path: callee, script }, look.scene.trail, look.scene.given);
    const body = target?.path.isFunction() ? (target.path.get('body') as NodePath) : undefined;
    const value = body?.isBlockStatement() ? returned(body) : body;
    return value && target ? rolesAsked(value, target.script, look, negated, depth + 1) : none;
  }
  if (path.isBinaryExpression()) {
    const side = statusAt({ path: bare(path.get('left') as NodePath), script }, look)
      ? path.get('left')
      : path.get('right');
    return asked(side as NodePath, negated !== /^!==?$/.test(path.node.operator) && !isEmptyLiteral(path));
  }
  const place =
    path.isMemberExpression() || path.isOptionalMemberExpression() ? (path.get('object') as NodePath) : path;
  const own = statusAt({ path, script }, look) ?? statusAt({ path: place, script }, look);
  if (own)
    return negated || /^(errors|message|valid|submitting|loading)$/.test(own.role)
      ? none
      : { roles: [own.role], all: false };
  const init = path.isIdentifier() ? constantBehind(path) : undefined;
  return init ? asked(init) : none;
}

function isEmptyLiteral(path: NodePath): boolean {
  const right = path.isBinaryExpression() ? path.node.right : undefined;
  return (
    t.isNullLiteral(right) || t.isIdentifier(right, { name: 'undefined' }) || t.isStringLiteral(right, { value: '' })
  );
}

/** The fields whose rule a condition states, or whose message it asks. */
function wrongFields(test: NodePath, script: Placed['script'], here: Here, look: Look): string[] | undefined {
  const { rules } = look.scene.model;
  const start = test.node.start ?? 0;
  const end = test.node.end ?? 0;
  const rule = rules.find(
    ({ span, stated }) => stated === 'code' && span.file === script.file && span.start >= start && span.start < end,
  );
  if (rule) return rule.fields.slice(0, 1);
  const found: string[] = [];
  const see = (path: NodePath): void => {
    if (path.isMemberExpression() || path.isOptionalMemberExpression()) {
      const about = statusAt({ path: path.get('object') as NodePath, script }, look);
      const key = about?.role === 'errors' ? keyOf(path, here) : null;
      if (key !== null) found.push(key);
    }
    const own = path.isIdentifier() ? statusAt({ path, script }, look) : undefined;
    if (own?.role === 'errors' && own.shape === 'one') found.push(fieldOf(own, look.scene) ?? '');
    if (own?.role === 'message') found.push('');
    const init = path.isIdentifier() && !own ? constantBehind(path) : undefined;
    const worked = init
      ? rules.find(
          ({ span }) =>
            span.file === script.file && span.start >= (init.node.start ?? 0) && span.start < (init.node.end ?? 0),
        )
      : undefined;
    if (worked?.fields[0] !== undefined) found.push(worked.fields[0]);
  };
  see(bare(test));
  test.traverse({ Identifier: see, MemberExpression: see, OptionalMemberExpression: see });
  return found.length ? found.filter((name) => name !== '') : here.wrong;
}

/** The status that an expression stands for. */
function statusAt(at: Placed, { scene, status }: Look): Status | undefined {
  const cell = cellAsked(at, scene.cells, scene.trail);
  const own = status.filter(({ name }) => name === cell?.name);
  if (cell) return own.find(({ role }) => /^(errors|message)$/.test(role)) ?? own[0];
  const { path, script } = through(at, scene.trail);
  if (!path.isIdentifier()) return undefined;
  const declared = path.scope.getBinding(path.node.name)?.path;
  const start = declared?.node.start;
  return status.find(({ derived, span }) => derived && span.file === script.file && span.start === start);
}

/** The roles that an expression speaks of, through constants. */
function statusIn(path: NodePath, script: Placed['script'], look: Look, depth = 0): Set<StatusRole> {
  const roles = new Set<StatusRole>();
  const see = (inner: NodePath): void => {
    const own = statusAt({ path: inner, script }, look);
    if (own) roles.add(own.role);
    const init = !own && inner.isIdentifier() && depth < 3 ? constantBehind(inner) : undefined;
    if (init) statusIn(init, script, look, depth + 1).forEach((role) => roles.add(role));
  };
  see(path);
  path.traverse({ Identifier: see, MemberExpression: see });
  return roles;
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
