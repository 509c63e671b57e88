import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import { wholeLines } from '../../source/removal.js';
import { styleOf } from '../../source/style.js';
import { parseScript } from '../../source/script.js';
import { componentsOf } from '../components.js';
import { attributesOf } from '../jsx-controls.js';
import { calledImport } from '../hook-calls.js';
import { newBlock, planOf, type Block } from '../package-leaving/block.js';
import {
  drawnText,
  resolved,
  says,
  saysAt,
  stays,
  stretch,
  takeAttribute,
  type Leaving,
} from '../package-leaving/leaving.js';
import { forgetNames } from '../package-leaving/hook-form.js';
import type { Stated } from './block.js';
import { contextParts, providersIn, type ContextPart } from './context-parts.js';
import type { TakenApart } from './form.js';
import { propTypes, sayLess, sayParameter, sayPattern, sayType, valuesType } from './given-types.js';
import { changeOfRow } from './row-functions.js';

/** A component that took the form out of the context while it is given what it needs. */
export interface GivenPart extends ContextPart {
  apart: TakenApart;
  drawn: [NodePath<t.JSXElement>];
}

/** The components that take the form out of the context, each with a leaving of its own file. */
export function givenParts(apart: TakenApart): GivenPart[] {
  const { leaving } = apart;
  const { parts, deeper } = contextParts(leaving.site, apart.form);
  for (const element of deeper)
    stays(leaving, element.get('openingElement'), 'a component further down may take the form out of the context');
  for (const provider of providersIn(leaving.site)) sayProvider(apart, provider);
  const files = new Map<string, Leaving>([[leaving.script.file, leaving]]);
  return parts.flatMap((part): GivenPart[] => {
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
    if (!only || more.length || !isDrawnOnce(part, leaving)) {
      stays(own, placeOf(part), 'the component stands in several places, and not all of them may be of this form');
      return [];
    }
    const inner: TakenApart = {
      ...apart,
      leaving: own,
      form: { ...apart.form, taken: part.taken },
      watched: new Map(),
      changesRow: (row, next) => changeOfRow(inner, row, next),
      drawnBy: { apart, element: only },
    };
    const declarator = part.made?.parentPath;
    const made = declarator?.isVariableDeclarator() ? [declarator.get('id') as NodePath] : [];
    forgetNames(own, [
      ...made,
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
function takeHanded({ handed }: ContextPart, { leaving, form }: TakenApart): void {
  const values = new Set(handed.map(({ value }) => value));
  for (const { attribute } of handed) takeAttribute(leaving, attribute);
  form.taken.places = form.taken.places.filter(({ path }) => !values.has(path.node));
  form.taken.unclear = form.taken.unclear.filter(({ node }) => !values.has(node));
}

/** Whether nothing else of the project draws a component. */
function isDrawnOnce({ site, component }: ContextPart, { context, script }: Leaving): boolean {
  const { statement } = component;
  const isDefault = statement.isExportDefaultDeclaration();
  const isNamed = statement.isExportNamedDeclaration();
  const isOther = site.script.file !== script.file;
  const users = ['default', component.name].map((name) => context.importers(site.script.file, name));
  if ((isDefault || isNamed || isOther) && users.some((files) => files?.some((file) => file !== script.file)))
    return false;
  // in its own file it stands once
  const binding = statement.scope.getBinding(component.name);
  return isOther || (binding?.referencePaths.length ?? 0) <= 1;
}

/** `<FormProvider {...methods}>`: what stands inside of it stays. */
function sayProvider({ leaving, form }: TakenApart, element: NodePath<t.JSXElement>): void {
  const opening = element.get('openingElement');
  const [spread, ...more] = opening.get('attributes');
  const given = spread?.isJSXSpreadAttribute() ? spread.get('argument') : undefined;
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

/** Gives each component what it asks for as properties, once all names and types are known. */
export function giveParts(parts: readonly GivenPart[], apart: TakenApart, stated: Stated, block: Block): void {
  for (const part of parts) givePart(part, apart, stated, block);
}

/** The plans of the other files in which components stood. */
export function partPlans(parts: readonly GivenPart[], { leaving }: TakenApart): RewritePlan[] {
  const files = new Map<string, { own: Leaving; block: Block }>();
  for (const { apart } of parts) {
    const own = apart.leaving;
    if (own.script.file === leaving.script.file) continue;
    const known = files.get(own.script.file) ?? { own, block: newBlock() };
    for (const type of apart.partTypes ?? []) known.block.types.add(type);
    files.set(own.script.file, known);
  }
  return [...files.values()].map(({ own, block }) => ({ ...planOf(own, block), ledger: [] }));
}

function givePart(part: GivenPart, outer: TakenApart, stated: Stated, block: Block): void {
  const { apart, component, made, taken, handed } = part;
  const own = apart.leaving;
  const { typescript } = own.script;
  const values = typescript ? valuesType(part, outer) : undefined;
  if (typescript && values === undefined) {
    stays(own, placeOf(part), 'the type of the values has no name here');
    return;
  }
  const kinds = propTypes(outer, stated, values ?? '');
  const declaration = made?.parentPath.parentPath;
  const [parameter] = component.path.get('params') as NodePath[];
  const whole = parameter?.isIdentifier() ? parameter.node.name : undefined;
  let given = '';
  if (declaration && whole !== undefined) says(own, declaration, () => given);
  for (const one of [
    ...(whole === undefined && declaration ? [declaration] : []),
    ...taken.patterns.map(({ parentPath }) => parentPath),
  ]) {
    const at = { start: one?.node.start ?? 0, end: one?.node.end ?? 0 };
    const lines = wholeLines(own.script.text, at);
    saysAt(own, lines.start, lines.end, '');
  }
  const names: string[] = [];
  sayPattern(part, parameter, names);
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
  const typeName = typescript && names.length ? sayType(part, props, block, outer) : undefined;
  const unsaid = handed.length && typescript ? sayLess(part, parameter, typeName) : undefined;
  if (unsaid !== undefined) stays(own, placeOf(part), unsaid);
  if (names.length && !handed.length) sayParameter(part, parameter, whole === undefined ? names : [], typeName);
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

/** The calls of the package’s hooks inside of a component. */
export function hooksIn(part: GivenPart): NodePath<t.CallExpression>[] {
  const found: NodePath<t.CallExpression>[] = [];
  part.component.path.traverse({
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module === 'react-hook-form' && call.node !== part.made?.node) found.push(call);
    },
  });
  return found;
}
