import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { declarationNamed } from '../../source/type-members.js';
import type { Apart } from './apart.js';
import type { GivenPart, Handing } from './context.js';
import { membersOf, nameOfMember } from './given-props.js';
import { rowFunction, valueTypes } from './row-changes.js';
import type { StartedAs } from './starts.js';
import { elementsOf } from './ties.js';

/** The type of the values as the file of a component calls it. */
export function valuesType(part: GivenPart, { leaving, form }: Handing, type: string | undefined): string | undefined {
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

/** The type of a function that sets a state variable. */
export function setterType(type: string): string {
  return `Dispatch<SetStateAction<${type}>>`;
}

/**
 * What a form of any package may hand to a component, with its type.
 * @param values the name of the values’ type in the component’s file
 */
export function plainPropTypes(apart: Apart, stated: StartedAs, values: string): Map<string, string | undefined> {
  const { names, needs, changed, left } = apart;
  const said = (type: string | undefined): string =>
    stated.type === undefined || type === undefined ? '' : type.replaceAll(stated.type, values);
  const event = (of: string, tags: ReadonlySet<string>): string => `(event: ${of}<${elementsOf(tags)}>) => void`;
  return new Map([
    [names.values, values],
    [names.errors, said(stated.errors)],
    [names.touched, said(stated.touched)],
    [names.submitting, 'boolean'],
    [names.dirty, 'boolean'],
    [names.valid, 'boolean'],
    [names.attempts, 'number'],
    [names.setErrors, setterType(said(stated.errors))],
    [names.setTouched, setterType(said(stated.touched))],
    [names.setValues, setterType(values)],
    [names.handleChange, event('ChangeEvent', changed)],
    [names.handleBlur, event('FocusEvent', left)],
    [names.left, '(name: string) => void'],
    [names.reset, needs.has('resetTo') ? `(next?: ${values}) => void` : '() => void'],
    ...rowTypes(apart),
  ]);
}

/** The functions that change rows. */
function rowTypes(apart: Apart): Map<string, string> {
  const types = new Map<string, string>();
  for (const list of apart.rows.keys()) {
    const change = `(index: number, name: string, value: ${valueTypes(apart, list)}) => void`;
    if (apart.needs.has(`change ${list}`)) types.set(rowFunction(apart, 'change', list), change);
    if (apart.needs.has(`without ${list}`)) types.set(rowFunction(apart, 'remove', list), '(index: number) => void');
  }
  return types;
}
