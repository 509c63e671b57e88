import { negated } from '../switched.js';
import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import type { Control, Field, FormModel, ValueKind } from '../../form/model.js';
import type { Constraint, Rule } from '../../form/rules.js';
import { checkFunction } from '../../rules/validator-functions.js';
import type { Script } from '../../source/script.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import { typeOfValue, writtenType } from '../class-reading.js';
import { attributeOf, controlFacts, eventOf, kindOfElement, plainText, viewsBetween } from '../form-site.js';
import { messagesFor } from '../form-frame.js';
import type { TemplateElement, TemplateView } from '../template-model.js';
import { rowRules } from './array-fields.js';
import type { BuiltControl } from './structure.js';
import type { BoundControl, Draft } from './bound-controls.js';
import { spanIn } from './template-spans.js';

function kindOf(element: TemplateElement | undefined, type: string | undefined): ValueKind {
  const own = element && kindOfElement(element);
  if (own && own !== 'text') return own;
  if (type === 'boolean') return 'boolean';
  return own ?? (type === 'string' ? 'text' : 'other');
}

/** A control of the model as a field: its kind, type and initial value. */
export function fieldOf(path: string, control: BuiltControl, draft: Draft): Field {
  const element = draft.bound.find(({ field }) => field === path)?.element;
  const inferred = typeOfValue(control.initial);
  const bare = control.type ?? inferred;
  const loose = isLoose(draft);
  const type =
    loose || bare === undefined || control.nonNullable || /\bnull\b/.test(bare) || control.type !== undefined
      ? bare
      : `${bare} | null`;
  const { script } = control;
  const text = control.initial ? script.text.slice(control.initial.start ?? 0, control.initial.end ?? 0) : 'null';
  return {
    name: path,
    kind: kindOf(element, bare),
    role: 'field',
    type: type ?? (text === 'null' ? undefined : type),
    typeWritten: control.type !== undefined,
    initial: {
      code: control.initial ? { ...spanOfNode(script.file, control.initial), holes: [] } : undefined,
      text,
      when: 'constant',
    },
    commentsBefore: [],
    commentBehind: undefined,
    names: { value: path },
    declared: spanOfNode(script.file, control.node),
    resets: control.nonNullable ? 'initial' : 'null',
    ...(loose ? { loose } : {}),
  };
}

/** Whether the group's own type tells nothing of its fields: `form: FormGroup`. */
function isLoose({ form, site }: Draft): boolean {
  const type = writtenType(form.member);
  if (!type) return false;
  return /^(Untyped)?FormGroup(<any>)?$/.test(site.component.script.text.slice(type.start ?? 0, type.end ?? 0));
}

/** The elements that bind a group of the model, with what binds them. */
export function groupsOf(draft: Draft): NonNullable<FormModel['template']>['groups'] {
  const { site } = draft;
  return site.elements.flatMap((element) => {
    const attribute = attributeOf(element, 'formGroupName', 'plain');
    if (!attribute?.value) return [];
    return [
      { name: attribute.value, attributes: [spanIn(site, attribute)], at: element.nameEnd, reference: undefined },
    ];
  });
}

/** An element that is bound to a control of the model, as the form model tells it. */
export function controlOf({ field, element, attribute, rows }: BoundControl, draft: Draft): Control {
  const { site } = draft;
  const built = draft.controls.get(field);
  const views = viewsBetween(element, site.form);
  const odd = rows ? views.length > 1 : views.some(({ kind }) => kind !== 'condition');
  if (odd && plainText(element, 'type') !== 'radio')
    draft.unclear.push({
      span: attribute,
      what: field,
      why: 'the control is shown in a part of the template that is repeated or comes and goes',
    });
  const alias = [...draft.aliases].find(([, one]) => one.field === field)?.[0];
  return {
    ...controlFacts(site, element),
    field,
    wayIn: undefined,
    shows: 'formControlName',
    changes: eventOf(element),
    binding: {
      attributes: [attribute],
      at: element.nameEnd,
      name: plainText(element, 'name'),
      updateOn: built?.updateOn,
      disabled: disabledOf(field, attribute, draft),
      changed: [],
      reference: alias,
      shownWhen: conditionOver(field, views, draft),
      standalone: false,
      rows,
      event: eventOf(element),
    },
  };
}

/** What keeps a control from being used: at all, or while the value of another one is not right. */
function disabledOf(field: string, attribute: Span, draft: Draft): NonNullable<Control['binding']>['disabled'] {
  const { switches, controls, site } = draft;
  const own = switches.get(field);
  if (!own) return controls.get(field)?.disabled ? { span: attribute, text: 'true', constant: true } : undefined;
  const { of, text, statement, again, pipeline, parameter } = own;
  const span = { file: site.component.script.file, ...statement };
  return {
    span,
    text: negated(text),
    constant: false,
    usableWhile: { of, text, ...(again ? { again: { ...again, pipeline, parameter } } : {}) },
  };
}

/** The condition under which a control is shown, where the class does not keep it in step with that by itself. */
function conditionOver(
  field: string,
  views: readonly TemplateView[],
  { site, kept }: Draft,
): { text: string; negated: boolean } | undefined {
  const view = views.find(({ kind }) => kind === 'condition');
  if (!view?.expression || kept.has(field)) return undefined;
  const { start, end } = view.expression.sourceSpan;
  return { text: site.component.template.place.text.slice(start, end), negated: view.negated };
}

/** The rules of the model's validators, with the messages that the template shows for them. */
export function rulesOf(draft: Draft): Rule[] {
  const rules: Rule[] = [];
  for (const [path, control] of draft.controls) {
    const alias = [...draft.aliases].find(([, one]) => one.field === path)?.[0];
    for (const { constraint, start, end } of control.rules) {
      const key = constraint.kind === 'required-true' ? 'required' : constraint.kind.replace('-', '');
      rules.push({
        fields: [path],
        kind: ruleKindOf(constraint),
        condition: conditionOf(constraint),
        message: messagesFor(draft.site, key, alias ?? path.split('.').at(-1)),
        moment: control.updateOn ?? 'change',
        stated: 'angular-validators',
        span: { file: control.script.file, start, end },
        constraint,
        ...checkOf(constraint, control.script, { start, end }, draft),
      });
    }
  }
  for (const array of draft.arrays)
    for (const rule of rowRules(array)) {
      const key = rule.constraint?.kind === 'required-true' ? 'required' : rule.constraint?.kind.replace('-', '');
      rules.push({ ...rule, message: messagesFor(draft.site, key ?? '', undefined) });
    }
  for (const [path, group] of draft.groups) {
    for (const { constraint, start, end } of group.rules) {
      const inside = [...draft.controls.keys()].filter((name) => path === '' || name.startsWith(`${path}.`));
      rules.push({
        fields: inside,
        kind: 'custom',
        condition: conditionOf(constraint),
        message: undefined,
        moment: 'change',
        stated: 'angular-validators',
        span: { file: group.script.file, start, end },
        constraint,
        of: path,
        ...checkOf(constraint, group.script, { start, end }, draft),
      });
    }
  }
  return rules;
}

/** What a function of the project checks, where it says all of it by values. */
function checkOf(
  constraint: Constraint,
  script: Script,
  { start, end }: { start: number; end: number },
  { site }: Draft,
): Pick<Rule, 'check'> {
  if (constraint.kind !== 'custom' || constraint.async) return {};
  let node: t.Node | undefined;
  t.traverseFast(script.ast, (inner) => {
    if (inner.start === start && inner.end === end && t.isExpression(inner)) node ??= inner;
  });
  const check = checkFunction(node, script, site.load);
  return check ? { check } : {};
}
