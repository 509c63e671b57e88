import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Control, Field, FormModel, Rule, Span, Unclear, Use, ValueKind } from '../../form/model.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import { classChain, templateChain, type Chain } from '../chains.js';
import { classSurrounding, parameterReferences, spanOfNode, typeOfValue, writtenType } from '../class-reading.js';
import type { Member } from '../component.js';
import { literalText, memberDecorator } from '../decorators.js';
import {
  attributeOf,
  controlFacts,
  eventOf,
  kindOfElement,
  plainText,
  viewsBetween,
  type AngularSite,
} from '../form-site.js';
import { frameOf, messagesFor, submitsOf, type SubmitFacts } from '../form-frame.js';
import { variableNamed, type TemplateElement, type TemplateName, type TemplateView } from '../template.js';
import { controlUse, formUse, type Reading } from '../uses.js';
import {
  arrayFields,
  arrayTrouble,
  arrayUses,
  arraysIn,
  exchangeUse,
  foundArrays,
  keyOfElement,
  madeRows,
  modelArray,
  rowGroupUses,
  rowOfElement,
  rowRules,
  type ArraysReading,
  type FoundArray,
} from './rows.js';
import { callsOf, shownFields } from './shown-fields.js';
import { builtForm, type BuiltControl, type BuiltForm, type BuiltGroup } from './structure.js';

interface BoundControl {
  field: string;
  element: TemplateElement;
  attribute: Span;
  rows?: NonNullable<Control['binding']>['rows'];
}

interface Draft {
  site: AngularSite;
  form: BuiltForm;
  controls: Map<string, BuiltControl>;
  groups: Map<string, BuiltGroup>;
  arrays: FoundArray[];
  bound: BoundControl[];
  submits: SubmitFacts;
  uses: Use[];
  unclear: Unclear[];
  references: Map<string, Span[]>;
  /** Members that give a field's control: getters and constants. */
  aliases: Map<string, { field: string | undefined; member: Member; controls: boolean; array?: string }>;
  given: NonNullable<FormModel['template']>['given'];
  /** Stretches that only keep controls in step with what is shown. */
  retired: { start: number; end: number; what: string }[];
  /** Fields whose controls the class enables only while they are shown. */
  kept: Set<string>;
}

/** The member of the class that a form's element names. */
export function formMember(site: AngularSite): string | undefined {
  const bound = site.form && attributeOf(site.form, 'formGroup', 'property');
  return /^\s*(?:this\.)?(\w+)\s*$/.exec(bound?.value ?? '')?.[1];
}

/** Reads a form whose controls are built in the class. */
export function readModelDriven(site: AngularSite): FormModel {
  const { component } = site;
  const submits = submitsOf(site);
  const name = formMember(site);
  const form = name === undefined ? undefined : builtForm(name, site);
  if (!form) return unreadable(site, submits, name);
  const draft: Draft = {
    site,
    form,
    controls: new Map(),
    groups: new Map(),
    arrays: [],
    bound: [],
    submits,
    uses: [],
    unclear: [],
    references: new Map(),
    aliases: new Map(),
    given: [],
    retired: [],
    kept: new Set(),
  };
  collect(form.group, '', draft);
  findAliases(draft);
  findArrays(draft);
  bindElements(draft);
  retireShownFields(draft);
  memberUses(form.member, draft);
  for (const alias of draft.aliases.values()) aliasUses(alias, draft);
  templateUses(draft);
  rowGroupUses(arraysReading(draft));
  for (const array of draft.arrays) draft.uses.push(...madeRows(array));
  const directive = site.form?.references.find(({ exportAs }) => exportAs === 'ngForm');
  if (directive) directiveUses(directive.name, draft);
  const queries = directiveQueries(site, directive?.name);
  for (const member of queries) memberUses(member, draft);
  const bindings = site.form
    ? [attributeOf(site.form, 'formGroup')].flatMap((one) => (one ? [spanIn(site, one)] : []))
    : [];
  return {
    ...frameOf(site, submits, new Set([form.member.name])),
    approach: 'model-driven',
    fields: fieldsInOrder(draft),
    ...(draft.arrays.length ? { lists: draft.arrays.map((array) => modelArray(array, site)) } : {}),
    controls: draft.bound.map((one) => controlOf(one, draft)),
    uses: draft.uses,
    rules: rulesOf(draft),
    declarations: declarationsOf(draft),
    names: [...draft.references].map(([owned, references]) => ({
      file: component.script.file,
      name: owned,
      declaredAt: -1,
      references,
    })),
    unclear: draft.unclear,
    handlers: 0,
    stateVariables: 1,
    template: {
      file: component.template.place.file,
      element: site.form && spanIn(site, site.form),
      attributes: bindings,
      at: site.form?.nameEnd ?? 0,
      reference: directive?.name,
      member: form.member.name,
      query: queries[0]?.name,
      given: draft.given,
      updateOn: form.group.updateOn,
      groups: groupsOf(draft),
    },
  };
}

function unreadable(site: AngularSite, submits: SubmitFacts, name: string | undefined): FormModel {
  const { form, component } = site;
  const attribute = form && attributeOf(form, 'formGroup');
  const span = attribute ? spanIn(site, attribute) : spanIn(site, form ?? { start: 0, end: 0 });
  return {
    ...frameOf(site, submits),
    approach: 'model-driven',
    fields: [],
    controls: [],
    uses: [],
    rules: [],
    declarations: [],
    names: [],
    unclear: [
      {
        span,
        what: attribute?.value ?? 'form',
        why:
          name === undefined
            ? 'the group is no plain member of the class'
            : `how ${component.name} builds ${name} is not clear: it is neither built where it is declared nor in one assignment`,
      },
    ],
    handlers: 0,
    stateVariables: 0,
    template: {
      file: component.template.place.file,
      element: form && spanIn(site, form),
      attributes: [],
      at: 0,
      reference: undefined,
      member: name,
      given: [],
      updateOn: undefined,
      groups: [],
    },
  };
}

function spanIn(site: AngularSite, place: { start: number; end: number }): Span {
  return { file: site.component.template.place.file, start: place.start, end: place.end };
}

function collect(group: BuiltGroup, path: string, draft: Draft): void {
  draft.groups.set(path, group);
  for (const child of group.children) {
    const own = path === '' ? child.name : `${path}.${child.name}`;
    if (child.kind === 'control') draft.controls.set(own, child);
    else if (child.kind === 'group') collect(child, own, draft);
    else if (child.kind === 'unknown')
      draft.unclear.push({
        span: spanOfNode(child.script.file, child.node),
        what: child.name === '' ? 'a part of the group' : child.name,
        why: 'what it builds is not clear',
      });
  }
}

/** The form's arrays of rows; one that is not understood is unclear, with the reason. */
function findArrays(draft: Draft): void {
  const { form, site } = draft;
  const names = new Map(
    [...draft.aliases].flatMap(([name, { array }]) => (array === undefined ? [] : [[name, array]])),
  );
  draft.arrays = foundArrays(form.group, site, form.member.name, names);
  for (const array of draft.arrays) {
    const why = arrayTrouble(array);
    if (why !== undefined)
      draft.unclear.push({ span: spanOfNode(array.array.script.file, array.array.node), what: array.field, why });
  }
}

function arraysReading(draft: Draft): ArraysReading {
  return {
    site: draft.site,
    arrays: draft.arrays,
    member: draft.form.member.name,
    aliases: new Map([...draft.aliases].flatMap(([name, { array }]) => (array === undefined ? [] : [[name, array]]))),
    reading: (chain, path) => reading(chain, draft, path),
    add: (use) => draft.uses.push(use),
    unclear: (span, what, why) => draft.unclear.push({ span, what, why }),
  };
}

/** The form's fields in the order in which the class builds them. */
function fieldsInOrder(draft: Draft): Field[] {
  const elements = new Map(draft.bound.map(({ field, element }) => [field, element]));
  return [
    ...[...draft.controls].map(([path, control]) => fieldOf(path, control, draft)),
    ...draft.arrays.flatMap((array) => arrayFields(array, elements, draft.site.load)),
  ];
}

function fieldAt(draft: Draft): (names: readonly string[]) => { name: string; group: boolean } | undefined {
  return (names) => {
    const path = names.join('.');
    if (draft.controls.has(path)) return { name: path, group: false };
    if (draft.arrays.some(({ field }) => field === path)) return { name: path, group: false };
    return path !== '' && draft.groups.has(path) ? { name: path, group: true } : undefined;
  };
}

/** The groups around an element, outermost first. */
function groupsAround(element: TemplateElement, form: TemplateElement | undefined): string[] {
  const groups: string[] = [];
  for (let at = element.parent; at && at !== form; at = at.parent) {
    const name = plainText(at, 'formGroupName');
    if (name) groups.unshift(name);
  }
  return groups;
}

function bindElements(draft: Draft): void {
  const { site } = draft;
  for (const element of site.elements) {
    const named = attributeOf(element, 'formControlName');
    const direct = attributeOf(element, 'formControl', 'property');
    const attribute = named ?? direct;
    if (!attribute) continue;
    const span = spanIn(site, attribute);
    const inRow = rowOfElement(element, draft.arrays);
    const key = inRow && keyOfElement(element, inRow.loop);
    if (inRow && key !== undefined && inRow.array.controls.has(key)) {
      const rows = { list: inRow.array.field, row: inRow.row };
      draft.bound.push({ field: `${inRow.array.field}[].${key}`, element, attribute: span, rows });
      continue;
    }
    const text = named?.kind === 'plain' ? named.value : /^\s*['"]([^'"]+)['"]\s*$/.exec(named?.value ?? '')?.[1];
    if (named && text !== undefined) {
      const field = [...groupsAround(element, site.form), text].join('.');
      if (draft.controls.has(field)) draft.bound.push({ field, element, attribute: span });
      else draft.unclear.push({ span, what: attribute.value ?? '', why: `the group has no control ${field}` });
      continue;
    }
    const path = direct && controlPath(direct.value ?? '', draft);
    if (path !== undefined && draft.controls.has(path)) draft.bound.push({ field: path, element, attribute: span });
    else if (!direct || !isForeign(direct.value ?? '', draft))
      draft.unclear.push({
        span,
        what: attribute.value ?? '',
        why: 'which control it binds is told only when it runs',
      });
  }
}

/** Whether a bound control is a member of its own and no part of the form. */
function isForeign(text: string, draft: Draft): boolean {
  const name = /^\s*(\w+)\s*$/.exec(text)?.[1];
  return name !== undefined && name !== draft.form.member.name && draft.site.component.members.has(name);
}

/** The path that an expression such as `form.controls.town` or `form.get('town')` spells. */
function controlPath(text: string, draft: Draft): string | undefined {
  const { name } = draft.form.member;
  const bare = text.replace(/^\s*(this\.)?/, '').replace(/\s|!|\$any\(|\)$/g, '');
  if (!bare.startsWith(name)) return undefined;
  const got = /^\.get\(['"]([\w.]+)['"]\)?$/.exec(bare.slice(name.length));
  if (got) return got[1];
  const rest = bare.slice(name.length);
  const step = /\??\.controls(?:\??\.(\w+)|\[['"]([\w-]+)['"]\])/g;
  const keys = [...rest.matchAll(step)].map(([, plain, quoted]) => plain ?? quoted ?? '');
  if (rest.replace(step, '').replace(/!$/, '') !== '') return undefined;
  return keys.length ? keys.join('.') : undefined;
}

/** Members that stand for a control or for all of them: `get town() { return this.form.get('town'); }`. */
function findAliases(draft: Draft): void {
  const { members, script } = draft.site.component;
  for (const member of members.values()) {
    const returned = returnedNode(member);
    if (!returned) continue;
    const text = script.text
      .slice(returned.start ?? 0, returned.end ?? 0)
      .replace(/\s+as\s+[\w<>[\]., |]+$/, '')
      .replace(/^\(|\)$/g, (mark, at: number) => (at === 0 ? '' : mark));
    const path = controlPath(text, draft);
    const { name } = draft.form.member;
    const array = arraysIn(draft.form.group).find(({ field }) => field === path);
    if (array) draft.aliases.set(member.name, { field: undefined, member, controls: false, array: array.field });
    else if (path !== undefined && (draft.controls.has(path) || draft.groups.has(path)))
      draft.aliases.set(member.name, { field: path, member, controls: false });
    else if (new RegExp(`^this\\.${name}\\.controls$`).test(text.replace(/\s/g, '')))
      draft.aliases.set(member.name, { field: undefined, member, controls: true });
  }
}

function returnedNode(member: Member): t.Node | undefined {
  const { node } = member;
  const strip = (value: t.Node | null | undefined): t.Node | undefined =>
    t.isTSAsExpression(value) || t.isTSNonNullExpression(value) ? strip(value.expression) : (value ?? undefined);
  if (t.isClassMethod(node) && node.kind === 'get') {
    const [only] = node.body.body;
    return node.body.body.length === 1 && t.isReturnStatement(only) ? strip(only.argument) : undefined;
  }
  return t.isClassProperty(node) ? strip(node.value) : undefined;
}

/** A method that enables fields while they are shown: a template does so by itself. */
function retireShownFields(draft: Draft): void {
  const { component } = draft.site;
  const found = shownFields(component, (text) => controlPath(text, draft));
  if (!found) return;
  const conditional = found.fields.every((field) =>
    draft.bound.some(
      (one) =>
        one.field === field && viewsBetween(one.element, draft.site.form).some(({ kind }) => kind === 'condition'),
    ),
  );
  const calls = callsOf(found.member);
  if (!conditional || calls.length !== found.member.references.length) return;
  const { node, name } = found.member;
  for (const field of found.fields) draft.kept.add(field);
  draft.retired.push({ start: node.start ?? 0, end: node.end ?? 0, what: `method ${name}` });
  for (const call of calls) draft.retired.push({ ...call, what: `call of ${name}` });
}

function reading(chain: Chain, draft: Draft, path?: NodePath): Reading {
  const { script, template } = draft.site.component;
  return {
    chain,
    where: path ? classSurrounding(path, draft.submits.methods) : chain.inEvent ? 'event' : 'render',
    text: chain.file === script.file ? script.text : template.place.text,
    valuesMayMiss: true,
  };
}

function refer(draft: Draft, name: string, span: Span): void {
  draft.references.set(name, [...(draft.references.get(name) ?? []), span]);
}

function isDeclaring(path: NodePath, draft: Draft): boolean {
  const start = path.node.start ?? 0;
  const spans = [
    draft.form.assignment,
    ...[...draft.aliases.values()].map(({ member }) => ({ start: member.node.start ?? 0, end: member.node.end ?? 0 })),
  ];
  return [...spans, ...draft.retired].some((span) => span && start >= span.start && start < span.end);
}

function memberUses(member: Member, draft: Draft): void {
  const { script } = draft.site.component;
  for (const path of member.references) {
    const span = spanOfNode(script.file, path.node);
    refer(draft, member.name, span);
    if (isDeclaring(path, draft)) continue;
    const chain = classChain(script.file, path, member.name);
    const rows = arraysReading(draft);
    if (arrayUses(chain, rows, path) || exchangeUse(chain, rows, path)) continue;
    draft.uses.push(formUse(reading(chain, draft, path), 1, fieldAt(draft)));
  }
  for (const path of member.aliases)
    draft.unclear.push({
      span: spanOfNode(script.file, path.node),
      what: `const { ${member.name} } = this`,
      why: 'the group is taken out of the component',
    });
}

/** Links of a chain that name a field behind an alias of all controls: `f.town`, `f['town']`. */
function aliasedField(
  chain: Chain,
  alias: { field: string | undefined; controls: boolean },
  draft: Draft,
): { field: string; count: number } | undefined {
  if (!alias.controls) return alias.field === undefined ? undefined : { field: alias.field, count: 1 };
  const key = chain.links[1];
  return key && !key.call && draft.controls.has(key.key) ? { field: key.key, count: 2 } : undefined;
}

function aliasUses(alias: { field: string | undefined; member: Member; controls: boolean }, draft: Draft): void {
  const { script } = draft.site.component;
  for (const path of alias.member.references) {
    const span = spanOfNode(script.file, path.node);
    refer(draft, alias.member.name, span);
    const chain = classChain(script.file, path, alias.member.name);
    if (arrayUses(chain, arraysReading(draft), path)) continue;
    const found = aliasedField(chain, alias, draft);
    if (found) draft.uses.push(controlOrGroupUse(reading(chain, draft, path), found, draft));
    else draft.unclear.push({ span, what: alias.member.name, why: 'which control is meant is told only when it runs' });
  }
}

function controlOrGroupUse(here: Reading, found: { field: string; count: number }, draft: Draft): Use {
  if (draft.controls.has(found.field)) return controlUse(here, found.count, found.field);
  const use = formUse(here, found.count, (names) => fieldAt(draft)([...found.field.split('.'), ...names]));
  if (use.kind === 'ask' && use.of === undefined) return { ...use, of: found.field };
  if (use.kind === 'read-all')
    return { kind: 'read', field: found.field, key: use.key, where: use.where, span: use.span };
  return use;
}

function templateUses(draft: Draft): void {
  const { names, place } = draft.site.component.template;
  const { site } = draft;
  for (const name of names) {
    if (name.variable) continue;
    const chain = (): Chain => templateChain(name, place);
    const alias = draft.aliases.get(name.name);
    if (name.name === draft.form.member.name) {
      refer(draft, name.name, spanIn(site, name));
      if (isOwnBinding(name, draft)) continue;
      const here = reading(chain(), draft);
      if (arrayUses(here.chain, arraysReading(draft))) continue;
      draft.uses.push(formUse(here, 1, fieldAt(draft)));
      if (here.chain.links.length === 1) followArgument(name, draft);
    } else if (alias) {
      refer(draft, name.name, spanIn(site, name));
      if (isOwnBinding(name, draft)) continue;
      const here = reading(chain(), draft);
      if (arrayUses(here.chain, arraysReading(draft))) continue;
      const found = aliasedField(here.chain, alias, draft);
      if (found) draft.uses.push(controlOrGroupUse(here, found, draft));
      else
        draft.unclear.push({
          span: spanIn(site, name),
          what: name.name,
          why: 'which control is meant is told only when it runs',
        });
    }
  }
}

function isOwnBinding(name: TemplateName, draft: Draft): boolean {
  const { attribute, element } = name;
  if (!attribute) return false;
  return (element === draft.site.form && attribute.name === 'formGroup') || attribute.name === 'formControl';
}

function directiveUses(reference: string, draft: Draft): void {
  const { names, place } = draft.site.component.template;
  for (const name of names) {
    if (name.name !== reference || !name.variable || variableNamed(reference, name.view) !== name.variable) continue;
    refer(draft, reference, spanIn(draft.site, name));
    const here = reading(templateChain(name, place), draft);
    draft.uses.push(formUse(here, 1, fieldAt(draft)));
    if (here.chain.links.length === 1) followArgument(name, draft);
  }
}

/** The form handed to a method of the class: what the method does with it. */
function followArgument(name: TemplateName, draft: Draft): void {
  const { component } = draft.site;
  const call = name.around[1] as unknown as { args?: unknown[]; receiver?: { name?: string } } | undefined;
  const index = call?.args?.indexOf(name.around[0]) ?? -1;
  const method = component.members.get(call?.receiver?.name ?? '');
  if (index < 0 || method?.kind !== 'method') return;
  const parameter = parameterReferences(method, index);
  if (!parameter) return;
  const argument = spanIn(draft.site, name);
  const known = draft.given.find((one) => one.method === method.name && one.name === parameter.name);
  if (known) {
    known.argument.push(argument);
    return;
  }
  draft.given.push({
    method: method.name,
    parameter: spanOfNode(component.script.file, parameter.node),
    name: parameter.name,
    argument: [argument],
    of: undefined,
  });
  for (const path of parameter.references)
    draft.uses.push(
      formUse(reading(classChain(component.script.file, path, parameter.name), draft, path), 1, fieldAt(draft)),
    );
}

/** Members of the class that ask the template for the form's directive. */
function directiveQueries(site: AngularSite, reference: string | undefined): Member[] {
  const { members, script } = site.component;
  return [...members.values()].filter(({ node }) => {
    const asked = memberDecorator(node, 'ViewChild')?.arguments[0];
    const text = script.text.slice(node.start ?? 0, node.end ?? 0);
    if (!asked || !/FormGroupDirective/.test(text)) return false;
    return t.isIdentifier(asked, { name: 'FormGroupDirective' }) || literalText(asked) === reference;
  });
}

function kindOf(element: TemplateElement | undefined, type: string | undefined): ValueKind {
  const own = element && kindOfElement(element);
  if (own && own !== 'text') return own;
  if (type === 'boolean') return 'boolean';
  return own ?? (type === 'string' ? 'text' : 'other');
}

function fieldOf(path: string, control: BuiltControl, draft: Draft): Field {
  const element = draft.bound.find(({ field }) => field === path)?.element;
  const inferred = typeOfValue(control.initial);
  const bare = control.type ?? inferred;
  const loose = isLoose(draft);
  const type =
    loose || bare === undefined || control.nonNullable || /\bnull\b/.test(bare) || control.type !== undefined
      ? bare
      : `${bare} | null`;
  const { script } = control;
  const text = control.initial ? script.text.slice(control.initial.start ?? 0, control.initial.end ?? 0) : 'null';
  return {
    name: path,
    kind: kindOf(element, bare),
    role: 'field',
    type: type ?? (text === 'null' ? undefined : type),
    typeWritten: control.type !== undefined,
    initial: {
      code: control.initial ? { ...spanOfNode(script.file, control.initial), holes: [] } : undefined,
      text,
      when: 'constant',
    },
    commentsBefore: [],
    commentBehind: undefined,
    names: { value: path },
    declared: spanOfNode(script.file, control.node),
    resets: control.nonNullable ? 'initial' : 'null',
    ...(loose ? { loose } : {}),
  };
}

/** Whether the group's own type tells nothing of its fields: `form: FormGroup`. */
function isLoose({ form, site }: Draft): boolean {
  const type = writtenType(form.member);
  if (!type) return false;
  return /^(Untyped)?FormGroup(<any>)?$/.test(site.component.script.text.slice(type.start ?? 0, type.end ?? 0));
}

function groupsOf(draft: Draft): NonNullable<FormModel['template']>['groups'] {
  const { site } = draft;
  return site.elements.flatMap((element) => {
    const attribute = attributeOf(element, 'formGroupName', 'plain');
    if (!attribute?.value) return [];
    return [
      { name: attribute.value, attributes: [spanIn(site, attribute)], at: element.nameEnd, reference: undefined },
    ];
  });
}

function controlOf({ field, element, attribute, rows }: BoundControl, draft: Draft): Control {
  const { site } = draft;
  const built = draft.controls.get(field);
  const views = viewsBetween(element, site.form);
  const odd = rows ? views.length > 1 : views.some(({ kind }) => kind !== 'condition');
  if (odd && plainText(element, 'type') !== 'radio')
    draft.unclear.push({
      span: attribute,
      what: field,
      why: 'the control is shown in a part of the template that is repeated or comes and goes',
    });
  const alias = [...draft.aliases].find(([, one]) => one.field === field)?.[0];
  return {
    ...controlFacts(site, element),
    field,
    wayIn: undefined,
    shows: 'formControlName',
    changes: eventOf(element),
    binding: {
      attributes: [attribute],
      at: element.nameEnd,
      name: plainText(element, 'name'),
      updateOn: built?.updateOn,
      disabled: built?.disabled ? { span: attribute, text: 'true', constant: true } : undefined,
      changed: [],
      reference: alias,
      shownWhen: conditionOver(field, views, draft),
      standalone: false,
      rows,
      event: eventOf(element),
    },
  };
}

/** The condition under which a control is shown, where the class does not keep it in step with that by itself. */
function conditionOver(
  field: string,
  views: readonly TemplateView[],
  { site, kept }: Draft,
): { text: string; negated: boolean } | undefined {
  const view = views.find(({ kind }) => kind === 'condition');
  if (!view?.expression || kept.has(field)) return undefined;
  const { start, end } = view.expression.sourceSpan;
  return { text: site.component.template.place.text.slice(start, end), negated: view.negated };
}

function rulesOf(draft: Draft): Rule[] {
  const rules: Rule[] = [];
  for (const [path, control] of draft.controls) {
    const alias = [...draft.aliases].find(([, one]) => one.field === path)?.[0];
    for (const { constraint, start, end } of control.rules) {
      const key = constraint.kind === 'required-true' ? 'required' : constraint.kind.replace('-', '');
      rules.push({
        fields: [path],
        kind: ruleKindOf(constraint),
        condition: conditionOf(constraint),
        message: messagesFor(draft.site, key, alias ?? path.split('.').at(-1)),
        moment: control.updateOn ?? 'change',
        stated: 'angular-validators',
        span: { file: control.script.file, start, end },
        constraint,
      });
    }
  }
  for (const array of draft.arrays)
    for (const rule of rowRules(array)) {
      const key = rule.constraint?.kind === 'required-true' ? 'required' : rule.constraint?.kind.replace('-', '');
      rules.push({ ...rule, message: messagesFor(draft.site, key ?? '', undefined) });
    }
  for (const [path, group] of draft.groups) {
    for (const { constraint, start, end } of group.rules) {
      const inside = [...draft.controls.keys()].filter((name) => path === '' || name.startsWith(`${path}.`));
      rules.push({
        fields: inside,
        kind: 'custom',
        condition: conditionOf(constraint),
        message: undefined,
        moment: 'change',
        stated: 'angular-validators',
        span: { file: group.script.file, start, end },
        constraint,
        of: path,
      });
    }
  }
  return rules;
}

function declarationsOf(draft: Draft): FormModel['declarations'] {
  const { script } = draft.site.component;
  const own = {
    role: 'state' as const,
    span: spanOfNode(script.file, draft.form.member.node),
    what: `member ${draft.form.member.name}`,
  };
  const built = draft.form.assignment
    ? [
        {
          role: 'support' as const,
          span: { file: script.file, ...draft.form.assignment },
          what: `the statement that builds ${draft.form.member.name}`,
        },
      ]
    : [];
  const aliases = [...draft.aliases].map(([name, { member }]) => ({
    role: 'support' as const,
    span: spanOfNode(script.file, member.node),
    what: `member ${name}`,
  }));
  const retired = draft.retired.map(({ what, ...place }) => ({
    role: 'support' as const,
    span: { file: script.file, ...place },
    what,
  }));
  return [own, ...built, ...aliases, ...retired];
}
