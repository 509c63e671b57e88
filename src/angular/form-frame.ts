import * as t from '@babel/types';
import type { FormModel, OtherState } from '../form/model.js';
import { attributeOf, type AngularSite } from './form-site.js';

/** What a form's submit calls. */
export interface SubmitFacts {
  /** Text of the handler in the template. */
  handler: string | undefined;
  line: number;
  how: 'form' | 'button' | 'none';
  /** Methods of the class that run. */
  methods: Set<string>;
}

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

/** What happens on submit. */
export function submitsOf(site: AngularSite): SubmitFacts {
  const { place } = site.component.template;
  const lineAt = (offset: number): number =>
    place.inline ? site.component.script.lines.lineAt(offset) : place.text.slice(0, offset).split('\n').length;
  const submit = site.form && (attributeOf(site.form, 'ngSubmit') ?? attributeOf(site.form, 'submit'));
  if (submit) {
    const handler = submit.value ?? '';
    return { handler, line: lineAt(submit.start), how: 'form', methods: methodsCalled(site, handler) };
  }
  const clicks = site.elements.flatMap((element) =>
    element.tag === 'button' ? (attributeOf(element, 'click') ?? []) : [],
  );
  const [first] = clicks;
  return {
    handler: first?.value,
    line: lineAt(first?.start ?? site.form?.start ?? 0),
    how: first ? 'button' : 'none',
    methods: new Set(clicks.flatMap(({ value }) => [...methodsCalled(site, value ?? '')])),
  };
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
  | 'lifeCycle'
  | 'others'
>;

/** The part of a form's model that does not depend on its approach. */
export function frameOf(site: AngularSite, submits: SubmitFacts, taken: ReadonlySet<string> = new Set()): Frame {
  const { component } = site;
  const { script, template } = component;
  const { node } = component.path;
  const first = node.decorators?.[0]?.start ?? node.start ?? 0;
  const statement = component.path.parentPath.isExportDeclaration() ? component.path.parentPath.node : node;
  const methods = [...submits.methods].map((name) => {
    const member = component.members.get(name)?.node;
    return script.text.slice(member?.start ?? 0, member?.end ?? 0);
  });
  const sends = methods.flatMap((text) =>
    [...text.matchAll(/this\.\w+(?:\.\w+)*\.(?:emit|post|put|patch|save|send|add|create)\([^\n]*\)/g)].map(
      ([call]) => call,
    ),
  );
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
    before: Math.min(first, statement.start ?? first),
    shared: site.shared,
    lifeCycle: {
      values: 'constants',
      submit: {
        line: submits.line,
        how: submits.how,
        handler: submits.handler,
        preventsDefault: true,
        async: methods.some((text) => /\bawait\b|\.subscribe\(|\.then\(/.test(text)),
        sends: [...new Set(sends)],
      },
      resets: [],
    },
    others: othersOf(site, taken),
  };
}
