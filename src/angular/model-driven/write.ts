import * as t from '@babel/types';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import {
  isRowField,
  type AskUse,
  type Control,
  type Field,
  type FormModel,
  type ResetUse,
  type RowPlace,
  type SetAllUse,
  type SetUse,
  type Span,
  type Use,
} from '../../form/model.js';
import { leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { indentAt } from '../../source/style.js';
import { isInTemplate, useEdits } from '../use-edits.js';
import type { AngularComponent, Member } from '../component.js';
import {
  accessText,
  attributeRemoval,
  behindProperties,
  commentsIn,
  fieldTree,
  importEdits,
  memberIndent,
  memberRemoval,
  moduleEdits,
  spareDeclarations,
  type FileEdit,
} from '../writing.js';
import { groupText, type ControlFacts } from './group-text.js';
import { groupName, isDirectiveMember, needsDirective } from './names.js';
import { conditionalFields, type ConditionalField } from './conditional.js';
import { followingText, isFollowed, unfollowable } from './following.js';
import { nullableFields, typeTrouble, wideningEdits } from './nullable.js';
import {
  arrayText,
  changeRowsText,
  initialArrayText,
  mayMiss,
  rowControlText,
  rowDeclarations,
  rowNames,
  rowTrouble,
  rowTypeEdits,
  setRowsText,
  type RowNames,
} from './rows-text.js';

/** What the parts of the writer share. */
export interface ModelDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  /** Name of the class's member that holds the group. */
  group: string;
  /** The directive keeps its name in the template, because its submitted state is asked for. */
  keepsDirective: boolean;
  /** Fields that a reset without values leaves null. */
  nullable: ReadonlySet<string>;
  printer: CodePrinter;
  /** Names under which the class offers a field's control. */
  aliases: Map<string, string>;
  /** Names for the rows of each list. */
  rows: RowNames[];
  /** Functions that build rows and that the template calls. */
  rowMembers: Set<string>;
  /** Types of rows that the result speaks of. */
  rowTypesNeeded: Set<string>;
  /** Fields whose changes the class follows: a reset changes them as well, which no event of an element tells. */
  followed: ReadonlySet<string>;
}

/** Writes a form whose controls are built in the class: a group there, its name on the form, a control's name on each element. */
export function writeModelDriven(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const byHand = unclearEntries(model);
  const resets = model.uses.some((use) => use.kind === 'reset');
  const nullable = nullableFields(model, context, component);
  byHand.push(...typeTrouble(model, nullable, context, component));
  const conditional = conditionalFields(model, component, byHand);
  const draft: ModelDraft = {
    model,
    context,
    component,
    group: groupName(model, component),
    keepsDirective: needsDirective(model),
    nullable,
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
    aliases: new Map(),
    rows: rowNames(model, (wished, ...others) => context.freeName(wished, ...others)),
    rowMembers: new Set(),
    rowTypesNeeded: new Set(),
    followed: new Set(
      model.controls.filter((control) => resets && isFollowed(control, model)).map(({ field }) => field),
    ),
  };
  byHand.push(...unwritable(draft), ...unfollowable(draft), ...rowTrouble(draft));
  if (byHand.length) return leftByHand(byHand);
  nameAliases(draft);
  const ledger: LedgerEntry[] = [];
  const edits: FileEdit[] = [
    ...useEdits(model, context, (use) => useText(use, draft), ledger),
    ...formEdits(draft, ledger),
    ...model.controls.flatMap((control) => controlEdits(control, draft, ledger)),
    ...classEdits(draft, conditional, ledger),
    ...wideningEdits(model, nullable, context, component),
  ];
  edits.push(...importAndModuleEdits(draft, edits, ledger));
  for (const rule of model.rules) {
    const stays = !rule.constraint;
    ledger.push({
      entry: stays ? 'kept' : 'carried',
      span: rule.span,
      what: rule.condition,
      why: stays
        ? 'the attribute states the rule for a control of the model as well, and follows its expression'
        : 'it is a validator of the control now',
    });
  }
  for (const other of model.others)
    ledger.push({
      entry: 'kept',
      span: { ...model.span, end: model.span.start },
      what: `member ${other.name}`,
      why: other.why,
    });
  return { edits, creates: [], deletes: [], dependencies: [], ledger };
}

/** Fields that are controls of the group; others stand by themselves. */
function inGroup(draft: ModelDraft): Field[] {
  return draft.model.fields.filter((field) => !isStandalone(field.name, draft) && !isRowField(field.name));
}

function isStandalone(field: string, { model }: ModelDraft): boolean {
  if (isRowField(field)) return false;
  const controls = model.controls.filter((control) => control.field === field);
  return (
    model.template?.element !== undefined &&
    controls.length > 0 &&
    controls.every(({ binding }) => binding?.standalone === true)
  );
}

/** What keeps the form from becoming model-driven. */
function unwritable(draft: ModelDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [];
  for (const field of model.fields) {
    const required = model.rules.some((rule) => rule.fields[0] === field.name && rule.kind === 'required');
    if (field.initial.text !== 'undefined' || required || !sentWhole(draft)) continue;
    entries.push({
      entry: 'by-hand',
      span: field.declared,
      what: `initial value of ${field.name}`,
      why: 'it starts unset, and a control cannot: it would hold null where now the key is missing; give it an initial value first',
    });
  }
  for (const control of model.controls) {
    const { binding } = control;
    if (!binding?.disabled || binding.disabled.constant) continue;
    const asked = model.uses.some((use) => use.kind === 'read-all' && use.what === 'shown');
    const ruled = model.rules.some((rule) => rule.fields.includes(control.field));
    if (asked || ruled)
      entries.push({
        entry: 'by-hand',
        span: binding.disabled.span,
        what: `disabled while ${binding.disabled.text}`,
        why: 'the control has to be disabled in the class at the same moments, because its rules or the values sent depend on it',
      });
  }
  for (const use of model.uses) {
    if (!/^(set-named|made-handler|hand-on|watch)$/.test(use.kind)) continue;
    entries.push({
      entry: 'by-hand',
      span: use.span,
      what: context.text(use.span.file).slice(use.span.start, use.span.end),
      why: 'this place cannot be said with controls yet',
    });
  }
  return entries;
}

/** Whether the values are sent or kept together, so that a missing key would be seen. */
function sentWhole({ model }: ModelDraft): boolean {
  return model.uses.some((use) => use.kind === 'read-all');
}

/** Controls that the template asks by a name of their own keep that name, as members of the class. */
function nameAliases(draft: ModelDraft): void {
  const { model, component } = draft;
  const gone = new Set(model.names.map(({ name }) => name));
  const named = new Map<string, string>();
  for (const { field, binding } of model.controls)
    if (binding?.reference !== undefined && !binding.rows) named.set(field, binding.reference);
  for (const { name, reference } of model.template?.groups ?? [])
    if (reference !== undefined) named.set(name, reference);
  for (const [field, reference] of named) {
    const asked = model.uses.filter((use) => use.kind === 'ask' && use.inTemplate && use.of === field);
    const reads = model.uses.filter(
      (use) => use.kind === 'read' && use.field === field && use.span.file === model.template?.file,
    );
    if (
      !asked.length &&
      !reads.some(({ span }) => draft.context.text(span.file).slice(span.start).startsWith(reference))
    )
      continue;
    const free = !component.members.has(reference) || (gone.has(reference) && reference !== draft.group);
    const shadowed = component.template.variables.some(
      (variable) =>
        variable.name === reference && variable.exportAs !== 'ngModel' && variable.exportAs !== 'ngModelGroup',
    );
    if (free && !shadowed && reference !== draft.group) draft.aliases.set(field, reference);
  }
}

function pathText(field: string, draft: ModelDraft): string {
  if (isStandalone(field, draft)) return memberOfStandalone(field);
  const { model } = draft;
  const [first = '', ...rest] = field.split('.');
  const steps = [first, ...rest].map((key) => `controls${accessText(key)}`);
  return [`${draft.group}`, ...steps].join('.') + (model ? '' : '');
}

function memberOfStandalone(field: string): string {
  return field.replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
}

/** A field's control, as an expression of the class or of the template. */
function controlText(field: string, inTemplate: boolean, draft: ModelDraft, row?: RowPlace): string {
  if (row) return rowControlText(field, row, inTemplate, draft);
  const alias = draft.aliases.get(field);
  if (alias !== undefined) return inTemplate ? alias : `this.${alias}`;
  return inTemplate ? pathText(field, draft) : `this.${pathText(field, draft)}`;
}

function formText(inTemplate: boolean, draft: ModelDraft): string {
  return inTemplate ? draft.group : `this.${draft.group}`;
}

/** The text that takes the place of a use; `inTemplate` tells where it will stand. */
export function useText(
  use: Use,
  draft: ModelDraft,
  inTemplate = isInTemplate(use.span, draft.component),
): string | undefined {
  switch (use.kind) {
    case 'read': {
      const group = fieldTree(draft.model.fields).children.get(use.field);
      const own = draft.model.fields.some(({ name, kind }) => name === use.field && kind !== 'list of rows');
      const whole = (!own && group !== undefined) || use.field.endsWith('[]');
      const value = `${controlText(use.field, inTemplate, draft, use.row)}${mayMiss(use.row) && inTemplate ? '?' : ''}${whole ? '.getRawValue()' : '.value'}`;
      return use.key === undefined ? value : `${use.key}: ${value}`;
    }
    case 'read-all': {
      const values =
        use.what === 'shown' ? `${formText(inTemplate, draft)}.value` : `${formText(inTemplate, draft)}.getRawValue()`;
      return use.key === undefined ? values : `${use.key}: ${values}`;
    }
    case 'set':
      return setText(use, inTemplate, draft);
    case 'set-all':
      return setAllText(use, inTemplate, draft);
    case 'reset':
      return resetText(use, inTemplate, draft);
    case 'ask':
      return askText(use, inTemplate, draft);
    case 'rows':
      return `${arrayText(use.list, inTemplate, draft)}${use.what === 'items' ? '.controls' : ''}`;
    case 'change-rows':
      return changeRowsText(use, inTemplate, draft);
    case 'set-named':
    case 'made-handler':
    case 'hand-on':
    case 'depend':
    case 'watch':
    case 'hand-on-all':
    case 'make-row':
      return undefined;
    default: {
      const never: never = use;
      return never;
    }
  }
}

function setText(use: SetUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const [assignment] = use.assignments;
  if (!assignment || assignment.value.kind !== 'value') return undefined;
  const control = controlText(assignment.field, inTemplate, draft, use.row);
  const value = codeText(assignment.value.code, draft.printer);
  const { operator } = assignment.value;
  const quiet = draft.followed.has(assignment.field) ? ', { emitEvent: false }' : '';
  if (operator === undefined) return `${control}.setValue(${value}${quiet})`;
  return `${control}.setValue(${control}.value ${operator}${value === '' ? '' : ` ${value}`}${quiet})`;
}

function setAllText(use: SetAllUse, inTemplate: boolean, draft: ModelDraft): string {
  const value = codeText(use.code, draft.printer);
  if (draft.rows.length && !use.merge) return setRowsText(use, value, draft);
  const full = isFullObject(use, draft);
  return `${formText(inTemplate, draft)}.${!use.merge && full ? 'setValue' : 'patchValue'}(${value})`;
}

/** Whether an object literal gives every field a value. */
function isFullObject(use: SetAllUse, draft: ModelDraft): boolean {
  const text = draft.context.text(use.code.file).slice(use.code.start, use.code.end);
  if (!text.trimStart().startsWith('{') || text.includes('...')) return false;
  const keys = [...fieldTree(inGroup(draft)).children.keys()];
  return keys.every((key) => new RegExp(`[{,\\s]['"]?${key}['"]?\\s*[:,}]`).test(text));
}

function resetText(use: ResetUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const values = use.values ? codeText(use.values, draft.printer) : '';
  if (use.of !== undefined) return `${controlText(use.of, inTemplate, draft, use.row)}.reset(${values})`;
  if (!use.clearsSubmitted) return `${formText(inTemplate, draft)}.reset(${values})`;
  const directive = directiveAt(use.span, draft);
  return directive === undefined ? undefined : `${directive}.resetForm(${values})`;
}

/** What names the form's directive at a place: the text that stands there already. */
function directiveAt(span: Span, draft: ModelDraft): string | undefined {
  const text = draft.context.text(span.file).slice(span.start, span.end);
  return /^(?:this\s*\.\s*)?\w+/.exec(text)?.[0];
}

function askText(use: AskUse, inTemplate: boolean, draft: ModelDraft): string | undefined {
  const source = draft.context.text(use.span.file).slice(use.span.start, use.span.end);
  if (use.of === undefined) {
    const keeps =
      draft.keepsDirective &&
      (isDirectiveMember(use.member) || !/\b(form|control)\b\s*[!?.]*$/.test(source.replace(/^(this\.)?\w+/, '')));
    if (keeps) return undefined;
    // the group itself takes the place of the directive's argument
    if (
      use.member === undefined &&
      draft.model.template?.given.some(({ argument }) => argument.some((one) => one.start === use.span.start))
    )
      return undefined;
    return `${formText(inTemplate, draft)}${use.joint === '' ? '' : '.'}`;
  }
  if (
    use.member === undefined &&
    draft.model.template?.given.some(({ argument }) => argument.some((one) => one.start === use.span.start))
  )
    return inTemplate ? controlText(use.of, true, draft) : undefined;
  const given = draft.model.template?.given.find(({ of, name }) => of === use.of && name === use.named);
  if (!inTemplate && given) return `${given.name}${use.joint === '' ? '' : '.'}`;
  return `${controlText(use.of, inTemplate, draft, use.row)}${use.joint === '' ? '' : '.'}`;
}

/** The form's element: the group's name comes, and the directive's name where it is still asked. */
function formEdits(draft: ModelDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { template } = model;
  if (!template) return [];
  const edits: FileEdit[] = [];
  const bind = `[formGroup]="${draft.group}"`;
  const [first] = template.attributes;
  const reference = template.attributes.find(({ start, end }) =>
    /="ngForm"/.test(context.text(template.file).slice(start, end)),
  );
  if (!template.element) return edits;
  if (reference && !draft.keepsDirective) edits.push({ ...reference, text: bind });
  else edits.push({ file: template.file, start: template.at, end: template.at, text: ` ${bind}` });
  for (const attribute of template.attributes) {
    if (attribute === reference) continue;
    edits.push(attributeRemoval(context.text(template.file), attribute, component.template.place.base));
  }
  ledger.push({
    entry: 'carried',
    span: first ?? template.element,
    what: 'the form’s element',
    why: `it bears the group ${draft.group}`,
  });
  for (const group of template.groups) {
    const [own, ...rest] = group.attributes;
    if (own) edits.push({ ...own, text: `formGroupName="${group.name}"` });
    for (const attribute of rest) edits.push(attributeRemoval(context.text(template.file), attribute));
  }
  for (const { method, argument } of template.given) {
    ledger.push({
      entry: draft.keepsDirective ? 'kept' : 'retired',
      span: argument[0] ?? template.element,
      what: `argument of ${method}`,
      why: draft.keepsDirective ? 'its submitted state is asked for there' : 'the class knows the group by itself',
    });
  }
  return edits;
}

/** One control: its attributes of the old approach go, its name in the group comes. */
function controlEdits(control: Control, draft: ModelDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { binding } = control;
  const { context, component, model } = draft;
  if (!binding) return [];
  const { file } = component.template.place;
  const text = context.text(file);
  const name = control.field.split('.').at(-1) ?? control.field;
  const groups = (model.template?.groups ?? []).map((group) => group.name);
  const nested = control.field.includes('.') && !groups.includes(control.field.split('.').slice(0, -1).join('.'));
  const alone = binding.standalone || nested;
  const bind = binding.rows
    ? `[formControl]="${rowControlText(control.field, binding.rows.row, true, draft)}"`
    : alone
      ? `[formControl]="${pathText(control.field, draft)}"`
      : /^[\w-]+$/.test(name)
        ? `formControlName="${name}"`
        : `formControlName="${name.replace(/"/g, '&quot;')}"`;
  const edits: FileEdit[] = [];
  const [model0, ...others] = [...binding.attributes].sort((a, b) => rank(a, text) - rank(b, text));
  if (model0) edits.push({ ...model0, text: bind });
  for (const attribute of others) {
    const change = binding.changed.find(({ span }) => span.start === attribute.start);
    if (change && draft.followed.has(control.field)) {
      edits.push(attributeRemoval(text, attribute, component.template.place.base));
      ledger.push({
        entry: 'carried',
        span: attribute,
        what: text.slice(attribute.start, attribute.end),
        why: 'the class follows the control’s changes, those of a reset included',
      });
    } else if (change) {
      const handler = codeText(change.code, draft.printer);
      edits.push({ ...attribute, text: `(${binding.event})="${handler}"` });
      ledger.push({
        entry: 'carried',
        span: attribute,
        what: text.slice(attribute.start, attribute.end),
        why: `it runs on the element’s own ${binding.event} event, after the control took the value`,
      });
    } else edits.push(attributeRemoval(text, attribute, component.template.place.base));
  }
  for (const rule of model.rules) {
    if (rule.fields[0] !== control.field || rule.stated !== 'native' || !rule.constraint) continue;
    if (rule.span.start < control.span.start || rule.span.end > control.span.end) continue;
    // what the browser and assistive technology read stays: the mark of a required control, limits of what can be typed
    if (/^(minlength|pattern|email)\b|^\[(minlength|pattern|email)\]/.test(text.slice(rule.span.start)))
      edits.push(attributeRemoval(text, rule.span, component.template.place.base));
  }
  if (binding.disabled?.constant)
    edits.push(attributeRemoval(text, binding.disabled.span, component.template.place.base));
  else if (binding.disabled)
    edits.push({
      ...binding.disabled.span,
      text: `[attr.disabled]="${/^[\w.!]+$/.test(binding.disabled.text) ? binding.disabled.text : `(${binding.disabled.text})`} ? '' : null"`,
    });
  ledger.push({
    entry: 'carried',
    span: control.span,
    what: `control of ${control.field}`,
    why: `it is bound by ${bind}`,
  });
  return edits;
}

/** The binding itself comes first: what takes its place stands where it stood. */
function rank(span: Span, text: string): number {
  const attribute = text.slice(span.start, span.end);
  return /^\[?\(?\[?ngModel(\)|\]|=|$)/.test(attribute) ? 0 : 1;
}

function membersGoing(draft: ModelDraft): Member[] {
  const spans = draft.model.declarations.map(({ span }) => span.start);
  return [...draft.component.members.values()].filter(({ node }) => spans.includes(node.start ?? -1));
}

/** Comments that stand in what goes, by the field they speak of. */
function commentsByField(
  draft: ModelDraft,
  fields: readonly Field[],
): Map<string, { before: string[]; behind: string | undefined }> {
  const found = new Map<string, { before: string[]; behind: string | undefined }>();
  const { script } = draft.component;
  const [first] = fields;
  const own = fields.filter(({ name }) => !isRowField(name));
  for (const member of membersGoing(draft)) {
    for (const comment of commentsIn(script, { start: member.node.start ?? 0, end: member.node.end ?? 0 })) {
      const onLineBefore = own
        .filter(
          ({ declared }) =>
            declared.file === script.file &&
            declared.end <= comment.start &&
            !script.text.slice(declared.end, comment.start).includes('\n'),
        )
        .at(-1);
      const next = own.find(({ declared }) => declared.file === script.file && declared.start >= comment.end);
      const target = onLineBefore ?? next ?? first;
      if (!target) continue;
      const entry = found.get(target.name) ?? { before: [], behind: undefined };
      if (onLineBefore && entry.behind === undefined) entry.behind = comment.text;
      else entry.before.push(comment.text);
      found.set(target.name, entry);
    }
  }
  return found;
}

function classEdits(draft: ModelDraft, conditional: readonly ConditionalField[], ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { script } = component;
  const { style } = context;
  const fields = inGroup(draft);
  const comments = commentsByField(draft, model.fields);
  const staysInTemplate = new Set(
    model.rules.filter(({ constraint }) => !constraint).map(({ condition }) => condition),
  );
  const factsOf = (field: Field): ControlFacts => ({
    keepsType: !draft.nullable.has(field.name),
    initial: initialText(field, draft),
    type: typeText(field, draft),
    disabled: model.controls.some(
      ({ field: name, binding }) => name === field.name && binding?.disabled?.constant === true,
    ),
    comments: comments.get(field.name) ?? { before: [], behind: undefined },
    staysInTemplate,
  });
  const going = membersGoing(draft).filter((member) => !(draft.keepsDirective && isQuery(member, draft)));
  const anchor = going.find((member) => !isQuery(member, draft)) ?? going[0];
  const indent = anchor ? indentAt(script.text, anchor.node.start ?? 0) : memberIndent(component);
  const access = accessOf(anchor);
  const lead = `${access}readonly ${draft.group} = `;
  const lines: string[] = [];
  if (fields.length)
    lines.push(
      `${lead}${groupText(model, fields, factsOf, context, indent, indent.length + lead.length + 1)}${style.semicolon}`,
    );
  for (const field of model.fields.filter(({ name }) => isStandalone(name, draft))) {
    const alone = groupText(
      { ...model, template: undefined } as unknown as FormModel,
      [{ ...field, name: 'only' }],
      () => factsOf(field),
      context,
      indent,
      0,
    );
    const control = /^new FormGroup\(\{\s*only: ([\s\S]*?),?\s*\}\)$/.exec(alone)?.[1] ?? alone;
    lines.push(`${access}readonly ${memberOfStandalone(field.name)} = ${control}${style.semicolon}`);
  }
  for (const [field, alias] of draft.aliases)
    lines.push(`${access}readonly ${alias} = this.${pathText(field, draft)}${style.semicolon}`);
  for (const make of draft.rowMembers) lines.push(`protected readonly ${make} = ${make}${style.semicolon}`);
  const edits: FileEdit[] = [];
  const place = behindProperties(component);
  const text = lines.join(style.newline + indent);
  if (anchor) {
    const start = memberStart(anchor);
    edits.push({ file: script.file, start, end: anchor.node.end ?? start, text });
    for (const member of going)
      if (member !== anchor) edits.push({ file: script.file, ...memberRemoval(script, member) });
  } else edits.push({ file: script.file, start: place, end: place, text: `${style.newline}${indent}${text}` });
  for (const member of going)
    ledger.push({
      entry: isQuery(member, draft) ? 'retired' : 'carried',
      span: { file: script.file, start: member.node.start ?? 0, end: member.node.end ?? 0 },
      what: `member ${member.name}`,
      why: isQuery(member, draft) ? 'the class holds the group itself' : `its values are controls of ${draft.group}`,
    });
  edits.push(...givenEdits(draft), ...rowTypeEdits(draft));
  const above = rowDeclarations(draft, factsOf);
  if (above.length)
    edits.push({
      file: script.file,
      start: model.before,
      end: model.before,
      text: above.map((text) => text + style.newline + style.newline).join(''),
    });
  edits.push(...followingText(conditional, draft, indent));
  return edits;
}

function isQuery(member: Member, draft: ModelDraft): boolean {
  return draft.model.declarations.some(({ role, span }) => role === 'support' && span.start === member.node.start);
}

function memberStart(member: Member): number {
  const start = member.node.start ?? 0;
  const decorators = 'decorators' in member.node ? (member.node.decorators ?? []) : [];
  return Math.min(start, ...decorators.map((decorator) => decorator.start ?? start));
}

function accessOf(member: Member | undefined): string {
  const node = member?.node;
  const accessibility = t.isClassProperty(node) ? node.accessibility : undefined;
  return accessibility && accessibility !== 'private' ? `${accessibility} ` : '';
}

function initialText(field: Field, draft: ModelDraft): string {
  if (field.kind === 'list of rows' && draft.rows.some(({ list }) => list.field === field.name))
    return initialArrayText(field, draft);
  if (field.initial.text !== 'undefined')
    return field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text;
  if (field.kind === 'number') return 'null';
  if (field.kind === 'boolean') return 'false';
  const bare = field.type?.replace(/\s*\|\s*(null|undefined)\b/g, '').trim();
  return bare === undefined || bare === 'string' || bare === 'any' ? "''" : 'null';
}

/** A type's text that can stand in the class's file: names that only another file has are reached through the model. */
function typeText(field: Field, draft: ModelDraft): string | undefined {
  const { type } = field;
  if (type === undefined) return undefined;
  const { script, members } = draft.component;
  const names = type.replace(/(['"`])[^'"`]*\1/g, '').match(/\b[A-Z]\w*/g) ?? [];
  const known = (name: string): boolean =>
    /^(Date|File|FileList|Array|Set|Map|Record|Partial|Readonly|Blob)$/.test(name) ||
    new RegExp(`\\b${name}\\b`).test(script.text);
  if (names.every(known)) return type.replace(/\s*\|\s*undefined\b/g, ' | null');
  const [root, ...keys] = field.names.value?.split('.') ?? [];
  const node = members.get(root ?? '')?.node;
  const written =
    t.isClassProperty(node) && t.isTSTypeAnnotation(node.typeAnnotation)
      ? node.typeAnnotation.typeAnnotation
      : undefined;
  if (!written) return undefined;
  return script.text.slice(written.start ?? 0, written.end ?? 0) + keys.map((key) => `['${key}']`).join('');
}

/** Methods that were given the form: they know it by themselves, or are given its directive. */
function givenEdits(draft: ModelDraft): FileEdit[] {
  const { model, context, component } = draft;
  const edits: FileEdit[] = [];
  for (const { method, parameter, argument, of, name } of model.template?.given ?? []) {
    const text = context.text(component.script.file);
    const type = /:\s*(NgForm|NgModel|any)\b/.exec(text.slice(parameter.start, parameter.end));
    if (of !== undefined || draft.keepsDirective) {
      const wanted = of === undefined ? 'FormGroupDirective' : 'AbstractControl';
      if (type && type[1] !== 'any') {
        const start = parameter.start + type.index + type[0].length - (type[1]?.length ?? 0);
        edits.push({ file: component.script.file, start, end: start + (type[1]?.length ?? 0), text: wanted });
      }
      continue;
    }
    const member = component.members.get(method)?.node;
    if (!t.isClassMethod(member) || name === '') continue;
    edits.push({ file: component.script.file, ...listItem(text, parameter) });
    for (const one of argument) edits.push({ file: one.file, ...listItem(context.text(one.file), one) });
  }
  for (const member of membersGoing(draft)) {
    if (!draft.keepsDirective || !isQuery(member, draft)) continue;
    const { start, end } = { start: member.node.start ?? 0, end: member.node.end ?? 0 };
    const text = component.script.text.slice(start, end);
    for (const match of text.matchAll(/\bNgForm\b/g))
      edits.push({
        file: component.script.file,
        start: start + match.index,
        end: start + match.index + 6,
        text: 'FormGroupDirective',
      });
  }
  return edits;
}

/** An item of a list in parentheses, with its comma. */
function listItem(text: string, span: { start: number; end: number }): { start: number; end: number; text: string } {
  const behind = /^\s*,\s*/.exec(text.slice(span.end));
  if (behind) return { start: span.start, end: span.end + behind[0].length, text: '' };
  const before = /,\s*$/.exec(text.slice(0, span.start));
  return { start: span.start - (before?.[0].length ?? 0), end: span.end, text: '' };
}

function importAndModuleEdits(draft: ModelDraft, edits: readonly FileEdit[], ledger: LedgerEntry[]): FileEdit[] {
  const { component, model } = draft;
  const { script, template } = component;
  const left = template.elements.filter((element) => {
    const bound = element.attributes.some(({ name, kind }) => name === 'ngModel' && kind !== 'event');
    return bound && !model.controls.some(({ span }) => span.start === element.start);
  });
  const otherForms = template.elements.some(
    (element) =>
      element.tag === 'form' &&
      element.start !== model.template?.element?.start &&
      !element.attributes.some(({ name }) => name === 'formGroup'),
  );
  const keepsOld = left.length > 0 || otherForms || component.home?.shared === true;
  const module = moduleEdits(component, ['ReactiveFormsModule'], keepsOld ? undefined : 'FormsModule');
  const all: FileEdit[] = [];
  const wanted = {
    '@angular/forms': [
      'AbstractControl',
      'FormArray',
      'FormControl',
      'FormGroup',
      'FormGroupDirective',
      'ReactiveFormsModule',
      'Validators',
    ],
  };
  const byFile = new Map<string, FileEdit[]>([[script.file, edits.filter(({ file }) => file === script.file)]]);
  const scripts = new Map([[script.file, script]]);
  if (module) {
    const own = module.edits.map((edit) => ({ file: module.file, ...edit }));
    all.push(...own);
    byFile.set(module.file, [...(byFile.get(module.file) ?? []), ...own]);
    scripts.set(module.file, module.script);
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: module.edits[0]?.start ?? 0, end: module.edits[0]?.end ?? 0 },
      what: 'FormsModule',
      why: keepsOld
        ? 'other templates still need it; ReactiveFormsModule is imported beside it'
        : 'ReactiveFormsModule takes its place',
    });
  }
  const spare = spareDeclarations(script, byFile.get(script.file) ?? []).map((edit) => ({
    file: script.file,
    ...edit,
  }));
  all.push(...spare);
  byFile.get(script.file)?.push(...spare);
  for (const [file, own] of byFile) {
    const one = scripts.get(file);
    if (one) all.push(...importEdits(one, own, wanted).map((edit) => ({ file, ...edit })));
  }
  return all;
}
