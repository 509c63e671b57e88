import type { Switch } from './switch.js';
import type { NodePath } from '@babel/traverse';
import type { Control, Field, FormModel, Unclear } from '../../form/model.js';
import { spanOfNode, type Span } from '../../form/code.js';
import type { Use } from '../../form/uses.js';
import type { Chain } from '../chains.js';
import { classSurrounding } from '../class-reading.js';
import type { Member } from '../component.js';
import { attributeOf, plainText, type AngularSite } from '../form-site.js';
import type { TemplateElement } from '../template-model.js';
import type { Reading } from '../uses.js';
import { arrayFields, keyOfElement } from './array-fields.js';
import { arrayTrouble, foundArrays, rowOfElement, type ArraysReading, type FoundArray } from './array-links.js';
import type { BuiltControl, BuiltForm, BuiltGroup } from './structure.js';
import { fieldOf } from './fields.js';
import { spanIn } from './template-spans.js';

export interface BoundControl {
  field: string;
  element: TemplateElement;
  attribute: Span;
  rows?: NonNullable<Control['binding']>['rows'];
}

export interface Draft {
  site: AngularSite;
  form: BuiltForm;
  controls: Map<string, BuiltControl>;
  groups: Map<string, BuiltGroup>;
  arrays: FoundArray[];
  bound: BoundControl[];
  submits: ReadonlySet<string>;
  uses: Use[];
  unclear: Unclear[];
  references: Map<string, Span[]>;
  /** Members that give a field's control: getters and constants. */
  aliases: Map<string, { field: string | undefined; member: Member; controls: boolean; array?: string }>;
  given: NonNullable<FormModel['template']>['given'];
  /** Stretches that only keep controls in step with what is shown. */
  retired: { start: number; end: number; what: string }[];
  /** Controls that can be used only while the value of another one is right, by field. */
  switches: Map<string, Switch>;
  /** Statements of which the model tells all that they do. */
  skipped: { start: number; end: number }[];
  /** Members that follow all values as a signal; `shown`: without those of disabled controls. */
  follows: Map<string, { member: Member; what: 'held' | 'shown' }>;
  /** Fields whose controls the class enables only while they are shown. */
  kept: Set<string>;
}

/** The member of the class that a form's element names. */
export function formMember(site: AngularSite): string | undefined {
  const bound = site.form && attributeOf(site.form, 'formGroup', 'property');
  return /^\s*(?:this\.)?(\w+)\s*$/.exec(bound?.value ?? '')?.[1];
}

/** Gathers the controls and groups that a group is built of, by their full paths. */
export function collect(group: BuiltGroup, path: string, draft: Draft): void {
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
export function findArrays(draft: Draft): void {
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

/** What reading arrays shares with reading the rest of the form. */
export function arraysReading(draft: Draft): ArraysReading {
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
export function fieldsInOrder(draft: Draft): Field[] {
  const elements = new Map(draft.bound.map(({ field, element }) => [field, element]));
  return [
    ...[...draft.controls].map(([path, control]) => fieldOf(path, control, draft)),
    ...draft.arrays.flatMap((array) => arrayFields(array, elements, draft.site.load)),
  ];
}

/** The control of the model at a path; undefined where there is none. */
export function fieldAt(draft: Draft): (names: readonly string[]) => { name: string; group: boolean } | undefined {
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

/** Ties the elements of the template to the controls of the model. */
export function bindElements(draft: Draft): void {
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
export function controlPath(text: string, draft: Draft): string | undefined {
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

/** What following the form through the class shares with the rest of the reader. */
export function reading(chain: Chain, draft: Draft, path?: NodePath): Reading {
  const { script, template } = draft.site.component;
  return {
    chain,
    where: path ? classSurrounding(path, draft.submits) : chain.inEvent ? 'event' : 'render',
    text: chain.file === script.file ? script.text : template.place.text,
    valuesMayMiss: true,
  };
}

/** Notes that a span refers to the form by a name, so that it is accounted for. */
export function refer(draft: Draft, name: string, span: Span): void {
  draft.references.set(name, [...(draft.references.get(name) ?? []), span]);
}
