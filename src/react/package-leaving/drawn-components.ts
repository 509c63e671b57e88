import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { behindName, type Placed } from '../../source/behind-names.js';
import { parseScript, type Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import type { Component } from '../components.js';
import { exportedAs } from '../exported-names.js';
import { callsOf, importOfTag } from '../hook-calls.js';
import { stays, type Leaving } from './leaving.js';
import { walk } from '../../source/traverse.js';

/** The function behind a component’s tag, where it is one of the project; `memo(…)` and the like are looked through. */
export function componentOf(element: NodePath<t.JSXElement>, site: FormSite): Placed | undefined {
  return componentNamed(element.get('openingElement').get('name') as NodePath, site);
}

/** The function behind the name of a component, where it is one of the project. */
export function componentNamed(name: NodePath, site: FormSite): Placed | undefined {
  let at = behindTag(name, site);
  for (let depth = 0; at && depth < 6; depth++) {
    const { path, script } = at;
    if (path.isFunction()) return at;
    const inner: NodePath | undefined = path.isVariableDeclarator()
      ? (path.get('init') as NodePath)
      : path.isCallExpression()
        ? (path.get('arguments')[0] as NodePath | undefined)
        : undefined;
    at = inner?.node ? behindName({ path: inner, script }, site.load) : undefined;
  }
  return undefined;
}

/** What a component’s tag stands for, as far as its name leads. */
function behindTag(tag: NodePath, { script, load }: FormSite): Placed | undefined {
  if (!(tag.isJSXIdentifier() || tag.isIdentifier()) || !/^[A-Z]/.test(tag.node.name)) return undefined;
  const declared = tag.scope.getBinding(tag.node.name)?.path;
  if (!declared) return undefined;
  const isImported = declared.isImportSpecifier() || declared.isImportDefaultSpecifier();
  return behindName({ path: isImported ? (declared.get('local') as NodePath) : declared, script }, load);
}

/** Whether an element’s component is one of the project that could not be followed. */
export function isUntold(element: NodePath<t.JSXElement>, site: FormSite): boolean {
  const tag = element.get('openingElement').get('name') as NodePath;
  const root = tag.isJSXMemberExpression() ? (tag.get('object') as NodePath) : tag;
  if (!root.isJSXIdentifier() || !/^[A-Z]/.test(root.node.name) || componentOf(element, site)) return false;
  const parent = root.scope.getBinding(root.node.name)?.path.parent;
  const module = t.isImportDeclaration(parent) ? parent.source.value : '';
  if (!/^(?:\.|@\/|~|#)/.test(module) || /\.(?!m?[jt]sx?$)[a-z]+$/.test(module)) return false;
  const behind = behindTag(tag, site)?.path;
  const held = behind?.isVariableDeclarator() ? behind.node.init : behind?.node;
  // elements with a style of their own, and classes, take no context by a hook
  return !t.isTaggedTemplateExpression(held) && !t.isClass(held);
}

/**
 * Leaves by hand elements whose components, or components inside of those, speak to the form through a package’s context.
 * @param told components that are said without it
 */
export function refuseContext(leaving: Leaving, module: string, told: ReadonlySet<t.Node>): void {
  const { site } = leaving;
  walk(site.component.path, {
    JSXElement(element) {
      const opening = element.get('openingElement');
      const placed = componentOf(element, site);
      if (placed && told.has(placed.path.node)) return;
      if (placed && placed.path.node !== site.component.path.node && speaksOf(placed, module, site))
        stays(leaving, opening, 'its component takes the form out of the package’s context');
      else if (isUntold(element, site))
        stays(leaving, opening, 'whether its component takes the form out of the context is not told');
    },
  });
}

/** Whether a component calls something of a package, or draws it, itself or further down. */
function speaksOf(placed: Placed, module: string, site: FormSite): boolean {
  const speaks = ({ path }: Placed): boolean => drawnOf(path, module).length > 0 || callsOf(path, module).length > 0;
  return speaks(placed) || drawsOne(placed, site, speaks);
}

/** The elements of a package that a component draws itself, with what they are called there. */
export function drawnOf(component: NodePath, module: string): { element: NodePath<t.JSXElement>; name: string }[] {
  const found: { element: NodePath<t.JSXElement>; name: string }[] = [];
  walk(component, {
    JSXElement(element) {
      const made = importOfTag(element.get('openingElement').get('name') as NodePath);
      if (made?.module === module) found.push({ element, name: made.name });
    },
  });
  return found;
}

/** Whether a component draws one of which something holds, itself or further down. */
export function drawsOne(
  { path, script }: Placed,
  site: FormSite,
  holds: (component: Placed) => boolean,
  depth = 0,
): boolean {
  let found = false;
  walk(path, {
    JSXElement(element) {
      const inner = found ? undefined : componentOf(element, { ...site, script });
      if (!inner || inner.path.node === path.node) return;
      found = holds(inner) || (depth < 4 && drawsOne(inner, site, holds, depth + 1));
    },
  });
  return found;
}

/**
 * The files of the project that take an exported component, through files that only hand it on.
 * @returns undefined where the project cannot be searched
 */
export function takersOf(
  leaving: Pick<Leaving, 'context' | 'site'>,
  file: string,
  name: string,
  depth = 0,
): string[] | undefined {
  const { context, site } = leaving;
  const importers = context.importers(file, name);
  if (!importers || depth > 4) return importers;
  const found: string[] = [];
  for (const importer of importers) {
    const handed = handedOnAs(importer, file, name, context, site);
    if (!handed.length) found.push(importer);
    for (const other of handed) {
      const further = takersOf(leaving, importer, other, depth + 1);
      if (!further) return undefined;
      found.push(...further);
    }
  }
  return found;
}

/** The names under which a file hands on what another one exports; none where it takes that itself as well. */
function handedOnAs(
  importer: string,
  file: string,
  name: string,
  context: Leaving['context'],
  { load }: FormSite,
): string[] {
  const isFrom = (module: string): boolean => load(importer, module)?.file === file;
  const names: string[] = [];
  const parsed = parseScript(importer, context.text(importer));
  // what does not parse may take anything
  for (const node of parsed.ok ? parsed.script.ast.program.body : []) {
    if (t.isImportDeclaration(node) && isFrom(node.source.value)) return [];
    if (t.isExportAllDeclaration(node) && name !== 'default' && isFrom(node.source.value)) names.push(name);
    if (!t.isExportNamedDeclaration(node) || !node.source || !isFrom(node.source.value)) continue;
    for (const one of node.specifiers)
      if (t.isExportSpecifier(one) && one.local.name === name)
        names.push(t.isIdentifier(one.exported) ? one.exported.name : one.exported.value);
  }
  return names;
}

/** Whether nothing of the project draws a component but some elements of the form. */
export function isDrawnAlone(
  { name }: Component,
  own: Script,
  drawn: readonly NodePath<t.JSXElement>[],
  leaving: Leaving,
): boolean {
  const tags = drawn.map((one) => one.get('openingElement').get('name') as NodePath<t.JSXIdentifier>);
  const nodes = new Set<t.Node>(tags.map(({ node }) => node));
  const bindings = [...tags.map((tag) => tag.scope.getBinding(tag.node.name)), own.program.scope.getBinding(name)];
  for (const binding of bindings)
    for (const one of binding?.referencePaths ?? []) if (!nodes.has(one.node) && !isPlain(one)) return false;
  const exported = exportedAs(own, name);
  if (exported === undefined) return own.file === leaving.script.file;
  // nobody can say who else draws it where nothing tells where the project ends
  return takersOf(leaving, own.file, exported)?.every((file) => file === leaving.script.file) === true;
}

/** Whether a name of a component is no place that draws it: it is exported, or given to what is drawn in its place. */
function isPlain(one: NodePath): boolean {
  const { parentPath: parent } = one;
  return (
    one.isExportDeclaration() ||
    parent?.isExportDeclaration() === true ||
    parent?.isExportSpecifier() === true ||
    parent?.isJSXClosingElement() === true ||
    (parent?.isCallExpression() === true && !parent.parentPath.isExpressionStatement())
  );
}
