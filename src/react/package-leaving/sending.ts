import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Apart } from './apart.js';
import { depthOf, reindented, textIn } from './leaving.js';

/**
 * The statements that send, with the flag that says so raised meanwhile, and whether they wait for something.
 * @param warning what is told on the console, as source text, where the package keeps failures to itself
 */
export function sendLines(apart: Apart, warning?: string): { async: boolean; lines: string[] } {
  const { names, needs, send, leaving } = apart;
  if (!send) return { async: false, lines: [] };
  const { fn, given } = send;
  const own = ownBody(apart);
  const waits = fn ? fn.node.async === true : true;
  const lines = own
    ? relative(reindented(textIn(leaving, own), depthOf(leaving, own), ''), leaving.context.style.indent)
    : [`${waits ? 'await ' : ''}${calledAs(apart, given)};`];
  const begin = needs.has('submitting') ? [`${names.setSubmitting}(true);`] : [];
  const caught = waits && warning !== undefined ? ['} catch (error) {', `  console.warn(${warning}, error);`] : [];
  if ((!begin.length && !caught.length) || !waits) return { async: waits, lines: [...begin, ...lines] };
  return {
    async: true,
    lines: [
      ...begin,
      'try {',
      ...lines.map((line) => (line === '' ? line : `  ${line}`)),
      ...caught,
      ...(begin.length ? ['} finally {', `  ${names.setSubmitting}(false);`] : []),
      '}',
    ],
  };
}

function calledAs({ names, leaving, sendName }: Apart, given: NodePath): string {
  if (sendName !== undefined) return `${sendName}(${names.values})`;
  const text = textIn(leaving, given);
  const called = given.isIdentifier() || given.isMemberExpression() ? text : `(${text})`;
  return `${called}(${names.values})`;
}

/** The body of the function that sends, where it stands where it is given and knows the values by the component’s name. */
export function ownBody({ send, sendName, names, leaving }: Apart): NodePath<t.BlockStatement> | undefined {
  const fn = send?.fn;
  if (!fn || fn.node !== send.given.node || sendName !== undefined) return undefined;
  const body = fn.get('body') as NodePath;
  const [values] = fn.get('params') as NodePath[];
  // a pattern that takes the values apart was said as the component’s name
  const isNamed = !values || values.isObjectPattern() || values.isIdentifier({ name: names.values });
  if (!body.isBlockStatement() || !isNamed) return undefined;
  // names of the body must not meet those of the function around it
  const { scope } = leaving.site.component.path;
  const meets = (name: string): boolean => {
    const known = scope.getOwnBinding(name);
    return name === 'event' || name === 'wrong' || (known !== undefined && !leaving.gone.has(known));
  };
  const declared = Object.entries(body.scope.bindings).filter(([, { kind }]) => kind !== 'param');
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
