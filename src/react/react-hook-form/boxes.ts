import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { walk } from '../../source/traverse.js';

/** A list of checked boxes is in the order in which they stand. */
export function boxesInOrder(
  list: string,
  value: string,
  checked: string,
  box: NodePath<t.JSXElement>,
): string | undefined {
  const one = `(one) => (one === ${value} ? ${checked} : ${list}.includes(one))`;
  const written = boxesBeside(box);
  if (written) return `[${written.join(', ')}].filter(${one})`;
  const fn = box.findParent((parent) => parent.isFunction());
  const call = fn?.parentPath;
  if (!fn?.isFunction() || !call?.isCallExpression()) return undefined;
  const callee = call.get('callee') as NodePath;
  const [item] = fn.node.params;
  if (
    !callee.isMemberExpression() ||
    !t.isIdentifier(callee.node.property, { name: 'map' }) ||
    !t.isIdentifier(item, { name: value })
  )
    return undefined;
  const source = callee.get('object') as NodePath;
  return source.isIdentifier() ? `${source.node.name}.filter(${one})` : undefined;
}

/** The values of all boxes that are registered for the field of one, where each is written out. */
function boxesBeside(box: NodePath<t.JSXElement>): string[] | undefined {
  const registered = (element: NodePath<t.JSXElement>): string | undefined => {
    const spread = element.node.openingElement.attributes.find((one) => t.isJSXSpreadAttribute(one));
    const [name] = t.isCallExpression(spread?.argument) ? spread.argument.arguments : [];
    return t.isStringLiteral(name) ? name.value : undefined;
  };
  const field = registered(box);
  const component = box.findParent((one) => one.isFunction());
  if (field === undefined || !component || component.parentPath?.isCallExpression()) return undefined;
  const values: (string | undefined)[] = [];
  walk(component, {
    JSXElement(element) {
      if (tagOf(element) !== 'input' || registered(element) !== field) return;
      const value = attributesOf(element).find(({ name }) => name === 'value')?.value;
      values.push(value?.isStringLiteral() ? value.toString() : undefined);
    },
  });
  const known = values.flatMap((value) => (value === undefined ? [] : [value.replaceAll('"', "'")]));
  return known.length === values.length ? known : undefined;
}
