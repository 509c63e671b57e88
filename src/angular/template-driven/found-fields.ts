import type { NodePath } from '@babel/traverse';
import type { Field, TemplateForm, Unclear, ValueKind } from '../../form/model.js';
import { spanOfNode, type Span } from '../../form/code.js';
import type { Use } from '../../form/uses.js';
import type { Chain } from '../chains.js';
import { classSurrounding, signalArgument, typeOfValue, type InitialPart } from '../class-reading.js';
import { kindOfElement, plainText, type AngularSite } from '../form-site.js';
import { loopsOf } from '../rows.js';
import type { TemplateAttribute } from '../template-model.js';
import type { Reading } from '../uses.js';
import { boundElements, type BoundElement } from './controls.js';
import type { Feeders } from './feeders.js';
import { foundList, rowBinding, rowFields, type FoundList, type RowBinding } from './rows.js';
import { storageBehind, storesOf, type Storage, type Stores } from './storage.js';

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

export interface Draft {
  site: AngularSite;
  fields: FoundField[];
  lists: FoundList[];
  rowControls: RowControl[];
  stores: Stores;
  submits: ReadonlySet<string>;
  uses: Use[];
  unclear: Unclear[];
  given: TemplateForm['given'];
  /** The event through which the form tells all of its values, where the controls are fed one way. */
  feed: TemplateAttribute | undefined;
  /** Methods that only take in what controls give. */
  feeders: Feeders;
  /** Spans of every reference to a name of the form. */
  references: Map<string, Span[]>;
}

/** A list as a field, and the fields of its rows. */
export function listFields(list: FoundList, draft: Draft): Field[] {
  const part = draft.stores.partOf(list.storage);
  const own = fieldFrom(list.field, part, part?.type, 'list of rows', list.storage, draft);
  return [own, ...rowFields(list, own.declared, kindOf)];
}

/** The span of a place in the template. */
export function spanIn(site: AngularSite, place: { start: number; end: number }): Span {
  return { file: site.component.template.place.file, start: place.start, end: place.end };
}

/** The fields of a site: one for each name, whatever the number of its controls. */
export function fieldsOf(
  site: AngularSite,
  unclear: Unclear[],
): Pick<Draft, 'fields' | 'stores' | 'lists' | 'rowControls'> {
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
export function fieldAt(draft: Draft): (names: readonly string[]) => { name: string; group: boolean } | undefined {
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

/** What following the form through the class shares with the rest of the reader. */
export function reading(chain: Chain, draft: Draft, path?: NodePath): Reading {
  const { script, template } = draft.site.component;
  return {
    chain,
    where: path ? classSurrounding(path, draft.submits) : chain.inEvent ? 'event' : 'render',
    text: chain.file === script.file ? script.text : template.place.text,
  };
}

/** Notes that a span refers to the form by a name, so that it is accounted for. */
export function refer(draft: Draft, name: string, span: Span): void {
  draft.references.set(name, [...(draft.references.get(name) ?? []), span]);
}

/** Whether an element is one of several radios. */
export function isRadio(element: BoundElement['element']): boolean {
  return plainText(element, 'type') === 'radio';
}

function kindOf(bound: BoundElement, type: string | undefined): ValueKind {
  return kindOfElement(bound.element) ?? (type === undefined || /string/.test(type) ? 'text' : 'other');
}

function initialText(part: InitialPart | undefined): string {
  if (!part?.node) return 'undefined';
  return part.script.text.slice(part.node.start ?? 0, part.node.end ?? 0);
}

/** A field of the form model, by its first control and by what the class stores for it. */
export function modelField(field: FoundField, draft: Draft): Field {
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
  // a bare `ngModel` starts empty, or with the text it is given
  const given = bound?.model.kind === 'plain' ? (bound.model.value ?? '') : '';
  const text = storage === undefined ? `'${given.replace(/[\\']/g, '\\$&')}'` : initialText(part);
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
export function extraFields(draft: Draft): Field[] {
  const whole = draft.uses.some((use) => (use.kind === 'read-all' && use.what === 'held') || use.kind === 'set-all');
  const extra: Field[] = [];
  for (const [root, object] of draft.stores.objects) {
    for (const [key, part] of object.parts) {
      const taken = [...draft.fields, ...draft.lists].some(
        ({ storage }) => storage?.root === root && storage.keys[0] === key,
      );
      const named = draft.uses.some(
        (use) =>
          (use.kind === 'read' && use.field === key) ||
          (use.kind === 'set' && use.assignments.some(({ field }) => field === key)),
      );
      if (named && !taken && part.node === undefined && part.optional) {
        const why = `${key} has no control and is missing at first; a control for it would be sent from the start`;
        const { script, members } = draft.site.component;
        const member = members.get(root)?.node;
        const span = member ? spanOfNode(script.file, member) : spanIn(draft.site, { start: 0, end: 0 });
        draft.unclear.push({ span, what: `${root}.${key}`, why });
      }
      if (taken || (!named && (!whole || (part.node === undefined && part.optional)))) continue;
      extra.push(
        fieldFrom(key, part, part.type ?? typeOfValue(part.node), 'other', { root, keys: [key], signal: false }, draft),
      );
    }
  }
  return extra;
}
