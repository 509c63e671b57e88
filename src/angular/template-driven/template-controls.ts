import * as t from '@babel/types';
import type { Control, TemplateForm } from '../../form/model.js';
import type { Rule } from '../../form/rules.js';
import type { Span } from '../../form/code.js';
import { isSame, rulesOfElement } from '../attribute-rules.js';
import { codeOf } from '../class-reading.js';
import { declarationNamed } from '../../source/type-members.js';
import { attributeOf, controlFacts, plainText, type AngularSite } from '../form-site.js';
import { messagesFor } from '../form-frame.js';
import type { TemplateVariable } from '../template-model.js';
import { formUpdateOn, type BoundElement } from './controls.js';
import { type Draft, spanIn, isRadio } from './found-fields.js';
import { isPlainChange } from './places.js';

/** What the form model says of the template: where the form stands, its attributes and its variables. */
export function templateOf(
  draft: Draft,
  reference: TemplateVariable | undefined,
  member: string | undefined,
): TemplateForm {
  const { site } = draft;
  const { form } = site;
  const attributes: Span[] = [];
  if (form) {
    if (reference) attributes.push(spanIn(site, reference));
    if (draft.feed) attributes.push(spanIn(site, draft.feed));
    for (const name of ['ngForm', 'ngFormOptions']) {
      const found = attributeOf(form, name);
      if (found) attributes.push(spanIn(site, found));
    }
  }
  const groups = site.elements.flatMap((element) => {
    const attribute = attributeOf(element, 'ngModelGroup', 'plain');
    if (!attribute?.value) return [];
    const named = element.references.find(({ exportAs }) => exportAs === 'ngModelGroup');
    return [
      {
        name: attribute.value,
        attributes: [spanIn(site, attribute), ...(named ? [spanIn(site, named)] : [])],
        at: element.nameEnd,
        reference: named?.name,
      },
    ];
  });
  return {
    file: site.component.template.place.file,
    element: form && spanIn(site, form),
    attributes,
    at: form?.nameEnd ?? 0,
    reference: reference?.name,
    member,
    given: draft.given,
    feed: draft.feed && { attribute: spanIn(site, draft.feed), directive: directiveTelling(draft.feed.name, site) },
    updateOn: formUpdateOn(form),
    groups,
  };
}

/** The listed class of the project that has an event of a name. */
function directiveTelling(event: string, { component, load }: AngularSite): string | undefined {
  const { home } = component;
  const names = home?.list?.elements.flatMap((one) => (t.isIdentifier(one) ? [one.name] : [])) ?? [];
  return names.find((name) => {
    const found = home && declarationNamed(name, home.script, load);
    return (
      t.isClassDeclaration(found?.node) &&
      found.node.body.body.some((member) => t.isClassProperty(member) && t.isIdentifier(member.key, { name: event }))
    );
  });
}

/** A bound element as a control of the form model. */
export function controlOf(
  field: string,
  bound: BoundElement,
  draft: Draft,
  rows?: NonNullable<Control['binding']>['rows'],
): Control {
  const { site } = draft;
  const { element } = bound;
  const attributes: Span[] = [spanIn(site, bound.model)];
  const changed: NonNullable<Control['binding']>['changed'] = [];
  for (const change of bound.changes) {
    attributes.push(spanIn(site, change));
    if (isPlainChange(change, draft) || !change.valuePlace) continue;
    if (bound.model.kind === 'two-way' && change.start < bound.model.start)
      draft.unclear.push({
        span: spanIn(site, change),
        what: change.value ?? '',
        why: 'it runs before the value is stored; behind the two-way binding it would run after it',
      });
    changed.push({ span: spanIn(site, change), code: codeOf(site.component.template.place.file, change.valuePlace) });
  }
  if (changed.length && !/^(input|select|textarea)$/.test(element.tag))
    draft.unclear.push({
      span: spanIn(site, element),
      what: `<${element.tag}>`,
      why: 'which event of this component tells that a person changed it is not known',
    });
  if (bound.options) attributes.push(spanIn(site, bound.options));
  // a bound name is the directive's own, which the page never sees
  if (rows && bound.nameAttribute && bound.nameAttribute.kind !== 'plain' && !isRadio(element))
    attributes.push(spanIn(site, bound.nameAttribute));
  const reference = element.references.find(({ exportAs }) => exportAs === 'ngModel');
  if (reference) attributes.push(spanIn(site, reference));
  const disabled = attributeOf(element, 'disabled', 'plain', 'property');
  const disabledText = disabled?.kind === 'plain' ? 'true' : disabled?.value?.trim();
  const repeated = bound.views.filter(({ kind }) => kind === 'row');
  const condition = bound.views.find(({ kind }) => kind === 'condition');
  const odd = bound.views.find(({ kind }) => kind === 'other') ?? (rows ? condition : undefined);
  if (rows ? repeated.length > 1 : repeated.length && !isRadio(element))
    draft.unclear.push({
      span: spanIn(site, bound.model),
      what: bound.model.value ?? 'ngModel',
      why: 'it is repeated for each row of a list',
    });
  if (odd || bound.views.filter(({ kind }) => kind === 'condition').length > 1)
    draft.unclear.push({
      span: spanIn(site, bound.model),
      what: bound.model.value ?? 'ngModel',
      why: 'the control comes and goes with a part of the template whose condition is not clear',
    });
  const { text, base } = site.component.template.place;
  const conditionPlace = condition?.expression?.sourceSpan;
  return {
    ...controlFacts(site, element),
    field,
    wayIn: changed[0]?.code && text.slice(changed[0].code.start - base, changed[0].code.end - base),
    shows: 'ngModel',
    changes: bound.event,
    binding: {
      attributes: attributes.sort((a, b) => a.start - b.start),
      at: element.nameEnd,
      name: plainText(element, 'name'),
      updateOn: bound.updateOn,
      disabled:
        disabled && disabledText !== undefined && disabledText !== 'false'
          ? { span: spanIn(site, disabled), text: disabledText, constant: disabledText === 'true' }
          : undefined,
      changed,
      reference: reference?.name,
      shownWhen: conditionPlace && {
        text: text.slice(conditionPlace.start, conditionPlace.end),
        negated: condition.negated,
      },
      standalone: bound.standalone,
      rows,
      event: bound.event,
    },
  };
}

/** The rules that the controls' attributes state, with the messages that the template shows for them. */
export function rulesOf(draft: Draft): Rule[] {
  const rules: Rule[] = [];
  const ruled = [
    ...draft.fields,
    ...draft.rowControls.map(({ bound, binding, list }) => ({
      name: `${list.field}[].${binding.keys.join('.')}`,
      bound: [bound],
    })),
  ];
  const { text, base } = draft.site.component.template.place;
  for (const { name, bound } of ruled)
    for (const { element } of bound)
      for (const rule of rulesOfElement(element, name, draft.site.component)) {
        if (rule.constraint && rules.some(isSame(name, rule.constraint))) continue;
        const key = /\w+/.exec(text.slice(rule.span.start - base))?.[0] ?? '';
        const reference = element.references.find(({ exportAs }) => exportAs === 'ngModel')?.name;
        rules.push({
          ...rule,
          message: messagesFor(draft.site, key, reference),
          moment: bound[0]?.updateOn ?? 'change',
        });
      }
  return rules;
}
