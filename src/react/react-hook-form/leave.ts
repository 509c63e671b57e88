import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { objectBehind } from '../../source/behind-names.js';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { quoted } from '../../source/style.js';
import { typeMembers } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { functionOf } from '../components.js';
import { pascal } from '../form-names.js';
import { calledImport, callsOf, isReactHook } from '../hook-calls.js';
import { groupsOf, nestedFields } from '../package-leaving/nested.js';
import { attributesOf } from '../jsx-controls.js';
import { apartOf, namedAs, type PlainNames } from '../package-leaving/apart.js';
import {
  asAttributes,
  isLeft,
  leavingFrom,
  nameIn,
  says,
  saysAt,
  stays,
  type Leaving,
} from '../package-leaving/leaving.js';
import { refuseLate } from '../package-leaving/turns.js';
import { forgetNames, planByHook, refuseUnknown, targetsOf } from '../package-leaving/hook-form.js';
import { ownBody, sayOwnValues, takenBy } from '../package-leaving/sending.js';
import { startValues } from '../package-leaving/fields.js';
import { startedAs, typeOfValues } from '../package-leaving/starts.js';
import { madeBy, schemaRules, schemaType, type SchemaRules } from '../package-leaving/schemas.js';
import { addBlock, type Stated } from './block.js';
import { sayPart } from './controllers.js';
import type { HookForm } from './found.js';
import { getsFocus, momentsOf, type FormNames, type TakenApart } from './form.js';
import { givenParts, giveParts, type GivenPart } from '../package-leaving/context.js';
import { contextParts } from '../package-leaving/context-parts.js';
import { propTypes } from './given-types.js';
import { handsOn } from './hands-on.js';
import { refuseLists } from './rows.js';
import { boxesInOrder } from './boxes.js';
import type { FieldComponent } from '../package-leaving/field-components.js';
import { giveAllFields } from '../package-leaving/field-giving.js';
import { formFiles } from '../package-leaving/form-files.js';
import { newBlock } from '../package-leaving/block.js';
import { sayFieldComponents } from './field-hooks.js';
import { unsetStarts } from './unset-starts.js';
import { sayHandedFields } from './handed-fields.js';
import { sayFollowed, sayHook } from './followed-hooks.js';
import { sayMember } from './places.js';
import { walk } from '../../source/traverse.js';

const known = new Set(['defaultValues', 'mode', 'reValidateMode', 'shouldFocusError', 'resolver']);

/** Takes a form off the package: values, errors and status into state variables, and its events into functions. */
export function leaveHookForm(model: FormModel, context: WriteContext, site: FormSite, form: HookForm): RewritePlan {
  const leaving = leavingFrom(site, context);
  const apart = apartFrom(leaving, form);
  const moments = momentsOf(form);
  if (!moments) stays(leaving, form.options.get('mode') ?? form.call, 'when it checks is told only when the form runs');
  if (!apart || !moments) return leftByHand(leaving.ledger);
  const block = newBlock();
  const files = formFiles(leaving, block);
  const parts = givenParts(apart, handsOn, files, (inner) => ({
    ...apart,
    leaving: inner.leaving,
    form: { ...form, taken: inner.taken },
    watched: new Map(),
    drawnBy: { apart, element: inner.element },
  }));
  refuseUnknown(leaving, form, known);
  const blurs = moments.before !== 'onSubmit' && moments.before !== 'onChange' ? true : moments.after === 'onBlur';
  const asksLeft = [form.taken, ...parts.map(({ taken }) => taken)].some(({ places }) =>
    places.some(({ member }) => member === 'formState.touchedFields'),
  );
  if (blurs || asksLeft) apart.needs.add('handleBlur');
  if (moments.before === 'onTouched') apart.needs.add('touched');
  const fields = [...sayFieldComponents(apart, files), ...sayHandedFields(apart, files)];
  sayAll(apart, site, parts, fields);
  giveAllFields(apart, fields, files, apart.needs.has('handleBlur'));
  saySender(apart);
  refuseLists(apart, parts);
  refuseLate(
    leaving,
    apart.rules.flatMap(({ rules }) => rulesAlone(rules)),
  );
  if (!apart.needs.has('handleSubmit')) stays(leaving, form.hook, 'nothing of the page sends it');
  const stated = statedIn(apart, moments);
  if (!stated || isLeft(leaving)) return leftByHand(leaving.ledger);
  if (stated.focuses || apart.needs.has('focusField')) sayFormElement(apart, site);
  const plan = planByHook(leaving, model, form, ['defaultValues'], block, () => {
    addBlock(apart, stated, block);
    giveParts(parts, apart, apart.type, (values) => propTypes(apart, stated, values), files);
  });
  return plan.edits.length ? { ...plan, edits: [...plan.edits, ...files.edits()] } : plan;
}

/** What is stated of a value, without what is done besides when it changes. */
function rulesAlone(rules: NodePath<t.ObjectExpression> | undefined): t.Node[] {
  const isDone = (node: t.Node): boolean => t.isObjectProperty(node) && t.isIdentifier(node.key, { name: 'onChange' });
  return rules?.node.properties.filter((one) => !isDone(one)) ?? [];
}

function apartFrom(leaving: Leaving, form: HookForm): TakenApart | undefined {
  const { context } = leaving;
  forgetNames(leaving, targetsOf(form));
  const { locals } = form.taken;
  const plainNames = new Map([...locals].map(([member, local]) => [member.replace('formState.', ''), local]));
  const renamed = new Map([
    ...plainNames,
    ['resetForm', plainNames.get('reset') ?? 'reset'],
    ['dirty', plainNames.get('isDirty') ?? 'isDirty'],
  ]);
  const sender = declaredSender(form);
  if (sender) {
    const binding = sender.scope.getBinding(sender.node.name);
    if (binding) leaving.gone.add(binding);
    renamed.set('handleSubmit', sender.node.name);
  }
  const unset = unsetStarts(leaving, form);
  const plain = apartOf(leaving, form.options.get('defaultValues'), form.call, renamed, unset.values);
  if (!plain) return undefined;
  const schema = resolverOf(plain, form);
  const send = senderOf(form);
  if (schema?.makes === true && !sender) nameApart(leaving, send, plain.names);
  const submitted = namedAs(leaving, plainNames.get('isSubmitted'), 'submitted', 'sendTried');
  const succeeded = namedAs(leaving, plainNames.get('isSubmitSuccessful'), 'succeeded', 'sendSucceeded');
  const failure = nameIn(leaving, 'failure', 'formError', 'sendFailure');
  const names: FormNames = {
    ...plain.names,
    submitted,
    setSubmitted: nameIn(leaving, `set${pascal(submitted)}`, 'setSendTried'),
    succeeded,
    setSucceeded: nameIn(leaving, `set${pascal(succeeded)}`, 'setSendSucceeded'),
    failure,
    setFailure: nameIn(leaving, `set${pascal(failure)}`, 'setSendFailure'),
    recheck: nameIn(leaving, 'recheck', 'checkAgain'),
    focusField: namedAs(leaving, plainNames.get('setFocus'), 'focusField', 'giveFocus'),
    resetField: namedAs(leaving, plainNames.get('resetField'), 'resetField', 'setFieldBack'),
    formRef: nameIn(leaving, 'formRef', 'pageForm'),
  };
  const numeric = new Set<string>();
  return {
    ...plain,
    form,
    sendName: sender && nameIn(leaving, 'send', 'sendValues', 'sendForm'),
    type: leaving.script.typescript
      ? ((!form.type && schema ? schemaType(leaving, schema) : undefined) ??
        typeOfValues(leaving, form.type, form.options.get('defaultValues'), []))
      : undefined,
    names,
    rules: [],
    unset: new Map(unset.values.map(({ name }, index) => [name, unset.pairs[index] ?? ''])),
    schema,
    besides: new Map(),
    refused: undefined,
    sent: schema?.makes === true ? madeBy(schema, names.values) : undefined,
    numeric,
    along: new Map(),
    watched: new Map(),
    references: new Map(),
    lists: new Map(),
    silent: new Set(),
    worded: new Set(),
    typed: new Set(),
    controls: new Map(),
    firstControls: new Map(),
    watchers: new Set(),
    send,
    changes: (next, name) =>
      names.change === names.setValues ? `${names.setValues}(${next})` : `${names.change}(${next}, ${name})`,
    numberOf: (target, field) => (numeric.has(field) ? `${target}.valueAsNumber` : `${target}.value`),
    // a control without a number holds none, and shows nothing
    shownValue: (held, field) =>
      numeric.has(field) ? `Number.isNaN(${held}) ? ${quoted('', context.style)} : ${held}` : held,
    listWith: boxesInOrder,
  };
}

/** The constant that a component keeps `handleSubmit(send)` in. */
function declaredSender({ taken }: HookForm): NodePath<t.Identifier> | undefined {
  for (const { member, path } of taken.places) {
    const declarator = member === 'handleSubmit' ? path.parentPath?.parentPath : undefined;
    const id = declarator?.isVariableDeclarator() ? (declarator.get('id') as NodePath) : undefined;
    if (id?.isIdentifier()) return id;
  }
  return undefined;
}

/** The schema that the package's resolver asks: `resolver: zodResolver(schema)`. */
function resolverOf(plain: Pick<TakenApart, 'leaving' | 'fields' | 'starts'>, form: HookForm): SchemaRules | undefined {
  const { leaving, fields } = plain;
  const given = form.options.get('resolver');
  if (!given) return undefined;
  const call = given.isCallExpression() ? given : undefined;
  const made = call && calledImport(call);
  const [schema, ...more] = (call?.get('arguments') ?? []) as (NodePath | undefined)[];
  if (!schema || more.length || !made || !/^@hookform\/resolvers\/(?:zod|yup)$/.test(made.module)) {
    stays(leaving, given, 'how it is checked as a whole is not told');
    return undefined;
  }
  return schemaRules(leaving, schema, fields, listsOf(leaving, form) + groupsOf(plain).length);
}

/** How many lists of rows the components of a form keep with the package. */
function listsOf({ site }: Leaving, form: HookForm): number {
  return [site, ...contextParts(site, form, handsOn).parts]
    .flatMap(({ component }) => callsOf(component.path, 'react-hook-form'))
    .filter(({ name }) => name === 'useFieldArray').length;
}

/** Another name for the values, where the function that sends has theirs for what it is given. */
function nameApart(leaving: Leaving, send: TakenApart['send'], names: PlainNames): void {
  const [values] = send?.fn?.get('params') ?? [];
  if (send?.fn?.node !== send?.given.node || !values?.isIdentifier({ name: names.values })) return;
  names.values = nameIn(leaving, 'formValues', 'entries');
  names.setValues = nameIn(leaving, `set${pascal(names.values)}`, 'setAllValues');
}

/** The function that a form is sent with: the one that every call of `handleSubmit` is given. */
function senderOf({ taken }: HookForm): TakenApart['send'] {
  const given = taken.places.flatMap(({ member, path }) => {
    const call = path.parentPath;
    return member === 'handleSubmit' && call?.isCallExpression() && path.key === 'callee'
      ? [call.get('arguments')[0] as NodePath | undefined]
      : [];
  });
  const [only, ...more] = given;
  return only && !more.length ? { given: only, fn: functionOf(only) } : undefined;
}

/** Says every place of the component that speaks of the package. */
function sayAll(
  apart: TakenApart,
  site: FormSite,
  parts: readonly GivenPart<TakenApart>[],
  fields: readonly FieldComponent[],
): void {
  sayFollowed(apart, site, [...parts, ...fields]);
  sayPlaces(apart, site);
  for (const part of parts) {
    for (const { call } of callsOf(part.component.path, 'react-hook-form'))
      if (call.node !== part.made?.node) sayHook(part.apart, call);
    sayPlaces(part.apart, part.site);
  }
  // of several controls of one field the last one says its rules
  const rules = apart.rules.filter(
    (one, index) => !apart.rules.slice(index + 1).some((later) => later.field === one.field && !later.shownWhen.length),
  );
  // a control that is shown later is registered, and gets the focus, behind those that are there at first
  const late = ({ shownWhen }: TakenApart['rules'][number]): number =>
    shownWhen.every((text) => holdsAtFirst(apart, text())) ? 0 : 1;
  rules.sort((a, b) => late(a) - late(b) || a.at - b.at);
  apart.rules.splice(0, apart.rules.length, ...rules);
}

/** Says the places of one component, and the package’s elements in it. */
function sayPlaces(apart: TakenApart, { component }: FormSite): void {
  // which values names stand for is known before conditions are told in their words
  const order = (member: string): number => (member === 'watch' ? 0 : member === 'register' ? 2 : 1);
  const places = [...apart.form.taken.places].sort(
    (a, b) => order(a.member) - order(b.member) || (a.path.node.start ?? 0) - (b.path.node.start ?? 0),
  );
  for (const place of places) sayMember(apart, place);
  const elements: NodePath<t.JSXElement>[] = [];
  walk(component.path, { JSXElement: (element) => void elements.push(element) });
  for (const element of elements) sayPart(apart, element);
}

/** Whether a condition holds for the values that the form begins with, as far as it is told. */
function holdsAtFirst({ leaving, form, names }: TakenApart, condition: string): boolean {
  const given = form.options.get('defaultValues');
  // of several that it may begin as none is sure
  const isSure = given && objectBehind({ path: given, script: leaving.script }, leaving.site.load) !== undefined;
  const start = (isSure && startValues(given, leaving.site)) || [];
  const asked = new RegExp(`^(!?)${names.values}\\.(\\w+)(?: ([!=]==) (['"])(.*)\\4)?$`).exec(condition);
  const value = start.find(({ name }) => name === asked?.[2])?.path.node;
  if (!asked || !value) return false;
  const [, not, , operator, , text] = asked;
  if (operator !== undefined) return (t.isStringLiteral(value) && value.value === text) === (operator === '===');
  const isSet = t.isStringLiteral(value)
    ? value.value !== ''
    : t.isBooleanLiteral(value)
      ? value.value
      : !t.isNullLiteral(value);
  return isSet === (not === '');
}

/** Whether a name is a reference that the component made: `useRef(null)`. */
function isReference(path: NodePath<t.Identifier>): boolean {
  const declared = path.scope.getBinding(path.node.name)?.path;
  const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  return init?.isCallExpression() === true && isReactHook(init, 'useRef');
}

/** The page’s form is looked into when a wrong control gets the focus. */
function sayFormElement(apart: TakenApart, { region }: FormSite): void {
  const { leaving, names, needs } = apart;
  const element = region.element;
  const own = element && attributesOf(element).find(({ name }) => name === 'ref')?.value;
  if (own?.isIdentifier() && isReference(own)) {
    names.formRef = own.node.name;
    needs.add('own reference');
    return;
  }
  if (!element || attributesOf(element).some(({ name }) => name === 'ref')) {
    stays(
      leaving,
      element ?? leaving.site.component.path,
      'the form in which a wrong control gets the focus is not told',
    );
    return;
  }
  const [first] = element.get('openingElement').get('attributes');
  const at = first?.node.start ?? element.node.openingElement.name.end ?? 0;
  saysAt(
    leaving,
    at,
    at,
    first ? asAttributes(leaving, first, [`ref={${names.formRef}}`, '']) : ` ref={${names.formRef}}`,
  );
}

/** The type that the package gives the function which sends, said without it. */
function saySender(apart: TakenApart): void {
  const { leaving, send, form } = apart;
  if (!send) {
    stays(leaving, form.call, 'it is sent in several ways, or in none that is told');
    return;
  }
  const { fn, given } = send;
  if (!fn) {
    const takes = takenBy(given, leaving);
    apart.sendsEvent = takes !== 'values';
    if (takes === undefined && leaving.script.typescript)
      stays(leaving, given, 'whether it takes more than the values is not told');
    return;
  }
  sayOwnValues(apart);
  const [values, ...more] = fn.get('params') as NodePath[];
  if (more.length) stays(leaving, fn, 'it takes more than the values');
  const declarator = fn.parentPath;
  const id = declarator?.isVariableDeclarator() ? declarator.node.id : undefined;
  const note = t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation) ? id.typeAnnotation : undefined;
  const isHandler = note !== undefined && /^SubmitHandler</.test(textOfNode(leaving, note.typeAnnotation));
  const made = form.call.node.typeParameters?.params[2];
  const [told] =
    isHandler && t.isTSTypeReference(note.typeAnnotation) ? (note.typeAnnotation.typeParameters?.params ?? []) : [];
  const said = made ?? told;
  const type = said
    ? textOfNode(leaving, said)
    : (apart.type ?? typeOfValues(leaving, form.type, form.options.get('defaultValues'), []));
  if (isHandler) saysAt(leaving, note.start ?? 0, note.end ?? 0, '');
  const isUntyped = values?.isIdentifier() === true && !values.node.typeAnnotation;
  if (
    leaving.script.typescript &&
    isUntyped &&
    type !== undefined &&
    (isHandler || (fn.node === given.node && !ownBody(apart)))
  ) {
    const end = values.node.end ?? 0;
    const isBare =
      leaving.script.text
        .slice(0, values.node.start ?? 0)
        .trimEnd()
        .at(-1) !== '(';
    if (!made && !told && apart.schema?.retypes)
      stays(leaving, values, 'the type that the schema makes of it is not told');
    if (isBare) says(leaving, values, `(${values.node.name}: ${type})`);
    else saysAt(leaving, end, end, `: ${type}`);
  }
}

function textOfNode({ script }: Leaving, { start, end }: t.Node): string {
  return script.text.slice(start ?? 0, end ?? 0);
}

/** A value that the type of all of them asks for, and that the form does not begin with. */
function untoldIn({ leaving, fields }: TakenApart, type: t.TSType): string | undefined {
  const members = typeMembers({ node: type, script: leaving.script }, leaving.site.load);
  return [...members].find(([name, { optional }]) => !optional && !fields.includes(name))?.[0];
}

function statedIn(apart: TakenApart, moments: Stated['moments']): Stated | undefined {
  const { leaving, form } = apart;
  const start = form.options.get('defaultValues');
  const added = [...apart.unset.values()];
  if (!start && !added.length) return undefined;
  if (added.length && (apart.needs.has('dirty') || apart.needs.has('reset field')))
    stays(leaving, form.call, 'what is changed is told by what it begins as, which not all of its fields are');
  const untold = added.length && form.type ? untoldIn(apart, form.type) : undefined;
  if (untold !== undefined)
    stays(leaving, form.call, `what ${untold} begins as is told by no value, and by no control of the form`);
  const started = startedAs(leaving, start, apart.type, true, added);
  if (!started) return undefined;
  apart.type = started.type;
  // what is kept of rows has their names: `lines.0.count`
  const byName = (apart.rows.size > 0 || nestedFields(apart).length > 0) && leaving.script.typescript;
  const off = form.options.get('shouldFocusError')?.isBooleanLiteral({ value: false }) === true;
  return {
    ...started,
    ...(byName ? { errors: 'Partial<Record<string, string>>', touched: 'Partial<Record<string, boolean>>' } : {}),
    moments,
    focuses: !off && apart.rules.some((one) => getsFocus(apart, one)),
  };
}
