import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionOf, type Component, type FunctionPath } from './components.js';
import { attribute, attributesOf, captionOf, tagOf, type JsxAttribute } from './jsx-controls.js';
import { walk } from '../source/traverse.js';

/** The part of a component that one form takes. */
export interface FormRegion {
  /** The form's element; undefined where the form is sent by a button alone. */
  element: NodePath<t.JSXElement> | undefined;
  /** What tells this form from the others of its component. */
  hint: string | undefined;
  submit: { how: 'form' | 'button' | 'none'; attribute: JsxAttribute | undefined; handler: FunctionPath | undefined };
}

function isFormTag(tag: string): boolean {
  return tag === 'form' || /(^|\.)Form$/.test(tag);
}

/** Whether a component is told to be a form: `<Box as="form" onSubmit={…}>`, `<Stack render={<form />} onSubmit={…}>`. */
function rendersForm(element: NodePath<t.JSXElement>): boolean {
  return attributesOf(element).some(
    ({ name, text, value }) =>
      /^(as|is|tag|component|element|tagName|render)$/.test(name) &&
      (text === 'form' || (value?.isJSXElement() === true && tagOf(value) === 'form')),
  );
}

function submitOf(element: NodePath<t.JSXElement>): FormRegion['submit'] {
  const attributes = attributesOf(element);
  const handed = attributes.find((candidate) => /^on(Submit|Finish)$|^action$/.test(candidate.name) && candidate.value);
  const handler = handed?.value && !handed.value.isStringLiteral() ? functionOf(handed.value) : undefined;
  return { how: handed ? 'form' : 'none', attribute: handed, handler };
}

/** The function that a form hands over as its submit, called by its name in the source. */
function handlerName(handed: JsxAttribute | undefined): string | undefined {
  const value = handed?.value;
  if (!value) return undefined;
  if (value.isIdentifier()) return value.node.name;
  if (value.isMemberExpression() && t.isIdentifier(value.node.property)) return value.node.property.name;
  return undefined;
}

/** The `<form>` elements of a component; a component without one gives an empty list. */
export function formElementsOf(component: Component): FormRegion[] {
  const regions: FormRegion[] = [];
  walk(component.path, {
    JSXElement(element) {
      if (!isFormTag(tagOf(element)) && !rendersForm(element)) return;
      const attributes = attributesOf(element);
      const submit = submitOf(element);
      if (tagOf(element) !== 'form' && submit.how === 'none') return;
      const plain = (name: string): string | undefined => attribute({ attributes }, name)?.text;
      const hint = plain('id') ?? plain('name') ?? plain('aria-label') ?? handlerName(submit.attribute);
      regions.push({ element, hint, submit });
      element.skip();
    },
  });
  return regions;
}

/** The buttons and other clickable elements of a component with the function behind their click. */
export function clicksOf(root: NodePath): {
  element: NodePath<t.JSXElement>;
  caption: string | undefined;
  click: JsxAttribute;
  handler: FunctionPath | undefined;
}[] {
  const found: ReturnType<typeof clicksOf> = [];
  walk(root, {
    JSXElement(element) {
      const click = attributesOf(element).find((candidate) =>
        /^on(Click|Press|PointerUp|MouseUp|MouseDown)$/.test(candidate.name),
      );
      if (!click?.value) return;
      found.push({ element, caption: captionOf(element), click, handler: functionOf(click.value) });
    },
  });
  return found;
}

/** Whether a path stands inside an element, or in a piece that is drawn there: a constant, or a function that gives it. */
export function isInside(path: NodePath, element: NodePath | undefined, depth = 0): boolean {
  if (!element) return true;
  if (holds(element, path)) return true;
  if (depth > 3) return false;
  for (let at: NodePath | null = path; at && !holds(at, element); at = at.parentPath) {
    const id = at.isVariableDeclarator() || at.isFunctionDeclaration() ? at.node.id : undefined;
    if (!t.isIdentifier(id)) continue;
    const references = at.parentPath?.scope.getBinding(id.name)?.referencePaths ?? [];
    return references.some((reference) => reference.node !== path.node && isInside(reference, element, depth + 1));
  }
  return false;
}

function holds(outer: NodePath, inner: NodePath): boolean {
  const start = inner.node.start ?? 0;
  return start >= (outer.node.start ?? 0) && start < (outer.node.end ?? 0);
}
