import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { wholeLines } from '../../source/removal.js';
import { declarationNamed } from '../../source/type-members.js';
import type { Block } from '../package-leaving/block.js';
import { says, saysAt, stays } from '../package-leaving/leaving.js';
import { memberType } from '../package-leaving/starts.js';
import { elementsOf } from '../package-leaving/ties.js';
import type { Stated } from './block.js';
import type { GivenPart } from './context.js';
import type { OwnList, TakenApart } from './form.js';
import { listParameters, valueTypes } from './row-functions.js';

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
export function sayPattern(
  { handed, apart }: GivenPart,
  parameter: NodePath | undefined,
  names: readonly string[],
): void {
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
export function sayLess(
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
export function propTypes(apart: TakenApart, stated: Stated, values: string): Map<string, string | undefined> {
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
    [names.focusField, '(name: string) => void'],
    [names.resetField, `(name: keyof ${values}) => void`],
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

/** The type of what a component is given, above it. */
export function sayType(
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
export function sayParameter(
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
