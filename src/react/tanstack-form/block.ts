import { typedAs } from '../package-leaving/apart.js';
import { addFunction, addState, recheckLines, type Block } from '../package-leaving/block.js';
import { sendLines } from '../package-leaving/sending.js';
import { memberType, type StartedAs } from '../package-leaving/starts.js';
import { nameText } from '../package-leaving/ties.js';
import { keyText, valuesWith } from '../package-leaving/apart.js';
import { inAnd } from '../package-leaving/conditions.js';
import { listenerName } from './noted.js';
import type { OwnField, Slot, TakenApart } from './form.js';
import { checkLines } from './rules.js';

/** What the values begin as, and the names of their types, as they stand in the block. */
export interface Stated extends StartedAs {
  /** What is done where a send was tried in vain. */
  invalid: string[];
}

/** Writes what stands in the component: state, and the functions that change it. */
export function addBlock(apart: TakenApart, stated: Stated, block: Block): void {
  const { needs, own } = apart;
  const fields = [...own.values()];
  const has = (slot: Slot): boolean => fields.some(({ rules }) => rules.has(slot));
  if (has('onChange')) needs.add('checks');
  if (has('onBlur')) needs.add('leftChecks').add('left');
  // the lines of rules may declare functions of their own
  const checks = needs.has('checks') ? checkFunction(apart, stated, fields, 'onChange') : [];
  const leftChecks = needs.has('leftChecks') ? checkFunction(apart, stated, fields, 'onBlur') : [];
  addStates(apart, stated, block);
  block.lines.push(...apart.ruleFunctions.flat(), ...checks, ...leftChecks);
  addChanges(apart, stated, block);
  addReset(apart, stated, block);
  addSubmit(apart, stated, block);
}

function checkFunction(apart: TakenApart, stated: Stated, fields: readonly OwnField[], slot: Slot): string[] {
  const { names } = apart;
  const lines = fields.flatMap((own) => [...commentsFor(apart, own, slot), ...checkLines(apart, own, slot)]);
  const name = slot === 'onBlur' ? names.checkLeft : names.check;
  return [
    '',
    `function ${name}(${typedAs(names.values, stated.type)}) {`,
    `  const ${typedAs('errors', stated.errors)} = {};`,
    ...lines.map((line) => `  ${line}`),
    '  return errors;',
    '}',
  ];
}

/** Comments of a field stand where most of what they speak of is done. */
function commentsFor({ listeners }: TakenApart, { name, rules, comments }: OwnField, slot: Slot): string[] {
  const first = rules.has('onChange') ? 'onChange' : 'onBlur';
  return slot === first && rules.has(slot) && !listeners.has(name) ? comments : [];
}

/** Whether anything is wrong by now. */
function someErrors({ names, needs }: TakenApart): string {
  const held = [...(needs.has('checks') ? [names.errors] : []), ...(needs.has('leftChecks') ? [names.leftErrors] : [])];
  return held.map((one) => `Object.keys(${one}).length === 0`).join(' && ') || 'true';
}

function addStates(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs } = apart;
  addState(block, [names.values, names.setValues], stated.type, stated.start);
  if (needs.has('checks')) addState(block, [names.errors, names.setErrors], stated.errors, '{}');
  if (needs.has('leftChecks')) addState(block, [names.leftErrors, names.setLeftErrors], stated.errors, '{}');
  if (needs.has('touched')) addState(block, [names.touched, names.setTouched], stated.touched, '{}');
  if (needs.has('changed')) addState(block, [names.changed, names.setChanged], undefined, 'false');
  if (needs.has('submitting')) addState(block, [names.submitting, names.setSubmitting], undefined, 'false');
  if (needs.has('attempts')) addState(block, [names.attempts, names.setAttempts], undefined, '0');
  if (needs.has('canSubmit'))
    block.lines.push(`const ${names.canSubmit} = ${someErrors(apart)} && !${names.submitting};`);
  if (needs.has('valid')) block.lines.push(`const ${names.valid} = ${someErrors(apart)};`);
  if (needs.has('dirty'))
    block.lines.push(`const ${names.dirty} = JSON.stringify(${names.values}) !== JSON.stringify(${stated.start});`);
}

function addChanges(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, own, leaving, listeners } = apart;
  const { typescript } = leaving.script;
  const name = typedAs('name', typescript ? 'string' : undefined);
  if (needs.has('checks'))
    addFunction(
      block,
      `function ${names.recheck}(${typedAs('next', stated.type)}, ${typescript ? '...fields: string[]' : '...fields'})`,
      recheckLines(names.setErrors, `${names.check}(next)`),
    );
  if (needs.has('change')) {
    // a field that goes takes its messages along
    const gated = [...own.values()].filter(({ rules, shownWhen }) => rules.size && shownWhen.length);
    const along = [...own.values()].flatMap(({ name: field, listensTo }) =>
      listensTo.map((one) => `...(name === ${nameText(apart, one)} ? [${nameText(apart, field)}] : [])`),
    );
    const asNext = (text: string): string =>
      text.replaceAll(new RegExp(`(?<![\\w$.])${names.values}\\.`, 'g'), 'next.');
    const hidden = gated.map(({ name: field, shownWhen }) => {
      const shown = shownWhen.map((text) => inAnd(asNext(text()))).join(' && ');
      return `...(${shown} ? [] : [${nameText(apart, field)}])`;
    });
    addFunction(block, `function ${names.change}(${typedAs('next', stated.type)}, ${name})`, [
      `${names.setValues}(next);`,
      ...(needs.has('changed') ? [`${names.setChanged}(true);`] : []),
      ...(needs.has('touched') ? [`${names.setTouched}((old) => ({ ...old, [name]: true }));`] : []),
      ...(needs.has('checks') ? [`${names.recheck}(${['next', 'name', ...along, ...hidden].join(', ')});`] : []),
    ]);
  }
  for (const [field, { lines, held }] of listeners) {
    const parameter = typedAs(
      held,
      stated.type === undefined ? undefined : memberType(stated.type, field, apart.leaving),
    );
    addFunction(block, `function ${listenerName(field)}(${parameter})`, [
      ...(own.get(field)?.comments ?? []),
      `${apart.changes(valuesWith(apart, held === field ? keyText(field) : `${keyText(field)}: ${held}`), nameText(apart, field))};`,
      ...lines(),
    ]);
  }
  if (needs.has('left'))
    addFunction(block, `function ${names.left}(${name})`, [
      ...(needs.has('touched') ? [`${names.setTouched}((old) => ({ ...old, [name]: true }));`] : []),
      ...(needs.has('leftChecks')
        ? [
            `const own = Object.entries(${names.checkLeft}(${names.values})).filter(([field]) => field === name);`,
            `${names.setLeftErrors}((old) => {`,
            '  const others = Object.entries(old).filter(([field]) => field !== name);',
            '  return Object.fromEntries([...others, ...own]);',
            '});',
          ]
        : []),
    ]);
}

function addReset({ names, needs }: TakenApart, stated: Stated, block: Block): void {
  if (!needs.has('reset')) return;
  addFunction(block, `function ${names.reset}()`, [
    `${names.setValues}(${stated.start});`,
    ...(needs.has('checks') ? [`${names.setErrors}({});`] : []),
    ...(needs.has('leftChecks') ? [`${names.setLeftErrors}({});`] : []),
    ...(needs.has('touched') ? [`${names.setTouched}({});`] : []),
    ...(needs.has('changed') ? [`${names.setChanged}(false);`] : []),
    ...(needs.has('submitting') ? [`${names.setSubmitting}(false);`] : []),
    ...(needs.has('attempts') ? [`${names.setAttempts}(0);`] : []),
  ]);
}

function addSubmit(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, fields } = apart;
  const { async, lines } = sendLines(apart);
  const wrong = [...(needs.has('checks') ? ['wrong'] : []), ...(needs.has('leftChecks') ? ['leftWrong'] : [])];
  const some = wrong.map((one) => `Object.keys(${one}).length > 0`).join(' || ');
  addFunction(block, `${async ? 'async ' : ''}function ${names.submit}()`, [
    ...(needs.has('touched') ? [`${names.setTouched}({ ${fields.map((name) => `${name}: true`).join(', ')} });`] : []),
    ...(needs.has('attempts') ? [`${names.setAttempts}(${names.attempts} + 1);`] : []),
    ...(needs.has('firstTry') && some !== ''
      ? [
          `if (${names.attempts} === 0 && !(${someErrors(apart)})) {`,
          ...stated.invalid.map((line) => `  ${line}`),
          '  return;',
          '}',
        ]
      : []),
    ...(needs.has('checks') ? [`const wrong = ${names.check}(${names.values});`, `${names.setErrors}(wrong);`] : []),
    ...(needs.has('leftChecks')
      ? [`const leftWrong = ${names.checkLeft}(${names.values});`, `${names.setLeftErrors}(leftWrong);`]
      : []),
    ...(some === ''
      ? []
      : stated.invalid.length
        ? [`if (${some}) {`, ...stated.invalid.map((line) => `  ${line}`), '  return;', '}']
        : [`if (${some}) return;`]),
    ...lines,
  ]);
}
