import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import { wholeLines } from '../../source/removal.js';
import type { Script } from '../../source/script.js';
import { indentAt } from '../../source/style.js';
import {
  leaveNode,
  put,
  staticPath,
  support,
  textAt,
  type Leaving,
  type RuleFunction,
  type RuleSource,
} from './leaving.js';
import { ruleSource, usedElsewhere, unwrap, valueName, typeOfPath, pathParameters } from './rule-sources.js';
import {
  calledOf,
  isKnownRule,
  joined,
  knownRule,
  nameOf,
  pathLiteral,
  plainIdentifiers,
  said,
  targetOf,
  type Names,
  type Target,
} from './rule-texts.js';

/** Where rules stand while a function is said with values. */
interface Place {
  names: Names;
  script: Script;
  leaving: Leaving;
  /** Names of indices that are taken. */
  depth: number;
  /** The path without indices that `at` stands for, in a function for a part of the values. */
  base: string | undefined;
  /** It stands under a condition of the schema. */
  conditional: boolean;
  /** Attributes of the rules of the function, by paths of its own; undefined under a condition. */
  attributes: [path: string, text: string][] | undefined;
}

/**
 * Says the rules of the form's schema with values, in place, and gives the second argument of its group.
 * @returns the text before and behind the schema where it stands in the form's call; undefined where there is none
 */
export function stateRules(leaving: Leaving): { before: string; behind: string } | undefined {
  const { found, component, type } = leaving;
  const { script } = component;
  if (!found.schema) return undefined;
  const source = ruleSource(found.schema, script, leaving);
  if (!source) return leaveNode(leaving, script, found.schema, 'which rules it states is not clear');
  const byField = support(leaving, script, 'byField');
  note(sayWith(source, 'whole', type, undefined, leaving), undefined, undefined, leaving);
  for (const [fn, { source: of }] of leaving.stated)
    if (of.name !== undefined && usedElsewhere(of, leaving))
      leaveNode(leaving, of.script, fn, `other forms state their rules by ${of.name} as well`);
  return { before: source.name === undefined ? `${byField}<${type}>(` : `${byField}(`, behind: ')' };
}

/** Takes note of attributes: those of the form’s own fields, and for a function of a part those of its base. */
function note(
  found: readonly [string, string][],
  base: string | undefined,
  outer: [string, string][] | undefined,
  { attributes }: Leaving,
): void {
  for (const [path, text] of found) {
    const own = base === undefined ? path : path.replace('${at}', base);
    if (outer) outer.push([own, text]);
    else attributes.set(staticPath(own), [...(attributes.get(staticPath(own)) ?? []), text]);
  }
}

/**
 * Says a function of rules with values, once.
 * @param base the path without indices that it is asked for, where it is for a part of the values
 * @returns attributes of its rules, by its own paths
 */
function sayWith(
  source: RuleSource,
  role: 'whole' | 'part',
  type: string | undefined,
  base: string | undefined,
  leaving: Leaving,
): [string, string][] {
  const { fn, script, wrap, declared, name } = source;
  const before = leaving.stated.get(fn);
  if (before && before.role !== role) leaveNode(leaving, script, fn, 'it states rules of a form and of a part of one');
  if (before) return before.attributes;
  const attributes: [string, string][] = [];
  const further = pathParameters(fn, script);
  leaving.stated.set(fn, { source, role, attributes, others: further });
  const [parameter, ...others] = fn.params;
  if (!t.isIdentifier(parameter)) {
    leaveNode(leaving, script, fn, 'its path has no name');
    return attributes;
  }
  const value = valueName(parameter.name, fn, role, leaving);
  const place: Place = {
    names: new Map([
      [parameter.name, { value, path: role === 'whole' ? '' : '${at}' }],
      ...further.map((one): [string, Target] => [one.name, { value: one.name, path: `\${${one.name}At}` }]),
    ]),
    script,
    leaving,
    depth: 0,
    base,
    conditional: false,
    attributes,
  };
  const typed = typeOfPath(parameter, wrap, declared, script) ?? type;
  sayBody(fn.body, place);
  for (const one of further) {
    const own = new RegExp(`\\b${one.name}At\\b`);
    one.keeps = leaving.edits.some(
      ({ file, start, text }) =>
        file === script.file && start >= (fn.start ?? 0) && start < (fn.end ?? 0) && own.test(text),
    );
  }
  const end = others.at(-1)?.end ?? parameter.end ?? 0;
  if (name === undefined) {
    put(leaving, script, parameter.start ?? 0, end, `${value}, wrong`);
    const bare = script.text.slice(fn.start ?? 0, parameter.start ?? 0).includes('(');
    if (!bare) put(leaving, script, parameter.start ?? 0, end, `(${value}, wrong)`);
    unwrap(wrap, fn, script, leaving);
    return attributes;
  }
  if (typed === undefined) {
    leaveNode(leaving, script, fn, 'the type of its values is not told');
    return attributes;
  }
  const rest = others
    .map((one) => {
      const path = further.find(({ name: own }) => t.isIdentifier(one) && one.name === own);
      const text = path && t.isIdentifier(one) ? typeOfPath(one, undefined, undefined, script) : undefined;
      return path
        ? `, ${path.name}: ${text ?? 'unknown'}${path.keeps ? `, ${path.name}At: string` : ''}`
        : `, ${textAt(script, one)}`;
    })
    .join('');
  const wrong = `wrong: ${support(leaving, script, 'Wrong')}`;
  const parameters = `${value}: ${typed}, ${role === 'part' ? 'at: string, ' : ''}${wrong}${rest}`;
  if (t.isFunctionDeclaration(fn)) put(leaving, script, parameter.start ?? 0, end, parameters);
  else if (t.isArrowFunctionExpression(fn))
    put(leaving, script, fn.start ?? 0, fn.body.start ?? 0, `(${parameters}): void => `);
  else put(leaving, script, parameter.start ?? 0, end, parameters);
  unwrap(wrap, fn, script, leaving);
  if (t.isVariableDeclarator(declared) && t.isIdentifier(declared.id) && declared.id.typeAnnotation)
    put(leaving, script, declared.id.typeAnnotation.start ?? 0, declared.id.typeAnnotation.end ?? 0, '');
  return attributes;
}

function sayBody(body: t.Node, place: Place): void {
  if (!t.isBlockStatement(body)) {
    const text = statementText(body, [], place);
    if (text !== undefined) put(place.leaving, place.script, body.start ?? 0, body.end ?? 0, `{ ${text} }`);
    return;
  }
  sayStatements(body.body, [], place);
}

function sayStatements(statements: readonly t.Statement[], guards: readonly string[], place: Place): void {
  const { script, leaving, names } = place;
  for (const statement of statements) noteHidden(statement, place);
  for (const statement of statements) {
    if (!t.isExpressionStatement(statement)) {
      const speaks = plainIdentifiers(statement).some(({ name }) => names.has(name));
      if (speaks) leaveNode(leaving, script, statement, 'it says more than rules of fields');
      continue;
    }
    const text = statementText(statement.expression, guards, place);
    if (text === undefined) continue;
    const span = spanOfNode(script.file, statement);
    const { start, end } = text === '' ? wholeLines(script.text, span) : span;
    put(leaving, script, start, end, text);
    leaving.ledger.push({
      entry: 'carried',
      span: { file: script.file, start, end },
      what: textAt(script, statement).split('\n')[0] ?? '',
      why: 'the rule is said with the form’s values',
      // where a field counts is said at the places that depend on it
      ...(text === '' ? { takenOver: true } : {}),
    });
  }
}

/** Fields that do not count under a condition. */
function noteHidden(statement: t.Statement, { names, script, leaving, conditional }: Place): void {
  const call = t.isExpressionStatement(statement) ? statement.expression : undefined;
  const called = calledOf(call, script);
  if (!t.isCallExpression(call) || (called !== 'hidden' && called !== 'disabled')) return;
  const target = targetOf(call.arguments[0], names);
  if (!target || target.path.includes('${') || conditional) return;
  const condition = call.arguments[1];
  const kept = called === 'hidden' ? leaving.hidden : leaving.disabled;
  // of two conditions for one field none is told
  if (kept.has(target.path)) return void kept.set(target.path, () => undefined);
  kept.set(target.path, (values) => {
    if (!condition) return 'true';
    const renamed = new Map([...names].map(([name, one]) => [name, { ...one, value: values }]));
    const of = targetOf(call.arguments[0], renamed) ?? target;
    const text = said(condition, of, renamed, script, leaving);
    return text && !text.block ? text.text : undefined;
  });
}

/** Conditions under which a target counts at all. */
function guardsOf(target: Target, { names, leaving }: Place): string[] {
  const [root] = [...names.values()].filter(({ path }) => path === '');
  const conditions = [leaving.hidden, leaving.disabled].flatMap((one) =>
    [...one].filter(([path]) => target.path === path || target.path.startsWith(`${path}.`)).map(([, text]) => text),
  );
  return conditions.flatMap((text) => {
    const said = root && text(root.value);
    if (said === undefined) return [];
    return [/^!\w[\w.]*$/.test(said) ? said.slice(1) : /^\w[\w.]*$/.test(said) ? `!${said}` : `!(${said})`];
  });
}

function statementText(node: t.Node, guards: readonly string[], place: Place): string | undefined {
  const { names, script, leaving } = place;
  if (!t.isCallExpression(node)) return leaveNode(leaving, script, node, 'it says more than rules of fields');
  const called = calledOf(node, script);
  const [first, second] = node.arguments;
  const target = targetOf(first, names);
  if (called === undefined) return helperCall(node, guards, place);
  if (!target) return leaveNode(leaving, script, node, 'the field that it is about is not clear');
  const all = [...guards, ...guardsOf(target, place)];
  if (isKnownRule(called)) {
    const { base } = place;
    const attributes = guards.length ? undefined : place.attributes;
    const take = attributes && ((path: string, text: string) => void (text && attributes.push([path, text])));
    return knownRule(node, called, { names, script, leaving, guards: all, base, attributes: take });
  }
  if (called === 'hidden' || called === 'disabled') {
    const kept = called === 'hidden' ? leaving.hidden : leaving.disabled;
    const clear = !place.conditional && kept.get(target.path)?.('values') !== undefined;
    return clear ? '' : leaveNode(leaving, script, node, 'its condition is not clear');
  }
  if (called === 'validate') return validateText(node, target, all, place);
  if (called === 'apply') return applied(second, target, all, place);
  if (called === 'applyEach') return eachText(second, target, all, place);
  if (called === 'applyWhen') {
    const when = said(second, target, names, script, leaving);
    if (!when || when.block) return leaveNode(leaving, script, node, 'its condition is not clear');
    const inner = applied(node.arguments[2], target, [], { ...place, conditional: true, attributes: undefined });
    return inner === undefined ? undefined : `if (${[...all, when.text].map(joined).join(' && ')}) ${braced(inner)}`;
  }
  return leaveNode(leaving, script, node, `controls of a class have nothing like ${called}`);
}

function braced(text: string): string {
  return /^(if|wrong|\{)/.test(text) && !/;\s*\S/.test(text.replace(/\{[\s\S]*\}/, '')) ? text : `{ ${text} }`;
}

/** A rule of its own: what its function answers is what is wrong. */
function validateText(
  node: t.CallExpression,
  target: Target,
  guards: readonly string[],
  { names, script, leaving }: Place,
): string | undefined {
  const check = said(node.arguments[1], target, names, script, leaving);
  if (!check) return leaveNode(leaving, script, node, 'what it asks besides the values of fields is not clear');
  const path = pathLiteral(target.path, script);
  const lead = guards.length ? `if (${guards.join(' && ')}) ` : '';
  if (!check.block) return `${lead}wrong(${path}, ${check.text.replace(/^\(([\s\S]*)\)$/, '$1')});`;
  const last = /(\w+)$/.exec(staticPath(target.path.replace(/\$\{at\}/, '')))?.[1] ?? '';
  const name = leaving.context.freeName(`check${last.charAt(0).toUpperCase()}${last.slice(1)}`, 'check', 'look');
  const { newline, semicolon } = leaving.context.style;
  const indent = indentAt(script.text, node.start ?? 0);
  return `const ${name} = () => ${check.text}${semicolon}${newline}${indent}${lead}wrong(${path}, ${name}());`;
}

/** Says a function that has a name, and takes note of the attributes that its rules bring to where it is asked for. */
function sayPart(source: RuleSource, target: Target, guards: readonly string[], place: Place): void {
  const { leaving, base, attributes } = place;
  const whole = target.path === '';
  const own = base === undefined ? target.path : target.path.replace('${at}', base);
  const found = sayWith(source, whole ? 'whole' : 'part', undefined, whole ? undefined : staticPath(own), leaving);
  if (!guards.length && attributes) note(found, whole ? undefined : staticPath(target.path), attributes, leaving);
}

/** Rules of a part of the values: those of a function in place, or of one that has a name. */
function applied(
  schema: t.Node | undefined,
  target: Target,
  guards: readonly string[],
  place: Place,
): string | undefined {
  const { script, leaving } = place;
  const source = ruleSource(schema, script, leaving);
  if (!source || !schema) return schema && leaveNode(leaving, script, schema, 'which rules it states is not clear');
  if (source.name !== undefined) {
    const whole = target.path === '';
    sayPart(source, target, guards, place);
    const at = whole ? '' : `${pathLiteral(target.path, script)}, `;
    const call = `${source.name}(${target.value}, ${at}wrong);`;
    return guards.length ? `if (${guards.join(' && ')}) ${call}` : call;
  }
  const [parameter] = source.fn.params;
  if (!t.isIdentifier(parameter)) return leaveNode(leaving, script, schema, 'its path has no name');
  const inner = innerText(source.fn, { ...place, names: new Map([...place.names, [parameter.name, target]]) });
  if (inner === undefined) return undefined;
  return guards.length ? `if (${guards.join(' && ')}) ${inner}` : inner;
}

/** The statements of a function in place, in braces where there are several. */
function innerText(fn: RuleFunction, place: Place): string | undefined {
  const { script, leaving } = place;
  const { body } = fn;
  if (!t.isBlockStatement(body)) return statementText(body, [], place);
  const parts: string[] = [];
  let at = body.start ?? 0;
  for (const statement of body.body) noteHidden(statement, place);
  for (const statement of body.body) {
    if (!t.isExpressionStatement(statement))
      return leaveNode(leaving, script, statement, 'it says more than rules of fields');
    const text = statementText(statement.expression, [], place);
    if (text === undefined) return undefined;
    parts.push(script.text.slice(at, statement.start ?? 0), text);
    at = statement.end ?? 0;
  }
  return parts.join('') + script.text.slice(at, body.end ?? 0);
}

/** Rules of each row of a list. */
function eachText(
  schema: t.Node | undefined,
  target: Target,
  guards: readonly string[],
  place: Place,
): string | undefined {
  const { script, leaving, depth } = place;
  const source = ruleSource(schema, script, leaving);
  if (!source || !schema) return schema && leaveNode(leaving, script, schema, 'which rules it states is not clear');
  const [parameter] = source.fn.params;
  if (!t.isIdentifier(parameter)) return leaveNode(leaving, script, schema, 'its path has no name');
  const row = /^(path|p)$/.test(parameter.name) ? 'row' : parameter.name;
  const index = depth ? `index${depth + 1}` : 'index';
  const one: Target = { value: row, path: `${target.path}.\${${index}}` };
  const inner =
    source.name === undefined
      ? innerText(source.fn, { ...place, depth: depth + 1, names: new Map([...place.names, [parameter.name, one]]) })
      : applied(schema, one, [], place);
  if (inner === undefined) return undefined;
  const body = inner.startsWith('{') ? inner : `{ ${inner} }`;
  const each = `${target.value}.forEach((${row}, ${index}) => ${body});`;
  return guards.length ? `if (${guards.join(' && ')}) ${each}` : each;
}

/** A function of the project that states rules for a path it is given. */
function helperCall(node: t.CallExpression, guards: readonly string[], place: Place): string | undefined {
  const { names, script, leaving } = place;
  const [first, ...others] = node.arguments;
  const target = targetOf(first, names);
  const source = t.isIdentifier(node.callee) ? ruleSource(node.callee, script, leaving) : undefined;
  if (!source || !target) return leaveNode(leaving, script, node, 'it says more than rules of fields');
  const all = [...guards, ...guardsOf(target, place)];
  sayPart(source, target, all, place);
  const further = leaving.stated.get(source.fn)?.others ?? [];
  const rest = others.map((one, index) => {
    const other = targetOf(one, names);
    const keeps = further.find((each) => each.index === index + 1)?.keeps === true;
    return `, ${other ? other.value : textAt(script, one)}${other && keeps ? `, ${pathLiteral(other.path, script)}` : ''}`;
  });
  const unknown = others.some(
    (one, index) => targetOf(one, names) && !further.some((each) => each.index === index + 1),
  );
  if (unknown) return leaveNode(leaving, script, node, 'the path that it is given is not clear');
  const path = pathLiteral(target.path, script);
  const call = `${nameOf(node.callee) ?? ''}(${target.value}, ${path}, wrong${rest.join('')});`;
  return all.length ? `if (${all.join(' && ')}) ${call}` : call;
}
