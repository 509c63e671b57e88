import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { declarationNamed } from '../../source/type-members.js';
import { membersOf, nameOfMember } from '../package-leaving/given-props.js';
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
