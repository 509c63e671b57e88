import path from 'node:path';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { codeText, movedText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import { fieldsOf, type Field, type FormModel } from '../../form/model.js';
import { type Rule } from '../../form/rules.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { jsonOf } from '../../rules/json-schema/schema.js';
import { schemaOf } from '../../rules/json-schema/write.js';
import { plainComment } from '../../source/comments.js';
import { jsonText } from '../../source/json-text.js';
import { laidOut, type Item } from '../../source/layout.js';
import { missingDependencies } from '../../source/packages.js';
import type { Script } from '../../source/script.js';
import { quoted } from '../../source/style.js';
import { baseNameOf, pascal } from '../form-names.js';
import { initialItems, membersText } from '../initial-values.js';
import { hookImport } from '../holder-writing/hook-import.js';
import { valuesName, type HookCall } from '../holder-writing/draft.js';
import { writeHeldObject } from '../holder-writing/write.js';
import { movedCheck, type MovedCheck } from './checks.js';
import { statusEntries, statusTaken, statusVariables } from '../status-variables.js';
import { statusMembers } from '../form-hook/hook-file.js';
import { schemaExports, schemaHookFile } from './hook-file.js';

/** Packages that the generated file needs. */
const packages = [
  { name: 'ajv', range: '^8.17.1' },
  { name: 'ajv-errors', range: '^3.0.0' },
  { name: 'ajv-formats', range: '^3.0.1' },
];

/** What the form's parts are called in the new code. */
interface Names {
  schema: string;
  check: string;
  type: string | undefined;
}

/** Writes a form whose fields and rules stand in a JSON Schema beside its component. */
export function writeDeclaredSchema(model: FormModel, context: WriteContext): RewritePlan {
  const script = context.script(model.file);
  const file = path.join(path.dirname(model.file), `${schemaBase(model)}.schema.json`);
  const obstacle = obstacleOf(model, file, context);
  if (obstacle) return leftByHand([obstacle]);
  const base = baseNameOf(model);
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const plain = fieldsOf(model).length === model.fields.length && model.fields.every(isPlain);
  const names: Names = {
    schema: context.freeName(`${lower}Schema`),
    check: context.freeName(`check${pascal(base)}`, `${lower}Check`),
    type: model.typescript ? (model.holder?.type ?? context.freeName(`${base}Values`, `${base}State`)) : undefined,
  };
  const values = valuesName(model, context);
  const moved =
    context.rules === 'code' ? undefined : movedCheck(model, script, { check: names.check, values }, context);
  const native = model.rules.filter(({ stated }) => stated === 'native');
  const stated = schemaOf(
    { ...model, fields: model.fields.map((field) => ({ ...field, role: 'field' })) },
    [...native, ...(moved?.rules ?? [])],
    {
      commentsOf: (rule) =>
        [...(moved?.comments ?? [])].find(
          ([own]) => own.span.start === rule.span.start && own.message === rule.message,
        )?.[1] ?? [],
      fieldComments: (field) => commentsOf(field, model),
    },
  );
  const hook = schemaHookFile(model.file, model.typescript, context);
  const status = statusVariables(model, script);
  const own = [...(moved?.edits ?? []), ...status.map(({ edit }) => edit)];
  const call: HookCall = {
    values,
    begins: { arguments: argumentsText(model, names.schema, context), type: names.type },
    also: statusTaken(status, statusMembers),
  };
  const plan = writeHeldObject(model, context, hook, call, { edits: own, lines: [], adds: [] });
  if (plan.ledger.some(({ entry }) => entry === 'by-hand')) return plan;
  const used = new Set<string>(moved ? [schemaExports.check] : []);
  const edits: RewritePlan['edits'] = [
    ...initialEdits(model, script, names, used, plan.edits, context),
    ...aboveEdits(model, names, moved, plain, used, context),
  ];
  const schemaLine = `import ${names.schema} from ${quoted(`./${path.basename(file)}`, context.style)}${context.style.semicolon}`;
  edits.push(...hookImport(script, hook, { names: [...used], lines: [schemaLine] }, context, plan.edits));
  const { newline } = context.style;
  const text = `${jsonText(stated.schema, context.style.indent)}\n`.replace(/\n/g, newline);
  return {
    edits: [...plan.edits, ...edits, ...own],
    creates: [...plan.creates, { file, text }],
    deletes: [],
    ledger: [...ledgerOf(plan.ledger, model, moved, path.basename(file)), ...statusEntries(status)],
    dependencies: missingDependencies(packages, model.file, context),
  };
}

/** Name of the schema's file: that of the component, and of the form where it holds several. */
function schemaBase(model: FormModel): string {
  return model.shared ? `${model.component}${pascal(baseNameOf(model))}` : model.component;
}

function obstacleOf(model: FormModel, file: string, context: WriteContext): LedgerEntry | undefined {
  if (!context.exists(file)) return undefined;
  return {
    entry: 'by-hand',
    span: model.span,
    what: path.basename(file),
    why: 'a file of this name is there already; move it first',
  };
}

/** Whether a field's type is plain to see from its default. */
function isPlain(field: Field): boolean {
  const value = field.initial.when === 'constant' ? jsonOf(field.initial.text) : undefined;
  return value !== undefined && value !== null && typeof value === (field.type ?? '').trim();
}

/** Comments at the declaration of a field, unless they stand where the new state will stand. */
function commentsOf(field: Field, model: FormModel): string[] {
  const first = model.fields[0]?.name === field.name && !model.holder;
  const all = [
    ...(first ? [] : field.commentsBefore),
    ...(field.commentBehind === undefined ? [] : [field.commentBehind]),
  ];
  return all.map((comment) => plainComment(comment.replace(/^\s*(\/\/|\/\*)|\*\/\s*$/g, '')));
}

function printerOf(context: WriteContext): CodePrinter {
  const printer: CodePrinter = {
    textOf: (file) => context.text(file),
    uses: [],
    use: () => undefined,
    hole: (hole) => movedText(hole, printer),
  };
  return printer;
}

/** Fields whose initial value only the page knows. */
function givenItems(model: FormModel, context: WriteContext): Item[] {
  const printer = printerOf(context);
  const known = new Set(
    model.fields
      .filter(({ initial }) => initial.when === 'constant' && jsonOf(initial.text) !== undefined)
      .map(({ name }) => name),
  );
  return initialItems(model, printer)
    .map((item) => ({ lead: item.lead, value: item.value }))
    .filter((_item, index) => !known.has(model.fields[index]?.name ?? ''));
}

function argumentsText(model: FormModel, schema: string, context: WriteContext): string {
  const { holder } = model;
  if (holder?.start) {
    const printer: CodePrinter = {
      textOf: (file) => context.text(file),
      uses: [],
      use: () => undefined,
      hole: (hole) => movedText(hole, printer),
    };
    return `${schema}, ${codeText(holder.start.code, printer)}`;
  }
  const own = holder?.initial === undefined ? undefined : constantOf(context.script(model.file), holder.initial);
  // values that stand in another file stay there
  if (holder?.initial !== undefined && !own) return `${schema}, ${holder.initial}`;
  const items = givenItems(model, context);
  if (!items.length) return schema;
  const once = model.fields.some((field) => field.initial.when === 'once');
  const object = laidOut({ open: once ? '() => ({' : '{', close: once ? '})' : '}', items }, context.style, '  ', 40);
  return `${schema}, ${object}`;
}

/** The constant of a file that a name stands for. */
function constantOf(script: Script, name: string): NodePath<t.VariableDeclarator> | undefined {
  const declared = script.program.scope.getBinding(name)?.path;
  return declared?.isVariableDeclarator() && declared.parentPath.parentPath?.isVariableDeclaration() !== true
    ? declared
    : undefined;
}

/** The constant that the values begin as: the schema's defaults take its place where something else needs it. */
function initialEdits(
  model: FormModel,
  script: Script,
  names: Names,
  used: Set<string>,
  plan: RewritePlan['edits'],
  context: WriteContext,
): RewritePlan['edits'] {
  const name = model.holder?.initial;
  const declarator = name === undefined ? undefined : constantOf(script, name);
  const init = declarator?.get('init') as NodePath | undefined;
  if (!declarator || !init?.isObjectExpression()) return [];
  const start = init.node.start ?? 0;
  const end = init.node.end ?? 0;
  // it may have gone along with the old state
  if (plan.some((edit) => edit.file === model.file && edit.start <= start && edit.end >= end)) return [];
  used.add(schemaExports.start);
  const items = givenItems(model, context);
  const given = items.length ? `, ${laidOut({ open: '{', close: '}', items }, context.style, '', 60)}` : '';
  const id = declarator.node.id;
  const typed = t.isIdentifier(id) && id.typeAnnotation ? '' : names.type === undefined ? '' : `<${names.type}>`;
  return [
    {
      file: model.file,
      start: init.node.start ?? 0,
      end: init.node.end ?? 0,
      text: `${schemaExports.start}${typed}(${names.schema}${given})`,
    },
  ];
}

/** What stands above the form: the type of its values where the file has none, and the check by the schema. */
function aboveEdits(
  model: FormModel,
  names: Names,
  moved: MovedCheck | undefined,
  plain: boolean,
  used: Set<string>,
  context: WriteContext,
): RewritePlan['edits'] {
  const { newline, semicolon } = context.style;
  const type: string[] = [];
  if (names.type !== undefined && model.holder?.type === undefined) {
    if (plain) {
      used.add(`type ${schemaExports.values}`);
      type.push(`type ${names.type} = ${schemaExports.values}<typeof ${names.schema}>${semicolon}`);
    } else type.push(membersText(model, names.type, context));
  }
  const typed = names.type === undefined ? '' : `<${names.type}>`;
  const check = moved ? [`const ${names.check} = ${schemaExports.check}${typed}(${names.schema})${semicolon}`] : [];
  const block = (parts: string[]): string => parts.join(newline + newline) + newline + newline;
  const at = moved?.at ?? model.before;
  if (type.length + check.length === 0) return [];
  return [{ file: model.file, start: at, end: at, text: block([...type, ...check]) }];
}

function ledgerOf(
  ledger: readonly LedgerEntry[],
  model: FormModel,
  moved: MovedCheck | undefined,
  file: string,
): LedgerEntry[] {
  const movedRules = new Set(moved?.rules.map(({ span }) => span.start));
  const isRule = (entry: LedgerEntry): Rule | undefined => model.rules.find((rule) => rule.span === entry.span);
  return ledger.map((entry) => {
    const rule = isRule(entry);
    if (!rule) return entry;
    if (movedRules.has(rule.span.start)) return { ...entry, entry: 'carried', why: `${file} states it` };
    return { ...entry, why: rule.stated === 'native' ? 'the browser keeps it' : 'it stays as code where it is' };
  });
}
