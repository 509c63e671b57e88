import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Field, FormModel } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { brokenText, guardText, joined, type CodeField } from '../../rules/code-text.js';
import { readSchema, type ReadSchema, type SchemaRule } from '../../rules/json-schema/read.js';
import { isSchema, type Json } from '../../rules/json-schema/schema.js';
import { laidOut } from '../../source/layout.js';
import { wholeLines } from '../../source/removal.js';
import type { Script } from '../../source/script.js';
import { quoted } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { membersText } from '../initial-values.js';
import { statusDeclarations } from '../status-variables.js';
import { writeHeldObject } from '../holder-writing/write.js';
import { schemaExports, schemaHookName } from './hook-file.js';
import { schemaBehind } from './state.js';
import { walk } from '../../source/traverse.js';

/** A call of the generated file's functions outside of the component, by what it makes. */
interface Made {
  kind: 'check' | 'start';
  declarator: NodePath<t.VariableDeclarator>;
  call: NodePath<t.CallExpression>;
}

/** Takes a form off its schema: values into one state variable, rules into a function. */
export function leaveSchema(model: FormModel, context: WriteContext, site: FormSite): RewritePlan {
  const script = context.script(model.file);
  const call = hookCallIn(model, script);
  const first = call?.get('arguments')[0] as NodePath | undefined;
  const schemaFile = first ? schemaBehind(first, { script, load: site.load }) : undefined;
  const schema: Json | undefined = schemaFile ? parsed(schemaFile.script.text) : undefined;
  if (!call || !first?.isIdentifier() || !schemaFile || !isSchema(schema))
    throw new Error(`${model.name} has no schema`);
  const read = readSchema(schema);
  const made = madeBy(first, script);
  const entries = obstacles(read, made, { ...spanOf(model.file, first) });
  if (entries.length) return leftByHand(entries);
  const edits: RewritePlan['edits'] = [];
  const alias = aliasOf(call, script);
  const typed: FormModel = {
    ...model,
    fields: model.fields.map((field) => withSchemaWords(field, read, context)),
    holder: model.holder && { ...model.holder, type: model.holder.type ?? alias?.node.id.name },
  };
  if (alias)
    edits.push({
      ...spanOf(script.file, alias),
      text: membersText({ ...model, fields: model.fields }, alias.node.id.name, context),
    });
  for (const one of made) edits.push(...replacement(one, read, typed, script, context));
  const status = statusDeclarations(call, typed, context);
  const gone = new Set([first.node.name, ...Object.values(schemaExports), schemaHookName]);
  const plan = writeHeldObject(typed, context, undefined, undefined, {
    edits,
    lines: status,
    adds: [],
  });
  if (plan.ledger.some(({ entry }) => entry === 'by-hand')) return plan;
  const imports = importEdits(script, gone, plan.edits, first, [
    ...model.declarations.flatMap(({ role, span }) => (role === 'state' ? [span] : [])),
    ...made.map(({ declarator }) => declarator.node),
  ]);
  return {
    ...plan,
    edits: [...plan.edits, ...edits, ...imports],
    deletes: [schemaFile.script.file],
    ledger: [
      ...plan.ledger,
      ...read.rules.map((rule): LedgerEntry => ({
        entry: 'carried',
        span: { file: model.file, start: first.node.start ?? 0, end: first.node.end ?? 0 },
        what: `${rule.field}: ${rule.message ?? rule.constraint.kind}`,
        why: made.some(({ kind }) => kind === 'check') ? 'the function of rules states it' : 'the markup states it',
      })),
    ],
  };
}

/** A field with its default as the component's file writes it, and with its comments. */
function withSchemaWords(field: Field, read: ReadSchema, { style }: WriteContext): Field {
  const comments = read.fields.find(({ name }) => name === field.name)?.comments ?? [];
  const commentsBefore = [...comments.map((comment) => `// ${comment}`), ...field.commentsBefore];
  const value = field.initial.code?.file.endsWith('.json') === true ? parsed(field.initial.text) : undefined;
  if (value === undefined) return { ...field, commentsBefore };
  return { ...field, commentsBefore, initial: { ...field.initial, code: undefined, text: jsonCode(value, style) } };
}

function parsed(text: string): Json | undefined {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** The component's call of the hook. */
function hookCallIn(model: FormModel, script: Script): NodePath<t.CallExpression> | undefined {
  let found: NodePath<t.CallExpression> | undefined;
  walk(script.program, {
    CallExpression(path) {
      const inside = (path.node.start ?? 0) >= model.span.start && (path.node.end ?? 0) <= model.span.end;
      const state = model.declarations.find(({ role }) => role === 'state');
      const here = state && (path.node.start ?? 0) >= state.span.start && (path.node.end ?? 0) <= state.span.end;
      if (inside && here && !found) found = path;
    },
  });
  return found;
}

/** What the file makes of the form's schema with the other functions of the generated file. */
function madeBy(schema: NodePath<t.Identifier>, script: Script): Made[] {
  const references = schema.scope.getBinding(schema.node.name)?.referencePaths ?? [];
  return references.flatMap((reference): Made[] => {
    const call = reference.parentPath;
    const declarator = call?.parentPath;
    if (!call?.isCallExpression() || !declarator?.isVariableDeclarator() || reference.listKey !== 'arguments')
      return [];
    if (!t.isIdentifier(call.node.callee) || !t.isIdentifier(declarator.node.id)) return [];
    const { name } = call.node.callee;
    if (name !== schemaExports.check && name !== schemaExports.start) return [];
    if (script.program.scope.getBinding(declarator.node.id.name)?.path !== declarator) return [];
    return [{ kind: name === schemaExports.check ? 'check' : 'start', declarator, call }];
  });
}

function obstacles(read: ReadSchema, made: readonly Made[], span: Span): LedgerEntry[] {
  const troubles = read.troubles.map(({ pointer, why }): LedgerEntry => ({
    entry: 'by-hand',
    span,
    what: `${pointer || '/'} of the schema`,
    why,
  }));
  const unsaid = made.some(({ kind }) => kind === 'check')
    ? read.rules.filter(
        (rule) => rule.message !== undefined && conditionOf(rule, read, 'values', { quote: "'" }) === undefined,
      )
    : [];
  return [
    ...troubles,
    ...unsaid.map(({ pointer }): LedgerEntry => ({
      entry: 'by-hand',
      span,
      what: `${pointer} of the schema`,
      why: 'no condition in code says the same',
    })),
  ];
}

/** The alias that says no more than that the values are those of the schema. */
function aliasOf(call: NodePath<t.CallExpression>, script: Script): NodePath<t.TSTypeAliasDeclaration> | undefined {
  const type = call.node.typeParameters?.params[0];
  if (!t.isTSTypeReference(type) || !t.isIdentifier(type.typeName)) return undefined;
  const { name } = type.typeName;
  for (const statement of script.program.get('body')) {
    const alias = statement.isExportNamedDeclaration() ? (statement.get('declaration') as NodePath) : statement;
    if (!alias.isTSTypeAliasDeclaration() || alias.node.id.name !== name) continue;
    const of = alias.node.typeAnnotation;
    return t.isTSTypeReference(of) && t.isIdentifier(of.typeName, { name: schemaExports.values }) ? alias : undefined;
  }
  return undefined;
}

function conditionOf(
  rule: SchemaRule,
  read: ReadSchema,
  values: string,
  style: Pick<WriteContext['style'], 'quote'>,
): string | undefined {
  const full = { ...plainStyle, ...style };
  const fieldAt = (name: string): CodeField | undefined => {
    const field = read.fields.find((one) => one.name === name);
    return field && { read: `${values}.${name}`, held: field.held };
  };
  const own = fieldAt(rule.field);
  const broken = own && brokenText(rule.constraint, own, full);
  const guards = rule.guards.map((guard) => {
    const of = fieldAt(guard.field);
    return of && guardText(guard, of, full);
  });
  if (broken === undefined || guards.some((guard) => guard === undefined)) return undefined;
  return joined([...guards.flatMap((guard) => guard ?? []), broken]);
}

const plainStyle: WriteContext['style'] = {
  indent: '  ',
  quote: "'",
  semicolon: ';',
  newline: '\n',
  width: 100,
  trailingComma: true,
};

function replacement(
  one: Made,
  read: ReadSchema,
  model: FormModel,
  script: Script,
  context: WriteContext,
): RewritePlan['edits'] {
  const { style } = context;
  const file = script.file;
  const { id } = one.declarator.node;
  if (!t.isIdentifier(id)) return [];
  if (one.kind === 'start') {
    const items = read.fields
      .filter(({ name }) => !name.includes('.'))
      .map(({ name, initial, comments }) => ({
        lead: `${name}: `,
        value: initial === undefined ? 'undefined' : jsonCode(initial, style),
        commentsBefore: comments.map((comment) => `// ${comment}`),
      }));
    return [{ ...spanOf(file, one.call), text: laidOut({ open: '{', close: '}', items }, style, '', 40) }];
  }
  const statement = one.declarator.parentPath;
  if (!statement?.isVariableDeclaration()) return [];
  return [{ ...spanOf(file, statement), text: checkText(id.name, one.call, read, model, context, script) }];
}

function jsonCode(value: Json, style: WriteContext['style']): string {
  if (typeof value === 'string') return quoted(value, style);
  if (Array.isArray(value)) return `[${value.map((one) => jsonCode(one, style)).join(', ')}]`;
  if (!isSchema(value)) return String(value);
  const parts = Object.entries(value).map(
    ([key, one]) => `${/^[\w$]+$/.test(key) ? key : quoted(key, style)}: ${jsonCode(one, style)}`,
  );
  return parts.length ? `{ ${parts.join(', ')} }` : '{}';
}

/** A function that states the rules of a schema. */
function checkText(
  name: string,
  call: NodePath<t.CallExpression>,
  read: ReadSchema,
  model: FormModel,
  { style }: WriteContext,
  script: Script,
): string {
  const type = call.node.typeParameters?.params[0];
  const typeText = type ? script.text.slice(type.start ?? 0, type.end ?? 0) : undefined;
  const values = model.holder?.name ?? 'values';
  const { indent, semicolon: end, newline } = style;
  const lines: string[] = [];
  const rules = read.rules.filter(({ message }) => message !== undefined);
  for (const field of new Set(rules.map((rule) => rule.field))) {
    let otherwise = false;
    for (const rule of rules.filter((one) => one.field === field)) {
      const key = /^[\w$]+$/.test(field) ? `.${field}` : `[${quoted(field, style)}]`;
      const condition = conditionOf(rule, read, values, style) ?? '';
      for (const comment of rule.comments) lines.push(`${indent}// ${comment}`);
      const lead = otherwise ? 'else if' : 'if';
      lines.push(`${indent}${lead} (${condition}) errors${key} = ${quoted(rule.message ?? '', style)}${end}`);
      otherwise = true;
    }
  }
  const [rest] = (call.get('arguments') as (NodePath | undefined)[]).slice(1);
  const more = rest ? `{ ...${wrapped(script, rest)}(${values}), ...errors }` : 'errors';
  return [
    `function ${name}(${values}${typeText === undefined ? '' : `: ${typeText}`}) {`,
    `${indent}const errors${typeText === undefined ? '' : `: Partial<Record<keyof ${typeText}, string>>`} = {}${end}`,
    ...lines,
    `${indent}return ${more}${end}`,
    '}',
  ].join(newline);
}

function wrapped(script: Script, path: NodePath): string {
  const text = script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
  return path.isIdentifier() ? text : `(${text})`;
}

/** Imports of the schema and of what the file no longer needs of the generated file. */
function importEdits(
  script: Script,
  names: ReadonlySet<string>,
  edits: RewritePlan['edits'],
  schema: NodePath<t.Identifier>,
  parts: readonly { start?: number | null | undefined; end?: number | null | undefined }[],
): RewritePlan['edits'] {
  const made: RewritePlan['edits'] = [];
  for (const statement of script.program.get('body')) {
    if (!statement.isImportDeclaration()) continue;
    const taken = edits.some(
      (edit) =>
        edit.file === script.file && edit.start <= (statement.node.start ?? 0) && edit.end >= (statement.node.end ?? 0),
    );
    const { specifiers } = statement.node;
    if (taken || !specifiers.some(({ local }) => names.has(local.name))) continue;
    const left = specifiers.filter(
      ({ local }) => isNeeded(local.name, script, schema, parts) || !names.has(local.name),
    );
    if (left.length === specifiers.length) continue;
    if (!left.length) {
      made.push({
        file: script.file,
        ...wholeLines(script.text, { start: statement.node.start ?? 0, end: statement.node.end ?? 0 }),
        text: '',
      });
      continue;
    }
    const [first] = specifiers;
    const last = specifiers.at(-1);
    made.push({
      file: script.file,
      start: first?.start ?? 0,
      end: last?.end ?? 0,
      text: left.map((one) => script.text.slice(one.start ?? 0, one.end ?? 0)).join(', '),
    });
  }
  return made;
}

/** Whether another form of the file needs a name of the generated file. */
function isNeeded(
  name: string,
  script: Script,
  schema: NodePath<t.Identifier>,
  parts: readonly { start?: number | null | undefined; end?: number | null | undefined }[],
): boolean {
  if (name === schema.node.name) return false;
  const inParts = (node: t.Node): boolean =>
    parts.some(({ start, end }) => (node.start ?? 0) >= (start ?? 0) && (node.end ?? 0) <= (end ?? 0));
  let needed = false;
  walk(script.program, {
    Identifier(path) {
      if (path.node.name !== name || path.findParent((parent) => parent.isImportDeclaration()) || inParts(path.node))
        return;
      // the alias of this form's values goes with its schema
      const alias = path.findParent((parent) => parent.isTSTypeAliasDeclaration());
      const speaks = alias && script.text.slice(alias.node.start ?? 0, alias.node.end ?? 0).includes(schema.node.name);
      if (!speaks) needed = true;
    },
  });
  return needed;
}
