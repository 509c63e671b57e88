import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Constraint, Guard, NumberOf } from '../form/rules.js';
import { bare, behindName, constantBehind } from '../source/behind-names.js';
import { functionAsked } from './called-functions.js';
import { fieldAt, localValue, meaningOf, namesOfCall, type Asked, type RuleLens } from './meanings.js';

/** One condition under which a rule is broken: an expression, or its opposite. */
export interface Test extends Asked {
  negated: boolean;
}

/** A side of a comparison that has to do with one field. */
interface Side {
  field: string;
  /** What of it counts. */
  of: 'value' | 'length' | 'trimmed' | 'trimmed length' | Exclude<NumberOf, 'value'>;
}

function methodCall(path: NodePath): { object: NodePath; method: string; args: NodePath[] } | undefined {
  if (!path.isCallExpression() && !path.isOptionalCallExpression()) return undefined;
  const callee = path.get('callee') as NodePath;
  if (!callee.isMemberExpression() && !callee.isOptionalMemberExpression()) return undefined;
  const { property, computed } = callee.node;
  if (computed || !t.isIdentifier(property)) return undefined;
  return {
    object: callee.get('object') as NodePath,
    method: property.name,
    args: path.get('arguments') as NodePath[],
  };
}

function sideOf(asked: Asked, lens: RuleLens, depth = 0): Side | undefined {
  const field = fieldAt(asked, lens);
  if (field !== undefined) return { field, of: 'value' };
  const path = bare(asked.path);
  if (depth > 4) return undefined;
  const part = (inner: NodePath): Side | undefined => sideOf({ ...asked, path: inner }, lens, depth + 1);
  const meaning = meaningOf({ ...asked, path });
  if (meaning?.kind === 'code') return sideOf(meaning.at, lens, depth + 1);
  if (path.isIdentifier()) {
    const local = localValue({ ...asked, path });
    return local ? sideOf(local, lens, depth + 1) : undefined;
  }
  if (path.isUnaryExpression({ operator: '+' })) return converted(part(path.get('argument')), 'Number');
  if (path.isMemberExpression() || path.isOptionalMemberExpression()) {
    if (!t.isIdentifier(path.node.property, { name: 'length' }) || path.node.computed) return undefined;
    const inner = part(path.get('object') as NodePath);
    if (inner?.of === 'value') return { ...inner, of: 'length' };
    return inner?.of === 'trimmed' ? { ...inner, of: 'trimmed length' } : undefined;
  }
  const method = methodCall(path);
  if (method) {
    const name = t.isIdentifier(method.object.node, { name: 'Number' }) ? method.method : undefined;
    if (name === 'parseFloat' || name === 'parseInt')
      return method.args[0] ? converted(part(method.args[0]), name) : undefined;
    if (method.method !== 'trim' || method.args.length) return undefined;
    const inner = part(method.object);
    return inner?.of === 'value' ? { ...inner, of: 'trimmed' } : undefined;
  }
  if (path.isCallExpression() && t.isIdentifier(path.node.callee)) {
    const { name } = path.node.callee;
    const [first, second] = path.get('arguments') as (NodePath | undefined)[];
    const plain = name === 'Number' || name === 'parseFloat' || name === 'parseInt';
    const ten = !second || t.isNumericLiteral(second.node, { value: 10 });
    return plain && first && ten ? converted(part(first), name) : undefined;
  }
  return undefined;
}

function converted(side: Side | undefined, to: Exclude<NumberOf, 'value'>): Side | undefined {
  return side?.of === 'value' ? { ...side, of: to } : undefined;
}

const opposite: Record<string, string> = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '===': '!==', '!==': '===' };
const flipped: Record<string, string> = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '===': '===', '!==': '!==' };

/** A condition on one field under which a rule is broken, and what the rule asks for then. */
export interface Broken {
  field: string;
  constraints: Constraint[];
  /** The same condition as one that has to hold for another rule to count. */
  guard: Guard | undefined;
  /** A second field it looks at. */
  other?: string;
}

function literalText(value: string | number | boolean | null): string {
  return typeof value === 'string' ? JSON.stringify(value) : String(value);
}

/** A test as a condition that has to hold for a rule to count; undefined where no data says it. */
export function guardOf(test: Test, lens: RuleLens): Guard | undefined {
  const broken = brokenBy(test, lens);
  if (broken?.guard) return broken.guard;
  const kept = brokenBy({ ...test, negated: !test.negated }, lens);
  const [meets, ...others] = kept?.constraints ?? [];
  if (kept && meets && !others.length && kept.other === undefined)
    return { field: kept.field, is: 'meets', constraint: meets };
  const [breaks, ...more] = broken?.constraints ?? [];
  return broken && breaks && !more.length && broken.other === undefined
    ? { field: broken.field, is: 'breaks', constraint: breaks }
    : undefined;
}

/** What a rule asks for that is broken when the test holds; undefined where that is no standard condition. */
export function brokenBy(test: Test, lens: RuleLens, depth = 0): Broken | undefined {
  const path = bare(test.path);
  const here = { ...test, path };
  if (depth > 6) return undefined;
  if (path.isUnaryExpression({ operator: '!' }))
    return brokenBy({ ...test, path: path.get('argument'), negated: !test.negated }, lens, depth + 1);
  if (path.isCallExpression() && t.isIdentifier(path.node.callee, { name: 'Boolean' })) {
    const [first] = path.get('arguments') as (NodePath | undefined)[];
    return first ? brokenBy({ ...test, path: first }, lens, depth + 1) : undefined;
  }
  const side = sideOf(here, lens);
  if (side) return truthBroken(side, test.negated, lens);
  if (path.isBinaryExpression()) return comparisonBroken(path, here, lens);
  const called = callBroken(here, lens);
  if (called) return called;
  const meaning = meaningOf(here);
  if (meaning?.kind === 'code') return brokenBy({ ...meaning.at, negated: test.negated }, lens, depth + 1);
  const local = localValue(here);
  if (local) return brokenBy({ ...local, negated: test.negated }, lens, depth + 1);
  return helperBroken(here, lens, depth);
}

function truthBroken({ field, of }: Side, negated: boolean, lens: RuleLens): Broken | undefined {
  const kind = lens.kindOf(field);
  if (of === 'value') {
    const yesNo = kind === 'boolean';
    if (negated)
      return {
        field,
        constraints: [{ kind: yesNo ? 'required-true' : 'required' }],
        guard: { field, is: yesNo ? 'false' : 'empty' },
      };
    return { field, constraints: [], guard: { field, is: yesNo ? 'true' : 'filled' } };
  }
  if (of === 'trimmed' || of === 'trimmed length')
    return {
      field,
      constraints: negated ? [{ kind: 'not-blank' }] : [],
      guard: { field, is: negated ? 'blank' : 'not-blank' },
    };
  if (of !== 'length') return undefined;
  return {
    field,
    constraints: negated ? [{ kind: 'required' }] : [],
    guard: { field, is: negated ? 'empty' : 'filled' },
  };
}

function comparisonBroken(path: NodePath<t.BinaryExpression>, test: Test, lens: RuleLens): Broken | undefined {
  const left = path.get('left') as NodePath;
  const right = path.get('right');
  const loose = path.node.operator.replace(/^(==|!=)$/, '$1=');
  const leftSide = sideOf({ ...test, path: left }, lens);
  const rightSide = sideOf({ ...test, path: right }, lens);
  const side = leftSide ?? rightSide;
  if (!side || !(loose in opposite)) return undefined;
  const ordered = leftSide ? loose : (flipped[loose] ?? loose);
  const operator = test.negated ? (opposite[ordered] ?? ordered) : ordered;
  if (leftSide && rightSide) {
    if (leftSide.of !== 'value' || rightSide.of !== 'value' || operator !== '!==') return undefined;
    return {
      field: leftSide.field,
      constraints: [{ kind: 'equal', to: rightSide.field }],
      guard: undefined,
      other: rightSide.field,
    };
  }
  const other = leftSide ? right : left;
  const handed = meaningOf({ ...test, path: bare(other) });
  const written = handed?.kind === 'code' ? handed.at : { path: bare(other), script: test.script };
  const value = constantBehind(written, lens.load);
  const missing = t.isIdentifier(bare(other).node, { name: 'undefined' });
  if (value === undefined && !missing) return undefined;
  if (value === null || value === undefined) {
    if (side.of !== 'value' || (operator !== '===' && operator !== '!==')) return undefined;
    const either = path.node.operator.length === 2;
    if (missing && !either) return undefined;
    return operator === '==='
      ? {
          field: side.field,
          constraints: [either ? { kind: 'present', missing: 'fails' } : { kind: 'present' }],
          guard: undefined,
        }
      : { field: side.field, constraints: [], guard: undefined };
  }
  if (typeof value === 'number') return limitBroken(side, operator, value, test.negated, lens);
  if (side.of === 'trimmed' && value === '') return truthBroken(side, operator === '===', lens);
  if (side.of !== 'value') return undefined;
  if (value === '') return truthBroken(side, operator === '===', lens);
  if (typeof value === 'boolean') {
    const isTrue = (operator === '===') === value;
    return {
      field: side.field,
      constraints: isTrue ? [] : [{ kind: 'required-true' }],
      guard: { field: side.field, is: isTrue ? 'true' : 'false' },
    };
  }
  const literal = literalText(value);
  if (operator === '===')
    return { field: side.field, constraints: [], guard: { field: side.field, is: 'equals', literal } };
  if (operator !== '!==') return undefined;
  return {
    field: side.field,
    constraints: [{ kind: 'one-of', values: [literal] }],
    guard: { field: side.field, is: 'differs', literal },
  };
}

function limitBroken(
  { field, of }: Side,
  operator: string,
  limit: number,
  negated: boolean,
  lens: RuleLens,
): Broken | undefined {
  const value = String(limit);
  const length = of === 'length' || of === 'trimmed length';
  if (length) {
    const trimmed = of === 'trimmed length' ? ({ trimmed: true } as const) : {};
    const least = (by: number): Constraint => ({ kind: 'min-length', value: String(by), ...trimmed });
    const most = (by: number): Constraint => ({ kind: 'max-length', value: String(by), ...trimmed });
    const is = `${operator} ${limit}`;
    if (/^(=== 0|<= 0|< 1)$/.test(is)) return truthBroken({ field, of }, true, lens);
    if (/^(!== 0|> 0|>= 1)$/.test(is)) return truthBroken({ field, of }, false, lens);
    if (operator === '<') return { field, constraints: [least(limit)], guard: undefined };
    if (operator === '<=') return { field, constraints: [least(limit + 1)], guard: undefined };
    if (operator === '>') return { field, constraints: [most(limit)], guard: undefined };
    if (operator === '>=') return { field, constraints: [most(limit - 1)], guard: undefined };
    if (operator === '!==') return { field, constraints: [least(limit), most(limit)], guard: undefined };
    return undefined;
  }
  if (of === 'trimmed') return undefined;
  // a text is turned into a number where it is compared with one
  const counted: NumberOf = of === 'value' && lens.kindOf(field) !== 'number' ? 'Number' : of;
  if (operator === '===' || operator === '!==') {
    if (of !== 'value') return undefined;
    const is = operator === '===' ? 'equals' : 'differs';
    return {
      field,
      constraints: operator === '!==' ? [{ kind: 'one-of', values: [value] }] : [],
      guard: { field, is, literal: value },
    };
  }
  const kind = ({ '<': 'min', '<=': 'above', '>': 'max', '>=': 'below' } as const)[operator as '<'];
  const extra = { ...(counted === 'value' ? {} : { of: counted }), ...(negated ? { nan: 'fails' as const } : {}) };
  return { field, constraints: [{ kind, value, ...extra }], guard: undefined };
}

function escapedForPattern(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
}

/** Tests that are calls: a pattern, a list of values, a part of a text. */
function callBroken(test: Test, lens: RuleLens): Broken | undefined {
  const method = methodCall(test.path);
  if (!method) return undefined;
  const [first] = method.args;
  const pattern = (field: string, source: string): Broken => ({
    field,
    constraints: [
      { kind: 'pattern', form: 'expression', value: source, ...(test.negated ? {} : { not: true as const }) },
    ],
    guard: undefined,
  });
  const at = (path: NodePath): Asked => ({ ...test, path });
  const regExp = (path: NodePath): string | undefined => {
    const meaning = meaningOf(at(bare(path)));
    const found = behindName(meaning?.kind === 'code' ? meaning.at : { path, script: test.script }, lens.load);
    return t.isRegExpLiteral(found.path.node) ? `/${found.path.node.pattern}/${found.path.node.flags}` : undefined;
  };
  if (method.method === 'test' && first) {
    const field = fieldAt(at(first), lens);
    const source = regExp(method.object);
    return field !== undefined && source !== undefined ? pattern(field, source) : undefined;
  }
  if (method.method === 'match' && first) {
    const field = fieldAt(at(method.object), lens);
    const source = regExp(first);
    return field !== undefined && source !== undefined ? pattern(field, source) : undefined;
  }
  if (t.isIdentifier(method.object.node, { name: 'Number' }) && first) {
    const side = sideOf(at(first), lens);
    if (side?.of !== 'value' || lens.kindOf(side.field) !== 'number') return undefined;
    if (method.method === 'isInteger' && test.negated)
      return { field: side.field, constraints: [{ kind: 'integer' }], guard: undefined };
    return undefined;
  }
  if (!/^(includes|startsWith|endsWith)$/.test(method.method) || !first) return undefined;
  const field = fieldAt(at(method.object), lens);
  const part = constantBehind({ path: first, script: test.script }, lens.load);
  if (field !== undefined && typeof part === 'string' && lens.kindOf(field) !== 'many choices') {
    const text = escapedForPattern(part);
    const anchored = { includes: text, startsWith: `^${text}`, endsWith: `${text}$` }[method.method] ?? text;
    return pattern(field, `/${anchored}/`);
  }
  const listed = method.method === 'includes' ? fieldAt(at(first), lens) : undefined;
  const list = behindName({ path: method.object, script: test.script }, lens.load);
  if (listed === undefined || !list.path.isArrayExpression() || !test.negated) return undefined;
  const values = (list.path.get('elements') as NodePath[]).map((element) =>
    constantBehind({ path: element, script: list.script }, lens.load),
  );
  const known = values.flatMap((value) => (value === undefined ? [] : [value]));
  if (known.length < values.length) return undefined;
  return {
    field: listed,
    constraints: [{ kind: 'one-of', values: known.map((value) => literalText(value)) }],
    guard: undefined,
  };
}

/** A test that a small function makes: `isBlank(values.place)`. */
function helperBroken(test: Test, lens: RuleLens, depth: number): Broken | undefined {
  const inner = insideHelper(test, lens);
  return inner ? brokenBy({ ...inner, negated: test.negated }, lens, depth + 2) : undefined;
}

/** The one expression that a called function gives, with what its parameters stand for. */
export function insideHelper(asked: Asked, lens: RuleLens): Asked | undefined {
  const { path } = asked;
  if (!path.isCallExpression()) return undefined;
  const called = functionAsked({ ...asked, path: path.get('callee') as NodePath }, lens);
  if (!called) return undefined;
  const fn = called.path;
  const body = fn.get('body') as NodePath;
  const statements = body.isBlockStatement() ? body.get('body') : [];
  const [only] = statements;
  const result =
    only?.isReturnStatement() && statements.length === 1
      ? (only.get('argument') as NodePath)
      : body.isBlockStatement()
        ? undefined
        : body;
  if (!result?.node) return undefined;
  const names = namesOfCall(fn, path, asked, lens, called.names);
  return { path: result, script: called.script, names };
}
