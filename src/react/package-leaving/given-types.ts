import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { declarationNamed } from '../../source/type-members.js';
import type { GivenPart, Handing } from './context.js';
import { membersOf, nameOfMember } from './given-props.js';

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
