import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf } from '../jsx-controls.js';
import {
  asAttributes,
  drawnText,
  isSeenAt,
  renameTag,
  referencesTo,
  says,
  saysAt,
  stays,
  stretch,
  takeAttribute,
  takenApart,
  textIn,
  type Leaving,
} from '../package-leaving/leaving.js';
import { membersTaken } from '../package-leaving/members.js';
import { drawnControl } from '../package-leaving/drawn-control.js';
import { formikTies, tiedTo } from './changes.js';
import { shownWhen } from '../package-leaving/shown.js';
import { nameText } from '../package-leaving/ties.js';
import { isField, keptMember } from '../package-leaving/nested.js';
import { rowFieldNamed } from '../package-leaving/rows.js';
import { sayRows } from './rows.js';
import { drawnBy, partOf, type TakenApart } from './form.js';
import { isAskedBehind, sayMember } from './places.js';
import { walk } from '../../source/traverse.js';

/** Says what a component of the package draws, in elements of the page. */
export function sayPart(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const part = partOf(element);
  if (part === undefined || part === 'Formik' || part === 'FormikProvider') return;
  const say = parts[part];
  if (say) say(apart, element);
  else stays(apart.leaving, element.get('openingElement'), `<${part}> is not drawn without the package yet`);
}

type SayPart = (apart: TakenApart, element: NodePath<t.JSXElement>) => void;

const parts: Readonly<Record<string, SayPart>> = {
  Form: sayForm,
  Field: sayField,
  FastField: sayField,
  ErrorMessage: sayMessage,
  FieldArray: sayRows,
};

function sayForm(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving, names, needs } = apart;
  renameTag(leaving, element, 'form');
  needs.add('handleSubmit');
  let resets = false;
  walk(element, {
    JSXAttribute({ node }) {
      resets ||= t.isJSXIdentifier(node.name, { name: 'type' }) && t.isStringLiteral(node.value, { value: 'reset' });
    },
  });
  if (resets) needs.add('handleReset').add('reset').add('resetBack');
  const own = attributesOf(element).find(({ name }) => /^on(Submit|Reset)$/.test(name));
  if (own) stays(leaving, own.path, 'what the form does itself here is not told');
  const at = element.get('openingElement').node.name.end ?? 0;
  saysAt(leaving, at, at, () => ` onSubmit={${names.handleSubmit}}${resets ? ` onReset={${names.handleReset}}` : ''}`);
}

function sayField(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving } = apart;
  const attributes = attributesOf(element);
  const opening = element.get('openingElement');
  const named = attributes.find(({ name }) => name === 'name');
  const row = rowFieldNamed(apart, named?.value);
  const field = row ? row.key : named?.text;
  if (!named || field === undefined || !(row || isField(apart, field))) {
    stays(leaving, opening, 'its field is told only when the form runs, or is no value of its own');
    return;
  }
  const rule = attributes.find(({ name }) => name === 'validate');
  if (rule?.value) {
    const when = row || apart.drawnBy ? undefined : shownWhen(apart, element);
    if (!when) stays(leaving, rule.path, 'when it is shown is no plain condition');
    else apart.ownRules.push({ field, fn: rule.value, shownWhen: when });
  }
  const fn = element.get('children').find((child) => child.isJSXExpressionContainer());
  const inner = fn?.isJSXExpressionContainer() ? (fn.get('expression') as NodePath) : undefined;
  if (
    inner?.isArrowFunctionExpression() &&
    drawnBy(element) === 'input' &&
    !attributes.some(({ name }) => name === 'as')
  ) {
    if (row) stays(leaving, inner, 'what it draws of a row is not said without the package yet');
    else sayDrawn(apart, element, field, inner);
    return;
  }
  const drawn = attributes.find(({ name }) => name === 'as' || name === 'component');
  const component = drawn?.name === 'as' && drawn.value?.isIdentifier() ? drawn.value : undefined;
  const control = component && drawnControl(element, leaving.site, ['name', 'value', 'onChange', 'onBlur'], component);
  const tag = control?.tag ?? drawnBy(element);
  if (tag === undefined || !/^[a-z]/.test(tag)) {
    stays(leaving, drawn?.path ?? opening, 'what it draws is told only when the form runs');
    return;
  }
  renameTag(leaving, element, component?.node.name ?? tag);
  for (const one of [drawn, rule]) if (one) takeAttribute(leaving, one.path);
  const refs = attributes.find(({ name }) => name === 'innerRef');
  if (refs) says(leaving, refs.path.get('name') as NodePath, 'ref');
  const own = new Set(attributes.map(({ name }) => name));
  if (own.has('onChange') || own.has('onBlur') || own.has('checked')) {
    stays(leaving, opening, 'it is given handlers of its own as well');
    return;
  }
  const tied = (): string[] | undefined =>
    formikTies(apart, { ...tiedTo(element, field, opening), tag, type: control?.type, row }, own);
  if (tied() === undefined) return;
  const at = named.path.node.end ?? 0;
  saysAt(leaving, at, at, () => {
    const lead = asAttributes(leaving, named.path, ['', '']);
    return (tied() ?? []).map((one) => lead + one).join('');
  });
}

/** `<Field name="town">{({ field, meta }) => …}</Field>`: what the function draws, with its own names for the field. */
function sayDrawn(
  apart: TakenApart,
  element: NodePath<t.JSXElement>,
  field: string,
  fn: NodePath<t.ArrowFunctionExpression>,
): void {
  const { leaving, names, needs } = apart;
  const body = fn.get('body') as NodePath;
  const [given] = fn.get('params') as NodePath[];
  if (body.isBlockStatement() || !given?.isObjectPattern()) {
    stays(leaving, fn, 'it does more than draw a part of the page');
    return;
  }
  for (const [key, value] of takenApart(given)) {
    if (!value.isIdentifier()) {
      stays(leaving, value, 'what it takes is no plain name');
      continue;
    }
    const references = referencesTo(leaving, value);
    if (key === 'form') {
      const taken = membersTaken(value);
      for (const one of taken.unclear) stays(leaving, one, 'the form is handed on as a whole');
      for (const place of taken.places) sayMember(apart, place);
      continue;
    }
    for (const reference of references) {
      const parent = reference.parentPath;
      if (key === 'field' && parent?.isJSXSpreadAttribute()) {
        const drawn = parent.parentPath.parentPath as NodePath<t.JSXElement>;
        const own = new Set(attributesOf(drawn).map(({ name }) => name));
        const tied = (): string[] | undefined => formikTies(apart, tiedTo(drawn, field, reference), own);
        if (tied() !== undefined)
          says(leaving, parent, () =>
            asAttributes(leaving, parent, [...(own.has('name') ? [] : [`name="${field}"`]), ...(tied() ?? [])]),
          );
        continue;
      }
      const member =
        parent?.isMemberExpression() && t.isIdentifier(parent.node.property) ? parent.node.property.name : '';
      const text = memberOfField(key ?? '', member, field, apart);
      if (!parent || text === undefined || !isSeenAt(leaving, reference, names.values)) {
        stays(leaving, parent ?? reference, 'it is not said without the package yet');
        continue;
      }
      if (member === 'error') apart.asked.push({ gated: isAskedBehind(parent, /\btouched\b/, leaving.script.text) });
      if (member === 'touched') needs.add('touched');
      if (member === 'error') needs.add('errors');
      says(leaving, parent, text);
    }
  }
  says(leaving, element, () => drawnText(leaving, element, body));
}

function memberOfField(key: string, member: string, field: string, apart: TakenApart): string | undefined {
  const { names } = apart;
  if (key === 'meta') {
    if (member === 'error') return names.errors + keptMember(apart, field);
    if (member === 'touched') return names.touched + keptMember(apart, field);
  }
  if (member === 'value') return `${names.values}.${field}`;
  return key === 'field' && member === 'name' ? nameText(apart, field) : undefined;
}

function sayMessage(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving, names, needs } = apart;
  const attributes = attributesOf(element);
  const named = attributes.find(({ name }) => name === 'name');
  const row = rowFieldNamed(apart, named?.value);
  const field = named?.text;
  if (!row && (field === undefined || !isField(apart, field))) {
    stays(leaving, element, 'its field is told only when the form runs, or is no value of its own');
    return;
  }
  needs.add('errors').add('touched');
  apart.asked.push({ gated: true });
  const key = row && named?.value ? `[${textIn(leaving, named.value)}]` : keptMember(apart, field ?? '');
  const error = `${names.errors}${key}`;
  drawMessage(leaving, element, `${names.touched}${key} && ${error}`, error);
}

/**
 * What `<ErrorMessage>` draws.
 * @param asked the condition under which it draws it
 */
export function drawMessage(leaving: Leaving, element: NodePath<t.JSXElement>, asked: string, error: string): void {
  const attributes = attributesOf(element);
  const drawn = attributes.find(({ name }) => name === 'component');
  const tag = drawn ? (drawn.text ?? (drawn.value?.isIdentifier() ? drawn.value.node.name : undefined)) : undefined;
  const fn = element.get('children').find((child) => child.isJSXExpressionContainer());
  const inner = fn?.isJSXExpressionContainer() ? (fn.get('expression') as NodePath) : undefined;
  const inJsx = element.parentPath.isJSXElement() || element.parentPath.isJSXFragment();
  const place = (text: () => string): void => says(leaving, element, () => (inJsx ? `{${text()}}` : text()));
  if (inner?.isArrowFunctionExpression()) {
    const [given] = inner.get('params') as NodePath[];
    const body = inner.get('body') as NodePath;
    if (!given?.isIdentifier() || body.isBlockStatement()) {
      stays(leaving, inner, 'it does more than draw a part of the page');
      return;
    }
    for (const reference of referencesTo(leaving, given)) says(leaving, reference, error);
    place(() => `${asked} && ${textIn(leaving, body)}`);
    return;
  }
  if (!drawn) {
    place(() => asked);
    return;
  }
  if (tag === undefined) {
    stays(leaving, drawn.path, 'what it draws is told only when the form runs');
    return;
  }
  const rest = attributes.filter(({ name }) => name !== 'name' && name !== 'component');
  const text = (): string =>
    rest.map(({ path }) => ` ${stretch(leaving, path.node.start ?? 0, path.node.end ?? 0)}`).join('');
  place(() => `${asked} && <${tag}${text()}>{${error}}</${tag}>`);
}
