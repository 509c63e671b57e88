import { type Span } from '../../form/code.js';
import type { Control, Field, FormModel, Unclear, ValueKind } from '../../form/model.js';
import type { Rule } from '../../form/rules.js';
import { isSame, rulesOfElement } from '../attribute-rules.js';
import { frameOf, plainTemplate } from '../form-frame.js';
import {
  attributeOf,
  controlFacts,
  eventOf,
  isNativeControl,
  kindOfElement,
  plainText,
  viewsBetween,
} from '../form-site.js';
import type { AngularSite } from '../form-site.js';
import type { Place, TemplateElement } from '../template-model.js';

/** The controls of the page in a form with nothing bound, by the name that each is sent under. */
export interface PlainField {
  name: string;
  elements: TemplateElement[];
  kind: ValueKind;
  /** What the control begins as, as source text of the class. */
  start: string;
  /** Attributes of the page that say so. */
  said: Place[];
}

function spanIn(site: AngularSite, { start, end }: Place): Span {
  return { file: site.component.template.place.file, start, end };
}

/** The fields of a form that the page keeps by itself; undefined parts are unclear, with the reason. */
export function plainFields(site: AngularSite, unclear: Unclear[]): PlainField[] {
  const found = new Map<string, TemplateElement[]>();
  for (const element of site.elements.filter(isNativeControl)) {
    const name = plainText(element, 'name') ?? plainText(element, 'id');
    const span = spanIn(site, element);
    if (!name) unclear.push({ span, what: `<${element.tag}>`, why: 'the control has no name' });
    else found.set(name, [...(found.get(name) ?? []), element]);
  }
  return [...found].flatMap(([name, elements]): PlainField[] => {
    const [first] = elements;
    if (!first) return [];
    const span = spanIn(site, first);
    const radio = elements.every((element) => plainText(element, 'type') === 'radio');
    const kind = kindOfElement(first) ?? 'text';
    const no = (why: string): PlainField[] => {
      unclear.push({ span, what: name, why });
      return [];
    };
    if (elements.length > 1 && !radio) return no('several controls are sent under this name');
    if (kind === 'file' || kind === 'many choices') return no('the page alone can keep what is chosen here');
    if (viewsBetween(first, site.form).length && !radio)
      return no('the control comes and goes, and begins anew each time');
    const start = startOf(elements, kind, site);
    return start ? [{ name, elements, kind, ...start }] : no('what it begins as is not told by the markup');
  });
}

function quoted(text: string): string {
  return `'${text.replace(/\\/g, '\\\\').replace(/'/g, "\\'").replace(/\n/g, '\\n')}'`;
}

/** What a control begins as, and the attributes that say so. */
function startOf(
  elements: readonly TemplateElement[],
  kind: ValueKind,
  site: AngularSite,
): { start: string; said: Place[] } | undefined {
  const [first] = elements;
  if (!first) return undefined;
  if (plainText(first, 'type') === 'radio') {
    const chosen = elements.find((element) => attributeOf(element, 'checked'));
    const checked = chosen && attributeOf(chosen, 'checked', 'plain');
    const value = chosen && plainText(chosen, 'value');
    if (chosen && (!checked || value === undefined)) return undefined;
    return { start: quoted(value ?? ''), said: checked ? [checked] : [] };
  }
  if (kind === 'boolean') {
    const checked = attributeOf(first, 'checked');
    if (checked && checked.kind !== 'plain') return undefined;
    return { start: checked ? 'true' : 'false', said: checked ? [checked] : [] };
  }
  if (first.tag === 'select') return startOfChoice(first, site);
  if (first.tag === 'textarea') {
    const { text, base } = site.component.template.place;
    const inner = text
      .slice(first.openEnd - base, first.end - base)
      .replace(/^\s*>/, '')
      .replace(/<\/textarea\s*>$/, '');
    return inner.includes('{{') || inner !== '' ? undefined : { start: "''", said: [] };
  }
  const value = attributeOf(first, 'value');
  if (value && value.kind !== 'plain') return undefined;
  const text = value?.value ?? '';
  if (/\{\{/.test(text)) return undefined;
  const said = value ? [value] : [];
  if (kind !== 'number') return { start: quoted(text), said };
  return text === '' ? { start: 'null', said } : Number.isFinite(Number(text)) ? { start: text, said } : undefined;
}

/** A choice begins with the option that is marked, else with its first one. */
function startOfChoice(select: TemplateElement, site: AngularSite): { start: string; said: Place[] } | undefined {
  const inside = (element: TemplateElement | undefined): boolean =>
    element !== undefined && (element === select || inside(element.parent));
  const options = site.elements.filter((element) => element.tag === 'option' && inside(element));
  const marked = options.find((element) => attributeOf(element, 'selected'));
  const [first] = options;
  const option = marked ?? first;
  if (!option) return undefined;
  const selected = attributeOf(option, 'selected');
  if (selected && selected.kind !== 'plain') return undefined;
  const said = selected ? [selected] : [];
  const value = attributeOf(option, 'value');
  if (option.view.kind !== 'row') {
    if (option.view !== select.view) return undefined;
    if (value?.kind === 'plain') return { start: quoted(value.value ?? ''), said };
    if (value) return undefined;
    const { text, base } = site.component.template.place;
    const words = text
      .slice(option.openEnd - base, option.end - base)
      .replace(/^[^>]*>/, '')
      .replace(/<[^>]*>$/, '');
    return /[{<]/.test(words) ? undefined : { start: quoted(words.replace(/\s+/g, ' ').trim()), said };
  }
  // the first of a list that the class keeps
  const list = option.view.expression;
  const { text } = site.component.template.place;
  const of = list && text.slice(list.sourceSpan.start, list.sourceSpan.end).trim();
  const member = of === undefined ? undefined : site.component.members.get(of);
  const item = option.view.variables.find(({ kind }) => kind === 'loop')?.name;
  if (!member || member.kind !== 'property' || value?.value?.trim() !== item) return undefined;
  return { start: `this.${member.name}[0]`, said };
}

/** Reads a form that nothing is bound in: the page keeps its values. */
export function readMarkup(site: AngularSite): FormModel {
  const unclear: Unclear[] = [];
  const fields = plainFields(site, unclear);
  return {
    ...frameOf(site),
    approach: 'markup-only',
    fields: fields.map((field) => fieldOf(field, site)),
    controls: fields.flatMap(({ name, elements }) => elements.map((element) => controlOf(name, element, site))),
    uses: [],
    rules: fields.flatMap((field) => rulesOf(field, site)),
    declarations: [],
    names: [],
    unclear,
    handlers: 0,
    stateVariables: 0,
    template: plainTemplate(site),
  };
}

function fieldOf({ name, kind, start, elements }: PlainField, site: AngularSite): Field {
  const [first] = elements;
  const type = kind === 'boolean' ? 'boolean' : kind === 'number' ? 'number | null' : 'string';
  return {
    name,
    kind,
    role: 'field',
    type,
    typeWritten: false,
    initial: { code: undefined, text: start, when: 'constant' },
    commentsBefore: [],
    commentBehind: undefined,
    names: {},
    declared: spanIn(site, first ?? { start: 0, end: 0 }),
    resets: 'initial',
  };
}

function controlOf(name: string, element: TemplateElement, site: AngularSite): Control {
  return {
    ...controlFacts(site, element),
    field: name,
    wayIn: undefined,
    shows: undefined,
    changes: eventOf(element),
    binding: {
      attributes: [],
      at: element.nameEnd,
      name: plainText(element, 'name'),
      updateOn: undefined,
      disabled: undefined,
      changed: [],
      reference: undefined,
      shownWhen: undefined,
      standalone: false,
      rows: undefined,
      event: eventOf(element),
    },
  };
}

/** The rules that the page itself keeps. */
function rulesOf({ name, elements }: PlainField, { component }: AngularSite): Rule[] {
  const rules: Rule[] = [];
  for (const element of elements)
    for (const rule of rulesOfElement(element, name, component))
      // the framework's own attribute says nothing to the page
      if (rule.constraint && rule.kind !== 'email' && !rules.some(isSame(name, rule.constraint)))
        rules.push({ ...rule, moment: 'submit' });
  return rules;
}
