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
import { memberType } from '../package-leaving/starts.js';
import { elementsOf } from '../package-leaving/ties.js';
import type { Stated } from './block.js';
import { contextParts, providersIn, type ContextPart } from './context-parts.js';
import type { OwnList, TakenApart } from './form.js';
import { changeOfRow, listParameters, valueTypes } from './rows.js';

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
    stays(leaving, element.get('openingElement'), 'a component further down takes the form out of the context');
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

/** The type of the values as the file of a component calls it. */
function valuesType(part: GivenPart, { leaving, type, form }: TakenApart): string | undefined {
  const { apart, made } = part;
  const asked = made ? made.node.typeParameters?.params[0] : handedType(part);
  const { script } = apart.leaving;
  const text = asked && script.text.slice(asked.start ?? 0, asked.end ?? 0);
  if (script.file === leaving.script.file) return type;
  const own = form.type && leaving.script.text.slice(form.type.start ?? 0, form.type.end ?? 0);
  // the form itself is made with the same type, or with what its schema tells
  return own === undefined || own === text || text === type ? text : undefined;
}

/** The type of the values by that of a member which a component was handed: `control: Control<Slip>`. */
function handedType({ handed, component }: GivenPart): t.Node | undefined {
  const [parameter] = component.path.get('params') as NodePath[];
  const members = parameter ? membersOf(parameter) : undefined;
  const names = handed.map(({ property }) => (property.node.key as t.Identifier).name);
  for (const member of members?.nodes ?? []) {
    const type = names.includes(nameOfMember(member)) ? member.typeAnnotation?.typeAnnotation : undefined;
    const [of] = t.isTSTypeReference(type) ? (type.typeParameters?.params ?? []) : [];
    if (of) return of;
  }
  return undefined;
}

/** The members of the type of what a component is given: written out beside it, or a type of its file. */
function membersOf(
  parameter: NodePath,
):
  | { nodes: t.TSPropertySignature[]; all: number; literal: t.Node; declared: t.Node | undefined; note: t.Node }
  | undefined {
  const { node } = parameter;
  const note = t.isObjectPattern(node) || t.isIdentifier(node) ? node.typeAnnotation : undefined;
  const type = t.isTSTypeAnnotation(note) ? note.typeAnnotation : undefined;
  if (!type) return undefined;
  const properties = (all: readonly t.Node[]): t.TSPropertySignature[] =>
    all.filter((one) => t.isTSPropertySignature(one));
  if (t.isTSTypeLiteral(type))
    return {
      nodes: properties(type.members),
      all: type.members.length,
      literal: type,
      declared: undefined,
      note: type,
    };
  const name = t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : undefined;
  const program = parameter.scope.getProgramParent().path.node;
  for (const one of t.isProgram(program) ? program.body : []) {
    const own = t.isExportNamedDeclaration(one) ? one.declaration : one;
    if (t.isTSInterfaceDeclaration(own) && own.id.name === name)
      return {
        nodes: properties(own.body.body),
        all: own.body.body.length,
        literal: own.body,
        declared: one,
        note: type,
      };
    if (t.isTSTypeAliasDeclaration(own) && own.id.name === name && t.isTSTypeLiteral(own.typeAnnotation)) {
      const { members } = own.typeAnnotation;
      return {
        nodes: properties(members),
        all: members.length,
        literal: own.typeAnnotation,
        declared: one,
        note: type,
      };
    }
  }
  return undefined;
}

function nameOfMember({ key }: t.TSPropertySignature): string {
  return t.isIdentifier(key) ? key.name : '';
}

/** The pattern of a component’s parameter with other names in place of those that it was handed. */
function sayPattern({ handed, apart }: GivenPart, parameter: NodePath | undefined, names: readonly string[]): void {
  if (!handed.length || !parameter?.isObjectPattern()) return;
  const own = apart.leaving;
  const { text } = own.script;
  const gone = new Set(handed.map(({ property }) => property.node as t.Node));
  const [rest, kept] = [true, false].map((isRest) =>
    parameter.node.properties
      .filter((one) => !gone.has(one) && t.isRestElement(one) === isRest)
      .map(({ start, end }) => text.slice(start ?? 0, end ?? 0)),
  );
  const typed = parameter.node.typeAnnotation?.start ?? undefined;
  const end = typed === undefined ? (parameter.node.end ?? 0) : text.lastIndexOf('}', typed) + 1;
  saysAt(own, parameter.node.start ?? 0, end, () => `{ ${[...(kept ?? []), ...names, ...(rest ?? [])].join(', ')} }`);
}

/**
 * The type of what a component is given, without what it was handed.
 * @param typeName the type of what it is given in place of that; undefined where it is given nothing
 * @returns why it could not be said
 */
function sayLess(
  { handed, apart }: GivenPart,
  parameter: NodePath | undefined,
  typeName: string | undefined,
): string | undefined {
  const own = apart.leaving;
  const { text } = own.script;
  const names = handed.map(({ property }) => (property.node.key as t.Identifier).name);
  const members = parameter && membersOf(parameter);
  const types = members?.nodes.filter((one) => names.includes(nameOfMember(one))) ?? [];
  if (!members || types.length < names.length) return 'the type of what it is given is told elsewhere';
  const { literal, declared, note } = members;
  const isAll = types.length === members.all;
  if (isAll) {
    says(own, { node: note }, typeName ?? '{}');
    if (!declared) return undefined;
    const { start, end } = wholeLines(text, { start: declared.start ?? 0, end: declared.end ?? 0 });
    saysAt(own, start, end + (/^\s*?\n(?=\n|\S)/.exec(text.slice(end))?.[0].length ?? 0), '');
    return undefined;
  }
  const inner = text.slice(literal.start ?? 0, literal.end ?? 0);
  const isOnLines = inner.includes('\n');
  for (const { start, end } of types) {
    const span = { start: start ?? 0, end: end ?? 0 };
    const lines = isOnLines ? wholeLines(text, span) : span;
    const rest = isOnLines ? 0 : (/^[ \t]*/.exec(text.slice(lines.end))?.[0].length ?? 0);
    saysAt(own, lines.start, lines.end + rest, '');
  }
  if (typeName !== undefined) saysAt(own, note.end ?? 0, note.end ?? 0, ` & ${typeName}`);
  return undefined;
}

/** What may be handed to a component, with its type; a type that is undefined is one that cannot be said. */
function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
  const { names, rows, lists, rowChanges, needs } = apart;
  const said = (type: string | undefined): string =>
    stated.type === undefined || type === undefined ? '' : type.replaceAll(stated.type, values);
  const setter = (type: string): string => `Dispatch<SetStateAction<${type}>>`;
  const event = (of: string, tags: ReadonlySet<string>): string => `(event: ${of}<${elementsOf(tags)}>) => void`;
  const types = new Map<string, string | undefined>([
    [names.values, values],
    [names.errors, said(stated.errors)],
    [names.touched, said(stated.touched)],
    [names.failure, 'string'],
    [names.submitting, 'boolean'],
    [names.submitted, 'boolean'],
    [names.dirty, 'boolean'],
    [names.valid, 'boolean'],
    [names.attempts, 'number'],
    [names.setErrors, setter(said(stated.errors))],
    [names.setFailure, setter('string')],
    [names.change, `(next: ${values}, name: string) => void`],
    [names.setValues, setter(values)],
    [names.recheck, `(next: ${values}, ...fields: string[]) => void`],
    [names.handleChange, event('ChangeEvent', apart.changed)],
    [names.handleBlur, event('FocusEvent', apart.left)],
    [names.left, '(name: string) => void'],
    [names.reset, needs.has('resetTo') ? `(next?: ${values}) => void` : '() => void'],
  ]);
  for (const [list, name] of rowChanges)
    types.set(name, `(index: number, name: string, value: ${valueTypes(rows.get(list))}) => void`);
  for (const list of lists.values()) addListTypes(types, list, memberType(values, list.name, apart.leaving));
  return types;
}

function addListTypes(types: Map<string, string | undefined>, list: OwnList, type: string): void {
  types.set(list.keys, 'number[]');
  for (const [member, name] of list.changes) types.set(name, `(${listParameters(member, type)}) => void`);
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

/** The type of what a component is given, above it. */
function sayType(
  { component, apart }: GivenPart,
  props: readonly [string, string | undefined][],
  block: Block,
  outer: TakenApart,
): string {
  const own = apart.leaving;
  const { style } = own.context;
  const { freeName } = own.context;
  const name = freeName(`${component.name}Form`, `${component.name}Given`);
  const lines = props.map(([prop, type]) => `${style.indent}${prop}: ${type ?? ''}${style.semicolon || ''}`);
  const { node } = component.statement;
  const at = node.leadingComments?.[0]?.start ?? node.start ?? 0;
  saysAt(own, at, at, [`interface ${name} {`, ...lines, '}', '', ''].join(style.newline));
  const types = ['ChangeEvent', 'FocusEvent', 'Dispatch', 'SetStateAction'].filter((one) =>
    props.some(([, type]) => new RegExp(`\\b${one}<`).test(type ?? '')),
  );
  if (own.script.file === outer.leaving.script.file) for (const type of types) block.types.add(type);
  else apart.partTypes = [...(apart.partTypes ?? []), ...types];
  return name;
}

/** The parameter of a component that is given more. */
function sayParameter(
  { component, apart }: GivenPart,
  parameter: NodePath | undefined,
  names: readonly string[],
  typeName: string | undefined,
): void {
  const own = apart.leaving;
  const { text } = own.script;
  const said = names.join(', ');
  if (!parameter) {
    const open = text.indexOf('(', component.path.node.start ?? 0);
    const typed = typeName === undefined ? '' : `: ${typeName}`;
    saysAt(own, open + 1, open + 1, `{ ${said} }${typed}`);
    return;
  }
  const { node } = parameter;
  if (parameter.isObjectPattern() && said !== '') {
    const last = parameter.node.properties.at(-1);
    const rest = t.isRestElement(last) ? last : undefined;
    const before = parameter.node.properties.at(rest ? -2 : -1);
    if (rest) saysAt(own, rest.start ?? 0, rest.start ?? 0, `${said}, `);
    else if (before) saysAt(own, before.end ?? 0, before.end ?? 0, `, ${said}`);
    else saysAt(own, node.start ?? 0, (node.start ?? 0) + 2, `{ ${said} }`);
  } else if (!parameter.isIdentifier()) stays(own, parameter, 'what it is given has no plain name');
  if (typeName === undefined) return;
  const note = t.isObjectPattern(node) || t.isIdentifier(node) ? node.typeAnnotation : undefined;
  if (t.isTSTypeAnnotation(note)) {
    const { end } = note.typeAnnotation;
    saysAt(own, end ?? 0, end ?? 0, ` & ${typeName}`);
    return;
  }
  stays(own, parameter, 'the type of what it is given is told elsewhere');
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
