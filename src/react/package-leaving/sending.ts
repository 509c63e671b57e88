import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { expandedType, typeMembers } from '../../source/type-members.js';
import { functionOf, type FunctionPath } from '../components.js';
import type { Apart } from './apart.js';
import { depthOf, isSeenAt, reindented, sayName, textIn, type Leaving } from './leaving.js';
import { walk } from '../../source/traverse.js';

/** What a package does around a send, where others differ. */
export interface SendManners {
  /** What is told on the console, as source text, where the package keeps failures to itself. */
  warning?: string;
  /** A function that answers with nothing leaves the form at sending. */
  staysBusy?: true;
  /** Statements that follow a send which went through. */
  after?: readonly string[];
}

/** The statements that send, with the flag that says so raised meanwhile, and whether they wait for something. */
export function sendLines(
  apart: Apart,
  { warning, staysBusy, after = [] }: SendManners = {},
): { async: boolean; lines: string[] } {
  const { names, needs, send } = apart;
  if (!send) return { async: false, lines: [] };
  const own = ownBody(apart);
  const waits = answerOf(send.fn) !== 'nothing';
  const sends = own ? ownLines(apart, own) : [`${waits ? 'await ' : ''}${sentBy(apart, send.given)};`];
  const lines = [...sends, ...after];
  const begin = needs.has('submitting') ? [`${names.setSubmitting}(true);`] : [];
  const caught = waits && warning !== undefined ? ['} catch (error) {', `  console.warn(${warning}, error);`] : [];
  const ends = begin.length && (waits || !staysBusy) ? ['} finally {', `  ${names.setSubmitting}(false);`] : [];
  if (!caught.length && !ends.length) return { async: waits, lines: [...begin, ...lines] };
  const tried = lines.map((line) => (line === '' ? line : `  ${line}`));
  return { async: waits, lines: [...begin, 'try {', ...tried, ...caught, ...ends, '}'] };
}

/** What a function that sends answers with: a promise, something that may be one, or nothing. */
export function answerOf(fn: FunctionPath | undefined): 'promise' | 'something' | 'nothing' {
  if (!fn) return 'something';
  if (fn.node.async) return 'promise';
  const answers = returnedBy(fn);
  if (!answers.length) return 'nothing';
  const isPromise = (path: NodePath): boolean =>
    path.isCallExpression() && functionOf(path.get('callee') as NodePath)?.node.async === true;
  return answers.every(isPromise) ? 'promise' : 'something';
}

/** The expressions that a function gives, its own alone. */
export function returnedBy(fn: NodePath<t.Function>): NodePath[] {
  const body = fn.get('body') as NodePath;
  if (!body.isBlockStatement()) return [body];
  const found: NodePath[] = [];
  walk(body, {
    Function: (inner) => inner.skip(),
    ReturnStatement(path) {
      const argument = path.get('argument') as NodePath;
      if (argument.node) found.push(argument);
    },
  });
  return found;
}

/** What a function that sends is given besides the values. */
function besides({ sendsEvent }: Apart): string {
  return sendsEvent === true ? ', event' : '';
}

/** The expression that sends: what a function of one expression gives, else its call. */
function sentBy(apart: Apart, given: NodePath): string {
  const body = apart.ownName === true && apart.send?.fn ? (apart.send.fn.get('body') as NodePath) : undefined;
  return body && !body.isBlockStatement() ? textIn(apart.leaving, body) : calledAs(apart, given);
}

function calledAs(apart: Apart, given: NodePath): string {
  const { names, leaving, sendName, sent = names.values } = apart;
  if (sendName !== undefined) return `${sendName}(${sent})`;
  const text = textIn(leaving, given);
  const called = given.isIdentifier() || given.isMemberExpression() ? text : `(${text})`;
  return `${called}(${sent}${besides(apart)})`;
}

/** The statements of the function that sends, with what is sent under the name that it has for that. */
function ownLines({ send, sent, leaving }: Apart, own: NodePath<t.BlockStatement>): string[] {
  const [values] = (send?.fn?.get('params') ?? []) as NodePath[];
  const text = reindented(textIn(leaving, own), depthOf(leaving, own), '');
  const lead = values && sent !== undefined ? [`const ${textIn(leaving, values)} = ${sent};`] : [];
  return [...lead, ...relative(text, leaving.context.style.indent)];
}

/** Says the values by the component’s name for them in a function that sends and has another one, where it can be. */
export function sayOwnValues(apart: Apart): void {
  const { send, sent, names, leaving, sendName } = apart;
  const fn = send?.fn;
  const [values] = (fn?.get('params') ?? []) as NodePath[];
  const binding = values?.isIdentifier() ? fn?.scope.getOwnBinding(values.node.name) : undefined;
  if (!fn || fn.node !== send.given.node || sendName !== undefined || sent !== undefined || !binding?.constant) return;
  const body = fn.get('body') as NodePath;
  const isSeen = [body, ...binding.referencePaths].every(
    (one) => one.scope.getBinding(names.values) === binding || isSeenAt(leaving, one, names.values),
  );
  const isExpression = body.isCallExpression();
  if (!isSeen || (!isExpression && !body.isBlockStatement())) return;
  apart.ownName = true;
  if (isExpression || ownBody(apart)) {
    for (const reference of binding.referencePaths)
      if (!reference.isIdentifier({ name: names.values })) sayName(leaving, reference, names.values);
  } else apart.ownName = false;
}

/** The body of the function that sends, where it stands where it is given and knows the values by the component’s name. */
export function ownBody({
  send,
  sendName,
  sent,
  ownName,
  names,
  leaving,
}: Apart): NodePath<t.BlockStatement> | undefined {
  const fn = send?.fn;
  if (!fn || fn.node !== send.given.node || sendName !== undefined) return undefined;
  const body = fn.get('body') as NodePath;
  const [values] = fn.get('params') as NodePath[];
  // a pattern that takes the values apart was said as the component’s name
  const isSaid = ownName === true || values?.isObjectPattern() === true || values?.isIdentifier({ name: names.values });
  const isNamed = !values || (sent === undefined ? isSaid : values.isIdentifier());
  // what it answers with is waited for
  if (!body.isBlockStatement() || !isNamed || returnedBy(fn).length) return undefined;
  // names of the body must not meet those of the function around it
  const { scope } = leaving.site.component.path;
  const meets = (name: string): boolean => {
    const known = scope.getOwnBinding(name);
    return /^(?:event|wrong)$/.test(name) || name === names.values || (known !== undefined && !leaving.gone.has(known));
  };
  const declared = Object.entries(body.scope.bindings).filter(([, { kind }]) => kind !== 'param' || sent !== undefined);
  return declared.some(([name]) => meets(name)) ? undefined : body;
}

/** The statements of a block, each line with steps of two spaces. */
export function relative(block: string, step: string): string[] {
  const lines = block
    .replace(/^\{[ \t]*\r?\n?/, '')
    .replace(/\s*\}$/, '')
    .split(/\r?\n/);
  return lines.map((line) => {
    let depth = 0;
    while (step !== '' && line.startsWith(step, depth * step.length)) depth += 1;
    return line.trim() === '' ? '' : '  '.repeat(Math.max(0, depth - 1)) + line.slice(depth * step.length);
  });
}

/** Whether a function that comes from outside is said to take the values alone. */
export function isGivenValuesOnly(given: NodePath, leaving: Leaving): boolean {
  return takenBy(given, leaving) === 'values';
}

/** What a function that comes from outside is said to take; undefined where that is not told. */
export function takenBy(given: NodePath, { script, site }: Leaving): 'values' | 'more' | undefined {
  if (!given.isIdentifier() && !given.isMemberExpression()) return undefined;
  const name = given.isIdentifier()
    ? given.node.name
    : t.isIdentifier(given.node.property)
      ? given.node.property.name
      : '';
  const binding = given.isIdentifier() ? given.scope.getBinding(name) : undefined;
  const pattern = binding?.path.isObjectPattern() ? binding.path.node.typeAnnotation : undefined;
  const told = t.isTSTypeAnnotation(pattern)
    ? typeMembers({ node: pattern.typeAnnotation, script }, site.load).get(name)
    : undefined;
  const type = told && expandedType(told, site.load).node;
  if (t.isTSFunctionType(type)) return type.parameters.length < 2 ? 'values' : 'more';
  const isHandler = t.isTSTypeReference(type) && t.isIdentifier(type.typeName, { name: 'SubmitHandler' });
  if (isHandler) return 'more';
  const isWritten =
    new RegExp(`\\b${name}\\??\\s*:\\s*\\(\\s*[\\w$]+\\s*:[^,()]+\\)\\s*=>`).test(script.text) ||
    new RegExp(`\\b${name}\\??\\(\\s*[\\w$]+\\s*:[^,()]+\\)\\s*:`).test(script.text);
  return isWritten ? 'values' : undefined;
}

/** The parameter of the function that sends, with the statement that keeps the browser from sending the page. */
export function sentEvent(
  { needs, leaving }: Pick<Apart, 'needs' | 'leaving'>,
  types: Set<string>,
): { parameter: string; prevents: string } {
  const alone = needs.has('submit alone') ? '?' : '';
  const type = needs.has('submit by click') || alone !== '' ? 'SyntheticEvent' : 'FormEvent<HTMLFormElement>';
  types.add(/^\w+/.exec(type)?.[0] ?? type);
  const { typescript } = leaving.script;
  return {
    parameter: typescript ? `event${alone}: ${type}` : 'event',
    prevents: `event${alone}.preventDefault();`,
  };
}
