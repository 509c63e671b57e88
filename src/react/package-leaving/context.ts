import type { Binding, NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import { styleOf } from '../../source/style.js';
import { parseScript } from '../../source/script.js';
import { componentsOf } from '../components.js';
import { attributesOf } from '../jsx-controls.js';
import { exportedAs } from '../exported-names.js';
import { takersOf } from './drawn-components.js';
import { newBlock, planOf, type Block } from './block.js';
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
  innerOf: (inner: Inner) => Form,
  holder?: NodePath<t.JSXElement>,
): GivenPart<Form>[] {
  const { leaving } = apart;
  const { parts, deeper } = contextParts(leaving.site, apart.form, hands, holder);
  for (const element of deeper)
    stays(leaving, element.get('openingElement'), 'a component further down may take the form out of the context');
  for (const provider of providersIn(leaving.site, hands)) sayProvider(apart, provider);
  const files = new Map<string, Leaving>([[leaving.script.file, leaving]]);
  return parts.flatMap((part): GivenPart<Form>[] => {
    const { script } = part.site;
    const known = files.get(script.file);
    const own: Leaving = known
      ? { ...known, site: part.site, outer: leaving }
      : {
          ...leaving,
          site: part.site,
          script,
          context: { ...leaving.context, style: styleOf(script.text) },
          said: [],
          outer: leaving,
        };
    if (!known) files.set(script.file, own);
    const [only, ...more] = part.drawn;
    if (!only || more.length || !isDrawnOnce(part, only, leaving)) {
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

/** Whether nothing else of the project draws a component: neither its own file, nor the form’s, nor another one. */
function isDrawnOnce({ site, component }: ContextPart, element: NodePath<t.JSXElement>, leaving: Leaving): boolean {
  const tag = element.get('openingElement').get('name') as NodePath<t.JSXIdentifier>;
  const drawn = tag.scope.getBinding(tag.node.name);
  const own = site.script.program.scope.getBinding(component.name);
  if (usesOf(drawn) !== 1 || (own && own !== drawn && usesOf(own) > 0)) return false;
  const exported = exportedAs(site.script, component.name);
  // nobody can say who else draws it where nothing tells where the project ends
  if (exported === undefined) return site.script.file === leaving.script.file;
  return takersOf(leaving, site.script.file, exported)?.every((file) => file === leaving.script.file) === true;
}

/** At how many places of its file a component is drawn, or given to something that is no wrapper of it. */
function usesOf(binding: Binding | undefined): number {
  const isPlain = (one: NodePath): boolean =>
    one.isExportDeclaration() ||
    one.parentPath?.isExportDeclaration() === true ||
    one.parentPath?.isExportSpecifier() === true ||
    one.parentPath?.isJSXClosingElement() === true ||
    one.parentPath?.isCallExpression() === true;
  return binding?.referencePaths.filter((one) => !isPlain(one)).length ?? 0;
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
 * @param block the form’s own, which takes what components of its file need
 * @returns asks for the edits of the other files
 */
export function giveParts(
  parts: readonly GivenPart[],
  apart: Handing,
  type: string | undefined,
  typesOf: (values: string) => ReadonlyMap<string, string | undefined>,
  block: Block,
): () => RewritePlan['edits'] {
  const { file } = apart.leaving.script;
  const blocks = new Map([[file, { own: apart.leaving, block }]]);
  for (const part of parts) {
    const { leaving: own } = part.apart;
    const known = blocks.get(own.script.file) ?? { own, block: newBlock() };
    blocks.set(own.script.file, known);
    givePart(part, apart, type, typesOf, known.block);
  }
  blocks.delete(file);
  return () => [...blocks.values()].flatMap((one) => planOf(one.own, one.block).edits);
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
  component?.path.traverse({
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
