import { attributeOf, plainText } from '../form-site.js';
import { boundFields, type BoundField } from '../signal-model/found-form.js';
import type { TemplateElement } from '../template-model.js';
import type { FileEdit } from '../writing.js';
import { unusableWhile } from '../unusable-while.js';
import { typeAt, leave, type Leaving } from './leaving.js';
import { controlAt, kindAt } from './places.js';
import { listOfRow } from './row-views.js';
import { shortened } from './hidden-fields.js';

const native = /^(input|select|textarea)$/;

/** The edits of the template by which each control is bound to its control of the class, and the form to the group. */
export function bindEdits(leaving: Leaving): FileEdit[] {
  const { site, found, component, ledger } = leaving;
  const edits: FileEdit[] = [];
  const all = boundFields(site);
  const bound = new Set(all.map(({ attribute }) => attribute.start));
  const groups = groupElements(all, leaving);
  for (const one of all) edits.push(...controlEdits(one, groups, leaving));
  const { file } = component.template.place;
  for (const [path, { nameEnd }] of groups)
    edits.push({ file, start: nameEnd, end: nameEnd, text: ` formGroupName="${path.split('.').at(-1) ?? path}"` });
  const form = site.form ?? around(site.elements.filter((one) => one.attributes.some(({ start }) => bound.has(start))));
  if (!form) {
    leave(leaving, { file, start: 0, end: 0 }, 'no element of the template holds all of its controls');
    return edits;
  }
  const root = attributeOf(form, 'formRoot', 'property');
  const group = `[formGroup]="${found.form.name}"`;
  if (root) {
    const submit = ` (ngSubmit)="${leaving.names.send}()"`;
    edits.push({ file, start: root.start, end: root.end, text: group + submit });
    leaving.needs.add('submit');
  } else {
    // without a word the form's directive would keep the page from checking it
    const checks = form.tag === 'form' && !attributeOf(form, 'novalidate') && !attributeOf(form, 'ngNoForm');
    const text = ` ${group}${checks && !attributeOf(form, 'ngNativeValidate') ? ' ngNativeValidate' : ''}`;
    edits.push({ file, start: form.nameEnd, end: form.nameEnd, text });
  }
  ledger.push({
    entry: 'carried',
    span: { file, start: root?.start ?? form.start, end: root?.end ?? form.nameEnd },
    what: 'the form’s element',
    why: `it is bound by ${group}`,
  });
  const reset = site.elements.find((one) => one.tag === 'button' && plainText(one, 'type') === 'reset');
  if (reset)
    leave(
      leaving,
      { file, start: reset.start, end: reset.openEnd },
      'the page’s own reset would reset the group as well',
    );
  return edits;
}

/** The innermost element around some others. */
function around(elements: readonly TemplateElement[]): TemplateElement | undefined {
  const [first, ...others] = elements;
  for (let at = first?.parent; at; at = at.parent)
    if (others.every((one) => at.start <= one.start && at.end >= one.end)) return at;
  return undefined;
}

/** The elements that hold all controls of a group and no others, by the group's path. */
function groupElements(all: readonly BoundField[], { found, site, leaves }: Leaving): Map<string, TemplateElement> {
  const elements = new Map<string, TemplateElement>();
  const own = all.filter(({ root }) => root === found.form.name);
  const paths = new Set(own.flatMap(({ keys }) => keys.slice(0, -1).map((_, at) => keys.slice(0, at + 1).join('.'))));
  for (const path of [...paths].sort((a, b) => a.length - b.length)) {
    const inside = own.filter(({ keys }) => keys.join('.').startsWith(`${path}.`)).map(({ element }) => element);
    const element = around(inside);
    const outer = path.includes('.') ? elements.get(path.replace(/\.[^.]*$/, '')) : site.form;
    const alone = all.every(({ element: one }) => inside.includes(one) || !holds(element, one));
    const bound = leaves.filter((leaf) => leaf.path.startsWith(`${path}.`)).length === new Set(inside).size;
    if (element && outer && element !== outer && holds(outer, element) && alone && bound && element.tag !== 'label')
      elements.set(path, element);
  }
  return elements;
}

function holds(outer: TemplateElement | undefined, { start, end }: TemplateElement): boolean {
  return outer !== undefined && outer.start <= start && outer.end >= end;
}

function controlEdits(
  { element, attribute, root, keys }: BoundField,
  groups: ReadonlyMap<string, TemplateElement>,
  leaving: Leaving,
): FileEdit[] {
  const { found, component, ledger, site } = leaving;
  const { file } = component.template.place;
  const span = { file, start: attribute.start, end: attribute.end };
  const row = element.view && rowOf(element, root);
  const list = root === found.form.name || !row ? undefined : listOfRow(row, leaving);
  const plain = root === found.form.name ? keys.join('.') : list === undefined ? '' : `${list}[].${keys.join('.')}`;
  const stop = (why: string): FileEdit[] => {
    leave(leaving, span, why);
    return [];
  };
  if (kindAt(plain, leaving) !== 'field') return stop('which field it shows is not clear');
  if (!native.test(element.tag)) return stop('a component of the project takes the field itself');
  const type = typeAt(leaving, plain);
  const kind = plainText(element, 'type');
  if (kind === 'number' && type === 'string') return stop('a number control of the class gives numbers, not texts');
  if (/\bDate\b/.test(type ?? '')) return stop('a date control of the class gives texts, not dates');
  const name = keys.at(-1) ?? '';
  const group = keys.slice(0, -1).join('.');
  const here =
    site.form !== undefined && root === found.form.name && (group === '' || groups.has(group)) && /^[\w-]+$/.test(name);
  const control = controlAt(root, keys.join('.'));
  const bound = here ? `formControlName="${name}"` : `[formControl]="${control}"`;
  const extras = [
    ...(kind === 'radio' && plainText(element, 'name') === undefined ? [`name="${name}"`] : []),
    ...constraints(plain, element, leaving),
    ...(disabledText(plain, leaving) ?? []),
  ];
  ledger.push({
    entry: 'carried',
    span: { file, start: element.start, end: element.end },
    what: `control of ${plain}`,
    why: `it is bound by ${bound}`,
  });
  return [{ ...span, text: [bound, ...extras].join(' ') }];
}

function rowOf(element: TemplateElement, root: string): TemplateElement['view'] | undefined {
  let view: TemplateElement['view'] | undefined = element.view;
  while (view && !view.variables.some(({ name }) => name === root)) view = view.parent;
  return view;
}

/** Attributes that a field's directive wrote by itself, for the browser and those who cannot see. */
function constraints(plain: string, element: TemplateElement, { attributes }: Leaving): string[] {
  const type = plainText(element, 'type') ?? 'text';
  const fits = (text: string): boolean => {
    if (/^(?:\[attr\.)?required/.test(text)) return true;
    if (/^(?:\[attr\.)?(min|max)\b/.test(text)) return /^(number|range)$/.test(type);
    return element.tag === 'textarea' || (element.tag === 'input' && !/^(number|checkbox|radio)$/.test(type));
  };
  return (attributes.get(plain) ?? [])
    .filter((text) => element.tag !== 'select' || text.includes('required'))
    .filter(fits);
}

function disabledText(plain: string, leaving: Leaving): string[] | undefined {
  const of = leaving.disabled.get(plain);
  const form = leaving.found.form.name;
  const text = of?.(`${form}.getRawValue()`);
  if (text === undefined) return undefined;
  leaving.needs.add('unusable');
  return [`[${unusableWhile.attribute}]="${shortened(text, form, leaving).replace(/"/g, "'")}"`];
}
