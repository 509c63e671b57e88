import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import { parseScript } from '../../source/script.js';
import { componentsOf } from '../components.js';
import { attributesOf } from '../jsx-controls.js';
import { isDrawnAlone } from './drawn-components.js';
import type { Block } from './block.js';
import type { FormFiles } from './form-files.js';
import {
  drawnText,
  resolved,
  says,
  saysAt,
  stays,
  stretch,
  takeAttribute,
  takeStatement,
  type Leaving,
} from './leaving.js';
import { declaredBy, forgetNames } from './hook-form.js';
import type { Apart } from './apart.js';
import { contextParts, providersIn, type ContextPart, type HandsOn } from './context-parts.js';
import type { Members } from './members.js';
import { sayParameter, sayPattern, sayType, sayTypeOf, type Given } from './given-props.js';
import { valuesType } from './given-types.js';
import { walk } from '../../source/traverse.js';

/** A component that took the form out of the context while it is given what it needs. */
export interface GivenPart<Form extends Handing = Handing> extends ContextPart {
  apart: Form;
  drawn: [NodePath<t.JSXElement>];
}

/** A form that may be handed to components, while it is taken apart. */
export interface Handing extends Apart {
  form: { taken: Members; type: t.TSType | undefined };
}

/** What of the form a component speaks of. */
export interface Inner {
  leaving: Leaving;
  taken: Members;
  element: NodePath<t.JSXElement>;
}

/**
 * The components that take the form out of the context, each with a leaving of its own file.
 * @param innerOf the form as a component speaks of it
 */
export function givenParts<Form extends Handing>(
  apart: Form,
  hands: HandsOn,
  files: FormFiles,
  innerOf: (inner: Inner) => Form,
  holder?: NodePath<t.JSXElement>,
): GivenPart<Form>[] {
  const { leaving } = apart;
  const { parts, deeper } = contextParts(leaving.site, apart.form, hands, holder);
  for (const element of deeper)
    stays(leaving, element.get('openingElement'), 'a component further down may take the form out of the context');
  for (const provider of providersIn(leaving.site, hands)) sayProvider(apart, provider);
  return parts.flatMap((part): GivenPart<Form>[] => {
    const own = files.leavingOf(part.site);
    const [only, ...more] = part.drawn;
    if (!only || more.length || !isDrawnAlone(part.component, own.script, [only], leaving)) {
      stays(own, placeOf(part), 'the component stands in several places, and not all of them may be of this form');
      return [];
    }
    const inner = innerOf({ leaving: own, taken: part.taken, element: only });
    const made = part.made && declaredBy(part.made);
    forgetNames(own, [
      ...(made ? [made.target] : []),
      ...part.taken.patterns.map((one) => one.get('id') as NodePath),
      ...part.handed.map(({ property }) => property.get('value') as NodePath),
    ]);
    takeHanded(part, apart);
    for (const path of part.taken.unclear) stays(own, path, 'the form is handed on as a whole');
    return [{ ...part, apart: inner, drawn: [only] }];
  });
}

/** Where a reason is told that keeps a component. */
function placeOf({ made, component }: ContextPart): NodePath {
  return made ?? component.path;
}

/** The attributes by which a component was handed the form go, and what they name is asked there no more. */
function takeHanded({ handed }: ContextPart, { leaving, form }: Handing): void {
  const values = new Set(handed.map(({ value }) => value));
  for (const { attribute } of handed) takeAttribute(leaving, attribute);
  form.taken.places = form.taken.places.filter(({ path }) => !values.has(path.node));
  form.taken.unclear = form.taken.unclear.filter(({ node }) => !values.has(node));
}

/** `<FormProvider {...methods}>`, `<FormikProvider value={formik}>`: what stands inside of it stays. */
function sayProvider({ leaving, form }: Handing, element: NodePath<t.JSXElement>): void {
  const opening = element.get('openingElement');
  const [spread, ...more] = opening.get('attributes');
  const value = attributesOf(element).find(({ name }) => name === 'value')?.value;
  const given = spread?.isJSXSpreadAttribute() ? (spread.get('argument') as NodePath) : value;
  if (!given || more.length || !form.taken.unclear.some(({ node }) => node === given.node)) {
    stays(leaving, opening, 'what it hands on is told only when the form runs');
    return;
  }
  form.taken.unclear = form.taken.unclear.filter(({ node }) => node !== given.node);
  const children = element.get('children').filter((one) => !one.isJSXText() || one.node.value.trim() !== '');
  const [only, ...others] = children;
  if (only?.isJSXElement() && !others.length) {
    says(leaving, element, () => drawnText(leaving, element, only));
    return;
  }
  const { openingElement, closingElement } = element.node;
  saysAt(leaving, openingElement.start ?? 0, openingElement.end ?? 0, '<>');
  if (closingElement) saysAt(leaving, closingElement.start ?? 0, closingElement.end ?? 0, '</>');
}

/**
 * Gives each component what it asks for as properties, once all names and types are known.
 * @param type the type of the values in the form’s own file
 * @param typesOf what a component may be given, by the name of the values’ type there; undefined where a type is not told
 */
export function giveParts(
  parts: readonly GivenPart[],
  apart: Handing,
  type: string | undefined,
  typesOf: (values: string) => ReadonlyMap<string, string | undefined>,
  files: FormFiles,
): void {
  for (const part of parts) givePart(part, apart, type, typesOf, files.blockOf(part.apart.leaving));
}

function givePart(
  part: GivenPart,
  outer: Handing,
  type: string | undefined,
  typesOf: (values: string) => ReadonlyMap<string, string | undefined>,
  block: Block,
): void {
  const { apart, component, made, taken } = part;
  const own = apart.leaving;
  const { typescript } = own.script;
  const values = typescript ? valuesType(part, outer, type) : undefined;
  if (typescript && values === undefined) {
    stays(own, placeOf(part), 'the type of the values has no name here');
    return;
  }
  const kinds = typesOf(values ?? '');
  const declared = made && declaredBy(made)?.statement;
  const [parameter] = component.path.get('params') as NodePath[];
  const whole = parameter?.isIdentifier() ? parameter.node.name : undefined;
  let given = '';
  if (declared && whole !== undefined) says(own, declared, () => given);
  else if (declared) takeStatement(own, declared);
  for (const { parentPath } of taken.patterns) takeStatement(own, parentPath);
  const names: string[] = [];
  const taker: Given = { leaving: own, component, handed: part.handed.map(({ property }) => property) };
  sayPattern(taker, parameter, names);
  const asked = askedFor(own, component.name);
  const props = [...kinds].filter(([name]) => asked.has(name));
  const { scope, node } = component.path;
  const inside = own.said.filter((one) => one.start >= (node.start ?? 0) && one.end <= (node.end ?? 0));
  const written = resolved(inside)
    .map((edit) => edit.text)
    .join('\n');
  const hidden = [...kinds].find(([name]) => {
    const known = scope.getOwnBinding(name);
    const isOther = known !== undefined && !own.gone.has(known);
    return isOther && new RegExp(`(?<![\\w$.])${name}(?![\\w$])`).test(written);
  });
  const untold = props.find(([, type]) => type === undefined);
  if (hidden ?? untold) {
    const why = hidden ? `${hidden[0]} means something else here` : `${untold?.[0] ?? ''} is not handed on yet`;
    stays(own, placeOf(part), why);
    return;
  }
  names.push(...props.map(([name]) => name));
  sayDrawn(outer.leaving, part, names);
  if (whole !== undefined && names.length)
    given = `const { ${names.join(', ')} } = ${whole}${own.context.style.semicolon}`;
  const typeName = typescript && names.length ? sayType(taker, props, block) : undefined;
  if (!parameter) sayParameter(taker, names, typeName);
  const unsaid = typescript && parameter ? sayTypeOf(taker, parameter, typeName) : undefined;
  if (unsaid !== undefined) stays(own, placeOf(part), unsaid);
}

/** The names that a component asks of nobody, as its file is to stand. */
function askedFor(own: Leaving, name: string): Set<string> {
  const { script } = own;
  const parsed = parseScript(script.file, stretch(own, 0, script.text.length));
  const asked = new Set<string>();
  const component = parsed.ok ? componentsOf(parsed.script).find((one) => one.name === name) : undefined;
  walk(component?.path, {
    Identifier(inner) {
      if (inner.isReferencedIdentifier() && !inner.scope.hasBinding(inner.node.name, true)) asked.add(inner.node.name);
    },
  });
  return asked;
}

/** The component’s tag with the properties that it is given. */
function sayDrawn(leaving: Leaving, { drawn: [element], handed }: GivenPart, names: readonly string[]): void {
  const { openingElement } = element.node;
  const gone = new Set(handed.map(({ attribute }) => attribute.node));
  const own = attributesOf(element).filter(({ path }) => !gone.has(path.node));
  const known = new Set(own.map(({ name }) => name));
  const clash = names.find((name) => known.has(name));
  if (clash !== undefined) {
    stays(leaving, element.get('openingElement'), `it is given ${clash} already`);
    return;
  }
  const at = openingElement.attributes.at(-1)?.end ?? openingElement.name.end ?? 0;
  saysAt(leaving, at, at, names.map((name) => ` ${name}={${name}}`).join(''));
}
