import type { AttributeNode, DirectiveNode, ElementNode, TemplateChildNode } from '@vue/compiler-dom';
import type { Span } from '../form/code.js';
import { saysWhatShows } from '../markup/shown-parts.js';
import type { VueFile } from './vue-file.js';

/** Kinds of the template's nodes, by the numbers that the compiler gives them. */
const kinds = { element: 1, text: 2, simple: 4, interpolation: 5, attribute: 6, directive: 7 } as const;

/** What a name of the template stands for at a place: an item of a list, or what a component gives to its slot. */
export type LocalName =
  { kind: 'item'; of: string } | { kind: 'slot'; component: string; member: string; element: ElementNode };

/** A control of the template: what it shows, as source text. */
export interface VueControl {
  element: ElementNode;
  tag: string;
  type: string | undefined;
  name: string | undefined;
  label: string | undefined;
  /** The expression that it shows or is tied to; undefined where nothing ties it to a value. */
  shows: string | undefined;
  /** Property that shows the value, and event that changes it. */
  through: { shows: string; changes: string } | undefined;
  modifiers: string[];
  /** Source text of the handlers of what a person chooses, where the value is not shown. */
  handlers: string[];
  multiple: boolean;
  locals: ReadonlyMap<string, LocalName>;
  /** The form's element around it. */
  form: ElementNode | undefined;
  span: Span;
}

/** An object of values that a component of the project is given as a whole. */
export interface HandedOn {
  tag: string;
  property: string;
  value: string;
  form: ElementNode | undefined;
  locals: ReadonlyMap<string, LocalName>;
}

/** What sets something off in a template: an event with its handler's source text. */
export interface Trigger {
  element: ElementNode;
  tag: string;
  event: string;
  handler: string;
  prevents: boolean;
  form: ElementNode | undefined;
  span: Span;
}

/** What the template of a component holds. */
export interface TemplateParts {
  forms: ElementNode[];
  controls: VueControl[];
  handed: HandedOn[];
  triggers: Trigger[];
}

interface Around {
  parent: ElementNode | undefined;
  form: ElementNode | undefined;
  label: ElementNode | undefined;
  locals: ReadonlyMap<string, LocalName>;
}

const native = new Set(['input', 'select', 'textarea']);
const noControl = /^(?:hidden|submit|button|reset|image)$/;

/** Walks a template and gathers its forms, controls and triggers. */
export function templateParts(vue: VueFile): TemplateParts {
  const parts: TemplateParts = { forms: [], controls: [], handed: [], triggers: [] };
  const labels = new Map<string, string>();
  const visit = (nodes: readonly TemplateChildNode[], around: Around): void => {
    for (const node of nodes) {
      if ((node.type as number) !== kinds.element) continue;
      const element = node as ElementNode;
      const inner = innerOf(element, around);
      if (element.tag === 'form') parts.forms.push(element);
      if (element.tag === 'label') {
        const target = attributeOf(element, 'for') ?? boundText(element, 'for');
        if (target !== undefined) labels.set(target, labelText(element));
      }
      look(element, inner, vue, parts);
      visit(element.children, inner);
    }
  };
  if (vue.template)
    visit(vue.template.children, { parent: undefined, form: undefined, label: undefined, locals: new Map() });
  for (const control of parts.controls) {
    const id = attributeOf(control.element, 'id') ?? boundText(control.element, 'id');
    control.label ??= id === undefined ? undefined : labels.get(id);
  }
  return parts;
}

function innerOf(element: ElementNode, around: Around): Around {
  const locals = new Map(around.locals);
  for (const prop of element.props) {
    if ((prop.type as number) !== kinds.directive) continue;
    const directive = prop as DirectiveNode;
    if (directive.name === 'for') {
      const [, item = '', list = ''] =
        /^\s*\(?\s*([\w$]+)[^)]*\)?\s+(?:in|of)\s+([\s\S]+)$/.exec(expressionOf(directive)) ?? [];
      if (item !== '') locals.set(item, { kind: 'item', of: list.trim() });
    }
    if (directive.name === 'slot') {
      // on a template it is the slot of the component around it
      const owner = element.tag === 'template' ? (around.parent ?? element) : element;
      const pattern = expressionOf(directive);
      const named = /^\s*\{([\s\S]*)\}\s*$/.exec(pattern)?.[1];
      if (named === undefined) {
        if (/^[\w$]+$/.test(pattern.trim()))
          locals.set(pattern.trim(), { kind: 'slot', component: owner.tag, member: '', element: owner });
      } else
        for (const [, member = '', local] of named.matchAll(/([\w$]+)(?:\s*:\s*([\w$]+))?(?:\s*=[^,]*)?(?:,|$)/g))
          locals.set(local ?? member, { kind: 'slot', component: owner.tag, member, element: owner });
    }
  }
  return {
    parent: element,
    form: element.tag === 'form' ? element : around.form,
    label: element.tag === 'label' ? element : around.label,
    locals,
  };
}

function look(element: ElementNode, around: Around, vue: VueFile, parts: TemplateParts): void {
  const { tag } = element;
  const directives = element.props.filter((prop): prop is DirectiveNode => (prop.type as number) === kinds.directive);
  const component = /^[A-Z]/.test(tag) || (tag.includes('-') && tag !== 'router-link');
  for (const directive of directives) {
    if (directive.name !== 'on') continue;
    const event = argumentOf(directive) ?? '';
    const modifiers = modifiersOf(directive);
    parts.triggers.push({
      element,
      tag,
      event,
      handler: expressionOf(directive),
      prevents: modifiers.includes('prevent'),
      form: around.form,
      span: spanOf(directive, vue),
    });
  }
  const type = attributeOf(element, 'type');
  if (!native.has(tag) && !component) return;
  if (tag === 'input' && type !== undefined && noControl.test(type)) return;
  const tied = tiedTo(directives, component);
  if (component && tied && isContainer(element, tied.through.shows)) return;
  const handlers = directives.flatMap((directive) =>
    directive.name === 'on' && /^(?:input|change)$/.test(argumentOf(directive) ?? '') ? [expressionOf(directive)] : [],
  );
  if (component && !tied) {
    for (const directive of directives) {
      const property = argumentOf(directive);
      if (directive.name !== 'bind' || property === undefined) continue;
      const value = expressionOf(directive);
      if (/^[\w$.]+$/.test(value))
        parts.handed.push({ tag, property, value, form: around.form, locals: around.locals });
    }
    return;
  }
  parts.controls.push({
    element,
    tag,
    type,
    name: attributeOf(element, 'name') ?? (component ? undefined : boundText(element, 'name')),
    label:
      (around.label && labelText(around.label)) ||
      attributeOf(element, 'label') ||
      attributeOf(element, 'aria-label') ||
      undefined,
    shows: tied?.shows,
    through: tied?.through,
    modifiers: tied?.modifiers ?? [],
    handlers,
    multiple: element.props.some((prop) => prop.name === 'multiple'),
    locals: around.locals,
    form: around.form,
    span: { file: vue.file, start: element.loc.start.offset, end: startTagEnd(element, vue.text) },
  });
}

/** Components that hold other parts of the page, whatever their value is called. */
const containers =
  /(?:Dialog|Modal|Popover|Popup|Drawer|Tabs?|TabGroup|Dropdown|Menu|Tooltip|Collapse|Accordion|Pagination|Pager|Stepper|Sheet|Sidebar|Overlay|Table|Tree|Carousel)$/;

/** Whether a component holds other parts of the page, and its value says which of them show. */
function isContainer(element: ElementNode, shows: string): boolean {
  if (saysWhatShows(shows)) return true;
  const name = element.tag.replace(/(?:^|-)(\w)/g, (_, letter: string) => letter.toUpperCase());
  return containers.test(name) || holdsControls(element.children);
}

function holdsControls(nodes: readonly TemplateChildNode[]): boolean {
  return nodes.some((node) => {
    if ((node.type as number) !== kinds.element) return false;
    const element = node as ElementNode;
    const bound = element.props.some((prop) => (prop.type as number) === kinds.directive && prop.name === 'model');
    const choice = /^(?:option|radio)/i.test(element.tag) || attributeOf(element, 'type') === 'radio';
    return (bound && !choice) || holdsControls(element.children);
  });
}

/** What ties a control to a value: `v-model`, or a value that is shown together with an event that changes it. */
function tiedTo(
  directives: readonly DirectiveNode[],
  component: boolean,
): { shows: string; through: { shows: string; changes: string }; modifiers: string[] } | undefined {
  const model = directives.find(({ name }) => name === 'model');
  if (model) {
    const argument = argumentOf(model) ?? 'modelValue';
    const through = component
      ? { shows: argument, changes: `update:${argument}` }
      : { shows: 'v-model', changes: 'v-model' };
    return { shows: expressionOf(model), through, modifiers: modifiersOf(model) };
  }
  const shown = directives.find(
    (one) => one.name === 'bind' && /^(?:value|checked|model-value|modelValue)$/.test(argumentOf(one) ?? ''),
  );
  const changed = directives.find(
    (one) => one.name === 'on' && /^(?:input|change|update:model-?[vV]alue|update:value)$/.test(argumentOf(one) ?? ''),
  );
  if (!shown || !changed) return undefined;
  // what a tick box of a group is worth is no value of the form
  const through = { shows: argumentOf(shown) ?? 'value', changes: argumentOf(changed) ?? 'input' };
  return { shows: expressionOf(shown), through, modifiers: [] };
}

/** The source text of a directive's expression; empty where it has none. */
function expressionOf({ exp }: DirectiveNode): string {
  return exp?.loc.source.trim() ?? '';
}

function argumentOf({ arg }: DirectiveNode): string | undefined {
  return arg && (arg.type as number) === kinds.simple && 'content' in arg && arg.isStatic ? arg.content : undefined;
}

function modifiersOf({ modifiers }: DirectiveNode): string[] {
  return modifiers.map((one) => one.content);
}

/** The text of a static attribute of an element; an empty text where it has no value. */
export function attributeOf(element: ElementNode, name: string): string | undefined {
  const found = element.props.find(
    (prop): prop is AttributeNode => (prop.type as number) === kinds.attribute && prop.name === name,
  );
  return found && (found.value?.content ?? '');
}

/** The source text of a bound attribute. */
export function boundText(element: ElementNode, name: string): string | undefined {
  const found = element.props.find(
    (prop): prop is DirectiveNode =>
      (prop.type as number) === kinds.directive && prop.name === 'bind' && argumentOf(prop as DirectiveNode) === name,
  );
  return found && expressionOf(found);
}

/** The text of a label, without what stands in a control inside of it. */
function labelText(element: ElementNode): string {
  const read = (nodes: readonly TemplateChildNode[]): string =>
    nodes
      .map((node) => {
        if ((node.type as number) === kinds.text) return (node as { content: string }).content;
        if ((node.type as number) !== kinds.element) return '';
        const inner = node as ElementNode;
        return /^(?:select|textarea|button|datalist)$/.test(inner.tag) ? '' : read(inner.children);
      })
      .join(' ');
  return read(element.children).replace(/\s+/g, ' ').trim();
}

function startTagEnd(element: ElementNode, text: string): number {
  const [first] = element.children;
  const end = first?.loc.start.offset ?? element.loc.end.offset;
  return first ? end : text.indexOf('>', element.props.at(-1)?.loc.end.offset ?? element.loc.start.offset) + 1;
}

function spanOf(node: { loc: { start: { offset: number }; end: { offset: number } } }, { file }: VueFile): Span {
  return { file, start: node.loc.start.offset, end: node.loc.end.offset };
}
