import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { behindName, type Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { componentsOf, type Component } from '../components.js';
import { calledImport, importOfTag } from '../hook-calls.js';
import { membersTaken, type Members } from '../package-leaving/members.js';

const module = 'react-hook-form';

/** A component that takes the form out of the package’s context, where it stands in the page of the form. */
export interface ContextPart {
  /** The site of the form with the component in place of its own. */
  site: FormSite;
  component: Component & { kind: 'function' };
  /** `useFormContext()`, declared as a constant. */
  made: NodePath<t.CallExpression>;
  taken: Members;
  drawn: NodePath<t.JSXElement>[];
}

/** The elements by which a form is handed on: `<FormProvider {...methods}>`. */
export function providersIn({ component }: FormSite): NodePath<t.JSXElement>[] {
  const found: NodePath<t.JSXElement>[] = [];
  component.path.traverse({
    JSXElement(element) {
      const made = importOfTag(element.get('openingElement').get('name') as NodePath);
      if (made?.module === module && made.name === 'FormProvider') found.push(element);
    },
  });
  return found;
}

/** Components of the page that take the form out of the context, and elements whose components do so further down. */
export function contextParts(site: FormSite): { parts: ContextPart[]; deeper: NodePath<t.JSXElement>[] } {
  const parts = new Map<t.Node, ContextPart>();
  const deeper: NodePath<t.JSXElement>[] = [];
  for (const provider of providersIn(site))
    provider.traverse({
      JSXElement(element) {
        const placed = componentOf(element, site);
        if (!placed) return;
        const known = parts.get(placed.path.node);
        if (known) {
          known.drawn.push(element);
          return;
        }
        const [made, ...more] = contextCalls(placed.path);
        const declarator = made?.parentPath;
        if (!made || more.length || !declarator?.isVariableDeclarator() || takesDeeper(placed, site, 0)) {
          if (made || takesDeeper(placed, site, 0)) deeper.push(element);
          return;
        }
        const component = componentsOf(placed.script).find(({ path }) => path.node === placed.path.node);
        if (component?.kind !== 'function') {
          deeper.push(element);
          return;
        }
        parts.set(placed.path.node, {
          site: { ...site, script: placed.script, component },
          component,
          made,
          taken: membersTaken(declarator.get('id') as NodePath),
          drawn: [element],
        });
      },
    });
  return { parts: [...parts.values()], deeper };
}

/** The function behind a component’s tag, where it is one of the project. */
function componentOf(element: NodePath<t.JSXElement>, { script, load }: FormSite): Placed | undefined {
  const tag = element.get('openingElement').get('name') as NodePath;
  if (!tag.isJSXIdentifier() || !/^[A-Z]/.test(tag.node.name)) return undefined;
  const declared = tag.scope.getBinding(tag.node.name)?.path;
  if (!declared) return undefined;
  const isImported = declared.isImportSpecifier() || declared.isImportDefaultSpecifier();
  const at = isImported ? (declared.get('local') as NodePath) : declared;
  const { path, script: own } = behindName({ path: at, script }, load);
  const init = path.isVariableDeclarator() ? (path.get('init') as NodePath) : path;
  const [wrapped] = init.isCallExpression() ? (init.get('arguments') as NodePath[]) : [init];
  return wrapped?.isFunction() ? { path: wrapped, script: own } : undefined;
}

/** The calls by which a function takes the form out of the context. */
function contextCalls(fn: NodePath): NodePath<t.CallExpression>[] {
  const found: NodePath<t.CallExpression>[] = [];
  fn.traverse({
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module === module && made.name === 'useFormContext') found.push(call);
    },
  });
  return found;
}

/** Whether a component that another one draws takes the form out of the context. */
function takesDeeper({ path, script }: Placed, site: FormSite, depth: number): boolean {
  if (depth > 4) return false;
  let takes = false;
  path.traverse({
    JSXElement(element) {
      const inner = takes ? undefined : componentOf(element, { ...site, script });
      if (!inner || inner.path.node === path.node) return;
      takes ||= contextCalls(inner.path).length > 0 || takesDeeper(inner, site, depth + 1);
    },
  });
  return takes;
}
