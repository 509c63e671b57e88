import type { Code } from '../form/code.js';
import type { RowPlace } from '../form/uses.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { templateChain, type Chain, type Link } from './chains.js';
import type { LoadScript } from '../source/project-files.js';
import { expandedType, typeMembers, type TypeInFile } from '../source/type-members.js';
import { codeOf, parameterReferences, typeOfValue, type InitialPart } from './class-reading.js';
import type { AngularComponent, Member } from './component.js';
import { placeOf } from './template.js';
import { type Place, type TemplateName, type TemplateVariable } from './template-model.js';

/** A loop of the template over a list that is spelt as a chain of names. */
export interface Loop {
  variable: TemplateVariable;
  chain: Chain;
  /** The list's expression. */
  list: Place;
  index: string | undefined;
  /** Where an index could be declared: behind the loop's own words. Undefined where one is known in any case. */
  indexAt: number | undefined;
}

/** The loops of a template whose list is a plain chain. */
export function loopsOf(component: AngularComponent): Loop[] {
  const { template } = component;
  const { place } = template;
  return template.variables.flatMap((variable) => {
    if (variable.kind !== 'loop' || !variable.over) return [];
    const list = placeOf(variable.over, place);
    const first = template.names.find((name) => name.start >= list.start && name.end <= list.end && !name.variable);
    const chain = first && templateChain(first, place);
    if (!chain) return [];
    const covered = place.text.slice(chain.start - place.base, (chain.links.at(-1)?.end ?? 0) - place.base).trim();
    const whole = place.text.slice(list.start - place.base, list.end - place.base).trim();
    if (covered.replace(/!$/, '') !== whole.replace(/^this\./, '').replace(/!$/, '')) return [];
    const { view } = variable;
    const isBlock = place.text[view.start - place.base] === '@';
    const closing = /^[^"]*/.exec(place.text.slice(list.end - place.base))?.[0].length ?? 0;
    return [
      {
        variable,
        chain,
        list,
        index: view.index ?? (isBlock ? '$index' : undefined),
        indexAt: view.index !== undefined || isBlock ? undefined : list.end + closing,
      },
    ];
  });
}

/** What a list's rows are: their keys, and their type where the source writes one. */
export interface RowShape {
  keys: Map<string, { type: string | undefined; optional: boolean }>;
  rowType: TypeInFile | undefined;
}

/** What a list's rows are, as its type or the first row that it starts with tells. */
export function rowShape(part: InitialPart | undefined, load: LoadScript): RowShape {
  const written = part?.written && expandedType(part.written, load);
  const element = written && rowTypeOf(written.node);
  const rowType = element && written ? { node: element, script: written.script } : undefined;
  const keys: RowShape['keys'] = new Map();
  if (rowType)
    for (const [key, { text, optional }] of typeMembers(rowType, load)) keys.set(key, { type: text, optional });
  const first = t.isArrayExpression(part?.node) ? part.node.elements[0] : undefined;
  if (!rowType && t.isObjectExpression(first))
    for (const property of first.properties)
      if (t.isObjectProperty(property) && t.isIdentifier(property.key))
        keys.set(property.key.name, { type: typeOfValue(property.value), optional: false });
  return { keys, rowType };
}

/** The type of a list's rows, where its text says it: `Leg[]`, `readonly Leg[]`, `Array<Leg>`. */
export function rowTypeOf(type: t.Node | undefined): t.Node | undefined {
  if (t.isTSTypeOperator(type)) return rowTypeOf(type.typeAnnotation);
  if (t.isTSArrayType(type)) return type.elementType;
  const named = t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : undefined;
  return t.isTSTypeReference(type) && /^(Array|ReadonlyArray)$/.test(named ?? '')
    ? type.typeParameters?.params[0]
    : undefined;
}

/** A parameter of a method that stands for a row. */
export interface RowParameter {
  member: Member;
  name: string;
  references: NonNullable<ReturnType<typeof parameterReferences>>['references'];
  /** Its written type, where it has one. */
  type: Place | undefined;
}

/**
 * The parameter of a method that is given a row: by a handler's argument, or by a loop that tells rows apart.
 * @returns undefined where the row goes to code that cannot be followed
 */
export function rowParameter(name: TemplateName, component: AngularComponent): RowParameter | undefined {
  const call = name.around[1] as unknown as { args?: unknown[]; receiver?: { name?: string } } | undefined;
  const index = call?.args?.indexOf(name.around[0]) ?? -1;
  return index < 0 ? undefined : parameterAt(call?.receiver?.name ?? '', index, component);
}

/** A method's parameter that stands for a row. */
export function parameterAt(method: string, index: number, component: AngularComponent): RowParameter | undefined {
  const member = component.members.get(method);
  const parameter = member?.kind === 'method' ? parameterReferences(member, index) : undefined;
  if (!member || !parameter) return undefined;
  const annotation = parameter.node.typeAnnotation;
  const inner = annotation && 'typeAnnotation' in annotation ? annotation.typeAnnotation : undefined;
  return {
    member,
    name: parameter.name,
    references: parameter.references,
    type: inner ? { start: inner.start ?? 0, end: inner.end ?? 0 } : undefined,
  };
}

/** The method that a loop asks to tell rows apart. */
export function trackMethods(component: AngularComponent, loops: readonly Loop[]): { method: string; loop: Loop }[] {
  const { place } = component.template;
  return loops.flatMap((loop) => {
    const rest = place.text.slice(loop.list.end - place.base, loop.list.end - place.base + 120);
    const method = /^[^"@{]*?\btrackBy\s*:\s*(\w+)/.exec(rest)?.[1];
    return method === undefined ? [] : [{ method, loop }];
  });
}

/** The place among rows that an index in a chain names: `lines[2]`, `lines[i]`, `lines.at(i)`. */
export function rowAt(chain: Chain, link: Link, text: string): RowPlace {
  const mayMiss = text.slice(link.end).startsWith('?.');
  const index = link.computed ?? { start: link.end - link.key.length - 1, end: link.end - 1 };
  return { kind: 'at', index: codeOf(chain.file, index), mayMiss };
}

/** Whether a name of the template only tells a row from others: a loop tracks it, or it is looked for in its list. */
export function isToldApart({ start, end }: Place, text: string): boolean {
  return (
    /\btrack\s+$|\.indexOf\(\s*$/.test(text.slice(Math.max(0, start - 40), start)) &&
    !/^\s*[.?[(]/.test(text.slice(end))
  );
}

/** Whether code of a class changes the rows it is handed one by one, which only the list itself would notice. */
export function changesRows(text: string): boolean {
  const item = /(?:\(\s*(\w+)|(\w+)\s*=>|(?:const|let)\s+(\w+)\s+of\b)/.exec(text);
  const name = item?.[1] ?? item?.[2] ?? item?.[3];
  return name !== undefined && new RegExp(`\\b${name}\\.[\\w.]+\\s*(=(?![=>])|\\+\\+|--|[-+*/]=)`).test(text);
}

/** Whether a row is only told from others: looked for in its list, compared, or given back to a loop that tracks it. */
export function isIdentity(path: NodePath, tracks: boolean): boolean {
  const { parent } = path;
  if (t.isBinaryExpression(parent) && /^[!=]==?$/.test(parent.operator)) return true;
  if (tracks && (t.isReturnStatement(parent) || t.isArrowFunctionExpression(parent))) return true;
  return (
    t.isCallExpression(parent) &&
    t.isMemberExpression(parent.callee) &&
    t.isIdentifier(parent.callee.property, { name: 'indexOf' })
  );
}

/** A literal that stands nowhere in the source. */
export function numberCode(text: string, near: Code): Code {
  return {
    ...near,
    end: near.start,
    holes: [{ kind: 'text', start: near.start, end: near.start, text }],
  };
}
