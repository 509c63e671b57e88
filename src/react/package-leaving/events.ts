import * as t from '@babel/types';
import type { NodePath } from '@babel/traverse';
import { attributesOf, tagOf } from '../jsx-controls.js';

/** What a control gives when a person changes it. */
export type Gives = 'text' | 'number' | 'checked' | 'listed' | 'other';

/**
 * What a control of the page gives by its element and type.
 * @param drawn its type, where a component draws it whose element does not say it
 */
export function givenBy(element: NodePath<t.JSXElement>, tag = tagOf(element), drawn?: string): Gives {
  const attributes = attributesOf(element);
  const type = attributes.find(({ name }) => name === 'type') ?? (drawn === undefined ? undefined : { text: drawn });
  if (tag === 'select') return attributes.some(({ name }) => name === 'multiple') ? 'other' : 'text';
  if (tag === 'textarea') return 'text';
  if (tag !== 'input' || (type && type.text === undefined)) return 'other';
  if (type?.text === 'checkbox') return attributes.some(({ name }) => name === 'value') ? 'listed' : 'checked';
  if (type?.text === 'number' || type?.text === 'range') return 'number';
  return type?.text === 'file' ? 'other' : 'text';
}

/** The type of an event’s element, by its tag. */
export const elementTypes: Readonly<Record<string, string>> = {
  input: 'HTMLInputElement',
  select: 'HTMLSelectElement',
  textarea: 'HTMLTextAreaElement',
};

/** The element whose attribute a path is, or stands in. */
export function elementOf(path: NodePath): NodePath<t.JSXElement> | undefined {
  const attribute = path.findParent((parent) => parent.isJSXAttribute() || parent.isJSXSpreadAttribute());
  const element = attribute?.parentPath?.parentPath;
  return element?.isJSXElement() ? element : undefined;
}
