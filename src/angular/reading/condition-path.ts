import { parseExpression } from '@babel/parser';
import * as t from '@babel/types';
import type { StatusRole } from '../../form/life.js';

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

/** On the way through a condition: whom to ask, what parameters stand for, how deep it is. */
export interface Way {
  guide: ConditionGuide;
  known: ReadonlyMap<string, t.Node>;
  depth: number;
}

/** A condition of a template as an expression; undefined where it is none of the language. */
export function expressionOf(text: string): t.Expression | undefined {
  const bare = text.replace(/;[\s\S]*$/, '').replace(/(?<!\|)\|(?!\|)[^|&?:)]*/g, '');
  try {
    return parseExpression(bare, { plugins: ['typescript'] });
  } catch {
    return undefined;
  }
}

/** Every name in an expression. */
export function namesIn(node: t.Node): string[] {
  const found: string[] = [];
  t.traverseFast(node, (inner) => {
    if (t.isIdentifier(inner)) found.push(inner.name);
  });
  return found;
}

/** The key that a member is asked by, where it is a plain one. */
export function keyOf({ property, computed }: t.MemberExpression | t.OptionalMemberExpression): string | undefined {
  if (computed) return t.isStringLiteral(property) ? property.value : undefined;
  return t.isIdentifier(property) ? property.name : undefined;
}

const between =
  /^(controls|value|touched|dirty|errors|invalid|valid|untouched|pristine|submitted|hasError|getError|get|form|at|control|length)$/;

/** The field that a chain of members and calls leads to: `f['lender'].get('email')` gives `lender.email`. */
export function pathOf(node: t.Node, { guide, known }: Pick<Way, 'guide' | 'known'>): string[] {
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
      const key = keyOf(inner);
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
