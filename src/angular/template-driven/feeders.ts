import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import { ownMember } from '../class-reading.js';
import type { Member } from '../component.js';
import type { AngularSite } from '../form-site.js';
import type { BoundElement } from './controls.js';
import type { Storage } from './storage.js';

/** Methods that do nothing but take in what a control gives, and the attributes that call them so. */
export interface Feeders {
  methods: Map<string, Span>;
  /** Where the attributes start. */
  attributes: Set<number>;
}

type Takes = 'object' | 'key and value';

/**
 * Finds the methods by which controls feed one object of values: `update({ kilos: $event })`, `set('kilos', $event)`.
 * @param fields the fields with where their values live and the elements that show them
 */
export function feedersOf(
  fields: readonly { storage: Storage | undefined; bound: readonly BoundElement[] }[],
  { component }: AngularSite,
): Feeders {
  const feeders: Feeders = { methods: new Map(), attributes: new Set() };
  for (const member of component.members.values()) {
    const fed = member.kind === 'method' ? fedBy(member) : undefined;
    if (!fed || member.references.length) continue;
    const names = component.template.names.filter(({ name, variable }) => name === member.name && !variable);
    const calls = names.flatMap(({ attribute }): number[] => {
      const own = fields.find(({ bound }) => bound.some(({ changes }) => changes.some((one) => one === attribute)));
      const { storage } = own ?? {};
      const feeds =
        attribute &&
        storage?.root === fed.root &&
        feedsKey(attribute.value ?? '', member.name, fed.takes, storage.keys);
      return attribute && feeds ? [attribute.start] : [];
    });
    if (!calls.length || calls.length < names.length) continue;
    feeders.methods.set(member.name, spanOfNode(component.script.file, member.node));
    for (const start of calls) feeders.attributes.add(start);
  }
  return feeders;
}

/** Whether a handler gives a method the new value for one key. */
function feedsKey(handler: string, method: string, takes: Takes, keys: readonly string[]): boolean {
  const [key, ...more] = keys;
  if (key === undefined || more.length) return false;
  const given =
    takes === 'object' ? `\\{\\s*(?:${key}|'${key}')\\s*:\\s*\\$event\\s*,?\\s*\\}` : `'${key}'\\s*,\\s*\\$event`;
  return new RegExp(`^\\s*${method}\\(\\s*${given}\\s*\\);?\\s*$`).test(handler.replaceAll('"', "'"));
}

/** The member whose values a method lays others over, and how it is given these. */
function fedBy({ node }: Member): { root: string; takes: Takes } | undefined {
  if (!t.isClassMethod(node) || node.async || node.body.body.length !== 1) return undefined;
  const [statement] = node.body.body;
  const names = node.params.map((one) => (t.isIdentifier(one) ? one.name : undefined));
  const [first, second, ...more] = names;
  if (!t.isExpressionStatement(statement) || first === undefined || names.includes(undefined) || more.length)
    return undefined;
  const { expression } = statement;
  const laid = laidOver(expression);
  if (!laid || !t.isObjectExpression(laid.object)) return undefined;
  const [before, change, ...others] = laid.object.properties;
  if (!t.isSpreadElement(before) || !laid.isBefore(before.argument) || others.length) return undefined;
  if (second === undefined)
    return t.isSpreadElement(change) && t.isIdentifier(change.argument, { name: first })
      ? { root: laid.root, takes: 'object' }
      : undefined;
  const keyed =
    t.isObjectProperty(change) &&
    change.computed &&
    t.isIdentifier(change.key, { name: first }) &&
    t.isIdentifier(change.value, { name: second });
  return keyed ? { root: laid.root, takes: 'key and value' } : undefined;
}

/** The new values that an expression gives a member, and what stands for those before in them. */
function laidOver(
  node: t.Expression,
): { root: string; object: t.Node | undefined; isBefore(node: t.Node): boolean } | undefined {
  const bare = (one: t.Node | undefined): t.Node | undefined =>
    t.isParenthesizedExpression(one) ? one.expression : one;
  if (t.isAssignmentExpression(node, { operator: '=' })) {
    const root = ownMember(node.left);
    return root === undefined
      ? undefined
      : { root, object: bare(node.right), isBefore: (one) => ownMember(one) === root };
  }
  if (!t.isCallExpression(node) || !t.isMemberExpression(node.callee) || !t.isIdentifier(node.callee.property))
    return undefined;
  const root = ownMember(node.callee.object);
  const [given] = node.arguments;
  if (root === undefined || node.arguments.length !== 1) return undefined;
  if (node.callee.property.name === 'set')
    return {
      root,
      object: bare(given),
      isBefore: (one) => t.isCallExpression(one) && ownMember(one.callee) === root,
    };
  const [before] = t.isArrowFunctionExpression(given) ? given.params : [];
  if (node.callee.property.name !== 'update' || !t.isArrowFunctionExpression(given) || !t.isIdentifier(before))
    return undefined;
  return { root, object: bare(given.body), isBefore: (one) => t.isIdentifier(one, { name: before.name }) };
}
