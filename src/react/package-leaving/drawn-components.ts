import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import { behindName, type Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { calledImport, importOfTag } from '../hook-calls.js';
import { stays, type Leaving } from './leaving.js';

/** The function behind a component’s tag, where it is one of the project. */
export function componentOf(element: NodePath<t.JSXElement>, { script, load }: FormSite): Placed | undefined {
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

/** Leaves by hand elements whose components, or components inside of those, speak to the form through a package’s context. */
export function refuseContext(leaving: Leaving, module: string): void {
  const { site } = leaving;
  site.component.path.traverse({
    JSXElement(element) {
      const placed = componentOf(element, site);
      if (placed && placed.path.node !== site.component.path.node && speaksOf(placed, module, site, 0))
        stays(leaving, element.get('openingElement'), 'its component takes the form out of the package’s context');
    },
  });
}

/** Whether a component calls something of a package, or draws it. */
function speaksOf({ path, script }: Placed, module: string, site: FormSite, depth: number): boolean {
  if (depth > 4) return false;
  let speaks = false;
  path.traverse({
    CallExpression(call) {
      speaks ||= calledImport(call)?.module === module;
    },
    JSXElement(element) {
      speaks ||= importOfTag(element.get('openingElement').get('name') as NodePath)?.module === module;
      const inner = speaks ? undefined : componentOf(element, { ...site, script });
      if (inner && inner.path.node !== path.node) speaks ||= speaksOf(inner, module, site, depth + 1);
    },
  });
  return speaks;
}
