import { parseExpression } from '@babel/parser';
import * as t from '@babel/types';
import type { StatusRole } from '../../form/life.js';

/** What a condition of a template asks. */
export interface Asked {
  /** Roles of status any of which opens what it guards. */
  roles: StatusRole[];
  /** All of them have to hold. */
  all: boolean;
  /** Fields that it speaks of, as written: `lender.name`, `policy`. */
  fields: string[];
  /** The errors that it asks for by their key: `required`. */
  keys: string[];
  /** It asks whether something is wrong, or for a message. */
  wrong: boolean;
}

/** What the class and the template tell of names in a condition. */
export interface ConditionGuide {
  /** The role that a member of the class plays, where it keeps status. */
  roleOf(name: string): StatusRole | undefined;
  /** The expression that a getter or a method of the class gives, with its parameters. */
  memberOf(name: string): { value: t.Expression; parameters: string[] } | undefined;
  /** What a template variable stands for: a control's or form's directive, or the expression of an alias. */
  variable(
    name: string,
  ): { kind: 'control'; field: string } | { kind: 'form' } | { kind: 'alias'; text: string } | undefined;
}

const nothing: Asked = { roles: [], all: false, fields: [], keys: [], wrong: false };

/** A condition of a template as an expression; undefined where it is none of the language. */
export function expressionOf(text: string): t.Expression | undefined {
  const bare = text.replace(/;[\s\S]*$/, '').replace(/(?<!\|)\|(?!\|)[^|&?:)]*/g, '');
  try {
    return parseExpression(bare, { plugins: ['typescript'] });
  } catch {
    return undefined;
  }
}

/** What a condition asks, through members of the class. */
export function askedBy(text: string, negated: boolean, guide: ConditionGuide): Asked {
  const expression = expressionOf(text);
  return expression ? ask(expression, negated, guide, new Map(), 0) : nothing;
}

function ask(
  node: t.Node,
  negated: boolean,
  guide: ConditionGuide,
  known: ReadonlyMap<string, t.Node>,
  depth: number,
): Asked {
  if (depth > 8) return nothing;
  const down = (inner: t.Node, not = negated): Asked => ask(inner, not, guide, known, depth + 1);
  if (t.isUnaryExpression(node, { operator: '!' })) return down(node.argument, !negated);
  if (t.isTSNonNullExpression(node) || t.isTSAsExpression(node) || t.isParenthesizedExpression(node))
    return down(node.expression);
  if (t.isLogicalExpression(node))
    return together(down(node.left), down(node.right), node.operator === '&&' ? !negated : negated);
  if (t.isConditionalExpression(node)) return together(down(node.test), down(node.consequent), true);
  if (t.isBinaryExpression(node)) {
    const empty = t.isNullLiteral(node.right) || t.isStringLiteral(node.right, { value: '' });
    return down(
      node.left,
      /^!==?$/.test(node.operator) === empty ? negated : node.operator.startsWith('>') ? negated : !negated,
    );
  }
  if (t.isIdentifier(node)) return named(node.name, negated, guide, known, depth);
  if (t.isCallExpression(node) || t.isOptionalCallExpression(node)) return called(node, negated, guide, known, depth);
  if (t.isMemberExpression(node) || t.isOptionalMemberExpression(node))
    return member(node, negated, guide, known, depth);
  return nothing;
}

function together(one: Asked, two: Asked, both: boolean): Asked {
  const roles = [...new Set([...one.roles, ...two.roles])];
  return {
    roles,
    all: one.all || two.all || (both && one.roles.length > 0 && two.roles.length > 0 && roles.length > 1),
    fields: [...new Set([...one.fields, ...two.fields])],
    keys: [...new Set([...one.keys, ...two.keys])],
    wrong: one.wrong || two.wrong,
  };
}

function named(
  name: string,
  negated: boolean,
  guide: ConditionGuide,
  known: ReadonlyMap<string, t.Node>,
  depth: number,
): Asked {
  const given = known.get(name);
  if (given) return ask(given, negated, guide, new Map(), depth + 1);
  const variable = guide.variable(name);
  if (variable?.kind === 'alias') {
    const expression = expressionOf(variable.text);
    return expression ? ask(expression, negated, guide, known, depth + 1) : nothing;
  }
  const role = guide.roleOf(name);
  if (role) return ofRole(role, negated);
  const own = guide.memberOf(name);
  return own && !own.parameters.length ? ask(own.value, negated, guide, new Map(), depth + 1) : nothing;
}

function ofRole(role: StatusRole, negated: boolean): Asked {
  if (role === 'errors' || role === 'message') return { ...nothing, wrong: !negated };
  return negated || /^(submitting|loading|valid|checking)$/.test(role) ? nothing : { ...nothing, roles: [role] };
}

function called(
  node: t.CallExpression | t.OptionalCallExpression,
  negated: boolean,
  guide: ConditionGuide,
  known: ReadonlyMap<string, t.Node>,
  depth: number,
): Asked {
  const { callee } = node;
  const own = t.isIdentifier(callee)
    ? callee.name
    : t.isMemberExpression(callee) && t.isThisExpression(callee.object) && t.isIdentifier(callee.property)
      ? callee.property.name
      : undefined;
  if (own !== undefined) {
    const role = guide.roleOf(own);
    if (role) return ofRole(role, negated);
    const target = guide.memberOf(own);
    const texts = node.arguments.flatMap((one) => (t.isStringLiteral(one) ? [one.value] : fieldsIn(one, guide, known)));
    if (!target) return nothing;
    const given = new Map<string, t.Node>();
    target.parameters.forEach((name, index) => {
      const argument = node.arguments[index];
      if (argument) given.set(name, argument);
    });
    const inner = ask(target.value, negated, guide, given, depth + 1);
    return { ...inner, fields: [...new Set([...inner.fields, ...texts])] };
  }
  if (t.isMemberExpression(callee) || t.isOptionalMemberExpression(callee)) {
    const name = t.isIdentifier(callee.property) ? callee.property.name : '';
    if (name === 'hasError' || name === 'getError')
      return {
        ...nothing,
        wrong: !negated,
        fields: pathOf(node, guide, known),
        keys: t.isStringLiteral(node.arguments[0]) && !negated ? [node.arguments[0].value] : [],
      };
    return member(callee, negated, guide, known, depth);
  }
  return nothing;
}

function member(
  node: t.MemberExpression | t.OptionalMemberExpression,
  negated: boolean,
  guide: ConditionGuide,
  known: ReadonlyMap<string, t.Node>,
  depth: number,
): Asked {
  const name = t.isIdentifier(node.property) && !node.computed ? node.property.name : '';
  if (t.isThisExpression(node.object)) return named(name, negated, guide, known, depth);
  const fields = pathOf(node, guide, known);
  const status = (role: StatusRole, not: boolean): Asked => ({ ...ofRole(role, not), fields });
  switch (name) {
    case 'touched':
      return status('touched', negated);
    case 'untouched':
      return status('touched', !negated);
    case 'dirty':
      return status('changed', negated);
    case 'pristine':
      return status('changed', !negated);
    case 'submitted':
      return status('attempted', negated);
    case 'invalid':
    case 'errors':
      return { ...nothing, wrong: !negated, fields };
    case 'valid':
      return { ...nothing, wrong: negated, fields };
    default: {
      const text = JSON.stringify(namesIn(node));
      if (/"errors"/.test(text)) return { ...nothing, wrong: !negated, fields, keys: negated ? [] : keyAsked(node) };
      const root = rootOf(node);
      const role = root === undefined ? undefined : guide.roleOf(root);
      return role ? { ...ofRole(role, negated), fields } : { ...nothing, fields };
    }
  }
}

/** The key that is asked of a control's errors: `errors['required']`, `errors.min.min`. */
function keyAsked(node: t.MemberExpression | t.OptionalMemberExpression): string[] {
  const { object, property, computed } = node;
  const key = computed
    ? t.isStringLiteral(property)
      ? property.value
      : undefined
    : t.isIdentifier(property)
      ? property.name
      : undefined;
  const ofErrors =
    (t.isMemberExpression(object) || t.isOptionalMemberExpression(object)) &&
    t.isIdentifier(object.property, { name: 'errors' });
  if (ofErrors && key !== undefined) return [key];
  return t.isMemberExpression(object) || t.isOptionalMemberExpression(object) ? keyAsked(object) : [];
}

function namesIn(node: t.Node): string[] {
  const found: string[] = [];
  t.traverseFast(node, (inner) => {
    if (t.isIdentifier(inner)) found.push(inner.name);
  });
  return found;
}

function rootOf(node: t.Node): string | undefined {
  if (t.isIdentifier(node)) return node.name;
  if (t.isMemberExpression(node) || t.isOptionalMemberExpression(node))
    return t.isThisExpression(node.object) && t.isIdentifier(node.property) ? node.property.name : rootOf(node.object);
  if (t.isCallExpression(node) || t.isOptionalCallExpression(node)) return rootOf(node.callee);
  return t.isTSNonNullExpression(node) ? rootOf(node.expression) : undefined;
}

const between =
  /^(controls|value|touched|dirty|errors|invalid|valid|untouched|pristine|submitted|hasError|getError|get|form|at|control|length)$/;

/** The field that a chain of members and calls leads to: `f['lender'].get('email')` gives `lender.email`. */
function pathOf(node: t.Node, guide: ConditionGuide, known: ReadonlyMap<string, t.Node>): string[] {
  const parts: string[] = [];
  let left = 60;
  const walk = (inner: t.Node): void => {
    // names may stand for one another in a circle
    if (left-- < 0) return;
    if (t.isTSNonNullExpression(inner) || t.isTSAsExpression(inner) || t.isParenthesizedExpression(inner)) {
      walk(inner.expression);
      return;
    }
    if (t.isIdentifier(inner)) {
      const given = known.get(inner.name);
      const variable = guide.variable(inner.name);
      if (given) walk(given);
      else if (variable?.kind === 'control') parts.push(variable.field);
      else if (variable?.kind === 'alias') {
        const expression = expressionOf(variable.text);
        if (expression) walk(expression);
      } else {
        const own = guide.memberOf(inner.name);
        if (own && !own.parameters.length) walk(own.value);
      }
      return;
    }
    if (t.isMemberExpression(inner) || t.isOptionalMemberExpression(inner)) {
      if (t.isThisExpression(inner.object)) {
        if (t.isIdentifier(inner.property)) walk(inner.property);
        return;
      }
      walk(inner.object);
      const key = inner.computed
        ? t.isStringLiteral(inner.property)
          ? inner.property.value
          : undefined
        : t.isIdentifier(inner.property)
          ? inner.property.name
          : undefined;
      const ofErrors = namesIn(inner.object).includes('errors');
      if (key !== undefined && (inner.computed || !between.test(key)) && !ofErrors) parts.push(key);
      return;
    }
    if (!t.isCallExpression(inner) && !t.isOptionalCallExpression(inner)) return;
    walk(inner.callee);
    const name =
      t.isMemberExpression(inner.callee) || t.isOptionalMemberExpression(inner.callee)
        ? inner.callee.property
        : inner.callee;
    const argument = (index: number): void => {
      const one = inner.arguments[index];
      const plain = t.isIdentifier(one) ? (known.get(one.name) ?? one) : one;
      if (t.isStringLiteral(plain)) parts.push(plain.value);
      if (t.isArrayExpression(plain))
        for (const part of plain.elements) if (t.isStringLiteral(part)) parts.push(part.value);
    };
    if (t.isIdentifier(name, { name: 'get' })) argument(0);
    if (t.isIdentifier(name) && /^(hasError|getError)$/.test(name.name)) argument(1);
  };
  walk(node);
  return parts.length ? [parts.join('.')] : [];
}

function fieldsIn(node: t.Node, guide: ConditionGuide, known: ReadonlyMap<string, t.Node>): string[] {
  return t.isExpression(node) ? pathOf(node, guide, known) : [];
}
