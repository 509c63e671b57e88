import { typedAs } from '../package-leaving/apart.js';
import { addFunction, addState, recheckLines, type Block } from '../package-leaving/block.js';
import { addValues, firstOf, resetOfValues } from '../package-leaving/first-values.js';
import type { StartedAs } from '../package-leaving/starts.js';
import { addSchemaCheck } from '../package-leaving/schema-check.js';
import { sendLines, sentEvent } from '../package-leaving/sending.js';
import { elementsOf, nameText } from '../package-leaving/ties.js';
import { quoted } from '../../source/style.js';
import { stays, textIn } from '../package-leaving/leaving.js';
import { getsFocus, type Moments, type OwnRules, type TakenApart } from './form.js';
import { addKeys, addLists, asksAnew, byList, freshKeys } from './row-functions.js';
import { checkLines } from './rules.js';
import { tellsSuccess } from './success.js';

/** What the values begin as, and the names of their types, as they stand in the block. */
export interface Stated extends StartedAs {
  moments: Moments;
  /** A wrong control gets the focus when a send was tried. */
  focuses: boolean;
}

/** Writes what stands in the component: state, and the functions that change it. */
export function addBlock(apart: TakenApart, stated: Stated, block: Block): void {
  const { needs, rules } = apart;
  const checks = apart.schema !== undefined || rules.length > 0;
  if (checks) needs.add('errors');
  const live = checks && (stated.moments.after !== 'onSubmit' || stated.moments.before !== 'onSubmit');
  if (live) needs.add('recheck');
  const asked = (['change', 'blur'] as const).map((event) => whenOf(apart, stated.moments, event)).join(' ');
  for (const list of apart.lists.values()) asksAnew(apart, stated, list);
  if (live && asked.includes(apart.names.submitted)) needs.add('submitted');
  if (!live && !needs.has('recheck'))
    apart.names.change = needs.has('change') ? apart.names.setValues : apart.names.change;
  addStates(apart, stated, block);
  if (checks) addCheck(apart, stated, block);
  addChanges(apart, stated, block, live);
  addLists(apart, stated, block);
  addReset(apart, stated, block);
  addFieldFunctions(apart, stated, block);
  addSubmit(apart, stated, block, checks);
}

function addStates(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs } = apart;
  addValues(block, apart, stated);
  addKeys(apart, block);
  if (needs.has('errors')) addState(block, [names.errors, names.setErrors], stated.errors, '{}');
  if (needs.has('failure')) addState(block, [names.failure, names.setFailure], undefined, nothing(apart));
  if (needs.has('touched')) addState(block, [names.touched, names.setTouched], stated.touched, '{}');
  if (needs.has('submitted')) addState(block, [names.submitted, names.setSubmitted], undefined, 'false');
  if (needs.has('succeeded')) addState(block, [names.succeeded, names.setSucceeded], undefined, 'false');
  if (needs.has('submitting')) addState(block, [names.submitting, names.setSubmitting], undefined, 'false');
  if (needs.has('attempts')) addState(block, [names.attempts, names.setAttempts], undefined, '0');
  const referred = [
    ...((stated.focuses || needs.has('focusField')) && !needs.has('own reference')
      ? [{ name: names.formRef, element: 'HTMLFormElement' }]
      : []),
    ...apart.references.values(),
  ];
  for (const { name, element } of referred) {
    block.hooks.add('useRef');
    block.lines.push(`const ${name} = useRef${apart.leaving.script.typescript ? `<${element}>` : ''}(null);`);
  }
  if (needs.has('dirty'))
    block.lines.push(
      `const ${names.dirty} = JSON.stringify(${names.values}) !== JSON.stringify(${firstOf(apart, stated)});`,
    );
  if (needs.has('valid'))
    block.lines.push(
      apart.schema || apart.rules.length
        ? `const ${names.valid} = Object.keys(${names.check}(${names.values})).length === 0;`
        : `const ${names.valid} = true;`,
    );
}

function addCheck(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, rules, schema } = apart;
  if (schema) {
    addSchemaCheck(apart, schema, stated, block);
    return;
  }
  const errors = typedAs('errors', stated.errors);
  addFunction(block, `function ${names.check}(${typedAs(names.values, stated.type)})`, [
    `const ${errors} = {};`,
    ...byList(rules).flatMap(({ list, rules: own }) => listLines(apart, list, own)),
    'return errors;',
  ]);
}

/** The statements that check fields of the form, or those of each row of a list. */
function listLines(apart: TakenApart, list: string | undefined, rules: readonly OwnRules[]): string[] {
  const lines = rules.flatMap((own) => checkLines(apart, own));
  const [index] = rules.flatMap(({ row, leaving }) => (row ? [textIn(leaving, row.index)] : []));
  if (list === undefined || index === undefined || !lines.length) return lines;
  const asked = lines.some((line) => /\brow\b/.test(line)) ? 'row' : '_';
  return [
    `${apart.names.values}.${list}.forEach((${asked}, ${index}) => {`,
    ...lines.map((line) => `  ${line}`),
    '});',
  ];
}

function addChanges(apart: TakenApart, stated: Stated, block: Block, live: boolean): void {
  const { names, needs, along, leaving } = apart;
  const { before, after } = stated.moments;
  const typescript = leaving.script.typescript;
  const others = typescript ? '...fields: string[]' : '...fields';
  if (needs.has('recheck'))
    addFunction(
      block,
      `function ${names.recheck}(${typedAs('next', stated.type)}, ${others})`,
      recheckLines(names.setErrors, `${names.check}(next)`, needs.has('recheck answers')),
    );
  if (needs.has('change') && names.change !== names.setValues) {
    const whole = [...along].map(
      ([name, with_]) =>
        `...(name === ${nameText(apart, name)} ? [${with_.map((one) => nameText(apart, one)).join(', ')}] : [])`,
    );
    const asked = whole.length ? `name, ${whole.join(', ')}` : 'name';
    const call = `${names.recheck}(next, ${asked});`;
    const when = whenOf(apart, { before, after }, 'change');
    addFunction(
      block,
      `function ${names.change}(${typedAs('next', stated.type)}, ${typedAs('name', typescript ? 'string' : undefined)})`,
      [
        `${names.setValues}(next);`,
        ...(live && when !== 'false' ? [when === 'true' ? call : `if (${when}) ${call}`] : []),
      ],
    );
  }
  if (needs.has('handleChange')) {
    block.types.add('ChangeEvent');
    const type = typescript ? `ChangeEvent<${elementsOf(apart.changed)}>` : undefined;
    addFunction(block, `function ${names.handleChange}(${typedAs('event', type)})`, [
      `${apart.changes(`{ ...${names.values}, [event.target.name]: event.target.value }`, 'event.target.name')};`,
    ]);
  }
  for (const { name, tag, lines } of apart.besides.values()) {
    block.types.add('ChangeEvent');
    const type = typescript ? `ChangeEvent<${elementsOf(new Set([tag]))}>` : undefined;
    addFunction(block, `function ${name}(${typedAs('event', type)})`, lines());
  }
  const when = whenOf(apart, { before, after }, 'blur');
  const leaves = (name: string): string[] => [
    ...(needs.has('touched') ? [`${names.setTouched}((old) => ({ ...old, [${name}]: true }));`] : []),
    ...(live && when !== 'false'
      ? [`${when === 'true' ? '' : `if (${when}) `}${names.recheck}(${names.values}, ${name});`]
      : []),
  ];
  if (needs.has('left'))
    addFunction(block, `function ${names.left}(${typedAs('name', typescript ? 'string' : undefined)})`, leaves('name'));
  if (needs.has('handleBlur') && apart.left.size) {
    block.types.add('FocusEvent');
    const type = typescript ? `FocusEvent<${elementsOf(apart.left)}>` : undefined;
    addFunction(block, `function ${names.handleBlur}(${typedAs('event', type)})`, leaves('event.target.name'));
  }
}

/** The condition under which a field is checked anew at one of its events, by the moments of the package. */
function whenOf({ names }: TakenApart, { before, after }: Moments, event: 'change' | 'blur'): string {
  if (before === 'all') return 'true';
  const early = event === 'change' ? before === 'onChange' : before === 'onBlur' || before === 'onTouched';
  const late = event === 'change' ? after === 'onChange' : after === 'onBlur';
  const { submitted } = names;
  if (before === 'onTouched' && event === 'change')
    return late ? `${submitted} || name in ${names.touched}` : `!${submitted} && name in ${names.touched}`;
  if (early && late) return 'true';
  if (early) return `!${submitted}`;
  return late ? submitted : 'false';
}

function addReset(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs } = apart;
  if (!needs.has('reset')) return;
  const { parameter, lines } = resetOfValues(apart, stated);
  const all = [
    ...lines,
    ...freshKeys(apart, parameter === '' ? firstOf(apart, stated) : 'next'),
    ...(needs.has('errors') ? [`${names.setErrors}({});`] : []),
    ...(needs.has('failure') ? [`${names.setFailure}(${nothing(apart)});`] : []),
    ...(needs.has('touched') ? [`${names.setTouched}({});`] : []),
    ...(needs.has('submitted') ? [`${names.setSubmitted}(false);`] : []),
    ...(needs.has('succeeded') ? [`${names.setSucceeded}(false);`] : []),
    ...(needs.has('submitting') ? [`${names.setSubmitting}(false);`] : []),
    ...(needs.has('attempts') ? [`${names.setAttempts}(0);`] : []),
  ];
  if (!needs.has('reset stays')) {
    addFunction(block, `function ${names.reset}(${parameter})`, all);
    return;
  }
  // an effect that follows the function runs when it becomes another one
  const asksFirst = all.join(' ').includes(names.first) || parameter.includes(names.first);
  if (asksFirst && needs.has('resetTo'))
    stays(apart.leaving, apart.form.call, `${names.reset} is followed, and would be another function after each reset`);
  block.hooks.add('useCallback');
  block.lines.push(
    '',
    `const ${names.reset} = useCallback((${parameter}) => {`,
    ...all.map((line) => `  ${line}`),
    `}, [${asksFirst ? names.first : ''}]);`,
  );
}

/** The functions that give one field the focus, or set it back to what it began as. */
function addFieldFunctions(apart: TakenApart, stated: Stated, block: Block): void {
  const { names, needs, leaving } = apart;
  const { typescript } = leaving.script;
  if (needs.has('focusField'))
    addFunction(block, `function ${names.focusField}(${typedAs('name', typescript ? 'string' : undefined)})`, [
      `const control = ${names.formRef}.current?.elements.namedItem(name);`,
      'if (control instanceof HTMLElement) control.focus();',
    ]);
  if (needs.has('reset field'))
    addFunction(block, `function ${names.resetField}(${typedAs('name', stated.type && `keyof ${stated.type}`)})`, [
      `${names.setValues}((old) => ({ ...old, [name]: ${firstOf(apart, stated)}[name] }));`,
      ...(needs.has('errors') ? [`${names.setErrors}((old) => ({ ...old, [name]: undefined }));`] : []),
      ...(needs.has('touched') ? [`${names.setTouched}((old) => ({ ...old, [name]: false }));`] : []),
    ]);
}

function addSubmit(apart: TakenApart, stated: Stated, block: Block, checks: boolean): void {
  const { names, needs } = apart;
  const told = needs.has('succeeded') ? tellsSuccess(apart) : [];
  const { async, lines } = sendLines(apart, { after: told });
  const { parameter, prevents } = sentEvent(apart, block.types);
  const focus = stated.focuses ? focusLines(apart) : [];
  addFunction(block, `${async ? 'async ' : ''}function ${names.handleSubmit}(${parameter})`, [
    prevents,
    ...(needs.has('submitted') ? [`${names.setSubmitted}(true);`] : []),
    ...(needs.has('attempts') ? [`${names.setAttempts}(${names.attempts} + 1);`] : []),
    ...(needs.has('failure') ? [`${names.setFailure}(${nothing(apart)});`] : []),
    ...(checks
      ? [
          `const wrong = ${names.check}(${names.values});`,
          `${names.setErrors}(wrong);`,
          'if (Object.keys(wrong).length > 0) {',
          ...(needs.has('succeeded') ? [`  ${names.setSucceeded}(false);`] : []),
          ...(apart.refused ? [`  ${apart.refused()}`] : []),
          ...focus,
          '  return;',
          '}',
        ]
      : needs.has('errors')
        ? [`${names.setErrors}({});`]
        : []),
    ...lines,
  ]);
}

/** The statements that give the first wrong control the focus. */
function focusLines(apart: TakenApart): string[] {
  const { references, names } = apart;
  const { lines: before, order } = orderOf(apart);
  const first = `${order}.find((name) => name in wrong)`;
  const found = (name: string): string => `${names.formRef}.current?.elements.namedItem(${name})`;
  const known = [...references].map(([field, { name }]) => `first === ${nameText(apart, field)} ? ${name}.current : `);
  // of several controls of one name the first gets it
  const many = apart.rules.some(({ field }) => (apart.controls.get(field) ?? 0) > 1);
  const control = `${known.join('')}${found(`first ?? ${nothing(apart)}`)}`;
  return [
    ...before,
    `  const first = ${first};`,
    ...(many
      ? [`  const found = ${control};`, '  const control = found instanceof RadioNodeList ? found[0] : found;']
      : [`  const control = ${control};`]),
    '  if (control instanceof HTMLElement) control.focus();',
  ];
}

/** The names of all fields in the order in which a wrong one gets the focus. */
function orderOf(apart: TakenApart): { lines: string[]; order: string } {
  const { names, rules } = apart;
  const own = rules.filter((one) => getsFocus(apart, one));
  const fields = [...new Map(own.map((one) => [one.field, one])).values()];
  const groups = byList(fields);
  const parts = groups.map(({ list, rules: of }) => {
    const keys = of.map(({ field, row }) => nameText(apart, row?.key ?? field)).join(', ');
    return list === undefined
      ? keys
      : of.length === 1
        ? `...${names.values}.${list}.map((_, at) => \`${list}.\${at}.${of[0]?.row?.key ?? ''}\`)`
        : `...${names.values}.${list}.flatMap((_, at) => [${keys}].map((key) => \`${list}.\${at}.\${key}\`))`;
  });
  const plain = `[${parts.join(', ')}]`;
  return plain.length < 90 ? { lines: [], order: plain } : { lines: [`  const order = ${plain};`], order: 'order' };
}

/** An empty text. */
function nothing({ leaving }: TakenApart): string {
  return quoted('', leaving.context.style);
}
