import path from 'node:path';
import * as t from '@babel/types';
import { parseScript, type Script } from '../source/script.js';
import { traverse } from '../source/traverse.js';
import type { Workspace } from '../source/workspace.js';
import { decoratorNamed, propertyOf } from './decorators.js';

/** Where the forms modules that a template needs are imported: a component's or a module's `imports`. */
export interface ImportsHome {
  script: Script;
  /** Name of the class that bears the list. */
  className: string;
  metadata: t.ObjectExpression;
  list: t.ArrayExpression | undefined;
  /** Whether other components rely on the same list. */
  shared: boolean;
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
      const home = parsed.ok ? declaringHome(parsed.script, className) : undefined;
      if (home) return home;
    }
  }
  return undefined;
}

function declaringHome(script: Script, className: string): ImportsHome | undefined {
  let home: ImportsHome | undefined;
  traverse(script.ast, {
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
        shared: declared.elements.length > 1,
      };
    },
  });
  return home;
}
