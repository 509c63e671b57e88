import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { GatedMessage, Status, StatusRole } from '../../form/life.js';
import type { Constraint, Rule } from '../../form/rules.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import type { AngularSite } from '../form-site.js';
import { attributeOf, plainText } from '../form-site.js';
import type { TemplateElement, TemplateView } from '../template-model.js';
import { expressionOf, type ConditionGuide } from './condition-path.js';
import { askedBy, type Asked } from './conditions.js';
import type { Scene } from './scene.js';

/** The places of a template that show messages, with the status that opens each. */
export function messagesOf(scene: Scene, status: readonly Status[]): GatedMessage[] {
  const { site, model } = scene;
  const { component, form } = site;
  const { file } = component.template.place;
  const guide = guideOf(scene, status);
  const found: GatedMessage[] = [];
  for (const element of component.template.elements) {
    if (!ownText(element, site) || !belongs(element, form, site)) continue;
    const gates = gatesOf(element, guide, site);
    const shown = interpolated(element, guide, site);
    const wrong = gates.some((gate) => gate.wrong) || shown?.wrong === true;
    if (!wrong || /^(label|button|option|legend)$/.test(element.tag)) continue;
    const named = [...gates.flatMap(({ fields }) => fields), ...(shown?.fields ?? [])];
    const field = fieldNamed(named, model);
    const roles = [...new Set(gates.flatMap((gate) => gate.roles))];
    const apart = gates.filter((gate) => gate.roles.length);
    const all = roles.length > 1 && (apart.length > 1 || apart.some((gate) => gate.all));
    found.push({
      field,
      after: roles,
      ...(all ? { all: true } : {}),
      text: ownText(element, site).replace(/\s+/g, ' '),
      keys: [...new Set(gates.flatMap(({ keys }) => keys))],
      span: { file, start: element.start, end: element.end },
    });
  }
  return found;
}

function belongs(element: TemplateElement, form: TemplateElement | undefined, site: AngularSite): boolean {
  if (!form || !site.shared) return true;
  for (let at: TemplateElement | undefined = element; at; at = at.parent) if (at === form) return true;
  return false;
}

/** The text that stands right inside an element, without that of its children and without blocks. */
function ownText(element: TemplateElement, { component }: AngularSite): string {
  const { base, text } = component.template.place;
  let inner = text.slice(element.openEnd - base, element.end - base);
  const children = component.template.elements.filter(({ parent }) => parent === element);
  for (const child of [...children].reverse())
    inner = inner.slice(0, child.start - element.openEnd) + inner.slice(child.end - element.openEnd);
  return inner
    .replace(/^[^>]*>/, '')
    .replace(/<\/?[^>]*>/g, '')
    .replace(/@(if|else|for|switch|case|default|empty)[^{]*\{|(?<!\})\}(?!\})/g, '')
    .replace(/<!--[\s\S]*?-->/g, '')
    .trim();
}

/** The conditions on the way to an element, the outermost first. */
function gatesOf(element: TemplateElement, guide: ConditionGuide, site: AngularSite): Asked[] {
  const gates: Asked[] = [];
  const seen = new Set<TemplateView>();
  for (let at: TemplateElement | undefined = element; at; at = at.parent) {
    const hidden = at.attributes.find(({ kind, name }) => kind === 'property' && name === 'hidden');
    if (hidden?.value !== undefined) gates.unshift(askedBy(hidden.value, true, guide));
  }
  for (let view: TemplateView | undefined = element.view; view; view = view.parent) {
    // a branch of an `@else if` is told apart from one of an `@if`
    if (seen.has(view) || (view.kind !== 'condition' && view.kind !== 'other')) continue;
    seen.add(view);
    const text = conditionText(view, site);
    if (text !== undefined) gates.unshift(askedBy(text, view.negated, guide));
  }
  return gates;
}

function conditionText({ expression }: TemplateView, { component }: AngularSite): string | undefined {
  if (!expression) return undefined;
  const { start, end } = expression.sourceSpan;
  return component.template.place.text.slice(start, end) || undefined;
}

/** What the interpolations of an element's own text ask. */
function interpolated(element: TemplateElement, guide: ConditionGuide, site: AngularSite): Asked | undefined {
  const asked = [...ownText(element, site).matchAll(/\{\{([\s\S]*?)\}\}/g)].map(([, text = '']) =>
    askedBy(text, false, guide),
  );
  return asked.find(({ wrong }) => wrong);
}

function guideOf(scene: Scene, status: readonly Status[]): ConditionGuide {
  const { site } = scene;
  const { members, template } = site.component;
  const { form } = site;
  const sent = form ? ((attributeOf(form, 'ngSubmit') ?? attributeOf(form, 'submit'))?.value ?? '') : '';
  return {
    roleOf: (name) => {
      const own = status.filter((one) => one.name === name).map(({ role }): StatusRole => role);
      // what the template itself raises as it sends
      if (!own.length && new RegExp(`\\b${name}(?:\\.set\\(true\\)|\\s*=\\s*true)`).test(sent)) return 'attempted';
      return own.find((role) => role === 'errors' || role === 'message') ?? own[0];
    },
    memberOf(name) {
      const member = members.get(name);
      if (!member) return undefined;
      const { path } = member;
      const fn = path.isClassMethod()
        ? path
        : path.isClassProperty() && (path.get('value') as NodePath).isFunction()
          ? (path.get('value') as NodePath<t.ArrowFunctionExpression>)
          : undefined;
      if (fn) return functionValue(fn);
      const value = path.isClassProperty() ? path.node.value : undefined;
      const computed =
        t.isCallExpression(value) && t.isIdentifier(value.callee, { name: 'computed' })
          ? value.arguments[0]
          : undefined;
      // a control that has a name of its own: `readonly row = this.form.controls.row`
      if (
        t.isMemberExpression(value) ||
        (t.isCallExpression(value) && t.isMemberExpression(value.callee)) ||
        t.isTSNonNullExpression(value) ||
        t.isTSAsExpression(value)
      )
        return { value, parameters: [] };
      if (t.isArrowFunctionExpression(computed) && t.isExpression(computed.body))
        return { value: computed.body, parameters: [] };
      return undefined;
    },
    variable(name) {
      const found = template.variables.find((one) => one.name === name);
      if (!found) return undefined;
      if (found.kind === 'reference' && /^ngForm$|formGroup/i.test(found.exportAs)) return { kind: 'form' };
      if (found.kind === 'reference' && found.element) {
        const own = plainText(found.element, 'name') ?? plainText(found.element, 'formControlName');
        return own === undefined ? undefined : { kind: 'control', field: own };
      }
      const alias = found.kind === 'alias' || found.kind === 'let' ? conditionText(found.view, site) : undefined;
      return alias === undefined ? undefined : { kind: 'alias', text: alias };
    },
  };
}

/** What a getter or a small method gives: its last return, with its constants put in place. */
function functionValue(
  fn: NodePath<t.ClassMethod | t.ArrowFunctionExpression>,
): { value: t.Expression; parameters: string[] } | undefined {
  const parameters = fn.node.params.flatMap((one) => (t.isIdentifier(one) ? [one.name] : []));
  const { body } = fn.node;
  if (t.isExpression(body)) return { value: body, parameters };
  const last = body.body.at(-1);
  if (!t.isReturnStatement(last) || !last.argument) return undefined;
  const locals = new Map(
    body.body.flatMap((one) =>
      t.isVariableDeclaration(one)
        ? one.declarations.flatMap((declared): [string, t.Expression][] =>
            t.isIdentifier(declared.id) && declared.init ? [[declared.id.name, declared.init]] : [],
          )
        : [],
    ),
  );
  if (!locals.size) return { value: last.argument, parameters };
  const value = t.cloneNode(last.argument);
  t.traverseFast(value, (node) => {
    for (const key of ['object', 'left', 'right', 'argument', 'callee', 'expression'] as const) {
      const inner = (node as unknown as Record<string, t.Node | undefined>)[key];
      if (t.isIdentifier(inner) && locals.has(inner.name)) Object.assign(node, { [key]: locals.get(inner.name) });
    }
  });
  return { value, parameters };
}

/** The field of the model that a condition names: by its whole path, or by the end of it. */
function fieldNamed(names: readonly string[], model: FormModel): string | null {
  const fields = fieldsOf(model).map(({ name }) => name);
  for (const name of [...names].reverse()) {
    const plain = name.replace(/\[\]/g, '');
    const exact = fields.find((field) => field.replace(/\[\]/g, '') === plain);
    if (exact !== undefined) return exact;
    const tail = fields.filter(
      (field) =>
        field.endsWith(`.${plain}`) ||
        plain.endsWith(`.${field}`) ||
        field.split('.').at(-1) === plain.split('.').at(-1),
    );
    if (tail.length === 1) return tail[0] ?? null;
  }
  const prefix = names.at(-1);
  return prefix !== undefined && fields.some((field) => field.startsWith(`${prefix}.`)) ? prefix : null;
}

const errorKeys: Partial<Record<Constraint['kind'], string>> = {
  required: 'required',
  'required-true': 'required',
  email: 'email',
  pattern: 'pattern',
  'min-length': 'minlength',
  'max-length': 'maxlength',
  min: 'min',
  max: 'max',
};

/** What the template says where a rule is broken: at the field's own error, or whatever is wrong with it. */
export function textOfRule(rule: Rule, shown: readonly GatedMessage[]): string | undefined {
  const own = shown.filter(({ field, text }) => field === rule.fields[0] && text !== undefined);
  const key = rule.constraint ? errorKeys[rule.constraint.kind] : undefined;
  const telling = own.find(({ keys }) => key !== undefined && keys?.some((one) => one.toLowerCase() === key));
  if (telling) return telling.text;
  const general = own.find(({ keys }) => !keys?.length);
  if (!general?.text) return undefined;
  const chosen = /^\{\{([\s\S]*)\}\}$/.exec(general.text)?.[1];
  const expression = chosen === undefined ? undefined : expressionOf(chosen);
  return t.isConditionalExpression(expression) ? chosenText(expression, key) : general.text;
}

function chosenText(
  { test, consequent, alternate }: t.ConditionalExpression,
  key: string | undefined,
): string | undefined {
  const asked = JSON.stringify(test);
  const side = key !== undefined && asked.includes(`"${key}"`) ? consequent : alternate;
  if (t.isConditionalExpression(side)) return chosenText(side, key);
  return t.isStringLiteral(side) ? side.value : undefined;
}
