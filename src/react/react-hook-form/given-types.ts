import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { declarationNamed } from '../../source/type-members.js';
import type { Block } from '../package-leaving/block.js';
import { says, saysAt, stays, takeStatement } from '../package-leaving/leaving.js';
import { memberType } from '../package-leaving/starts.js';
import { elementsOf } from '../package-leaving/ties.js';
import type { Stated } from './block.js';
import type { GivenPart } from './context.js';
import type { OwnList, TakenApart } from './form.js';
import { rowFunction, valueTypes } from '../package-leaving/row-changes.js';
import { listParameters } from './row-functions.js';

/** The type of the values as the file of a component calls it. */
export function valuesType(part: GivenPart, { leaving, type, form }: TakenApart): string | undefined {
  const { apart, made } = part;
  const asked = made ? made.node.typeParameters?.params[0] : handedType(part);
  const { script } = apart.leaving;
  const text = asked && script.text.slice(asked.start ?? 0, asked.end ?? 0);
  if (script.file === leaving.script.file) return type;
  const own = form.type && leaving.script.text.slice(form.type.start ?? 0, form.type.end ?? 0);
  if (text === undefined) return undefined;
  const { load } = leaving.site;
  const [here, there] = [own ?? type ?? '', text].map((name, index) =>
    /^\w+$/.test(name) ? declarationNamed(name, index === 0 ? leaving.script : script, load) : undefined,
  );
  // the form itself is made with the same type, whatever its file calls it, or with what its schema tells
  return own === undefined || own === text || text === type || (here && here.node === there?.node) ? text : undefined;
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

/** The type that is written for what a component is given. */
function noteOf({ node }: NodePath): t.TSType | undefined {
  const note = t.isObjectPattern(node) || t.isIdentifier(node) ? node.typeAnnotation : undefined;
  return t.isTSTypeAnnotation(note) ? note.typeAnnotation : undefined;
}

/** The members of a type that is written out, with the statement that declares it where it has a name. */
interface TypeMembers {
  nodes: t.TSPropertySignature[];
  /** How many members it has, of whatever kind. */
  all: number;
  literal: t.Node;
  declared: t.Node | undefined;
}

/** The members of the type of what a component is given: written out beside it, or a type of its file. */
function membersOf(parameter: NodePath): TypeMembers | undefined {
  const type = noteOf(parameter);
  const members = (all: readonly t.Node[], literal: t.Node, declared?: t.Node): TypeMembers => ({
    nodes: all.filter((one) => t.isTSPropertySignature(one)),
    all: all.length,
    literal,
    declared,
  });
  if (t.isTSTypeLiteral(type)) return members(type.members, type);
  const name = t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : undefined;
  const program = parameter.scope.getProgramParent().path.node;
  for (const one of t.isProgram(program) ? program.body : []) {
    const own = t.isExportNamedDeclaration(one) ? one.declaration : one;
    if (t.isTSInterfaceDeclaration(own) && own.id.name === name) return members(own.body.body, own.body, one);
    if (t.isTSTypeAliasDeclaration(own) && own.id.name === name && t.isTSTypeLiteral(own.typeAnnotation))
      return members(own.typeAnnotation.members, own.typeAnnotation, one);
  }
  return undefined;
}

function nameOfMember({ key }: t.TSPropertySignature): string {
  return t.isIdentifier(key) ? key.name : '';
}

/**
 * The pattern of a component’s parameter with further names, and without those that it was handed.
 * @param names asked for in the end
 */
export function sayPattern(
  { handed, apart }: GivenPart,
  parameter: NodePath | undefined,
  names: readonly string[],
): void {
  if (!parameter?.isObjectPattern()) {
    // by its properties alone the type can be told
    if (parameter && !parameter.isIdentifier()) stays(apart.leaving, parameter, 'what it is given has no plain name');
    return;
  }
  const own = apart.leaving;
  const { text } = own.script;
  const gone = new Set(handed.map(({ property }) => property.node as t.Node));
  const kept = parameter.node.properties.filter((one) => !gone.has(one));
  const texts = kept.map(({ start, end }) => text.slice(start ?? 0, end ?? 0));
  const isRest = t.isRestElement(kept.at(-1));
  const typed = parameter.node.typeAnnotation?.start ?? undefined;
  const end = typed === undefined ? (parameter.node.end ?? 0) : text.lastIndexOf('}', typed) + 1;
  saysAt(own, parameter.node.start ?? 0, end, () => {
    if (!names.length && !handed.length) return text.slice(parameter.node.start ?? 0, end);
    const all = isRest ? [...texts.slice(0, -1), ...names, ...texts.slice(-1)] : [...texts, ...names];
    return `{ ${all.join(', ')} }`;
  });
}

/**
 * The type of what a component is given: with what it is given now, and without what it was handed.
 * @param typeName the type of what it is given in place of that; undefined where it is given nothing
 * @returns why it could not be said
 */
export function sayTypeOf(
  { handed, apart }: GivenPart,
  parameter: NodePath,
  typeName: string | undefined,
): string | undefined {
  const own = apart.leaving;
  const { text } = own.script;
  if (!handed.length && typeName === undefined) return undefined;
  const told = 'the type of what it is given is told elsewhere';
  const note = noteOf(parameter);
  if (!note) return told;
  const names = handed.map(({ property }) => (property.node.key as t.Identifier).name);
  const members = membersOf(parameter);
  const types = members?.nodes.filter((one) => names.includes(nameOfMember(one))) ?? [];
  if (types.length < names.length) return told;
  if (members && handed.length && types.length === members.all) {
    says(own, { node: note }, typeName ?? '{}');
    if (members.declared) takeStatement(own, { node: members.declared });
    return undefined;
  }
  const isOnLines = members !== undefined && members.literal.loc?.start.line !== members.literal.loc?.end.line;
  for (const node of types) {
    const rest = /^[ \t]*/.exec(text.slice(node.end ?? 0))?.[0].length ?? 0;
    if (isOnLines) takeStatement(own, { node });
    else saysAt(own, node.start ?? 0, (node.end ?? 0) + rest, '');
  }
  if (typeName !== undefined) saysAt(own, note.end ?? 0, note.end ?? 0, ` & ${typeName}`);
  return undefined;
}

/** What may be handed to a component, with its type; a type that is undefined is one that cannot be said. */
export function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
  const { names, rows, lists, needs } = apart;
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
    [names.focusField, '(name: string) => void'],
    [names.resetField, `(name: keyof ${values}) => void`],
    [names.reset, needs.has('resetTo') ? `(next?: ${values}) => void` : '() => void'],
  ]);
  for (const [list, kinds] of rows)
    if (needs.has(`change ${list}`))
      types.set(
        rowFunction(apart, 'change', list),
        `(index: number, name: string, value: ${valueTypes(kinds)}) => void`,
      );
  for (const list of lists.values()) addListTypes(types, list, memberType(values, list.name, apart.leaving));
  return types;
}

function addListTypes(types: Map<string, string | undefined>, list: OwnList, type: string): void {
  types.set(list.keys, 'number[]');
  for (const [member, name] of list.changes) types.set(name, `(${listParameters(member, type)}) => void`);
}

/** The type of what a component is given, above it. */
export function sayType(
  { component, apart }: GivenPart,
  props: readonly [string, string | undefined][],
  block: Block,
): string {
  const own = apart.leaving;
  const { style, freeName } = own.context;
  const name = freeName(`${component.name}Form`, `${component.name}Given`);
  const lines = props.map(([prop, type]) => `${style.indent}${prop}: ${type ?? ''}${style.semicolon}`);
  const { node } = component.statement;
  const at = node.leadingComments?.[0]?.start ?? node.start ?? 0;
  saysAt(own, at, at, [`interface ${name} {`, ...lines, '}', '', ''].join(style.newline));
  for (const type of ['ChangeEvent', 'FocusEvent', 'Dispatch', 'SetStateAction'])
    if (props.some(([, said]) => new RegExp(`\\b${type}<`).test(said ?? ''))) block.types.add(type);
  return name;
}

/** The parameter of a component that took none. */
export function sayParameter(
  { component, apart }: GivenPart,
  names: readonly string[],
  typeName: string | undefined,
): void {
  const own = apart.leaving;
  if (!names.length) return;
  const open = own.script.text.indexOf('(', component.path.node.start ?? 0);
  const typed = typeName === undefined ? '' : `: ${typeName}`;
  saysAt(own, open + 1, open + 1, `{ ${names.join(', ')} }${typed}`);
}
