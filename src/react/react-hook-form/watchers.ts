import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { says, saysAt } from '../package-leaving/leaving.js';
import type { TakenApart } from './form.js';
import { walk } from '../../source/traverse.js';

/**
 * A component of the same file that is given the form’s control to follow some of its values: it is given the values.
 * @returns whether it is said so
 */
export function sayWatchedChild(apart: TakenApart, call: NodePath<t.CallExpression>): boolean {
  const { leaving, names, fields } = apart;
  const [given, ...more] = call.get('arguments') as NodePath[];
  const fn = call.findParent((parent) => parent.isFunction());
  if (!given?.isObjectExpression() || more.length || !fn?.isFunction()) return false;
  const member = (name: string): NodePath | undefined => {
    const found = given
      .get('properties')
      .find((one) => one.isObjectProperty() && t.isIdentifier(one.node.key, { name }));
    return found?.isObjectProperty() ? (found.get('value') as NodePath) : undefined;
  };
  const [control, name] = [member('control'), member('name')];
  const [props] = fn.get('params') as NodePath[];
  if (!control?.isIdentifier() || !name || !props?.isObjectPattern()) return false;
  const binding = control.scope.getBinding(control.node.name);
  const property = props
    .get('properties')
    .find((one) => one.isObjectProperty() && t.isIdentifier(one.node.value) && one.node.value === binding?.identifier);
  const prop = property?.isObjectProperty() && t.isIdentifier(property.node.key) ? property.node.key.name : undefined;
  if (!property || prop === undefined || binding?.references !== 1) return false;
  if (fn.scope.hasBinding(names.values, true)) return false;
  const asked = name.isArrayExpression() ? name.node.elements : [name.node];
  if (!asked.every((one) => t.isStringLiteral(one) && fields.includes(one.value))) return false;
  const texts = asked.map((one) => `${names.values}.${t.isStringLiteral(one) ? one.value : ''}`);
  const places = placesOf(fn, prop, apart);
  if (!places) return false;
  const type = controlType(props);
  if (leaving.script.typescript && !type) return false;
  says(leaving, call, name.isArrayExpression() ? `[${texts.join(', ')}]` : (texts[0] ?? ''));
  says(leaving, property, names.values);
  if (type)
    saysAt(
      leaving,
      type.start,
      type.end,
      `${names.values}: ${leaving.script.text.slice(type.of.start ?? 0, type.of.end ?? 0)}`,
    );
  for (const { attribute, tag } of places) {
    apart.watchers.add(tag);
    says(leaving, attribute, `${names.values}={${names.values}}`);
  }
  return true;
}

/** The member of the properties’ type for the control, with the type of its values. */
function controlType({ node }: NodePath<t.ObjectPattern>): { start: number; end: number; of: t.Node } | undefined {
  const note = t.isTSTypeAnnotation(node.typeAnnotation) ? node.typeAnnotation.typeAnnotation : undefined;
  for (const one of t.isTSTypeLiteral(note) ? note.members : []) {
    const type = t.isTSPropertySignature(one) ? one.typeAnnotation?.typeAnnotation : undefined;
    const [of] =
      t.isTSTypeReference(type) && t.isIdentifier(type.typeName, { name: 'Control' })
        ? (type.typeParameters?.params ?? [])
        : [];
    if (of && t.isTSPropertySignature(one)) {
      const end = type?.end ?? one.end ?? 0;
      return { start: one.start ?? 0, end, of };
    }
  }
  return undefined;
}

/** Where a component of the file stands with the form’s control; undefined where it stands elsewhere, or is given another. */
function placesOf(
  fn: NodePath,
  prop: string,
  { leaving, form }: TakenApart,
): { tag: string; attribute: NodePath }[] | undefined {
  const found: { tag: string; attribute: NodePath }[] = [];
  const own = form.taken.places.filter(({ member }) => member === 'control').map(({ path }) => path.node);
  const id = t.isFunctionDeclaration(fn.node)
    ? fn.node.id
    : fn.parentPath?.isVariableDeclarator()
      ? fn.parentPath.node.id
      : undefined;
  if (!t.isIdentifier(id)) return undefined;
  let other = false;
  walk(leaving.script.program, {
    JSXElement(element) {
      if (tagOf(element) !== id.name) return;
      const attribute = attributesOf(element).find(({ name }) => name === prop);
      const isOwn = own.some((node) => node === attribute?.value?.node);
      if (attribute && isOwn) found.push({ tag: id.name, attribute: attribute.path });
      else other = true;
    },
  });
  return other || !found.length ? undefined : found;
}
