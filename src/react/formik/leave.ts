import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import type { FormSite } from '../approach.js';
import { pascal } from '../form-names.js';
import { accountFor, blockText, newBlock, planOf, type Block } from '../package-leaving/block.js';
import { apartOf, namedAs } from '../package-leaving/apart.js';
import { otherwise } from '../package-leaving/conditions.js';
import { refuseContext } from '../package-leaving/drawn-components.js';
import { nestedFields } from '../package-leaving/nested.js';
import { answerOf, isGivenValuesOnly, ownBody, returnedBy, sayOwnValues } from '../package-leaving/sending.js';
import { refuseLate } from '../package-leaving/turns.js';
import {
  commentsIn,
  isLeft,
  leavingFrom,
  nameIn,
  says,
  saysAt,
  stays,
  type Leaving,
} from '../package-leaving/leaving.js';
import { forgetNames, refuseUnknown } from '../package-leaving/hook-form.js';
import { membersTaken } from '../package-leaving/members.js';
import { startedAs, typeOfValues } from '../package-leaving/starts.js';
import { addBlock, type Stated } from './block.js';
import { checkOf } from './checks.js';
import { placeBlock, placeOf } from './place.js';
import type { FormikForm } from './found.js';
import { senderOf, type FormNames, type TakenApart } from './form.js';
import { giveAllFields } from '../package-leaving/field-giving.js';
import { formFiles } from '../package-leaving/form-files.js';
import { callsOf } from '../hook-calls.js';
import { givenParts, giveParts } from '../package-leaving/context.js';
import { sayFieldComponents } from './field-hooks.js';
import { propTypes } from './given-types.js';
import { handsOn } from './hands-on.js';
import { sayPart } from './parts.js';
import { sayMember } from './places.js';
import { refuseNested } from './rows.js';
import { walk } from '../../source/traverse.js';

const known = new Set([
  'initialValues',
  'initialStatus',
  'validate',
  'validationSchema',
  'validateOnChange',
  'validateOnBlur',
  'validateOnMount',
  'onSubmit',
]);

/** Takes a form off the package: values, errors and status into state variables, and its events into functions. */
export function leaveFormik(model: FormModel, context: WriteContext, site: FormSite, form: FormikForm): RewritePlan {
  const leaving = leavingFrom(site, context);
  const apart = apartFrom(leaving, form);
  if (!apart) return leftByHand(leaving.ledger);
  sayMoments(apart);
  const block = newBlock();
  const files = formFiles(leaving, block);
  const parts = givenParts(
    apart,
    handsOn,
    files,
    (inner) => ({
      ...apart,
      leaving: inner.leaving,
      form: { ...form, taken: inner.taken },
      drawnBy: { apart, element: inner.element },
    }),
    form.element?.path,
  );
  refuseUnknown(leaving, form, known);
  apart.asksSubmitting = [form.taken, ...parts.map(({ taken }) => taken)].some(({ places }) =>
    places.some(({ member }) => member === 'isSubmitting'),
  );
  sayHelpers(apart);
  sayPlaces(apart, form.element?.path ?? site.component.path);
  for (const part of parts) {
    sayPlaces(part.apart, part.component.path);
    for (const { call, name } of callsOf(part.component.path, 'formik'))
      if (call.node !== part.made?.node)
        stays(part.apart.leaving, call, `${name} of the package is not said here without it yet`);
  }
  const fields = sayFieldComponents(apart, files);
  sayTypes(apart);
  refuseContext(leaving, 'formik', new Set([...fields, ...parts].map(({ component }) => component.path.node)));
  refuseNested(apart);
  refuseLate(leaving, []);
  refuseEndless(apart);
  const checks = form.options.has('validate') || form.options.has('validationSchema') || apart.ownRules.length > 0;
  apart.errorless = !checks && !apart.needs.has('setErrors');
  giveAllFields(apart, fields, files, true);
  const stated = statedIn(apart, block);
  if (!stated || isLeft(leaving)) return leftByHand(leaving.ledger);
  if (!apart.needs.has('handleSubmit'))
    stays(leaving, form.hook ?? site.component.path, 'nothing of the page sends it');
  block.lines.push(...commentsOf(apart));
  if (!keepsChange(apart, stated)) apart.names.change = apart.names.setValues;
  addBlock(apart, stated, block);
  giveParts(parts, apart, stated.type, (values) => propTypes(apart, stated, values), files);
  placeBlock(apart, blockText(block, placeOf(apart).indent, leaving, form.hook?.parent.end ?? undefined));
  if (isLeft(leaving)) return leftByHand(leaving.ledger);
  accountFor(leaving, model, form.hook ? 'useFormik' : '<Formik>');
  const plan = planOf(leaving, block);
  return { ...plan, edits: [...plan.edits, ...files.edits()] };
}

/** Says the places of one component, and the package’s elements in it. */
function sayPlaces(apart: TakenApart, root: NodePath): void {
  for (const place of apart.form.taken.places) sayMember(apart, place);
  const elements: NodePath<t.JSXElement>[] = [];
  walk(root, { JSXElement: (element) => void elements.push(element) });
  // what stands inside of another part is said first, as that says it again
  for (const element of elements.reverse()) sayPart(apart, element);
}

function apartFrom(leaving: Leaving, form: FormikForm): TakenApart | undefined {
  forgetNames(leaving, targetsIn(form));
  const { locals } = form.taken;
  const made = form.hook ?? form.element?.path ?? leaving.site.component.path;
  const plain = apartOf(leaving, form.options.get('initialValues'), made, locals);
  if (!plain) return undefined;
  const status = namedAs(leaving, locals.get('status'), 'status', 'formStatus');
  const names: FormNames = {
    ...plain.names,
    status,
    setStatus: namedAs(leaving, locals.get('setStatus'), `set${pascal(status)}`, 'setFormStatus'),
    handleReset: namedAs(leaving, locals.get('handleReset'), 'handleReset', 'startOver'),
    firstStatus: nameIn(leaving, 'firstStatus', 'statusAtFirst'),
    setFirstStatus: nameIn(leaving, 'setFirstStatus', 'setStatusAtFirst'),
  };
  const apart: TakenApart = {
    ...plain,
    form,
    names,
    helped: new Map(),
    watched: new Map(),
    asksSubmitting: false,
    ownRules: [],
    asked: [],
    send: senderOf(form),
    changes: (next) => `${names.change}(${next})`,
    numberOf: (target) => `Number.isNaN(${target}.valueAsNumber) ? '' : ${target}.valueAsNumber`,
    // a box that is checked last stands last
    listWith: (list, value, checked) =>
      `${checked} ? [...${list}, ${value}] : ${list}.filter((one) => one !== ${value})`,
  };
  return apart;
}

/** A sending flag that the package lowers by the answer of what sends, where that answer is not told. */
function refuseEndless({ leaving, needs, send }: TakenApart): void {
  if (!send || !needs.has('submitting') || answerOf(send.fn) !== 'something') return;
  const { text } = leaving.script;
  const [answer] = send.fn ? returnedBy(send.fn) : [send.given];
  const called = answer?.isCallExpression() ? answer.node.callee : answer?.node;
  const name = t.isMemberExpression(called) ? called.property : called;
  const isPromise = t.isIdentifier(name) && new RegExp(`\\b${name.name}\\??\\s*[:(][^\\n]*Promise`).test(text);
  if (!isPromise) stays(leaving, send.given, 'whether its answer ends the sending is not told');
}

/** Comments that stood between the options of the package. */
function commentsOf({ leaving, form }: TakenApart): string[] {
  const made = form.hook?.parentPath ?? form.element?.path.get('openingElement');
  return made
    ? commentsIn(
        leaving,
        made.node,
        [...form.options.values()].map(({ node }) => node),
      )
    : [];
}

/** Where the package’s members came by name. */
function targetsIn({ hook, element, taken }: FormikForm): NodePath[] {
  const targets = [
    hook?.get('id') as NodePath | undefined,
    ...(element?.render ? (element.render.get('params') as NodePath[]) : []),
    ...taken.patterns.map((one) => one.get('id') as NodePath),
  ];
  return targets.filter((one) => one !== undefined);
}

/** When the package checks has to be told where it is given. */
function sayMoments({ leaving, form }: TakenApart): void {
  for (const [name, path] of form.options) {
    if (!/^validateOn/.test(name)) continue;
    const { start, end } = path.node;
    if (path.isBooleanLiteral()) otherwise(leaving, [start, end], path.parent, 'its events say when it checks');
    else stays(leaving, path, 'when it checks is told only when the form runs');
  }
}

/** The helpers that the function which sends takes, and their places in it. */
function sayHelpers(apart: TakenApart): void {
  const { leaving, send, form } = apart;
  const given = form.options.get('onSubmit');
  if (!send || !given) {
    stays(leaving, form.hook ?? form.element?.path ?? leaving.site.component.path, 'what it sends with is not told');
    return;
  }
  const { fn } = send;
  if (!fn) {
    if (!isGivenValuesOnly(given, leaving)) stays(leaving, given, 'whether it takes more than the values is not told');
    return;
  }
  sayOwnValues(apart);
  const [, helpers, ...more] = fn.get('params') as NodePath[];
  if (more.length) stays(leaving, fn, 'it takes more than the values and the helpers');
  if (!helpers) return;
  if (!fn.findParent((parent) => parent === leaving.site.component.path)) {
    stays(leaving, helpers, 'the helpers are taken outside of the component');
    return;
  }
  forgetNames(leaving, [helpers]);
  const taken = membersTaken(helpers);
  for (const { member, path } of taken.places) apart.helped.set(path.node, member);
  for (const one of taken.unclear) stays(leaving, one, 'the helpers are handed on as a whole');
  for (const place of taken.places) sayMember(apart, place);
  if (fn.node !== given.node || !ownBody(apart)) {
    const [values] = fn.get('params') as NodePath[];
    saysAt(leaving, values?.node.end ?? 0, helpers.node.end ?? 0, '');
  }
}

/** Types of the package that stay in the author’s code are said as what they mean. */
function sayTypes(apart: TakenApart): void {
  const { leaving } = apart;
  walk(leaving.script.program, {
    TSTypeReference(path) {
      const { node } = path;
      if (!t.isIdentifier(node.typeName)) return;
      const declared = leaving.script.program.scope.getBinding(node.typeName.name)?.path;
      if (
        !declared?.isImportSpecifier() ||
        !t.isImportDeclaration(declared.parent) ||
        declared.parent.source.value !== 'formik'
      )
        return;
      const imported = t.isIdentifier(declared.node.imported)
        ? declared.node.imported.name
        : declared.node.imported.value;
      const [of] = node.typeParameters?.params ?? [];
      const text = of ? leaving.script.text.slice(of.start ?? 0, of.end ?? 0) : undefined;
      if (imported === 'FormikErrors' && text !== undefined)
        says(leaving, path, `Partial<Record<keyof ${text}, string>>`);
      else if (imported === 'FormikTouched' && text !== undefined)
        says(leaving, path, `Partial<Record<keyof ${text}, boolean>>`);
    },
  });
}

function statedIn(apart: TakenApart, block: Block): Stated | undefined {
  const { leaving, form, needs, names } = apart;
  const { options } = form;
  const { typescript, text } = leaving.script;
  const start = options.get('initialValues');
  if (!start) return undefined;
  const type = typescript
    ? typeOfValues(leaving, form.type, start, [apart.send?.fn, options.get('validate')])
    : undefined;
  const begun = startedAs(leaving, start, type, true);
  if (!begun) return undefined;
  // what is kept of rows has their names: `lines.0.what`
  const byName = (apart.rows.size > 0 || nestedFields(apart).length > 0) && typescript;
  const started = byName
    ? { ...begun, errors: 'Partial<Record<string, string>>', touched: 'Partial<Record<string, boolean>>' }
    : begun;
  const off = (name: string): boolean => options.get(name)?.isBooleanLiteral({ value: false }) === true;
  const [onChange, onBlur] = [!off('validateOnChange'), !off('validateOnBlur')];
  const mount = options.get('validateOnMount')?.isBooleanLiteral({ value: true }) === true;
  const isUnseen = apart.asked.every(({ gated }) => gated) && !needs.has('valid');
  // checked with the first view, errors are those of the values at any time
  const asksAll = (mount || isUnseen) && !needs.has('setErrors');
  const { check, checkLines } = checkOf(apart, started.type, started.errors, block);
  const derived = check !== undefined && onChange && onBlur && asksAll;
  const first = options.get('validateOnMount')?.parentPath;
  if (mount && first && check !== undefined && !derived)
    stays(leaving, first, 'what it checks with the first view changes at other moments');
  const status = options.get('initialStatus');
  const statusText = status ? text.slice(status.node.start ?? 0, status.node.end ?? 0) : '';
  if (needs.has('status') && !status && typescript && !saysTexts(apart)) {
    stays(leaving, form.hook ?? form.element?.path ?? start, 'the type of its status is not told');
    return undefined;
  }
  if (needs.has('touched') && !names.touched) return undefined;
  return {
    ...started,
    check,
    checkLines,
    derived,
    onChange,
    onBlur,
    status: { start: statusText, type: status || !typescript ? undefined : 'string | undefined' },
  };
}

/** Whether every status that is told is a text, or none. */
function saysTexts({ leaving }: TakenApart): boolean {
  let texts = true;
  walk(leaving.site.component.path, {
    CallExpression({ node }) {
      const { callee } = node;
      const name = t.isIdentifier(callee)
        ? callee.name
        : t.isMemberExpression(callee) && t.isIdentifier(callee.property)
          ? callee.property.name
          : '';
      if (name !== 'setStatus') return;
      const [first] = node.arguments;
      if (
        first &&
        !t.isStringLiteral(first) &&
        !t.isTemplateLiteral(first) &&
        !t.isIdentifier(first, { name: 'undefined' })
      )
        texts = false;
    },
  });
  return texts;
}

/** Whether a change of values does more than set them. */
function keepsChange({ needs }: TakenApart, { check, derived, onChange }: Stated): boolean {
  return needs.has('change') && check !== undefined && !derived && onChange && needs.has('errors');
}
