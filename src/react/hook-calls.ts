import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { walk } from '../source/traverse.js';

/** The name of what a reference was imported as: `useState` for `import { useState as useLocal }`. */
function importedName(path: NodePath<t.Identifier>): { module: string; name: string } | undefined {
  const binding = path.scope.getBinding(path.node.name);
  if (!binding) return undefined;
  const declared = binding.path;
  if (declared.isImportSpecifier()) {
    const { imported } = declared.node;
    const parent = declared.parent;
    if (!t.isImportDeclaration(parent)) return undefined;
    return { module: parent.source.value, name: t.isIdentifier(imported) ? imported.name : imported.value };
  }
  if (declared.isImportDefaultSpecifier() || declared.isImportNamespaceSpecifier()) {
    const parent = declared.parent;
    const name = declared.isImportDefaultSpecifier() ? 'default' : '*';
    return t.isImportDeclaration(parent) ? { module: parent.source.value, name } : undefined;
  }
  if (declared.isVariableDeclarator()) {
    const { init, id } = declared.node;
    const required =
      t.isCallExpression(init) &&
      t.isIdentifier(init.callee, { name: 'require' }) &&
      t.isStringLiteral(init.arguments[0])
        ? init.arguments[0].value
        : undefined;
    if (required !== undefined) {
      if (t.isIdentifier(id)) return { module: required, name: '*' };
      return { module: required, name: keyOfPattern(id, path.node.name) ?? path.node.name };
    }
    if (t.isIdentifier(init) && t.isObjectPattern(id)) {
      const source = declared.get('init');
      const whole = !Array.isArray(source) && source.isIdentifier() ? importedName(source) : undefined;
      if (whole?.name === '*' || whole?.name === 'default')
        return { module: whole.module, name: keyOfPattern(id, path.node.name) ?? '' };
    }
  }
  return undefined;
}

function keyOfPattern(pattern: t.Node, local: string): string | undefined {
  if (!t.isObjectPattern(pattern)) return undefined;
  for (const property of pattern.properties) {
    if (
      t.isObjectProperty(property) &&
      t.isIdentifier(property.value, { name: local }) &&
      t.isIdentifier(property.key)
    ) {
      return property.key.name;
    }
  }
  return undefined;
}

/**
 * What a called function is, when it comes from a module: `React.useState` and a renamed import both give
 * `{ module: 'react', name: 'useState' }`.
 */
export function calledImport(call: NodePath<t.CallExpression>): { module: string; name: string } | undefined {
  const callee = call.get('callee');
  if (callee.isIdentifier()) return importedName(callee);
  if (callee.isMemberExpression() && !callee.node.computed) {
    const object = callee.get('object');
    const property = callee.node.property;
    if (object.isIdentifier() && t.isIdentifier(property)) {
      const whole = importedName(object);
      if (whole?.name === '*' || whole?.name === 'default') return { module: whole.module, name: property.name };
    }
  }
  return undefined;
}

/** The calls of what a module gives, inside of a function, with the names that it has there. */
export function callsOf(fn: NodePath, module: string): { call: NodePath<t.CallExpression>; name: string }[] {
  const found: { call: NodePath<t.CallExpression>; name: string }[] = [];
  walk(fn, {
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module === module) found.push({ call, name: made.name });
    },
  });
  return found;
}

/**
 * Whether a call is React's hook of the given name. A hook counts by what it is: a workspace's own module, a platform's
 * element package or a compatible library may hand it on.
 */
export function isReactHook(call: NodePath<t.CallExpression>, name: string): boolean {
  return calledImport(call)?.name === name;
}

const hooks =
  /^(useState|useReducer|useRef|useEffect|useLayoutEffect|useMemo|useCallback|useContext|useId|useTransition|forwardRef|memo)$/;

/** The module from which a file takes React's hooks; `react` where it takes none. */
export function hookModule(program: t.Program): string {
  for (const node of program.body) {
    if (!t.isImportDeclaration(node) || node.importKind === 'type') continue;
    const takes = node.specifiers.some(
      (one) => t.isImportSpecifier(one) && t.isIdentifier(one.imported) && hooks.test(one.imported.name),
    );
    if (takes) return node.source.value;
  }
  return 'react';
}

/** Where an imported component or function comes from; undefined for what the file declares itself. */
export function importOf(path: NodePath<t.Node>): { module: string; name: string } | undefined {
  return path.isIdentifier() ? importedName(path) : undefined;
}

/** Name and module behind a JSX tag such as `<Formik>`. */
export function importOfTag(tag: NodePath<t.Node>): { module: string; name: string } | undefined {
  if (!tag.isJSXIdentifier()) return undefined;
  const binding = tag.scope.getBinding(tag.node.name);
  const declared = binding?.path;
  if (!declared?.isImportSpecifier() && !declared?.isImportDefaultSpecifier()) return undefined;
  const parent = declared.parent;
  if (!t.isImportDeclaration(parent)) return undefined;
  const name =
    declared.isImportSpecifier() && t.isIdentifier(declared.node.imported) ? declared.node.imported.name : 'default';
  return { module: parent.source.value, name };
}
