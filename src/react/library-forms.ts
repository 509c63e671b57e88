import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormSite } from './approach.js';
import { calledImport, importOfTag } from './hook-calls.js';
import { attributesOf, controlsIn, tagOf } from './jsx-controls.js';

/** Whether a component calls a function or renders a component of an npm package. */
export function usesPackage(site: FormSite, packages: RegExp, names: RegExp): boolean {
  const imported = site.script.ast.program.body.some(
    (node) => t.isImportDeclaration(node) && packages.test(node.source.value),
  );
  if (!imported) return false;
  let found = false;
  site.component.path.traverse({
    CallExpression(call) {
      const called = calledImport(call);
      if (called && packages.test(called.module) && names.test(called.name)) found = true;
    },
    JSXOpeningElement(opening) {
      const imported = importOfTag(opening.get('name') as NodePath);
      if (imported && packages.test(imported.module) && names.test(imported.name)) found = true;
    },
  });
  return found;
}

/** Names of the controls in the form, from their `name` attributes and from calls such as `register('town')`. */
export function namedFields(site: FormSite, calls: RegExp): string[] {
  const names: string[] = [];
  const add = (name: string | undefined): void => {
    if (name !== undefined && !names.includes(name)) names.push(name);
  };
  const root: NodePath = site.region.element ?? site.component.path;
  root.traverse({
    JSXElement(element) {
      const attributes = attributesOf(element);
      const isControl =
        /^(input|select|textarea|Field|FastField|Controller|FieldArray)$/.test(tagOf(element)) ||
        tagOf(element).endsWith('.Field') ||
        tagOf(element).endsWith('.AppField');
      if (isControl) add(attributes.find((attribute) => attribute.name === 'name')?.text);
    },
    CallExpression(call) {
      const callee = call.node.callee;
      const called = t.isIdentifier(callee)
        ? callee.name
        : t.isMemberExpression(callee) && t.isIdentifier(callee.property)
          ? callee.property.name
          : '';
      const first = call.node.arguments[0];
      if (calls.test(called) && t.isStringLiteral(first)) add(first.value);
    },
  });
  if (!names.length) {
    for (const control of controlsIn(root, site.script.text)) add(control.name ?? control.label);
  }
  return names;
}
