import { spanOfNode } from '../../form/code.js';
import * as t from '@babel/types';
import { classChain, templateChain, type Chain } from '../chains.js';
import { parameterReferences } from '../class-reading.js';
import type { Member } from '../component.js';
import { memberDecorator, literalText } from '../decorators.js';
import { plainText, type AngularSite } from '../form-site.js';
import type { TemplateName, TemplateVariable } from '../template-model.js';
import { controlUse, formUse } from '../uses.js';
import type { RowBinding } from './rows.js';
import { type Draft, spanIn, fieldAt, reading, refer } from './found-fields.js';
import { unclearAt } from './places.js';

/** Every place of the template that names the form. */
export function formNameUses(reference: TemplateVariable, draft: Draft): void {
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
  const call = callAround(name);
  const method = component.members.get(call?.called ?? '');
  if (!call || method?.kind !== 'method') {
    draft.unclear.push({
      span: spanIn(draft.site, name),
      what: name.name,
      why: 'it is handed on to code that cannot be followed',
    });
    return;
  }
  const parameter = parameterReferences(method, call.index);
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
export function controlNameUses(draft: Draft): void {
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
  const fieldsGiven = new Map<string, Set<string>>();
  for (const name of names) {
    const field = name.variable && targets.get(name.variable);
    const call = field === undefined ? undefined : callAround(name);
    if (field === undefined || !call) continue;
    fieldsGiven.set(call.key, (fieldsGiven.get(call.key) ?? new Set()).add(field));
  }
  // what stands for several controls is followed apart from any one of them
  const isShared = (name: TemplateName): boolean => (fieldsGiven.get(callAround(name)?.key ?? '')?.size ?? 0) > 1;
  for (const name of names) {
    const field = name.variable && targets.get(name.variable);
    if (field === undefined || !name.variable) continue;
    refer(draft, name.name, spanIn(draft.site, name));
    const chain = templateChain(name, place);
    const row = rows.get(name.variable);
    const use = controlUse(reading(chain, draft), controlLinks(chain), field);
    draft.uses.push(row ? { ...use, row } : use);
    if (row && chain.links.length === 1) unclearAt(draft, chain, 'the control of a row is handed on');
    else if (chain.links.length === 1 && !isShared(name)) followArgument(name, draft, field);
  }
}

/** The call that a name is an argument of: what is called, and which argument it is. */
function callAround(name: TemplateName): { called: string; index: number; key: string } | undefined {
  const call = name.around[1] as unknown as { args?: unknown[]; receiver?: { name?: string } } | undefined;
  const index = call?.args?.indexOf(name.around[0]) ?? -1;
  const called = call?.receiver?.name;
  return index < 0 || called === undefined ? undefined : { called, index, key: `${called}:${index}` };
}

/** Members of the class that ask the template for the form: `@ViewChild('form') form!: NgForm`. */
export function formQueries(site: AngularSite, reference: TemplateVariable | undefined): Member[] {
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

/** Uses of the form through a member of the class that stands for it. */
export function memberUses(member: Member, draft: Draft): void {
  const { script } = draft.site.component;
  for (const path of member.references) {
    refer(draft, member.name, spanOfNode(script.file, path.node));
    const chain = classChain(script.file, path, member.name);
    draft.uses.push(formUse(reading(chain, draft, path), 1, fieldAt(draft)));
  }
}
