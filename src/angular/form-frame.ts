import * as t from '@babel/types';
import type { FormModel, OtherState, TemplateForm } from '../form/model.js';
import type { Script } from '../source/script.js';
import { attributeOf, type AngularSite } from './form-site.js';
import type { Place } from './template-model.js';

/** The methods that a handler's text calls, and those they call. */
function methodsCalled(site: AngularSite, handler: string): Set<string> {
  const { members, script } = site.component;
  const found = new Set<string>();
  const follow = (text: string, pattern: RegExp): void => {
    for (const [, name] of text.matchAll(pattern)) {
      if (name === undefined || found.has(name) || members.get(name)?.kind !== 'method') continue;
      found.add(name);
      const node = members.get(name)?.node;
      follow(script.text.slice(node?.start ?? 0, node?.end ?? 0), /this\.(\w+)\(/g);
    }
  };
  follow(handler, /(\w+)\(/g);
  return found;
}

/** The methods of the class that a form's submit runs: those of its event, or of its buttons' clicks. */
export function submitMethods(site: AngularSite): Set<string> {
  const submit = site.form && (attributeOf(site.form, 'ngSubmit') ?? attributeOf(site.form, 'submit'));
  if (submit) return methodsCalled(site, submit.value ?? '');
  const buttons = site.elements.filter(({ tag }) => tag === 'button');
  return new Set(buttons.flatMap((button) => [...methodsCalled(site, attributeOf(button, 'click')?.value ?? '')]));
}

/** A message that the template shows for a control's error, by the error's key. */
export function messagesFor(site: AngularSite, key: string, reference: string | undefined): string | undefined {
  const asked = messageWhere(site, key, reference);
  return asked ?? (reference === undefined ? undefined : messageWhere(site, undefined, reference));
}

/** The first message whose condition asks for an error by its key, or for `invalid` where no key is given. */
function messageWhere(site: AngularSite, key: string | undefined, reference: string | undefined): string | undefined {
  const { views, elements, place } = site.component.template;
  for (const view of views) {
    if (view.kind !== 'condition' || !view.expression) continue;
    const { start, end } = view.expression.sourceSpan;
    const text = place.text.slice(start, end);
    const asks =
      key === undefined
        ? /\.(invalid|valid)\b/.test(text)
        : new RegExp(`errors[^a-zA-Z]*['"]?${key}\\b|(hasError|getError)\\(\\s*['"]${key}['"]`, 'i').test(text);
    if (!asks || (reference !== undefined && !new RegExp(`\\b${reference}\\b`).test(text))) continue;
    const shown = elements.find((element) => element.view === view);
    const inside = place.text.slice((shown?.start ?? view.start) - place.base, (shown?.end ?? view.end) - place.base);
    const words = inside
      .replace(/^@[^{]*\{/, '')
      .replace(/<[^>]*>/g, ' ')
      .replace(/\}\s*$/, '')
      .replace(/\s+/g, ' ')
      .trim();
    if (words) return words;
  }
  return undefined;
}

function othersOf(site: AngularSite, taken: ReadonlySet<string>): OtherState[] {
  const { members, script } = site.component;
  const others: OtherState[] = [];
  for (const { name, node, kind, references } of members.values()) {
    if (kind !== 'property' || taken.has(name) || !t.isClassProperty(node) || node.readonly || node.decorators?.length)
      continue;
    if (node.value && (t.isFunction(node.value) || t.isNewExpression(node.value) || t.isCallExpression(node.value)))
      continue;
    const set = references.some(
      ({ parentPath, key }) => parentPath?.isAssignmentExpression() === true && key === 'left',
    );
    const used = site.component.template.names.some((one) => one.name === name && !one.variable);
    if (!set && !used) continue;
    others.push({
      name,
      line: script.lines.lineAt(node.start ?? 0),
      why: 'no control of the form is bound to it',
      status: /submit|error|busy|saving|sending|message|note|done|sent/i.test(name),
    });
  }
  return others;
}

/** Where the comments begin that stand right above an offset. */
function withComments(offset: number, { ast, text }: Script): number {
  let at = offset;
  for (const { start, end } of [...(ast.comments ?? [])].reverse()) {
    if (start === undefined || end === undefined || end > at) continue;
    const between = text.slice(end, at);
    const alone = text.slice(text.lastIndexOf('\n', start - 1) + 1, start).trim() === '';
    if (between.trim() !== '' || /\n\s*\n/.test(between) || !alone) break;
    at = start;
  }
  return at;
}

type Frame = Pick<
  FormModel,
  | 'id'
  | 'name'
  | 'component'
  | 'framework'
  | 'file'
  | 'files'
  | 'line'
  | 'typescript'
  | 'span'
  | 'before'
  | 'shared'
  | 'others'
>;

/** The part of a form's model that does not depend on its approach. */
export function frameOf(site: AngularSite, taken: ReadonlySet<string> = new Set()): Frame {
  const { component } = site;
  const { script, template } = component;
  const { node } = component.path;
  const first = node.decorators?.[0]?.start ?? node.start ?? 0;
  const statement = component.path.parentPath.isExportDeclaration() ? component.path.parentPath.node : node;
  return {
    id: site.name,
    name: site.name,
    component: component.name,
    framework: 'angular',
    file: script.file,
    files: template.place.inline ? [script.file] : [script.file, template.place.file],
    line: script.lines.lineAt(node.id?.start ?? node.start ?? 0),
    typescript: true,
    span: { file: script.file, start: node.start ?? 0, end: node.end ?? 0 },
    before: withComments(Math.min(first, statement.start ?? first), script),
    shared: site.shared,
    others: othersOf(site, taken),
  };
}

/** A form in the template that bears nothing of its approach. */
export function plainTemplate({ component, form }: AngularSite, member?: string): TemplateForm {
  const { file } = component.template.place;
  return {
    file,
    element: form && { file, start: form.start, end: form.end },
    attributes: [],
    at: form?.nameEnd ?? 0,
    reference: undefined,
    member,
    given: [],
    updateOn: undefined,
    groups: [],
  };
}

/** A form of which nothing can be told, with the reason. */
export function unreadableForm(
  site: AngularSite,
  approach: string,
  place: Place,
  what: string,
  why: string,
  member?: string,
): FormModel {
  const { file } = site.component.template.place;
  return {
    ...frameOf(site),
    approach,
    fields: [],
    controls: [],
    uses: [],
    rules: [],
    declarations: [],
    names: [],
    unclear: [{ span: { file, start: place.start, end: place.end }, what, why }],
    handlers: 0,
    stateVariables: 0,
    template: plainTemplate(site, member),
  };
}
