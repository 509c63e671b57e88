import path from 'node:path';
import * as t from '@babel/types';
import { parseScript, type Script } from '../source/script.js';
import { walk } from '../source/traverse.js';
import type { Workspace } from '../source/workspace.js';
import { declarationNamed } from '../source/type-members.js';
import { loadingFrom } from '../source/project-files.js';
import { decoratorNamed, literalText, propertyOf } from './decorators.js';

/** Where the forms modules that a template needs are imported: a component's or a module's `imports`. */
export interface ImportsHome {
  script: Script;
  /** Name of the class that bears the list. */
  className: string;
  metadata: t.ObjectExpression;
  list: t.ArrayExpression | undefined;
  /** The templates of other components that rely on the same list; undefined where one of them is not known. */
  others: string | undefined;
}

/** The `imports` of a component or module, where they are a plain list. */
export function listIn(metadata: t.ObjectExpression): t.ArrayExpression | undefined {
  const list = propertyOf(metadata, 'imports');
  return t.isArrayExpression(list) ? list : undefined;
}

/** The module that declares a component: in its own file, beside it, or in a folder above. */
export function moduleDeclaring(className: string, file: string, workspace: Workspace): ImportsHome | undefined {
  let folder = path.dirname(file);
  for (let up = 0; up < 4; up++, folder = path.dirname(folder)) {
    for (const name of workspace.list(folder).filter((entry) => /\.ts$/.test(entry) && !/\.spec\.ts$/.test(entry))) {
      const candidate = path.join(folder, name);
      const read = workspace.read(candidate);
      if (!read.ok || !read.text.includes('NgModule') || !read.text.includes(className)) continue;
      const parsed = parseScript(candidate, read.text);
      const home = parsed.ok ? declaringHome(parsed.script, className, workspace) : undefined;
      if (home) return home;
    }
  }
  return undefined;
}

function declaringHome(script: Script, className: string, workspace: Workspace): ImportsHome | undefined {
  let home: ImportsHome | undefined;
  walk(script.program, {
    Class(classPath) {
      const metadata = decoratorNamed(classPath.node, 'NgModule');
      const declared = metadata ? propertyOf(metadata, 'declarations') : undefined;
      if (!metadata || !t.isArrayExpression(declared)) return;
      if (!declared.elements.some((element) => t.isIdentifier(element, { name: className }))) return;
      home = {
        script,
        className: classPath.node.id?.name ?? '',
        metadata,
        list: listIn(metadata),
        others: otherTemplates(script, metadata, declared, className, workspace),
      };
    },
  });
  return home;
}

/** The templates of a module's other components, one behind the other. */
function otherTemplates(
  script: Script,
  metadata: t.ObjectExpression,
  declared: t.ArrayExpression,
  className: string,
  workspace: Workspace,
): string | undefined {
  const exported = propertyOf(metadata, 'exports');
  // what a module hands on, modules that import it rely on
  if (exported && /FormsModule|\.\.\./.test(script.text.slice(exported.start ?? 0, exported.end ?? 0)))
    return undefined;
  const load = loadingFrom(workspace);
  const templates = declared.elements.map((element) => {
    if (!t.isIdentifier(element)) return undefined;
    if (element.name === className) return '';
    const found = declarationNamed(element.name, script, load);
    if (!found || !t.isClassDeclaration(found.node)) return undefined;
    const component = decoratorNamed(found.node, 'Component');
    // directives and pipes have no template
    return component ? templateText(component, found.script.file, workspace) : '';
  });
  return templates.includes(undefined) ? undefined : templates.join('\n');
}

function templateText(metadata: t.ObjectExpression, file: string, workspace: Workspace): string | undefined {
  const inline = propertyOf(metadata, 'template');
  // only what it uses is asked, so its escapes may stay
  if (inline) return literalText(inline);
  const url = literalText(propertyOf(metadata, 'templateUrl'));
  const read = url === undefined ? undefined : workspace.read(path.resolve(path.dirname(file), url));
  return read?.ok ? read.text : undefined;
}
