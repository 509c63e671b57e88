import { codeText } from '../../form/code-text.js';
import { laidOut, type Group } from '../../source/layout.js';
import { movedLines } from '../../source/moved-lines.js';
import { quoted } from '../../source/style.js';
import { initialItems, membersText } from '../initial-values.js';
import type { ReducerDraft } from './draft.js';

/** The text above the component, and what `useReducer` is given as initial state. */
export interface Declarations {
  above: string;
  initial: { argument: string | Group; once: boolean };
}

/** Writes types, initial state and reducer of a form. */
export function declarationsText(draft: ReducerDraft): Declarations {
  const { model, names, context } = draft;
  const { style } = context;
  const group: Group = { open: '{', close: '}', items: initialItems(model, draft.printer) };
  const constant = model.fields.every((field) => field.initial.when === 'constant');
  const stands = model.holder?.initial !== undefined;
  const once = model.fields.some((field) => field.initial.when === 'once');
  const end = style.semicolon;
  const start = model.holder?.start;
  const parts: string[] = [];
  if (model.typescript) {
    if (model.holder?.type === undefined) parts.push(membersText(model, names.state, context));
    parts.push(actionType(draft));
  }
  if (constant && !stands && !start) {
    const type = model.typescript ? `: ${names.state}` : '';
    const lead = `const ${names.initial}${type} = `;
    parts.push(`${lead}${laidOut(group, style, '', lead.length + 1)}${end}`);
  }
  parts.push(reducerText(draft));
  const above = parts.join(`${style.newline}${style.newline}`) + style.newline + style.newline;
  if (start) return { above, initial: { argument: codeText(start.code, draft.printer), once: start.once } };
  if (constant) return { above, initial: { argument: names.initial, once: false } };
  if (!once) return { above, initial: { argument: group, once: false } };
  return {
    above,
    initial: {
      argument: { ...group, open: model.typescript ? `(): ${names.state} => ({` : '() => ({', close: '})' },
      once: true,
    },
  };
}

/** The type of the reducer's state: null as well where it is filled later. */
function heldType({ names, model }: ReducerDraft): string {
  return model.holder?.start?.empty ? `${names.state} | null` : names.state;
}

function actionType(draft: ReducerDraft): string {
  const { names, context, actions, needs, model } = draft;
  const { style } = context;
  const members: string[] = [];
  if (needs.named)
    members.push(
      `{ type: ${quoted('fieldChanged', style)}; name: string; value: ${names.state}[keyof ${names.state}] }`,
    );
  if (needs.changed) members.push(`{ type: ${quoted('changed', style)}; values: Partial<${names.state}> }`);
  if (needs.replaced)
    members.push(
      `{ type: ${quoted('replaced', style)}; next: ${heldType(draft)}${needs.updated ? ` | ((state: ${heldType(draft)}) => ${heldType(draft)})` : ''} }`,
    );
  for (const name of needs.guardedFields) {
    const field = model.fields.find((candidate) => candidate.name === name);
    members.push(`{ type: ${quoted(`${name}Changed`, style)}; ${name}: ${field?.type ?? 'unknown'} }`);
  }
  for (const action of actions.list) {
    const payload = action.payload.map(({ name, type }) => `; ${name}: ${type}`).join('');
    members.push(`{ type: ${quoted(action.type, style)}${payload} }`);
  }
  if (needs.reset) members.push(`{ type: ${quoted('reset', style)} }`);
  if (members.length === 1) return `type ${names.action} = ${members[0] ?? 'never'}${style.semicolon}`;
  const lines = members.map((member) => `${style.newline}${style.indent}| ${member}`).join('');
  return `type ${names.action} =${lines}${style.semicolon}`;
}

/** Statements that came out of a component, at the depth of a case. */
function indented(statements: string, depth: string): string {
  const inner = /^\s*\{([\s\S]*)\}\s*$/.exec(statements)?.[1] ?? statements;
  const text = inner.replace(/^(?:[ \t]*\r?\n)+/, '').trimEnd();
  const depths: number[] = [];
  movedLines(text, (line) => {
    if (line.trim()) depths.push(/^\s*/.exec(line)?.[0].length ?? 0);
    return line;
  });
  const margin = Math.min(...depths);
  return movedLines(text, (line) => (line.trim() ? depth + line.slice(margin) : line));
}

function reducerText(draft: ReducerDraft): string {
  const { model, names, context, needs, actions } = draft;
  const { style } = context;
  const step = style.indent;
  const end = style.semicolon;
  const cases: string[] = [];
  const add = (type: string, lines: string[], block = false): void => {
    const head = `${step}${step}case ${quoted(type, style)}:${block ? ' {' : ''}`;
    const body = lines.map((line) => (/^\s/.test(line) && block ? line : `${step}${step}${step}${line}`));
    cases.push([head, ...body, ...(block ? [`${step}${step}}`] : [])].join(style.newline));
  };
  // where nothing is held yet, there is nothing to change
  const given = model.typescript && model.holder?.start?.empty ? 'state && ' : '';
  if (needs.named) add('fieldChanged', [`return ${given}{ ...state, [action.name]: action.value }${end}`]);
  if (needs.changed) add('changed', [`return ${given}{ ...state, ...action.values }${end}`]);
  if (needs.replaced)
    add('replaced', [
      needs.updated
        ? `return typeof action.next === ${quoted('function', style)} ? action.next(state) : action.next${end}`
        : `return action.next${end}`,
    ]);
  for (const name of needs.guardedFields) {
    add(`${name}Changed`, [
      `return Object.is(state.${name}, action.${name}) ? state : { ...state, ${name}: action.${name} }${end}`,
    ]);
  }
  for (const action of actions.list) {
    const { field } = action;
    if (action.state !== undefined) add(action.type, [`return ${given}${action.state}${end}`]);
    else if (action.statements !== undefined) add(action.type, [indented(action.statements, step.repeat(3))], true);
    else if (action.guarded) {
      add(
        action.type,
        [
          `${step.repeat(3)}const ${field} = ${action.expression ?? ''}${end}`,
          `${step.repeat(3)}return Object.is(state.${field}, ${field}) ? state : { ...state, ${field} }${end}`,
        ],
        true,
      );
    } else add(action.type, [`return ${given}{ ...state, ${field}: ${action.expression ?? ''} }${end}`]);
  }
  if (needs.reset) add('reset', [`return ${names.initial}${end}`]);
  if (!model.typescript) cases.push(`${step}${step}default:${style.newline}${step.repeat(3)}return state${end}`);
  const parameters = model.typescript ? `state: ${heldType(draft)}, action: ${names.action}` : 'state, action';
  const result = model.typescript ? `: ${heldType(draft)}` : '';
  return [
    `function ${names.reducer}(${parameters})${result} {`,
    `${step}switch (action.type) {`,
    ...cases,
    `${step}}`,
    '}',
  ].join(style.newline);
}
