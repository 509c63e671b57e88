import * as t from '@babel/types';
import { styleOf } from '../source/style.js';
import { declarationNamed, typeMembers, type TypeInFile } from '../source/type-members.js';
import type { FormSite } from './approach.js';
import type { HeldObject } from './held-object/held.js';

/**
 * The type of one member of a held object, as source text that can stand in the component's file.
 * @returns undefined where it cannot be told
 */
export function memberTypeText(state: Pick<HeldObject, 'type'>, name: string, site: FormSite): string | undefined {
  const member = typeMembers(state.type, site.load).get(name);
  if (!member) return undefined;
  const text = member.optional ? `${member.text} | undefined` : member.text;
  if (member.script.file === site.script.file || namesKnown(member.node, member.script, site)) return text;
  // what another file calls it may mean nothing here
  const whole = state.type && typeNameIn(state.type, site);
  if (whole === undefined) return undefined;
  const quote = styleOf(site.script.text).quote;
  return `${whole}[${quote}${name}${quote}]`;
}

/**
 * A member of a type that code alone does not take apart, as `z.infer<typeof schema>`: it is asked of the type's name.
 * @returns undefined where the type is taken apart, or has no name in the form's file
 */
export function memberOfOpaque(state: Pick<HeldObject, 'type'>, name: string, site: FormSite): string | undefined {
  if (!state.type || typeMembers(state.type, site.load).size) return undefined;
  const whole = typeNameIn(state.type, site);
  const quote = styleOf(site.script.text).quote;
  return whole !== undefined && /^\w+$/.test(whole) ? `${whole}[${quote}${name}${quote}]` : undefined;
}

/** What a member's type is made of, wherever its file is: it tells the kind of value. */
export function memberTypeSaid(state: Pick<HeldObject, 'type'>, name: string, site: FormSite): string | undefined {
  return typeMembers(state.type, site.load).get(name)?.text;
}

/** Whether every name in a type means the same in the form's file. */
function namesKnown(node: t.Node, script: TypeInFile['script'], site: FormSite): boolean {
  let known = true;
  t.traverseFast(node, (inner) => {
    if (!t.isTSTypeReference(inner) && !t.isTSTypeQuery(inner)) return;
    const name = t.isTSTypeReference(inner) ? inner.typeName : inner.exprName;
    if (!t.isIdentifier(name)) {
      known = false;
      return;
    }
    const there = declarationNamed(name.name, script, site.load);
    // what no file declares is a type of the language
    if (!there && !importsName(script, name.name)) return;
    if (!there || declarationNamed(name.name, site.script, site.load)?.node !== there.node) known = false;
  });
  return known;
}

function importsName({ ast }: TypeInFile['script'], name: string): boolean {
  return ast.program.body.some(
    (node) => t.isImportDeclaration(node) && node.specifiers.some(({ local }) => local.name === name),
  );
}

/** What the form's file calls a type: the text that stands there, or the name it imports. */
export function typeNameIn({ node, script }: TypeInFile, site: FormSite): string | undefined {
  if (!t.isTSTypeReference(node)) return undefined;
  const text = script.text.slice(node.start ?? 0, node.end ?? 0);
  if (script.file === site.script.file) return text;
  if (!t.isIdentifier(node.typeName) || node.typeParameters) return undefined;
  const { name } = node.typeName;
  const [own, other] = [declarationNamed(name, site.script, site.load), declarationNamed(name, script, site.load)];
  return own && own.node === other?.node ? text : undefined;
}
