import * as t from '@babel/types';
import { templateChain, type Chain } from '../chains.js';
import {
  initialNode,
  initialObject,
  ownMember,
  partAt,
  signalArgument,
  typeOfValue,
  type InitialObject,
} from '../class-reading.js';
import type { Member } from '../component.js';
import type { AngularSite } from '../form-site.js';
import { importedFrom } from '../../source/handed-names.js';
import type { TemplateAttribute, TemplateElement, TemplateName } from '../template-model.js';

/** The module whose functions make a form over a signal. */
export const signalForms = '@angular/forms/signals';

/** What binds a control: the stable directive, and that of the first beta. */
const directives = /^(formField|field|control)$/;

/** An element that a directive ties to a field of a form over a signal. */
export interface BoundField {
  element: TemplateElement;
  attribute: TemplateAttribute;
  /** The name that its expression begins with: the form's member, or a row's. */
  root: string;
  keys: string[];
  chain: Chain;
  /** What that name stands for where the template declares it. */
  variable: TemplateName['variable'];
}

/** A form over a signal: the members that hold the form and its model, and what the model starts with. */
export interface FoundForm {
  form: Member;
  model: Member;
  /** The rules, as they are handed to the form. */
  schema: t.Node | undefined;
  start: InitialObject;
  /** The type of the model, where one is written. */
  type: t.TSType | undefined;
}

/** The elements of a site that are tied to fields of forms over signals. */
export function boundFields(site: AngularSite): BoundField[] {
  const { names, place } = site.component.template;
  return site.elements.flatMap((element): BoundField[] => {
    const attribute = element.attributes.find(({ kind, name }) => kind === 'property' && directives.test(name));
    const first = names.find((name) => name.attribute === attribute && name.attribute !== undefined);
    if (!attribute || !first) return [];
    const chain = templateChain(first, place);
    const [, ...rest] = chain.links;
    if (rest.some(({ call }) => call)) return [];
    return [
      { element, attribute, root: first.name, keys: rest.map(({ key }) => key), chain, variable: first.variable },
    ];
  });
}

/** The form that a site's controls are tied to; undefined where the class does not make one in sight. */
export function foundForm(site: AngularSite, bound: readonly BoundField[]): FoundForm | undefined {
  const { members, script } = site.component;
  const roots = new Set(bound.map(({ root }) => root));
  for (const form of members.values()) {
    const made = roots.has(form.name) ? initialNode(form) : undefined;
    if (!t.isCallExpression(made) || !t.isIdentifier(made.callee)) continue;
    const { module, name: called } = importedFrom(script, made.callee.name) ?? {};
    if (module !== signalForms || called !== 'form') continue;
    const [of, schema] = made.arguments;
    const model = members.get(ownMember(of) ?? '');
    const signal = signalArgument(model);
    if (!model || !signal) continue;
    const start = initialObject(site.component, signal.value, signal.type, site.load);
    return { form, model, schema, start, type: signal.type };
  }
  return undefined;
}

/** A value of the model that is no group. */
export interface Leaf {
  path: string;
  /** What it starts as, and the type that is written or told by that. */
  part: ReturnType<typeof partAt>;
  type: string | undefined;
}

/** The values of a model that are no groups, in order. */
export function leavesOf({ start }: FoundForm, bound: readonly BoundField[], site: AngularSite): Leaf[] {
  const { component, load } = site;
  const leaves: Leaf[] = [];
  const deeper = new Set(bound.flatMap(({ keys }) => keys.map((_, index) => keys.slice(0, index).join('.'))));
  const walk = (object: InitialObject, path: string): void => {
    for (const [key, part] of object.parts) {
      const own = path === '' ? key : `${path}.${key}`;
      const inner =
        t.isObjectExpression(part.node) || deeper.has(own)
          ? initialObject({ ...component, script: part.script }, part.node, part.written, load)
          : undefined;
      if (inner?.parts.size) walk(inner, own);
      else leaves.push({ path: own, part, type: part.type ?? typeOfValue(part.node) });
    }
  };
  walk(start, '');
  return leaves;
}

/** Whether a name of the template only ties an element to a field. */
export function isBinding({ attribute }: TemplateName): boolean {
  return attribute?.kind === 'property' && directives.test(attribute.name);
}
