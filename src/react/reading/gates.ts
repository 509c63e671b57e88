import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanAt } from '../../course/cell.js';
import { fieldOf } from '../../course/roles.js';
import type { GatedMessage, Status, StatusRole } from '../../form/life.js';
import { bare, returnedValue, type Placed } from '../../source/behind-names.js';
import { cellAsked } from './cells.js';
import { functionBehind, through } from './names.js';
import type { Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** Conditions on the way to a message, each with the roles it asks. */
export type Gates = readonly { roles: StatusRole[]; all: boolean }[];

/** What is looked for, and what was found. */
export interface Look {
  scene: Scene;
  status: readonly Status[];
  found: GatedMessage[];
  depth: number;
}

/** Where the search stands. */
export interface Here {
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

/** A place with one more condition on the way. */
export function gated(
  test: NodePath,
  script: Placed['script'],
  here: Here,
  look: Look,
  negated = false,
): Partial<Here> {
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
    const value = body?.isBlockStatement() ? returnedValue(body) : body;
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
  const { start, end } = spanAt({ path: test, script });
  const rule = rules.find(
    ({ span, stated }) => stated === 'code' && span.file === script.file && span.start < end && span.end > start,
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
  walk(test, { Identifier: see, MemberExpression: see, OptionalMemberExpression: see });
  return found.length ? found.filter((name) => name !== '') : here.wrong;
}

/** The field whose message a member asks for; null where that is the form, or is not told. */
export function keyOf(path: NodePath, here: Here): string | null {
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

/** What a constant of the component was worked out of. */
export function constantBehind(path: NodePath<t.Identifier>): NodePath | undefined {
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

/** The status that an expression stands for. */
export function statusAt(at: Placed, { scene, status }: Look): Status | undefined {
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
export function statusIn(path: NodePath, script: Placed['script'], look: Look, depth = 0): Set<StatusRole> {
  const roles = new Set<StatusRole>();
  const see = (inner: NodePath): void => {
    const own = statusAt({ path: inner, script }, look);
    if (own) roles.add(own.role);
    const init = !own && inner.isIdentifier() && depth < 3 ? constantBehind(inner) : undefined;
    if (init) statusIn(init, script, look, depth + 1).forEach((role) => roles.add(role));
  };
  see(path);
  walk(path, { Identifier: see, MemberExpression: see });
  return roles;
}
