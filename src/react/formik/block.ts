import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { addFunction, addState, type Block } from '../package-leaving/block.js';
import { elementTypes } from '../package-leaving/events.js';
import { depthOf, reindented, textIn } from '../package-leaving/leaving.js';
import type { TakenApart } from './form.js';

/** What the values begin as, and the names of their types, as they stand in the block. */
export interface Stated {
  /** Type of the values as source text; undefined in JavaScript. */
  type: string | undefined;
  /** Type of the messages by field. */
  errors: string | undefined;
  touched: string | undefined;
  start: string;
  /** How all values are checked, by an expression for them; undefined where nothing does. */
  check: ((values: string) => string) | undefined;
  /** Lines that declare a function by which they are checked. */
  checkLines: string[];
  /** When errors are worked out: while rendering, or at these moments. */
  derived: boolean;
  onChange: boolean;
  onBlur: boolean;
  status: { start: string; type: string | undefined };
}

/** Writes what stands in the component: state, and the functions that change it. */
export function addBlock(apart: TakenApart, stated: Stated, block: Block): void {
  addStates(apart, stated, block);
  addChanges(apart, stated, block);
  addReset(apart, stated, block);
  if (apart.needs.has('handleSubmit')) addSubmit(apart, stated, block);
}

function keepsErrors({ needs }: TakenApart, { check, derived }: Stated): boolean {
  return (
    !derived &&
    (needs.has('errors') || needs.has('setErrors') || needs.has('valid')) &&
    (check !== undefined || needs.has('setErrors'))
  );
}

function addStates(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs } = apart;
  const { type, check, start } = stated;
  addState(block, [names.values, names.setValues], type, start);
  block.lines.push(...stated.checkLines);
  if (keepsErrors(apart, stated)) addState(block, [names.errors, names.setErrors], stated.errors, '{}');
  else if (needs.has('errors') && check) block.lines.push(`const ${names.errors} = ${check(names.values)};`);
  if (needs.has('touched')) addState(block, [names.touched, names.setTouched], stated.touched, '{}');
  if (needs.has('submitting')) addState(block, [names.submitting, names.setSubmitting], undefined, 'false');
  if (needs.has('attempts')) addState(block, [names.attempts, names.setAttempts], undefined, '0');
  if (needs.has('firstStatus'))
    addState(block, [names.firstStatus, names.setFirstStatus], stated.status.type, stated.status.start);
  if (needs.has('status'))
    addState(
      block,
      [names.status, names.setStatus],
      stated.status.type,
      needs.has('firstStatus') ? names.firstStatus : stated.status.start,
    );
  if (needs.has('dirty'))
    block.lines.push(`const ${names.dirty} = JSON.stringify(${names.values}) !== JSON.stringify(${start});`);
  if (needs.has('valid')) block.lines.push(`const ${names.valid} = Object.keys(${names.errors}).length === 0;`);
}

/** The union of the types of elements, for an event. */
function elementsOf(tags: ReadonlySet<string>): string {
  return [...tags]
    .flatMap((tag) => elementTypes[tag] ?? [])
    .sort()
    .join(' | ');
}

function typed(name: string, type: string | undefined): string {
  return type === undefined ? name : `${name}: ${type}`;
}

function addChanges(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving } = apart;
  const { typescript } = leaving.script;
  const { check } = stated;
  const keeps = keepsErrors(apart, stated) && check !== undefined;
  const runs = (values: string): string[] => (keeps && check ? [`${names.setErrors}(${check(values)});`] : []);
  if (needs.has('change') && names.change !== names.setValues)
    addFunction(block, `function ${names.change}(${typed('next', stated.type)})`, [
      `${names.setValues}(next);`,
      ...(stated.onChange ? runs('next') : []),
    ]);
  if (needs.has('handleChange')) {
    block.types.add('ChangeEvent');
    const type = typescript ? `ChangeEvent<${elementsOf(apart.changed)}>` : undefined;
    addFunction(block, `function ${names.handleChange}(${typed('event', type)})`, [
      `${names.change}({ ...${names.values}, [event.target.name]: event.target.value });`,
    ]);
  }
  if (needs.has('handleBlur')) {
    block.types.add('FocusEvent');
    const type = typescript ? `FocusEvent<${elementsOf(apart.left)}>` : undefined;
    addFunction(block, `function ${names.handleBlur}(${typed('event', type)})`, [
      ...(needs.has('touched') ? [`${names.setTouched}({ ...${names.touched}, [event.target.name]: true });`] : []),
      ...(stated.onBlur ? runs(names.values) : []),
    ]);
  }
}

function addReset(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving } = apart;
  if (needs.has('reset'))
    addFunction(block, `function ${names.reset}(${needs.has('firstStatus') ? `next = ${names.firstStatus}` : ''})`, [
      `${names.setValues}(${stated.start});`,
      ...(keepsErrors(apart, stated) ? [`${names.setErrors}({});`] : []),
      ...(needs.has('touched') ? [`${names.setTouched}({});`] : []),
      ...(needs.has('submitting') ? [`${names.setSubmitting}(false);`] : []),
      ...(needs.has('attempts') ? [`${names.setAttempts}(0);`] : []),
      ...(needs.has('firstStatus')
        ? [`${names.setFirstStatus}(next);`, `${names.setStatus}(next);`]
        : needs.has('status')
          ? [`${names.setStatus}(${stated.status.start || 'undefined'});`]
          : []),
    ]);
  if (needs.has('handleReset')) {
    block.types.add('FormEvent');
    const type = leaving.script.typescript ? 'FormEvent<HTMLFormElement>' : undefined;
    addFunction(block, `function ${names.handleReset}(${typed('event', type)})`, [
      'event.preventDefault();',
      `${names.reset}();`,
    ]);
  }
}

function addSubmit(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving, fields } = apart;
  const { check } = stated;
  const keeps = keepsErrors(apart, stated);
  const wrong = check === undefined ? undefined : keeps ? 'wrong' : needs.has('errors') ? names.errors : 'wrong';
  const { async, lines } = sendLines(apart);
  block.types.add('FormEvent');
  const type = leaving.script.typescript ? 'FormEvent<HTMLFormElement>' : undefined;
  addFunction(block, `${async ? 'async ' : ''}function ${names.handleSubmit}(${typed('event', type)})`, [
    'event.preventDefault();',
    ...(needs.has('touched') ? [`${names.setTouched}({ ${fields.map((name) => `${name}: true`).join(', ')} });`] : []),
    ...(needs.has('attempts') ? [`${names.setAttempts}(${names.attempts} + 1);`] : []),
    ...(check && wrong === 'wrong' ? [`const wrong = ${check(names.values)};`] : []),
    ...(check && keeps ? [`${names.setErrors}(wrong);`] : []),
    ...(wrong === undefined ? [] : [`if (Object.keys(${wrong}).length > 0) return;`]),
    ...lines,
  ]);
}

/** The statements that send: the author’s own function called, or what it does. */
function sendLines(apart: TakenApart): { async: boolean; lines: string[] } {
  const { names, needs, send, leaving } = apart;
  if (!send) return { async: false, lines: [] };
  const { fn, given } = send;
  const { style } = leaving.context;
  const own = ownBody(apart);
  const waits = fn ? fn.node.async === true : true;
  const step = style.indent;
  const lines = own
    ? relative(reindented(textIn(leaving, own), depthOf(leaving, own), ''), step)
    : [`${waits ? 'await ' : ''}${calledAs(apart, given)};`];
  const begin = needs.has('submitting') ? [`${names.setSubmitting}(true);`] : [];
  if (!begin.length || !waits) return { async: waits, lines: [...begin, ...lines] };
  return {
    async: true,
    lines: [
      ...begin,
      'try {',
      ...lines.map((line) => (line === '' ? line : `  ${line}`)),
      '} finally {',
      `  ${names.setSubmitting}(false);`,
      '}',
    ],
  };
}

function calledAs({ names, leaving }: TakenApart, given: NodePath): string {
  const text = textIn(leaving, given);
  const values = given.isIdentifier() || given.isMemberExpression() ? text : `(${text})`;
  return `${values}(${names.values})`;
}

/** The body of the function that sends, where it stands in the option and knows the values by the component’s name. */
export function ownBody({ send, names, leaving }: TakenApart): NodePath<t.BlockStatement> | undefined {
  const fn = send?.fn;
  if (!fn || !send || fn.node !== send.given.node) return undefined;
  const body = fn.get('body') as NodePath;
  const [values] = fn.get('params') as NodePath[];
  if (!body.isBlockStatement() || (values && !values.isIdentifier({ name: names.values }))) return undefined;
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
    while (line.startsWith(step, depth * step.length) && step !== '') depth += 1;
    return line.trim() === '' ? '' : '  '.repeat(Math.max(0, depth - 1)) + line.slice(depth * step.length);
  });
}
