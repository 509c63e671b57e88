import * as t from '@babel/types';
import type { StatusRole } from '../../form/life.js';
import { expressionOf, keyOf, namesIn, pathOf, type ConditionGuide, type Way } from './condition-path.js';

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

function deeper(way: Way, known: Way['known'] = way.known): Way {
  return { ...way, known, depth: way.depth + 1 };
}

const nothing: Asked = { roles: [], all: false, fields: [], keys: [], wrong: false };

/** What a condition asks, through members of the class. */
export function askedBy(text: string, negated: boolean, guide: ConditionGuide): Asked {
  const expression = expressionOf(text);
  return expression ? ask(expression, negated, { guide, known: new Map(), depth: 0 }) : nothing;
}

function ask(node: t.Node, negated: boolean, way: Way): Asked {
  if (way.depth > 8) return nothing;
  const down = (inner: t.Node, not = negated): Asked => ask(inner, not, deeper(way));
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
  if (t.isIdentifier(node)) return named(node.name, negated, way);
  if (t.isCallExpression(node) || t.isOptionalCallExpression(node)) return called(node, negated, way);
  if (t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) return member(node, negated, way);
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

function named(name: string, negated: boolean, way: Way): Asked {
  const { guide, known } = way;
  const given = known.get(name);
  if (given) return ask(given, negated, deeper(way, new Map()));
  const variable = guide.variable(name);
  if (variable?.kind === 'alias') {
    const expression = expressionOf(variable.text);
    return expression ? ask(expression, negated, deeper(way)) : nothing;
  }
  const role = guide.roleOf(name);
  if (role) return ofRole(role, negated);
  const own = guide.memberOf(name);
  return own && !own.parameters.length ? ask(own.value, negated, deeper(way, new Map())) : nothing;
}

function ofRole(role: StatusRole, negated: boolean): Asked {
  if (role === 'errors' || role === 'message') return { ...nothing, wrong: !negated };
  return negated || /^(submitting|loading|valid|checking)$/.test(role) ? nothing : { ...nothing, roles: [role] };
}

function called(node: t.CallExpression | t.OptionalCallExpression, negated: boolean, way: Way): Asked {
  const { guide } = way;
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
    const texts = node.arguments.flatMap((one) =>
      t.isStringLiteral(one) ? [one.value] : t.isExpression(one) ? pathOf(one, way) : [],
    );
    if (!target) return nothing;
    const given = new Map<string, t.Node>();
    target.parameters.forEach((name, index) => {
      const argument = node.arguments[index];
      if (argument) given.set(name, argument);
    });
    const inner = ask(target.value, negated, deeper(way, given));
    return { ...inner, fields: [...new Set([...inner.fields, ...texts])] };
  }
  if (t.isMemberExpression(callee) || t.isOptionalMemberExpression(callee)) {
    const name = t.isIdentifier(callee.property) ? callee.property.name : '';
    if (name === 'hasError' || name === 'getError')
      return {
        ...nothing,
        wrong: !negated,
        fields: pathOf(node, way),
        keys: t.isStringLiteral(node.arguments[0]) && !negated ? [node.arguments[0].value] : [],
      };
    return member(callee, negated, way);
  }
  return nothing;
}

function member(node: t.MemberExpression | t.OptionalMemberExpression, negated: boolean, way: Way): Asked {
  const name = t.isIdentifier(node.property) && !node.computed ? node.property.name : '';
  if (t.isThisExpression(node.object)) return named(name, negated, way);
  const fields = pathOf(node, way);
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
      const role = root === undefined ? undefined : way.guide.roleOf(root);
      return role ? { ...ofRole(role, negated), fields } : { ...nothing, fields };
    }
  }
}

/** The key that is asked of a control's errors: `errors['required']`, `errors.min.min`. */
function keyAsked(node: t.MemberExpression | t.OptionalMemberExpression): string[] {
  const { object } = node;
  const key = keyOf(node);
  const ofErrors =
    (t.isMemberExpression(object) || t.isOptionalMemberExpression(object)) &&
    t.isIdentifier(object.property, { name: 'errors' });
  if (ofErrors && key !== undefined) return [key];
  return t.isMemberExpression(object) || t.isOptionalMemberExpression(object) ? keyAsked(object) : [];
}

function rootOf(node: t.Node): string | undefined {
  if (t.isIdentifier(node)) return node.name;
  if (t.isMemberExpression(node) || t.isOptionalMemberExpression(node))
    return t.isThisExpression(node.object) && t.isIdentifier(node.property) ? node.property.name : rootOf(node.object);
  if (t.isCallExpression(node) || t.isOptionalCallExpression(node)) return rootOf(node.callee);
  return t.isTSNonNullExpression(node) ? rootOf(node.expression) : undefined;
}
