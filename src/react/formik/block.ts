import { quoted } from '../../source/style.js';
import { keyText, typedAs } from '../package-leaving/apart.js';
import { nestedFields } from '../package-leaving/nested.js';
import { addFunction, addState, type Block } from '../package-leaving/block.js';
import { addValues, firstOf, resetOfValues } from '../package-leaving/first-values.js';
import type { StartedAs } from '../package-leaving/starts.js';
import { sendLines, sentEvent } from '../package-leaving/sending.js';
import { elementsOf } from '../package-leaving/ties.js';
import type { TakenApart } from './form.js';
import { addRowFunctions, allLeft } from './rows.js';

/** What the values begin as, and the names of their types, as they stand in the block. */
export interface Stated extends StartedAs {
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
  addRowFunctions(apart, block);
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
  const { check } = stated;
  addValues(block, apart, stated);
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
    block.lines.push(
      `const ${names.dirty} = JSON.stringify(${names.values}) !== JSON.stringify(${firstOf(apart, stated)});`,
    );
  if (needs.has('valid')) block.lines.push(`const ${names.valid} = Object.keys(${names.errors}).length === 0;`);
}

function addChanges(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving } = apart;
  const { typescript } = leaving.script;
  const { check } = stated;
  const keeps = keepsErrors(apart, stated) && check !== undefined;
  const runs = (values: string): string[] => (keeps && check ? [`${names.setErrors}(${check(values)});`] : []);
  if (needs.has('change') && names.change !== names.setValues)
    addFunction(block, `function ${names.change}(${typedAs('next', stated.type)})`, [
      `${names.setValues}(next);`,
      ...(stated.onChange ? runs('next') : []),
    ]);
  if (needs.has('handleChange')) {
    block.types.add('ChangeEvent');
    const type = typescript ? `ChangeEvent<${elementsOf(apart.changed)}>` : undefined;
    addFunction(block, `function ${names.handleChange}(${typedAs('event', type)})`, [
      `${names.change}({ ...${names.values}, [event.target.name]: event.target.value });`,
    ]);
  }
  if (needs.has('left'))
    addFunction(block, `function ${names.left}(${typedAs('name', typescript ? 'string' : undefined)})`, [
      `${names.setTouched}((old) => ({ ...old, [name]: true }));`,
      ...(stated.onBlur ? runs(names.values) : []),
    ]);
  if (needs.has('handleBlur')) {
    block.types.add('FocusEvent');
    const type = typescript ? `FocusEvent<${elementsOf(apart.left)}>` : undefined;
    addFunction(block, `function ${names.handleBlur}(${typedAs('event', type)})`, [
      ...(needs.has('touched') && !apart.rows.size
        ? [`${names.setTouched}({ ...${names.touched}, [event.target.name]: true });`]
        : []),
      ...(needs.has('touched') && apart.rows.size
        ? [
            'const { name } = event.target;',
            // whoever left a field of a row left the list
            'const [list = name] = /^[^.]+/.exec(name) ?? [];',
            `${names.setTouched}({ ...${names.touched}, [name]: true, [list]: true });`,
          ]
        : []),
      ...(stated.onBlur ? runs(names.values) : []),
    ]);
  }
}

function addReset(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving } = apart;
  const { parameter, lines } = resetOfValues(apart, stated);
  if (needs.has('reset'))
    addFunction(
      block,
      `function ${names.reset}(${needs.has('firstStatus') ? `next = ${names.firstStatus}` : parameter})`,
      [
        ...lines,
        ...(keepsErrors(apart, stated) ? [`${names.setErrors}({});`] : []),
        ...(needs.has('touched') ? [`${names.setTouched}({});`] : []),
        ...(needs.has('submitting') ? [`${names.setSubmitting}(false);`] : []),
        ...(needs.has('attempts') ? [`${names.setAttempts}(0);`] : []),
        ...(needs.has('firstStatus')
          ? [`${names.setFirstStatus}(next);`, `${names.setStatus}(next);`]
          : needs.has('status')
            ? [`${names.setStatus}(${stated.status.start || 'undefined'});`]
            : []),
      ],
    );
  if (needs.has('handleReset')) {
    block.types.add('FormEvent');
    const type = leaving.script.typescript ? 'FormEvent<HTMLFormElement>' : undefined;
    addFunction(block, `function ${names.handleReset}(${typedAs('event', type)})`, [
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
  const { async, lines } = sendLines(apart, {
    warning: quoted('Warning: An unhandled error was caught from submitForm()', leaving.context.style),
    staysBusy: true,
  });
  const { parameter, prevents } = sentEvent(apart, block.types);
  addFunction(block, `${async ? 'async ' : ''}function ${names.handleSubmit}(${parameter})`, [
    prevents,
    ...(needs.has('touched')
      ? [
          `${names.setTouched}({ ${[
            ...fields.map((name) => `${name}: true`),
            ...nestedFields(apart).map((name) => `${keyText(name)}: true`),
            ...allLeft(apart),
          ].join(', ')} });`,
        ]
      : []),
    ...(needs.has('attempts') ? [`${names.setAttempts}(${names.attempts} + 1);`] : []),
    ...(check && wrong === 'wrong' ? [`const wrong = ${check(names.values)};`] : []),
    ...(check && keeps ? [`${names.setErrors}(wrong);`] : []),
    ...(wrong === undefined ? [] : [`if (Object.keys(${wrong}).length > 0) return;`]),
    ...lines,
  ]);
}
