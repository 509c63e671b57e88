import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import type { FormSite } from '../approach.js';
import { bodyOf, functionOf } from '../components.js';
import { pascal } from '../form-names.js';
import { accountFor, blockText, newBlock, planOf, type Block } from '../package-leaving/block.js';
import { apartOf, namedAs } from '../package-leaving/apart.js';
import { otherwise } from '../package-leaving/conditions.js';
import { answerOf, ownBody, relative, returnedBy, sayOwnValues } from '../package-leaving/sending.js';
import { shownWhen } from '../package-leaving/shown.js';
import { refuseLate } from '../package-leaving/turns.js';
import {
  commentsIn,
  depthOf,
  drawnText,
  isLeft,
  leavingFrom,
  nameIn,
  reindented,
  says,
  saysAt,
  stays,
  textIn,
  type Leaving,
} from '../package-leaving/leaving.js';
import { forgetNames, refuseUnknown } from '../package-leaving/hook-form.js';
import { membersTaken } from '../package-leaving/members.js';
import { startedAs, takePatterns, typeOfValues } from '../package-leaving/starts.js';
import { addSchemaCheck } from '../package-leaving/schema-check.js';
import { schemaRules } from '../package-leaving/schemas.js';
import { quoted } from '../../source/style.js';
import { addBlock, type Stated } from './block.js';
import type { FormikForm } from './found.js';
import { senderOf, type FormNames, type TakenApart } from './form.js';
import { sayPart } from './parts.js';
import { sayMember } from './places.js';

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
  refuseUnknown(leaving, form, known);
  sayMoments(apart);
  sayHelpers(apart);
  for (const place of form.taken.places) sayMember(apart, place);
  const parts: NodePath<t.JSXElement>[] = [];
  (form.element?.path ?? site.component.path).traverse({ JSXElement: (element) => void parts.push(element) });
  // what stands inside of another part is said first, as that says it again
  for (const element of parts.reverse()) sayPart(apart, element);
  sayTypes(apart);
  refuseLate(leaving, []);
  refuseEndless(apart);
  const block = newBlock();
  const stated = statedIn(apart, block);
  if (!stated || isLeft(leaving)) return leftByHand(leaving.ledger);
  if (!apart.needs.has('handleSubmit'))
    stays(leaving, form.hook ?? site.component.path, 'nothing of the page sends it');
  block.lines.push(...commentsOf(apart));
  if (!keepsChange(apart, stated)) apart.names.change = apart.names.setValues;
  addBlock(apart, stated, block);
  placeBlock(apart, blockText(block, placeOf(apart).indent, leaving, form.hook?.parent.end ?? undefined));
  if (isLeft(leaving)) return leftByHand(leaving.ledger);
  accountFor(leaving, model, form.hook ? 'useFormik' : '<Formik>');
  return planOf(leaving, block);
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
    left: nameIn(leaving, 'leave', 'fieldLeft'),
    setFirst: nameIn(leaving, 'setFirstValues', 'setValuesAtFirst'),
    setFirstStatus: nameIn(leaving, 'setFirstStatus', 'setStatusAtFirst'),
  };
  return {
    ...plain,
    form,
    names,
    helped: new Map(),
    watched: new Map(),
    ownRules: [],
    asked: [],
    send: senderOf(form),
    changes: (next) => `${names.change}(${next})`,
    numberOf: (target) => `Number.isNaN(${target}.valueAsNumber) ? '' : ${target}.valueAsNumber`,
    // a box that is checked last stands last
    listWith: (list, value, checked) =>
      `${checked} ? [...${list}, ${value}] : ${list}.filter((one) => one !== ${value})`,
  };
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

/** Whether a function that comes from outside is said to take the values alone. */
function isGivenValuesOnly(given: NodePath, { script }: Leaving): boolean {
  if (!given.isIdentifier() && !given.isMemberExpression()) return false;
  const name = given.isIdentifier()
    ? given.node.name
    : t.isIdentifier(given.node.property)
      ? given.node.property.name
      : '';
  return (
    new RegExp(`\\b${name}\\??\\s*:\\s*\\(\\s*[\\w$]+\\s*:[^,()]+\\)\\s*=>`).test(script.text) ||
    new RegExp(`\\b${name}\\??\\(\\s*[\\w$]+\\s*:[^,()]+\\)\\s*:`).test(script.text)
  );
}

/** Types of the package that stay in the author’s code are said as what they mean. */
function sayTypes(apart: TakenApart): void {
  const { leaving } = apart;
  leaving.script.program.traverse({
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
  const started = startedAs(leaving, start, type, true);
  if (!started) return undefined;
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
  leaving.site.component.path.traverse({
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

/** How all values are checked: by the author’s function, and by those that controls bring along. */
function checkOf(
  apart: TakenApart,
  type: string | undefined,
  errors: string | undefined,
  block: Block,
): Pick<Stated, 'check' | 'checkLines'> {
  const { leaving, form, ownRules, names } = apart;
  const given = form.options.get('validate');
  const nothing = { check: undefined, checkLines: [] };
  const schema = form.options.get('validationSchema');
  if (schema) {
    if (given ?? ownRules[0]) stays(leaving, schema, 'a function checks beside the schema');
    return askedSchema(apart, schema, type, errors, block) ?? nothing;
  }
  if (!given && !ownRules.length) return nothing;
  const fn = given && (given.isObjectMethod() ? given : functionOf(given));
  if (given && (!fn || fn.node.async || fn.node.params.length > 1)) {
    stays(leaving, given, 'how it checks is not told, or takes time');
    return nothing;
  }
  const isNamed = given?.isIdentifier() === true;
  if (isNamed && !ownRules.length) return { check: (values) => `${given.node.name}(${values})`, checkLines: [] };
  const own = fn && !isNamed ? declaredCheck(apart, fn, ownRules.length ? `${names.check}All` : names.check, type) : [];
  if (!ownRules.length) return { check: (values) => `${names.check}(${values})`, checkLines: own };
  const whole = given ? `{ ...${isNamed ? given.node.name : `${names.check}All`}(${names.values}) }` : '{}';
  const lines = ownRules.flatMap(({ field, fn: rule, shownWhen }, index) => {
    const called = rule.isIdentifier() ? rule.node.name : `(${textIn(leaving, rule)})`;
    const wrong = ownRules.length > 1 ? `wrong${index + 1}` : 'wrong';
    const when = shownWhen.map((text) => (shownWhen.length > 1 ? `(${text()})` : text())).join(' && ');
    const call = `${called}(${names.values}.${field})`;
    return [
      `  const ${wrong} = ${when === '' ? call : `${when} ? ${call} : undefined`};`,
      `  if (${wrong} && !errors.${field}) errors.${field} = ${wrong};`,
    ];
  });
  return {
    check: (values) => `${names.check}(${values})`,
    checkLines: [
      ...own,
      '',
      `function ${names.check}(${names.values}${type === undefined ? '' : `: ${type}`}) {`,
      `  const errors${errors === undefined ? '' : `: ${errors}`} = ${whole};`,
      ...lines,
      '  return errors;',
      '}',
      '',
    ],
  };
}

/** The schema asked as the package asks it: an empty text counts as none. */
function askedSchema(
  apart: TakenApart,
  given: NodePath,
  type: string | undefined,
  errors: string | undefined,
  block: Block,
): Pick<Stated, 'check' | 'checkLines'> | undefined {
  const { leaving, names, fields, kinds } = apart;
  const schema = schemaRules(leaving, given, fields);
  if (!schema) return undefined;
  if (schema.library !== 'yup') stays(leaving, given, 'the package asks schemas of yup alone');
  if (schema.asksAll) stays(leaving, given, 'what its schema asks of all values together reaches no field');
  if ([...kinds.values()].includes('other'))
    stays(leaving, given, 'a schema of values inside of values is not asked here yet');
  const filled = `.filter(([, value]) => value !== ${quoted('', leaving.context.style)})`;
  const lines = [
    '// an empty text counts as none',
    `const given = Object.fromEntries(Object.entries(${names.values})${filled});`,
  ];
  const before = block.lines.length;
  addSchemaCheck(apart, schema, { type, errors }, block, { lines, name: 'given', options: ', context: given' });
  return { check: (values) => `${names.check}(${values})`, checkLines: [...block.lines.splice(before), ''] };
}

/** The author’s function that stood in the option, as one of the component. */
function declaredCheck(apart: TakenApart, fn: NodePath<t.Function>, name: string, type: string | undefined): string[] {
  const { leaving } = apart;
  const [values] = fn.get('params') as NodePath[];
  const body = fn.get('body') as NodePath;
  const typed = values?.isIdentifier() && !values.node.typeAnnotation && type !== undefined ? `: ${type}` : '';
  const parameter = values ? textIn(leaving, values) + typed : '';
  const text = reindented(textIn(leaving, body), depthOf(leaving, fn), '');
  if (!body.isBlockStatement()) return [`const ${name} = (${parameter}) => ${text};`];
  return [
    '',
    `function ${name}(${parameter}) {`,
    ...relative(text, leaving.context.style.indent).map((line) => (line === '' ? '' : `  ${line}`)),
    '}',
    '',
  ];
}

/** Whether a change of values does more than set them. */
function keepsChange({ needs }: TakenApart, { check, derived, onChange }: Stated): boolean {
  return needs.has('change') && check !== undefined && !derived && onChange && needs.has('errors');
}

interface Place {
  indent: string;
  statement: NodePath;
}

/** Where the block goes: in place of the hook’s statement, else in front of what the component gives. */
function placeOf({ leaving, form }: TakenApart): Place {
  if (form.hook) return { statement: form.hook.parentPath, indent: depthOf(leaving, form.hook) };
  const { component } = leaving.site;
  const body = component.kind === 'function' ? bodyOf(component) : undefined;
  const last = body?.get('body').at(-1);
  return last
    ? { statement: last, indent: depthOf(leaving, last) }
    : { statement: leaving.site.component.path, indent: leaving.context.style.indent };
}

function placeBlock(apart: TakenApart, text: string): void {
  const { leaving, form } = apart;
  const { newline } = leaving.context.style;
  const { statement, indent } = placeOf(apart);
  takePatterns(leaving, form.taken.patterns);
  const { element } = form;
  if (!element) {
    says(leaving, statement, text);
    return;
  }
  const { component } = leaving.site;
  const ways = component.kind === 'function' ? returnedBy(component.path) : [];
  const isWhole = ways.length === 1 && ways[0]?.parentPath?.node === component.path.node;
  if (!(isWhole || statement.isReturnStatement()) || ways.length > 1) {
    stays(leaving, statement, 'the component does not end with one thing that it gives');
    return;
  }
  // in a list, or under a condition, the package begins anew with it
  const isOwn = element.path.findParent((parent) => parent.isFunction())?.node === component.path.node;
  if (!isOwn || shownWhen(apart, element.path)?.length !== 0) {
    stays(leaving, element.path.get('openingElement'), 'it comes and goes, and begins anew each time');
    return;
  }
  if (element.content.isBlockStatement()) {
    stays(leaving, element.content, 'the function that draws the form does more than that');
    return;
  }
  says(leaving, element.path, () => drawnText(leaving, element.path, element.content));
  if (isWhole && ways[0]) giveBody(leaving, ways[0], text);
  else saysAt(leaving, statement.node.start ?? 0, statement.node.start ?? 0, `${text}${newline}${newline}${indent}`);
}

/** A body of statements for a component that is a single expression so far. */
function giveBody(leaving: Leaving, drawn: NodePath, lines: string): void {
  const { script, context } = leaving;
  const { newline, semicolon, indent } = context.style;
  const start = drawn.node.start ?? 0;
  const end = drawn.node.end ?? 0;
  const lead = /=>\s*(\(\s*)?$/.exec(script.text.slice(0, start));
  const close = lead?.[1] === undefined ? '' : (/^\s*\)/.exec(script.text.slice(end))?.[0] ?? '');
  if (!lead) {
    stays(leaving, drawn, 'something stands in front of what the component gives');
    return;
  }
  const depth = depthOf(leaving, drawn);
  const isOwnLine = lead[1]?.includes('\n') === true;
  saysAt(leaving, start - lead[0].length + 2, end + close.length, () => {
    const text = reindented(textIn(leaving, drawn), depth, depth + indent);
    const given = isOwnLine ? `(${newline}${depth + indent}${text}${newline}${indent})` : text;
    return ` {${newline}${indent}${lines}${newline}${newline}${indent}return ${given}${semicolon}${newline}}`;
  });
}
