import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { behindName, memberNamed } from '../../source/behind-names.js';
import { typeMembers } from '../../source/type-members.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { importOfTag } from '../hook-calls.js';
import { pairOf, valuesWith } from '../package-leaving/apart.js';
import { otherwise } from '../package-leaving/conditions.js';
import {
  asAttributes,
  drawnText,
  nameIn,
  referencesTo,
  sayName,
  says,
  saysAt,
  stays,
  takeAttribute,
  takeStatement,
  takenApart,
  textIn,
} from '../package-leaving/leaving.js';
import { declaredBy } from '../package-leaving/hook-form.js';
import { callOf } from '../package-leaving/members.js';
import { attributeOf, isTested, nameText, tiedBy } from '../package-leaving/ties.js';
import { errorOf, notesFocus, type TakenApart } from './form.js';
import { isField } from '../package-leaving/nested.js';
import { registers } from './registered.js';

/** Says what a component of the package draws, in the author’s own elements. */
export function sayPart(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const made = importOfTag(element.get('openingElement').get('name') as NodePath);
  if (made?.module !== 'react-hook-form') return;
  // what it holds stays, and is said where the form is handed on
  if (made.name === 'FormProvider') return;
  if (made.name === 'Controller') sayController(apart, element);
  else stays(apart.leaving, element.get('openingElement'), `<${made.name}> is not drawn without the package yet`);
}

function sayController(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const { leaving } = apart;
  const attributes = attributesOf(element);
  const opening = element.get('openingElement');
  const of = (name: string): NodePath<t.Expression> | undefined => attributes.find((one) => one.name === name)?.value;
  const field = attributes.find(({ name }) => name === 'name')?.text;
  const render = of('render');
  if (field === undefined || !isField(apart, field) || !render?.isArrowFunctionExpression()) {
    stays(leaving, opening, 'its field, or what it draws, is told only when the form runs');
    return;
  }
  const further = attributes.find(({ name }) => !['name', 'control', 'render', 'rules'].includes(name));
  if (further) stays(leaving, further.path, `${further.name} is not said without the package yet`);
  const rules = of('rules');
  if (rules && !rules.isObjectExpression()) stays(leaving, rules, 'its rules are told only when the form runs');
  else registers(apart, { field, rules, at: element, element, numeric: false });
  const body = render.get('body') as NodePath;
  const [given] = render.get('params') as NodePath[];
  if (!given?.isObjectPattern() || body.isBlockStatement()) {
    stays(leaving, render, 'it does more than draw a part of the page');
    return;
  }
  for (const [key, value] of takenApart(given)) sayGiven(apart, key, value, field);
  says(leaving, element, () => drawnText(leaving, element, body));
}

/**
 * `const { field, fieldState } = useController({ control, name: 'town' })`, of a component that has the form.
 * @returns whether it is said without the package; reasons for parts of it are told at their places
 */
export function sayControllerHook(apart: TakenApart, call: NodePath<t.CallExpression>): boolean {
  const { leaving } = apart;
  const [given, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const declared = declaredBy(call);
  if (!given?.isObjectExpression() || more.length || !declared?.target.isObjectPattern()) return false;
  const known = given.node.properties.every(
    (one) => t.isObjectProperty(one) && t.isIdentifier(one.key) && /^(?:name|control|rules)$/.test(one.key.name),
  );
  const [name, rules] = [memberNamed(given, 'name'), memberNamed(given, 'rules')];
  const field = name?.isStringLiteral() && isField(apart, name.node.value) ? name.node.value : undefined;
  if (!known || field === undefined || (rules && !rules.isObjectExpression())) return false;
  registers(apart, { field, rules, at: call, element: undefined, numeric: false });
  for (const [key, value] of takenApart(declared.target)) sayGiven(apart, key, value, field);
  takeStatement(leaving, declared.statement);
  return true;
}

/** `field` and `fieldState`, or their members taken apart. */
function sayGiven(apart: TakenApart, key: string | undefined, value: NodePath, field: string): void {
  const { leaving } = apart;
  if (key !== 'field' && key !== 'fieldState') {
    stays(leaving, value, 'what it takes is not said without the package yet');
    return;
  }
  if (value.isObjectPattern()) {
    for (const [name, local] of takenApart(value)) {
      if (!local.isIdentifier()) stays(leaving, local, 'what it takes is no plain name');
      else for (const reference of referencesTo(leaving, local)) sayOf(apart, `${key}.${name ?? ''}`, reference, field);
    }
    return;
  }
  if (!value.isIdentifier()) {
    stays(leaving, value, 'what it takes is no plain name');
    return;
  }
  for (const reference of referencesTo(leaving, value)) {
    const parent = reference.parentPath;
    const isMember = parent?.isMemberExpression() && !parent.node.computed && t.isIdentifier(parent.node.property);
    if (parent?.isJSXSpreadAttribute() && key === 'field') saySpread(apart, parent, field);
    else if (parent && isMember) sayOf(apart, `${key}.${(parent.node.property as t.Identifier).name}`, parent, field);
    else stays(leaving, reference, 'it is handed on as a whole');
  }
}

function saySpread(apart: TakenApart, spread: NodePath, field: string): void {
  const { leaving } = apart;
  const element = spread.parentPath?.parentPath as NodePath<t.JSXElement>;
  const tag = tagOf(element);
  if (!/^(input|select|textarea)$/.test(tag)) {
    stays(leaving, spread, `what <${tag}> takes of it is not told`);
    return;
  }
  notesFocus(apart, field);
  const own = new Set(attributesOf(element).map(({ name }) => name));
  const tied = (): string[] | undefined =>
    tiedBy(apart, { element, tag, field, at: spread }, own, apart.needs.has('handleBlur'));
  if (tied() !== undefined)
    says(leaving, spread, () =>
      asAttributes(leaving, spread, [...(own.has('name') ? [] : [`name="${field}"`]), ...(tied() ?? [])]),
    );
}

/** Says a member of the field, or of its state. */
function sayOf(apart: TakenApart, member: string, path: NodePath, field: string): void {
  const { leaving, names, needs } = apart;
  const held = `${names.values}.${field}`;
  const error = errorOf(apart, { field });
  if (member === 'field.value') {
    sayName(leaving, path, held);
    return;
  }
  if (member === 'field.name') {
    says(leaving, path, nameText(apart, field));
    return;
  }
  if (member === 'fieldState.invalid') {
    needs.add('errors');
    says(leaving, path, isTested(path) ? error : `${error} !== undefined`);
    return;
  }
  if (member === 'fieldState.error') {
    needs.add('errors');
    const around = path.parentPath;
    const asksMessage =
      (around?.isMemberExpression() === true || around?.isOptionalMemberExpression() === true) &&
      t.isIdentifier(around.node.property, { name: 'message' });
    if (asksMessage) apart.worded.add(field);
    if (around && asksMessage) says(leaving, around, error);
    else if (isTested(path)) says(leaving, path, error);
    else stays(leaving, path, 'the error is handed on as the package has it');
    return;
  }
  const at = attributeOf(path);
  if (member === 'field.onChange') {
    sayChange(apart, path, field);
    return;
  }
  if (member === 'field.onBlur' && at) {
    sayLeft(apart, path, field, at.element);
    return;
  }
  if (member === 'field.ref' && at) {
    const { element } = at;
    if (/^(input|select|textarea)$/.test(tagOf(element))) {
      notesFocus(apart, field);
      takeAttribute(leaving, path);
    } else sayReference(apart, path, field, element);
    return;
  }
  stays(leaving, path, `${member} of the package is not said here without it yet`);
}

function sayChange(apart: TakenApart, path: NodePath, field: string): void {
  const { leaving, needs } = apart;
  needs.add('change');
  const call = callOf(path);
  const changed = (text: string): string =>
    apart.changes(valuesWith(apart, pairOf(field, text, apart.names.values)), nameText(apart, field));
  if (call) {
    const [next, ...more] = call.get('arguments') as NodePath[];
    if (!next || more.length) stays(leaving, call, 'it is not given one value');
    else {
      leaving.turns.push({ path: call, does: 'whole' });
      const { start, end } = call.node.callee;
      otherwise(leaving, [start, end], call.node, 'a function of the form’s own sets the value');
      says(leaving, call, () => changed(textIn(leaving, next)));
    }
    return;
  }
  const at = attributeOf(path);
  const tag = at ? tagOf(at.element) : '';
  if (at && /^[A-Z]/.test(tag) && leaving.script.typescript) {
    const name = path.scope.getBinding(field) || !/^[\w$]+$/.test(field) ? 'value' : field;
    says(leaving, path, `(${name}) => ${changed(name)}`);
    return;
  }
  if (at && /^(input|select|textarea)$/.test(tag)) {
    const tied = tiedBy(apart, { element: at.element, tag, field, at: path }, new Set(['onBlur']), false);
    const handler = /^onChange=\{([\s\S]*)\}$/.exec(tied?.find((one) => one.startsWith('onChange')) ?? '')?.[1];
    if (handler !== undefined) {
      if (!attributesOf(at.element).some(({ name }) => name === 'name')) {
        const end = at.element.node.openingElement.name.end ?? 0;
        saysAt(leaving, end, end, ` name="${field}"`);
      }
      says(leaving, path, handler);
      return;
    }
  }
  stays(leaving, path, `whether <${tag}> gives a value or an event is not told`);
}

function sayLeft(apart: TakenApart, path: NodePath, field: string, element: NodePath<t.JSXElement>): void {
  const { leaving, needs, names } = apart;
  if (needs.has('handleBlur')) {
    needs.add('left');
    says(leaving, path, `() => ${names.left}(${nameText(apart, field)})`);
  } else if (/^[a-z]/.test(tagOf(element))) takeAttribute(leaving, path);
  else says(leaving, path, '() => undefined');
}

/** A component of the project takes the reference by which a wrong control gets the focus. */
function sayReference(apart: TakenApart, path: NodePath, field: string, element: NodePath<t.JSXElement>): void {
  const { leaving, references } = apart;
  const { script, load } = leaving.site;
  const attribute = attributeOf(path)?.name ?? '';
  const tag = element.get('openingElement').get('name') as NodePath;
  const binding = tag.isJSXIdentifier() ? tag.scope.getBinding(tag.node.name)?.path : undefined;
  const local =
    binding?.isImportSpecifier() || binding?.isImportDefaultSpecifier() ? (binding.get('local') as NodePath) : binding;
  const behind = local && behindName({ path: local, script }, load);
  const fn = behind?.path.isVariableDeclarator() ? (behind.path.get('init') as NodePath) : behind?.path;
  const [props] = fn?.isFunction() ? fn.node.params : [];
  const note = t.isObjectPattern(props) || t.isIdentifier(props) ? props.typeAnnotation : undefined;
  const type =
    t.isTSTypeAnnotation(note) && behind
      ? typeMembers({ node: note.typeAnnotation, script: behind.script }, load).get(attribute)
      : undefined;
  const said = type && type.script.text.slice(type.node.start ?? 0, type.node.end ?? 0);
  const of = /^(?:React\.)?Ref(?:Object)?<(\w+)(?: \| null)?>$/.exec(said ?? '')?.[1];
  if (of === undefined) {
    stays(leaving, path, 'the element that gets the focus is told only by the component');
    return;
  }
  const name = nameIn(leaving, `${field}Ref`, `${field}Element`);
  references.set(field, { name, element: of });
  says(leaving, path, name);
}
