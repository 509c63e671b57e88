import type { Field } from '../../form/model.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import { quoted } from '../../source/style.js';
import { codeText } from '../../form/code-text.js';
import type { ReducerDraft } from './write.js';

/** The text above the component, and what `useReducer` is given as initial state. */
export interface Declarations {
  above: string;
  initial: { argument: string | Group; once: boolean };
}

/** A field's initial value as an expression: a function called once is called, or gives way to what it returns. */
function initialExpression(field: Field, draft: ReducerDraft): string {
  const { code, text, when } = field.initial;
  if (when !== 'once' || !code) return code ? codeText(code, draft.printer) : text;
  const arrow = /^\(\)\s*=>\s*([^{][\s\S]*)$/.exec(text)?.[1];
  if (arrow !== undefined)
    return arrow.replace(/^\(([\s\S]*)\)$/, (whole, inner: string) => (/^[^()]*$/.test(inner) ? inner : whole));
  return /^[\w.$]+$/.test(text) ? `${text}()` : `(${text})()`;
}

function initialGroup(draft: ReducerDraft): Group {
  const { model } = draft;
  const place = draft.model.declarations.map((declaration) => declaration.span.start).sort((a, b) => a - b)[0];
  const items: Item[] = model.fields.map((field) => {
    const value = initialExpression(field, draft);
    const first = field.declared.start - (place ?? 0) < 8 && field === model.fields[0];
    return {
      lead: value === field.name ? '' : `${field.name}: `,
      value,
      commentsBefore: first ? [] : field.commentsBefore,
      commentBehind: field.commentBehind,
    };
  });
  return { open: '{', close: '}', items };
}

/** Writes types, initial state and reducer of a form. */
export function declarationsText(draft: ReducerDraft): Declarations {
  const { model, names, context } = draft;
  const { style } = context;
  const group = initialGroup(draft);
  const constant = model.fields.every((field) => field.initial.when === 'constant');
  const once = model.fields.some((field) => field.initial.when === 'once');
  const end = style.semicolon;
  const parts: string[] = [];
  if (model.typescript) parts.push(stateType(draft), actionType(draft));
  if (constant) {
    const type = model.typescript ? `: ${names.state}` : '';
    const lead = `const ${names.initial}${type} = `;
    parts.push(`${lead}${laidOut(group, style, '', lead.length + 1)}${end}`);
  }
  parts.push(reducerText(draft));
  const above = parts.join(`${style.newline}${style.newline}`) + style.newline + style.newline;
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

function stateType(draft: ReducerDraft): string {
  const { model, names, context } = draft;
  const { indent, semicolon, newline } = context.style;
  const asInterface = /^(export )?interface /m.test(context.script(model.file).text);
  const members = model.fields
    .map((field) => `${indent}${field.name}: ${field.type ?? 'unknown'}${semicolon}`)
    .join(newline);
  return asInterface
    ? `interface ${names.state} {${newline}${members}${newline}}`
    : `type ${names.state} = {${newline}${members}${newline}}${semicolon}`;
}

function actionType(draft: ReducerDraft): string {
  const { names, context, actions, needs, model } = draft;
  const { style } = context;
  const members: string[] = [];
  if (needs.changed) members.push(`{ type: ${quoted('changed', style)}; values: Partial<${names.state}> }`);
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
function indented(statements: string, draft: ReducerDraft, depth: string): string {
  const { newline } = draft.context.style;
  const lines = statements.replace(/^\{|\}$/g, '').split(/\r?\n/);
  while (lines.length && lines[0]?.trim() === '') lines.shift();
  while (lines.length && lines.at(-1)?.trim() === '') lines.pop();
  const margin = Math.min(...lines.filter((line) => line.trim()).map((line) => /^\s*/.exec(line)?.[0].length ?? 0));
  return lines.map((line) => (line.trim() ? depth + line.slice(margin) : line)).join(newline);
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
  if (needs.changed) add('changed', [`return { ...state, ...action.values }${end}`]);
  for (const name of needs.guardedFields) {
    add(`${name}Changed`, [
      `return Object.is(state.${name}, action.${name}) ? state : { ...state, ${name}: action.${name} }${end}`,
    ]);
  }
  for (const action of actions.list) {
    const { field } = action;
    if (action.statements !== undefined) add(action.type, [indented(action.statements, draft, step.repeat(3))], true);
    else if (action.guarded) {
      add(
        action.type,
        [
          `${step.repeat(3)}const ${field} = ${action.expression ?? ''}${end}`,
          `${step.repeat(3)}return Object.is(state.${field}, ${field}) ? state : { ...state, ${field} }${end}`,
        ],
        true,
      );
    } else add(action.type, [`return { ...state, ${field}: ${action.expression ?? ''} }${end}`]);
  }
  if (needs.reset) add('reset', [`return ${names.initial}${end}`]);
  if (!model.typescript) cases.push(`${step}${step}default:${style.newline}${step.repeat(3)}return state${end}`);
  const parameters = model.typescript ? `state: ${names.state}, action: ${names.action}` : 'state, action';
  const result = model.typescript ? `: ${names.state}` : '';
  return [
    `function ${names.reducer}(${parameters})${result} {`,
    `${step}switch (action.type) {`,
    ...cases,
    `${step}}`,
    '}',
  ].join(style.newline);
}
