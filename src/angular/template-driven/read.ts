import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type {
  Control,
  Field,
  FormModel,
  Hole,
  Rule,
  Span,
  TemplateForm,
  Unclear,
  Use,
  ValueKind,
} from '../../form/model.js';
import { conditionOf, constraintNames, constraintOfAttribute, ruleKindOf } from '../../rules/native.js';
import { classChain, templateChain, type Chain } from '../chains.js';
import {
  classSurrounding,
  codeOf,
  parameterReferences,
  spanOfNode,
  signalArgument,
  typeOfValue,
  type InitialPart,
} from '../class-reading.js';
import type { Member } from '../component.js';
import { memberDecorator, literalText } from '../decorators.js';
import { attributeOf, controlFacts, kindOfElement, plainText, type AngularSite } from '../form-site.js';
import { frameOf, messagesFor, submitsOf, type SubmitFacts } from '../form-frame.js';
import { loopsOf } from '../rows.js';
import type { TemplateName, TemplateVariable } from '../template.js';
import { allUse, controlUse, fieldUse, formUse, setUse, type Reading } from '../uses.js';
import { boundElements, formUpdateOn, type BoundElement } from './controls.js';
import {
  foundList,
  listUse,
  modelList,
  rowBinding,
  rowFields,
  rowNameUses,
  type FoundList,
  type RowBinding,
  type RowsReading,
} from './rows.js';
import { linksOf, storageBehind, storesOf, type Storage, type Stores } from './storage.js';

interface FoundField {
  name: string;
  storage: Storage | undefined;
  bound: BoundElement[];
}

/** A control that stands in each row of a list. */
interface RowControl {
  bound: BoundElement;
  binding: RowBinding;
  list: FoundList;
}

interface Draft {
  site: AngularSite;
  fields: FoundField[];
  lists: FoundList[];
  rowControls: RowControl[];
  stores: Stores;
  submits: SubmitFacts;
  uses: Use[];
  unclear: Unclear[];
  given: TemplateForm['given'];
  /** Spans of every reference to a name of the form. */
  references: Map<string, Span[]>;
}

/** Reads a form whose template holds `ngModel` controls and whose class holds their values. */
export function readTemplateDriven(site: AngularSite): FormModel {
  const { component } = site;
  const unclear: Unclear[] = [];
  const { fields, stores, lists, rowControls } = fieldsOf(site, unclear);
  const draft: Draft = {
    site,
    fields,
    lists,
    rowControls,
    stores,
    submits: submitsOf(site),
    uses: [],
    unclear,
    given: [],
    references: new Map(),
  };
  const formReference = site.form?.references.find(({ exportAs }) => exportAs === 'ngForm');
  storageUses(draft);
  rowNameUses(rowsReading(draft));
  if (formReference) formNameUses(formReference, draft);
  controlNameUses(draft);
  const queries = formQueries(site, formReference);
  for (const member of queries) memberUses(member, draft);
  const template = templateOf(draft, formReference, queries[0]?.name);
  const controls = [
    ...fields.flatMap((field) => field.bound.map((bound) => controlOf(field.name, bound, draft))),
    ...rowControls.map(({ bound, binding, list }) =>
      controlOf(`${list.field}[].${binding.keys.join('.')}`, bound, draft, { list: list.field, row: binding.row }),
    ),
  ];
  const rules = rulesOf(draft);
  return {
    ...frameOf(site, draft.submits, rootsOf(draft)),
    approach: 'template-driven',
    fields: [
      ...fields.map((field) => modelField(field, draft)),
      ...lists.flatMap((list) => listFields(list, draft)),
      ...extraFields(draft),
    ],
    ...(lists.length ? { lists: lists.map((list) => modelList(list, site)) } : {}),
    controls,
    uses: draft.uses,
    rules,
    declarations: declarationsOf(draft, queries),
    names: [...draft.references].map(([name, references]) => ({
      file: component.script.file,
      name,
      declaredAt: -1,
      references,
    })),
    unclear,
    handlers: fields.reduce((sum, { bound }) => sum + bound.reduce((count, one) => count + one.changes.length, 0), 0),
    stateVariables: rootsOf(draft).size,
    template,
  };
}

/** Members of the class in which values live. */
function rootsOf({ fields, lists }: Pick<Draft, 'fields' | 'lists'>): Set<string> {
  return new Set([...fields, ...lists].flatMap(({ storage }) => storage?.root ?? []));
}

function listFields(list: FoundList, draft: Draft): Field[] {
  const part = draft.stores.partOf(list.storage);
  const own = fieldFrom(list.field, part, part?.type, 'list of rows', list.storage, draft);
  return [own, ...rowFields(list, own.declared, kindOf)];
}

function rowsReading(draft: Draft): RowsReading {
  return {
    site: draft.site,
    lists: draft.lists,
    reading: (chain, path) => reading(chain, draft, path),
    isBinding: (name) => isBinding(name, draft),
    add: (use) => draft.uses.push(use),
    unclear: (chain, why) => unclearAt(draft, chain, why),
  };
}

function spanIn(site: AngularSite, place: { start: number; end: number }): Span {
  return { file: site.component.template.place.file, start: place.start, end: place.end };
}

/** The fields of a site: one for each name, whatever the number of its controls. */
function fieldsOf(site: AngularSite, unclear: Unclear[]): Pick<Draft, 'fields' | 'stores' | 'lists' | 'rowControls'> {
  const found: { bound: BoundElement; storage: Storage | undefined }[] = [];
  const loops = loopsOf(site.component);
  const inRows: { bound: BoundElement; binding: RowBinding }[] = [];
  for (const bound of boundElements(site)) {
    const binding = rowBinding(bound, site, loops);
    if (binding && !bound.groups.length && binding.keys.length === 1) {
      inRows.push({ bound, binding });
      continue;
    }
    const storage = storageBehind(bound, site);
    const place = spanIn(site, bound.model);
    const what = site.component.template.place.text.slice(
      bound.model.start - site.component.template.place.base,
      bound.model.end - site.component.template.place.base,
    );
    if (!storage && bound.model.kind !== 'plain')
      unclear.push({
        span: place,
        what,
        why: 'its value is no plain member of the class, so where it is kept is not clear',
      });
    else if (bound.name === undefined && !bound.standalone && storage === undefined)
      unclear.push({ span: place, what, why: 'the control has no name' });
    found.push({ bound, storage });
  }
  const objects = found.filter(({ storage }) => storage?.keys.length);
  const fields: FoundField[] = [];
  for (const { bound, storage } of found) {
    const own = [...bound.groups, bound.name ?? storage?.keys.at(-1) ?? storage?.root ?? 'control'].join('.');
    const keyed = storage?.keys.length ? storage.keys.join('.') : undefined;
    // the object's own key is what its readers know a value by
    const name =
      keyed !== undefined && objects.every((other) => other.storage?.root === storage?.root) && !bound.groups.length
        ? keyed
        : own;
    const known = fields.find(
      (field) =>
        field.name === name ||
        (storage && field.storage?.root === storage.root && field.storage.keys.join('.') === storage.keys.join('.')),
    );
    if (known) known.bound.push(bound);
    else fields.push({ name, storage, bound: [bound] });
  }
  const listStorages = new Map(
    inRows.map(({ binding: { root, listKeys } }) => {
      const signal = signalArgument(site.component.members.get(root)) !== undefined;
      return [[root, ...listKeys].join('.'), { root, keys: listKeys, signal }];
    }),
  );
  const stores = storesOf([...found.flatMap(({ storage }) => storage ?? []), ...listStorages.values()], site);
  const lists = [...listStorages].map(([spelt, storage]) => {
    const own = loops.filter(({ chain }) => chain.links.map(({ key }) => key).join('.') === spelt);
    return foundList(storage.keys.join('.') || storage.root, storage, own, stores.partOf(storage), site);
  });
  const rowControls = inRows.flatMap(({ bound, binding }): RowControl[] => {
    const list = lists.find(
      ({ storage }) => [storage.root, ...storage.keys].join('.') === [binding.root, ...binding.listKeys].join('.'),
    );
    const key = binding.keys.join('.');
    if (!list) return [];
    const known = list.keys.get(key);
    list.keys.set(key, { type: known?.type, optional: known?.optional ?? false, bound: known?.bound ?? bound });
    return [{ bound, binding, list }];
  });
  return { fields, stores, lists, rowControls };
}

/** Names by which the form knows a field: the control's own, and the model's key. */
function fieldAt(draft: Draft): (names: readonly string[]) => { name: string; group: boolean } | undefined {
  return (names) => {
    const wanted = names.join('.');
    for (const field of draft.fields) {
      if (field.bound.some(({ standalone }) => standalone)) continue;
      const own = field.bound.map(({ groups, name }) => [...groups, name ?? ''].join('.'));
      if (own.includes(wanted)) return { name: field.name, group: false };
    }
    const groups = new Set(draft.fields.flatMap(({ bound }) => bound.map((one) => one.groups.join('.'))));
    return groups.has(wanted) && wanted !== '' ? { name: wanted, group: true } : undefined;
  };
}

function reading(chain: Chain, draft: Draft, path?: NodePath): Reading {
  const { script, template } = draft.site.component;
  return {
    chain,
    where: path ? classSurrounding(path, draft.submits.methods) : chain.inEvent ? 'event' : 'render',
    text: chain.file === script.file ? script.text : template.place.text,
  };
}

function refer(draft: Draft, name: string, span: Span): void {
  draft.references.set(name, [...(draft.references.get(name) ?? []), span]);
}

/** Every place that reads or changes the members in which values live. */
function storageUses(draft: Draft): void {
  const { component } = draft.site;
  for (const root of rootsOf(draft)) {
    const member = component.members.get(root);
    for (const path of member?.references ?? []) {
      refer(draft, root, spanOfNode(component.script.file, path.node));
      storageUse(classChain(component.script.file, path, root), root, draft, path);
    }
    for (const path of member?.aliases ?? []) {
      const span = spanOfNode(component.script.file, path.node);
      draft.unclear.push({ span, what: `const { ${root} } = this`, why: `${root} is taken out of the component` });
    }
    for (const name of component.template.names) {
      if (name.name !== root || name.variable) continue;
      refer(draft, root, spanIn(draft.site, name));
      if (isBinding(name, draft)) continue;
      storageUse(templateChain(name, component.template.place), root, draft);
    }
  }
  for (const name of component.template.names) {
    if (name.name !== '$event' || name.attribute?.name !== 'ngModelChange') continue;
    const field = draft.fields.find(({ bound }) =>
      bound.some(({ changes }) => changes.some((one) => one === name.attribute)),
    );
    const inRow = draft.rowControls.find(({ bound }) => bound.changes.some((one) => one === name.attribute));
    if (inRow && !isPlainChange(name.attribute.value ?? '', draft))
      draft.uses.push({
        kind: 'read',
        field: `${inRow.list.field}[].${inRow.binding.keys.join('.')}`,
        key: undefined,
        where: 'event',
        row: inRow.binding.row,
        span: spanIn(draft.site, name),
      });
    if (!field || isPlainChange(name.attribute.value ?? '', draft)) continue;
    draft.uses.push({
      kind: 'read',
      field: field.name,
      key: undefined,
      where: 'event',
      span: spanIn(draft.site, name),
    });
  }
}

/** Whether a name stands in the binding itself: `[(ngModel)]`, or `(ngModelChange)="model.town = $event"`. */
function isBinding(name: TemplateName, draft: Draft): boolean {
  const { attribute } = name;
  if (!attribute) return false;
  if (attribute.name === 'ngModel') return true;
  return attribute.name === 'ngModelChange' && isPlainChange(attribute.value ?? '', draft);
}

function isPlainChange(handler: string, draft: Draft): boolean {
  const assigned = /^\s*([^=]+?)\s*=\s*\$event;?\s*$/.exec(handler)?.[1];
  if (draft.rowControls.some(({ bound }) => bound.model.value?.trim() === assigned)) return true;
  const target = /^\s*([\w.]+)\s*=\s*\$event;?\s*$/.exec(handler)?.[1];
  return (
    draft.fields.some(
      ({ storage }) => storage && !storage.signal && [storage.root, ...storage.keys].join('.') === target,
    ) ||
    draft.fields.some(
      ({ storage }) => storage?.signal && new RegExp(`^\\s*${storage.root}\\.set\\(\\$event\\);?\\s*$`).test(handler),
    )
  );
}

function storageUse(chain: Chain, root: string, draft: Draft, path?: NodePath): void {
  const here = reading(chain, draft, path);
  for (const list of draft.lists) {
    const count = list.storage.root === root ? linksOf(chain, list.storage) : 0;
    if (count > 0 && list.storage.signal) return unclearAt(draft, chain, `the signal ${root} holds rows`);
    if (count > 0) return listUse(chain, count, list, rowsReading(draft), path);
  }
  const own = draft.fields.filter(({ storage }) => storage?.root === root);
  const signal = own.some(({ storage }) => storage?.signal);
  if (signal && chain.links[0]?.call === undefined) {
    const setter = chain.links[1];
    const [value] = setter?.call?.arguments ?? [];
    const single = own.find(({ storage }) => storage?.keys.length === 0);
    if (setter?.key === 'set' && value && single) {
      const statement = chain.ending.kind === 'statement' ? chain.ending.statement : undefined;
      draft.uses.push(
        setUse(
          here,
          single.name,
          { kind: 'value', code: codeOf(chain.file, value) },
          { start: chain.start, end: setter.end },
          statement,
        ),
      );
      return;
    }
    unclearAt(draft, chain, `the signal ${root} is handed on or updated by a function`);
    return;
  }
  if (signal && path && inReactive(path))
    return unclearAt(draft, chain, `a computed value or an effect follows ${root}, which would no longer be a signal`);
  const candidates = own
    .map((field) => ({ field, count: field.storage ? linksOf(chain, field.storage) : 0 }))
    .sort((a, b) => b.count - a.count);
  const best = candidates[0];
  if (best && best.count > 0) {
    if (best.count === chain.links.length || chain.links[best.count])
      draft.uses.push(fieldUse(here, best.field.name, best.count));
    return;
  }
  const [, next] = chain.links;
  if (next?.computed) return unclearAt(draft, chain, `a key of ${root} is computed here`);
  const start = signal || chain.links[0]?.call ? 1 : 1;
  if (chain.links.length > start && next) {
    if (own.some(({ storage }) => storage?.keys[0] === next.key && storage.keys.length > 1)) {
      const key = next.key;
      if (chain.ending.kind === 'assigned') return unclearAt(draft, chain, `the group ${key} is replaced as a whole`);
      draft.uses.push({ ...fieldUse(here, key, 2), field: key } as Use);
      return;
    }
    draft.uses.push(fieldUse(here, next.key, 2));
    return;
  }
  draft.uses.push(merged(allUse(here, 1, 'held'), root, here.text));
}

/** `model = { ...model, town }` merges values in: the spread of what is there already goes. */
function merged(use: Use, root: string, text: string): Use {
  if (use.kind !== 'set-all') return use;
  const spread = new RegExp(`^\\{\\s*(\\.\\.\\.this\\.${root}\\s*,\\s*)`).exec(
    text.slice(use.code.start, use.code.end),
  );
  if (!spread?.[1]) return use;
  const start = use.code.start + spread[0].length - spread[1].length;
  const hole: Hole = { kind: 'text', start, end: start + spread[1].length, text: '' };
  return { ...use, merge: true, code: { ...use.code, holes: [hole] } };
}

function inReactive(path: NodePath): boolean {
  return (
    path.findParent(
      (parent) =>
        parent.isCallExpression() &&
        t.isIdentifier(parent.node.callee) &&
        /^(computed|effect|linkedSignal|resource|toObservable)$/.test(parent.node.callee.name),
    ) !== null
  );
}

function unclearAt(draft: Draft, chain: Chain, why: string): void {
  const { script, template } = draft.site.component;
  const end = chain.links.at(-1)?.end ?? chain.start;
  const text = chain.file === script.file ? script.text : template.place.text;
  draft.unclear.push({ span: { file: chain.file, start: chain.start, end }, what: text.slice(chain.start, end), why });
}

/** Every place of the template that names the form. */
function formNameUses(reference: TemplateVariable, draft: Draft): void {
  const { names, place } = draft.site.component.template;
  for (const name of names) {
    if (name.variable !== reference) continue;
    refer(draft, reference.name, spanIn(draft.site, name));
    const chain = templateChain(name, place);
    draft.uses.push(formUse(reading(chain, draft), 1, fieldAt(draft)));
    if (chain.links.length === 1) followArgument(name, draft, undefined);
  }
}

/** A form or a control that is handed to a method of the class: what the method does with it. */
function followArgument(name: TemplateName, draft: Draft, field: string | undefined): void {
  const { component } = draft.site;
  const call = name.around[1] as unknown as { args?: unknown[]; receiver?: { name?: string } } | undefined;
  const index = call?.args?.indexOf(name.around[0]) ?? -1;
  const method = component.members.get(call?.receiver?.name ?? '');
  if (index < 0 || method?.kind !== 'method') {
    draft.unclear.push({
      span: spanIn(draft.site, name),
      what: name.name,
      why: 'it is handed on to code that cannot be followed',
    });
    return;
  }
  const parameter = parameterReferences(method, index);
  if (!parameter) {
    draft.unclear.push({
      span: spanIn(draft.site, name),
      what: `${method.name}(${name.name})`,
      why: `what ${method.name} does with it is not clear`,
    });
    return;
  }
  const known = draft.given.find((one) => one.method === method.name && one.name === parameter.name);
  const argument = spanIn(draft.site, name);
  if (known) {
    known.argument.push(argument);
    return;
  }
  draft.given.push({
    method: method.name,
    parameter: spanOfNode(component.script.file, parameter.node),
    name: parameter.name,
    argument: [argument],
    of: field,
  });
  for (const path of parameter.references) {
    const chain = classChain(component.script.file, path, parameter.name);
    const here = reading(chain, draft, path);
    draft.uses.push(
      field === undefined ? formUse(here, 1, fieldAt(draft)) : controlUse(here, controlLinks(chain), field),
    );
  }
}

/** A control's directive and its `control` are the same to its readers. */
function controlLinks(chain: Chain): number {
  return chain.links[1]?.key === 'control' ? 2 : 1;
}

/** Every place of the template that names a control or a group. */
function controlNameUses(draft: Draft): void {
  const { names, place } = draft.site.component.template;
  const targets = new Map<TemplateVariable, string>();
  const rows = new Map<TemplateVariable, RowBinding['row']>();
  for (const { bound, binding, list } of draft.rowControls)
    for (const reference of bound.element.references)
      if (reference.exportAs === 'ngModel') {
        targets.set(reference, `${list.field}[].${binding.keys.join('.')}`);
        rows.set(reference, binding.row);
      }
  for (const field of draft.fields) {
    for (const { element } of field.bound)
      for (const reference of element.references)
        if (reference.exportAs === 'ngModel') targets.set(reference, field.name);
  }
  for (const element of draft.site.elements) {
    const group = plainText(element, 'ngModelGroup');
    for (const reference of element.references)
      if (reference.exportAs === 'ngModelGroup' && group !== undefined) targets.set(reference, group);
  }
  for (const name of names) {
    const field = name.variable && targets.get(name.variable);
    if (field === undefined || !name.variable) continue;
    refer(draft, name.name, spanIn(draft.site, name));
    const chain = templateChain(name, place);
    const row = rows.get(name.variable);
    const use = controlUse(reading(chain, draft), controlLinks(chain), field);
    draft.uses.push(row ? { ...use, row } : use);
    if (row && chain.links.length === 1) unclearAt(draft, chain, 'the control of a row is handed on');
    else if (chain.links.length === 1) followArgument(name, draft, field);
  }
}

/** Members of the class that ask the template for the form: `@ViewChild('form') form!: NgForm`. */
function formQueries(site: AngularSite, reference: TemplateVariable | undefined): Member[] {
  const { members, script } = site.component;
  return [...members.values()].filter(({ node }) => {
    if (!t.isClassProperty(node)) return false;
    const text = script.text.slice(node.start ?? 0, node.end ?? 0);
    const decorator = memberDecorator(node, 'ViewChild');
    const call =
      t.isCallExpression(node.value) && /^viewChild\b/.test(script.text.slice(node.value.start ?? 0))
        ? node.value
        : undefined;
    const asked = (decorator ?? call)?.arguments[0];
    if (!asked) return false;
    if (t.isIdentifier(asked, { name: 'NgForm' })) return !site.shared;
    return literalText(asked) === reference?.name && /NgForm/.test(text);
  });
}

function memberUses(member: Member, draft: Draft): void {
  const { script } = draft.site.component;
  for (const path of member.references) {
    refer(draft, member.name, spanOfNode(script.file, path.node));
    const chain = classChain(script.file, path, member.name);
    draft.uses.push(formUse(reading(chain, draft, path), 1, fieldAt(draft)));
  }
}

function templateOf(draft: Draft, reference: TemplateVariable | undefined, member: string | undefined): TemplateForm {
  const { site } = draft;
  const { form } = site;
  const attributes: Span[] = [];
  if (form) {
    if (reference) attributes.push(spanIn(site, reference));
    for (const name of ['ngForm', 'ngFormOptions']) {
      const found = attributeOf(form, name);
      if (found) attributes.push(spanIn(site, found));
    }
  }
  const groups = site.elements.flatMap((element) => {
    const attribute = attributeOf(element, 'ngModelGroup', 'plain');
    if (!attribute?.value) return [];
    const named = element.references.find(({ exportAs }) => exportAs === 'ngModelGroup');
    return [
      {
        name: attribute.value,
        attributes: [spanIn(site, attribute), ...(named ? [spanIn(site, named)] : [])],
        at: element.nameEnd,
        reference: named?.name,
      },
    ];
  });
  return {
    file: site.component.template.place.file,
    element: form && spanIn(site, form),
    attributes,
    at: form?.nameEnd ?? 0,
    reference: reference?.name,
    member,
    given: draft.given,
    updateOn: formUpdateOn(form),
    groups,
  };
}

function controlOf(
  field: string,
  bound: BoundElement,
  draft: Draft,
  rows?: NonNullable<Control['binding']>['rows'],
): Control {
  const { site } = draft;
  const { element } = bound;
  const attributes: Span[] = [spanIn(site, bound.model)];
  const changed: NonNullable<Control['binding']>['changed'] = [];
  for (const change of bound.changes) {
    attributes.push(spanIn(site, change));
    if (isPlainChange(change.value ?? '', draft) || !change.valuePlace) continue;
    if (bound.model.kind === 'two-way' && change.start < bound.model.start)
      draft.unclear.push({
        span: spanIn(site, change),
        what: change.value ?? '',
        why: 'it runs before the value is stored; behind the two-way binding it would run after it',
      });
    changed.push({ span: spanIn(site, change), code: codeOf(site.component.template.place.file, change.valuePlace) });
  }
  if (changed.length && !/^(input|select|textarea)$/.test(element.tag))
    draft.unclear.push({
      span: spanIn(site, element),
      what: `<${element.tag}>`,
      why: 'which event of this component tells that a person changed it is not known',
    });
  if (bound.options) attributes.push(spanIn(site, bound.options));
  // a bound name is the directive's own, which the page never sees
  if (rows && bound.nameAttribute && bound.nameAttribute.kind !== 'plain' && !isRadio(element))
    attributes.push(spanIn(site, bound.nameAttribute));
  const reference = element.references.find(({ exportAs }) => exportAs === 'ngModel');
  if (reference) attributes.push(spanIn(site, reference));
  const disabled = attributeOf(element, 'disabled', 'plain', 'property');
  const disabledText = disabled?.kind === 'plain' ? 'true' : disabled?.value?.trim();
  const repeated = bound.views.filter(({ kind }) => kind === 'row');
  const condition = bound.views.find(({ kind }) => kind === 'condition');
  const odd = bound.views.find(({ kind }) => kind === 'other') ?? (rows ? condition : undefined);
  if (rows ? repeated.length > 1 : repeated.length && !isRadio(element))
    draft.unclear.push({
      span: spanIn(site, bound.model),
      what: bound.model.value ?? 'ngModel',
      why: 'it is repeated for each row of a list',
    });
  if (odd || bound.views.filter(({ kind }) => kind === 'condition').length > 1)
    draft.unclear.push({
      span: spanIn(site, bound.model),
      what: bound.model.value ?? 'ngModel',
      why: 'the control comes and goes with a part of the template whose condition is not clear',
    });
  const { text, base } = site.component.template.place;
  const conditionPlace = condition?.expression?.sourceSpan;
  return {
    ...controlFacts(site, element),
    field,
    wayIn: changed[0]?.code && text.slice(changed[0].code.start - base, changed[0].code.end - base),
    shows: 'ngModel',
    changes: bound.event,
    binding: {
      attributes: attributes.sort((a, b) => a.start - b.start),
      at: element.nameEnd,
      name: plainText(element, 'name'),
      updateOn: bound.updateOn,
      disabled:
        disabled && disabledText !== undefined && disabledText !== 'false'
          ? { span: spanIn(site, disabled), text: disabledText, constant: disabledText === 'true' }
          : undefined,
      changed,
      reference: reference?.name,
      shownWhen: conditionPlace && {
        text: text.slice(conditionPlace.start, conditionPlace.end),
        negated: condition.negated,
      },
      standalone: bound.standalone,
      rows,
      event: bound.event,
    },
  };
}

function isRadio(element: BoundElement['element']): boolean {
  return plainText(element, 'type') === 'radio';
}

function kindOf(bound: BoundElement, type: string | undefined): ValueKind {
  return kindOfElement(bound.element) ?? (type === undefined || /string/.test(type) ? 'text' : 'other');
}

function initialText(part: InitialPart | undefined): string {
  if (!part?.node) return 'undefined';
  return part.script.text.slice(part.node.start ?? 0, part.node.end ?? 0);
}

function modelField(field: FoundField, draft: Draft): Field {
  const [first] = field.bound;
  if (!first) throw new Error(`${field.name} has no control`);
  const part = field.storage ? draft.stores.partOf(field.storage) : undefined;
  const type = part?.type ?? typeOfValue(part?.node);
  return fieldFrom(field.name, part, type, kindOf(first, type), field.storage, draft, first);
}

function fieldFrom(
  name: string,
  part: InitialPart | undefined,
  type: string | undefined,
  kind: ValueKind,
  storage: Storage | undefined,
  draft: Draft,
  bound?: BoundElement,
): Field {
  const { script, members } = draft.site.component;
  const member = storage ? members.get(storage.root) : undefined;
  const declared = part?.node
    ? spanOfNode(part.script.file, part.node)
    : member
      ? spanOfNode(script.file, member.node)
      : spanIn(draft.site, bound?.model ?? { start: 0, end: 0 });
  // a bare `ngModel` starts empty
  const text = storage === undefined ? "''" : initialText(part);
  return {
    name,
    kind,
    role: 'field',
    type:
      storage === undefined
        ? kind === 'boolean'
          ? 'boolean | string'
          : kind === 'number'
            ? 'number | string | null'
            : 'string'
        : type,
    typeWritten: part?.written !== undefined,
    initial: {
      code: part?.node ? { ...spanOfNode(part.script.file, part.node), holes: [] } : undefined,
      text,
      when: 'constant',
    },
    commentsBefore: [],
    commentBehind: undefined,
    names: storage ? { value: [storage.root, ...storage.keys].join('.') } : {},
    declared,
  };
}

/** Values of the same object that no control edits: they are sent along, so the form keeps them. */
function extraFields(draft: Draft): Field[] {
  const whole = draft.uses.some((use) => (use.kind === 'read-all' && use.what === 'held') || use.kind === 'set-all');
  const extra: Field[] = [];
  for (const [root, object] of draft.stores.objects) {
    for (const [key, part] of object.parts) {
      const taken = [...draft.fields, ...draft.lists].some(
        ({ storage }) => storage?.root === root && storage.keys[0] === key,
      );
      const named = draft.uses.some((use) => use.kind === 'read' && use.field === key);
      if (taken || (!named && (!whole || (part.node === undefined && part.optional)))) continue;
      extra.push(
        fieldFrom(key, part, part.type ?? typeOfValue(part.node), 'other', { root, keys: [key], signal: false }, draft),
      );
    }
  }
  return extra;
}

function rulesOf(draft: Draft): Rule[] {
  const rules: Rule[] = [];
  const ruled = [
    ...draft.fields,
    ...draft.rowControls.map(({ bound, binding, list }) => ({
      name: `${list.field}[].${binding.keys.join('.')}`,
      bound: [bound],
    })),
  ];
  for (const field of ruled) {
    for (const { element } of field.bound) {
      for (const name of constraintNames) {
        const attribute = attributeOf(element, name, 'plain', 'property');
        if (!attribute) continue;
        const control = { element: element.tag, type: plainText(element, 'type') };
        const constraint = constraintOfAttribute(
          { name, value: attribute.value, bound: attribute.kind === 'property' },
          control,
        );
        if (!constraint) continue;
        if (
          rules.some(
            (rule) =>
              rule.fields[0] === field.name &&
              rule.constraint?.kind === (constraint === 'conditional' ? '' : constraint.kind),
          )
        )
          continue;
        const key = name;
        rules.push({
          fields: [field.name],
          kind: constraint === 'conditional' ? 'custom' : ruleKindOf(constraint),
          condition: constraint === 'conditional' ? `${name} where ${attribute.value ?? ''}` : conditionOf(constraint),
          message: messagesFor(
            draft.site,
            key,
            element.references.find(({ exportAs }) => exportAs === 'ngModel')?.name,
          ),
          moment: field.bound[0]?.updateOn ?? 'change',
          stated: 'native',
          span: spanIn(draft.site, attribute),
          ...(constraint === 'conditional' ? {} : { constraint }),
        });
      }
    }
  }
  return rules;
}

function declarationsOf(draft: Draft, queries: readonly Member[]): FormModel['declarations'] {
  const { component } = draft.site;
  return [
    ...[...rootsOf(draft)].flatMap((root) => {
      const member = component.members.get(root);
      return member
        ? [{ role: 'state' as const, span: spanOfNode(component.script.file, member.node), what: `member ${root}` }]
        : [];
    }),
    ...queries.map((member) => ({
      role: 'support' as const,
      span: spanOfNode(component.script.file, member.node),
      what: `query ${member.name}`,
    })),
  ];
}
