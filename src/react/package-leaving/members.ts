import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';

/** A place that takes a member of what a package gives: `formik.values`, or `values` behind a pattern. */
export interface MemberPlace {
  member: string;
  /** The whole expression that stands for the member. */
  path: NodePath;
  /** The name that it got in a pattern. */
  local: string | undefined;
}

/** Every place that takes a member, the patterns that take members apart, and places that say more than that. */
export interface Members {
  places: MemberPlace[];
  /** Names that members got in patterns: member to name. */
  locals: Map<string, string>;
  /** Declarations that only take members apart: `const { values } = formik`. */
  patterns: NodePath<t.VariableDeclarator>[];
  unclear: NodePath[];
}

/** What is taken of a package’s object, from what it is bound to: a name, or a pattern. */
export function membersTaken(target: NodePath): Members {
  const members: Members = { places: [], locals: new Map(), patterns: [], unclear: [] };
  take(target, members, '');
  return members;
}

function take(target: NodePath, members: Members, prefix: string): void {
  if (target.isIdentifier()) {
    for (const reference of referencesOf(target)) placeOf(reference, members, prefix);
    return;
  }
  if (!target.isObjectPattern()) {
    members.unclear.push(target);
    return;
  }
  for (const property of target.get('properties')) {
    const { node } = property;
    const value = property.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    if (!t.isObjectProperty(node) || node.computed || !t.isIdentifier(node.key) || !value) {
      members.unclear.push(property);
      continue;
    }
    const member = prefix + node.key.name;
    // `formState: { errors }` takes members of a member
    if (value.isObjectPattern()) {
      take(value, members, `${member}.`);
      continue;
    }
    if (!value.isIdentifier()) {
      members.unclear.push(property);
      continue;
    }
    if (nested.has(member)) {
      for (const reference of referencesOf(value)) placeOf(reference, members, `${member}.`);
      continue;
    }
    members.locals.set(member, value.node.name);
    for (const path of referencesOf(value)) members.places.push({ member, path, local: value.node.name });
  }
}

/** Members that hold status by name themselves. */
const nested = new Set(['formState', 'state', 'meta', 'state.meta']);

function referencesOf(id: NodePath<t.Identifier>): NodePath[] {
  const binding = id.scope.getBinding(id.node.name);
  return binding?.identifier === id.node ? binding.referencePaths : [];
}

/** What stands around a reference to the object itself. */
function placeOf(reference: NodePath, members: Members, prefix: string): void {
  const parent = reference.parentPath;
  const { node } = parent ?? {};
  if ((t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) && reference.key === 'object' && parent) {
    if (node.computed || !t.isIdentifier(node.property)) {
      members.unclear.push(reference);
      return;
    }
    const member = prefix + node.property.name;
    if (nested.has(member)) placeOf(parent, members, `${member}.`);
    else members.places.push({ member, path: parent, local: undefined });
    return;
  }
  if (parent?.isJSXMemberExpression() && reference.key === 'object') {
    members.places.push({ member: prefix + parent.node.property.name, path: parent, local: undefined });
    return;
  }
  if (parent?.isVariableDeclarator() && reference.key === 'init') {
    take(parent.get('id') as NodePath, members, prefix);
    members.patterns.push(parent);
    return;
  }
  members.unclear.push(reference);
}

/** The call of which a member is what is called. */
export function callOf(member: NodePath): NodePath<t.CallExpression> | undefined {
  return member.parentPath?.isCallExpression() && member.key === 'callee' ? member.parentPath : undefined;
}
