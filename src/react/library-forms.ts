import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, behindName, memberNamed, objectBehind, type Placed } from '../source/behind-names.js';
import { importedFrom } from '../source/handed-names.js';
import type { Script } from '../source/script.js';
import type { FormSite, Recognised } from './approach.js';
import { calledImport, importOfTag } from './hook-calls.js';
import { attributesOf, controlsIn, tagOf } from './jsx-controls.js';
import { walk } from '../source/traverse.js';

/** What marks a form of an npm package. */
export interface LibraryMarks {
  packages: RegExp;
  /** Functions and components of it that make a form. Taking the form's context is not one of them. */
  makes: RegExp;
  /** Functions and methods whose first argument names a field. */
  names: RegExp;
}

const options = ['defaultValues', 'initialValues', 'values'];
const schemas = ['resolver', 'validationSchema', 'validators', 'schema'];

/** A form that a component makes with an npm package, with its fields as far as the code names them. */
export function libraryForm(site: FormSite, marks: LibraryMarks): Recognised | undefined {
  if (!mayUse(site, marks)) return undefined;
  const made = madeIn(site, marks);
  if (!made.length) return undefined;
  const fields: string[] = [];
  const add = (name: string | undefined): void => {
    if (name !== undefined && name !== '' && !fields.includes(name)) fields.push(name);
  };
  for (const one of made) for (const name of fieldsTold(one, site)) add(name);
  for (const name of namedIn(site.region.element ?? site.component.path, site, marks)) add(name);
  for (const child of childrenOf(site, marks))
    for (const name of namedIn(child.path, { ...site, script: child.script }, marks)) add(name);
  // of a group that is named as a whole its members are the fields
  return { fields: fields.filter((name) => !fields.some((other) => other.startsWith(`${name}.`))) };
}

/** Whether a file imports a package, or a hook of the project around one. */
function mayUse({ script }: FormSite, { packages }: LibraryMarks): boolean {
  return script.ast.program.body.some(
    (node) =>
      t.isImportDeclaration(node) &&
      (packages.test(node.source.value) || node.specifiers.some((one) => /^use\w*Form\w*$/.test(one.local.name))),
  );
}

/** Calls and elements by which a component makes the form, itself or through a hook of the project. */
function madeIn({ component, script, load }: FormSite, { packages, makes }: LibraryMarks): Placed[] {
  const found: Placed[] = [];
  const isMade = (imported: { module: string; name: string } | undefined): boolean =>
    imported !== undefined && packages.test(imported.module) && makes.test(imported.name);
  walk(component.path, {
    CallExpression(call) {
      if (isMade(calledImport(call))) found.push({ path: call, script });
      else if (t.isIdentifier(call.node.callee) && /^use[A-Z]\w*/.test(call.node.callee.name)) {
        if (isMade(kitOf(call.node.callee.name, script, load))) found.push({ path: call, script });
        const { path: fn } = behindName({ path: call.get('callee') as NodePath, script }, load);
        if (!fn.isFunction() || fn.findParent((outer) => outer === component.path)) return;
        let wraps = false;
        walk(fn, {
          CallExpression(inner) {
            wraps ||= isMade(calledImport(inner));
          },
        });
        if (wraps) found.push({ path: call, script });
      }
    },
    JSXOpeningElement(opening) {
      if (isMade(importOfTag(opening.get('name') as NodePath))) found.push({ path: opening, script });
    },
  });
  return found;
}

/** What makes the hook of a project that is taken out of a kit: `export const { useAppForm } = createFormHook(…)`. */
function kitOf(name: string, script: Script, load: FormSite['load']): { module: string; name: string } | undefined {
  const taken = importedFrom(script, name);
  const home = taken ? load(script.file, taken.module) : script;
  const local = taken?.name ?? name;
  let made: { module: string; name: string } | undefined;
  walk(home?.program, {
    VariableDeclarator(declarator) {
      const { id } = declarator.node;
      const init = declarator.get('init') as NodePath;
      const takes =
        t.isObjectPattern(id) &&
        id.properties.some((one) => t.isObjectProperty(one) && t.isIdentifier(one.value, { name: local }));
      if (takes && init.isCallExpression()) made = calledImport(init);
    },
    Function: (fn) => fn.skip(),
  });
  return made;
}

/** Names that a form begins with, or that its schema has. */
function fieldsTold({ path, script }: Placed, { load }: FormSite): string[] {
  const given = (name: string): NodePath | undefined => {
    if (path.isJSXOpeningElement()) {
      const attribute = path
        .get('attributes')
        .find((one) => one.isJSXAttribute() && t.isJSXIdentifier(one.node.name, { name }));
      const value = attribute?.isJSXAttribute() ? (attribute.get('value') as NodePath) : undefined;
      return value?.isJSXExpressionContainer() ? (value.get('expression') as NodePath) : undefined;
    }
    const [first, second] = path.isCallExpression() ? (path.get('arguments') as NodePath[]) : [];
    for (const argument of [first, second]) {
      if (!argument) continue;
      const object = behindName({ path: argument, script }, load).path;
      const member = memberNamed(object, name);
      if (member) return member;
    }
    return undefined;
  };
  const starts = options.flatMap((name) => {
    const value = given(name);
    return value ? keysOf({ path: value, script }, load) : [];
  });
  if (starts.length) return starts;
  return schemas.flatMap((name) => {
    const value = given(name);
    return value ? schemaKeys({ path: value, script }, load) : [];
  });
}

/** The keys of an object, those of objects inside of it with their path. */
function keysOf(at: Placed, load: FormSite['load'], depth = 0): string[] {
  const object = objectBehind(at, load);
  if (!object?.path.isObjectExpression() || depth > 4) return [];
  const { script } = object;
  return object.path.get('properties').flatMap((property): string[] => {
    if (property.isSpreadElement())
      return keysOf({ path: property.get('argument') as NodePath, script }, load, depth + 1);
    if (!property.isObjectProperty()) return [];
    const { key, computed } = property.node;
    const name = t.isIdentifier(key) && !computed ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    if (name === undefined) return [];
    const value = bare(property.get('value') as NodePath);
    const inner =
      value.isObjectExpression() && value.node.properties.length
        ? keysOf({ path: value, script }, load, depth + 1)
        : [];
    return inner.length ? inner.map((one) => `${name}.${one}`) : [name];
  });
}

/** The keys of a schema that is written with the methods of a package: `z.object({…})`. */
function schemaKeys(at: Placed, load: FormSite['load'], depth = 0): string[] {
  const { path, script } = behindName(at, load);
  if (depth > 5) return [];
  if (path.isCallExpression()) {
    const callee = path.get('callee') as NodePath;
    const name =
      t.isMemberExpression(callee.node) && t.isIdentifier(callee.node.property) ? callee.node.property.name : '';
    const [first] = path.get('arguments') as (NodePath | undefined)[];
    if (/^(?:object|shape|strictObject|looseObject|extend)$/.test(name) && first) {
      const own = keysOf({ path: first, script }, load).map((key) => key.split('.')[0] ?? key);
      const before =
        name === 'extend' && callee.isMemberExpression()
          ? schemaKeys({ path: callee.get('object'), script }, load, depth + 1)
          : [];
      return [...before, ...own];
    }
    // zodResolver(schema), schema.refine(…)
    const inner = first && !first.isFunction() ? schemaKeys({ path: first, script }, load, depth + 1) : [];
    if (inner.length || !callee.isMemberExpression()) return inner;
    return schemaKeys({ path: callee.get('object'), script }, load, depth + 1);
  }
  return [];
}

/** Names of the fields in a part of a form: of controls, of elements that are given the form's control, and of calls. */
function namedIn(root: NodePath, site: FormSite, marks: LibraryMarks): string[] {
  const names: string[] = [];
  const add = (name: string | undefined): void => {
    if (name !== undefined) names.push(name);
  };
  const look = (element: NodePath<t.JSXElement>): void => {
    const attributes = attributesOf(element);
    const tag = tagOf(element);
    const isControl =
      /^(?:input|select|textarea|Field|FastField|Controller|FieldArray)$/.test(tag) ||
      /\.(?:Field|AppField|Controller)$/.test(tag) ||
      /^[A-Z]\w*(?:Field|Controller|Input|Select)$/.test(tag) ||
      attributes.some(({ name }) => /^(?:control|form)$/.test(name));
    if (isControl) add(attributes.find((attribute) => attribute.name === 'name')?.text);
  };
  if (root.isJSXElement()) look(root);
  walk(root, {
    JSXElement: look,
    CallExpression(call) {
      const { callee } = call.node;
      const called = t.isIdentifier(callee)
        ? callee.name
        : t.isMemberExpression(callee) && t.isIdentifier(callee.property)
          ? callee.property.name
          : '';
      const first = call.node.arguments[0];
      if (!marks.names.test(called)) return;
      if (t.isStringLiteral(first)) add(first.value);
      const own = t.isObjectExpression(first)
        ? first.properties.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: 'name' }))
        : undefined;
      if (t.isObjectProperty(own) && t.isStringLiteral(own.value)) add(own.value.value);
    },
  });
  if (!names.length)
    for (const { name, tag } of controlsIn(root, site.script.text)) if (!/(?:Button|Link|Tab)$/.test(tag)) add(name);
  return names;
}

/** Components of the project inside of the form that take part in it. */
function childrenOf({ component, script, load }: FormSite, { packages }: LibraryMarks): Placed[] {
  const found: Placed[] = [];
  walk(component.path, {
    JSXOpeningElement(opening) {
      const tag = opening.get('name') as NodePath;
      if (!tag.isJSXIdentifier() || !/^[A-Z]/.test(tag.node.name) || found.length > 20) return;
      const binding = opening.scope.getBinding(tag.node.name)?.path;
      const local =
        binding?.isImportSpecifier() || binding?.isImportDefaultSpecifier()
          ? (binding.get('local') as NodePath)
          : undefined;
      const imported = importOfTag(tag);
      if (imported && !imported.module.startsWith('.')) return;
      const child = local
        ? behindName({ path: local, script }, load)
        : { path: binding?.isVariableDeclarator() ? bare(binding.get('init') as NodePath) : binding, script };
      const { path } = child;
      if (!path?.isFunction() || path === component.path) return;
      const given = opening
        .get('attributes')
        .some(
          (one) =>
            one.isJSXAttribute() &&
            /^(?:form|control|register|methods|formMethods|formik)$/.test(String(one.node.name.name)),
        );
      let takes = given;
      walk(path, {
        CallExpression(call) {
          const called = calledImport(call);
          if (called && packages.test(called.module) && /Context$|^useController$|^useField$/.test(called.name))
            takes = true;
        },
      });
      if (takes) found.push({ path, script: child.script });
    },
  });
  return found;
}
