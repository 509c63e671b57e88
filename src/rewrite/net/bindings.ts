import type { Scope } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { walk } from '../../source/traverse.js';

/** A name that a script declares. */
export interface Declared {
  file: string;
  name: string;
  /** Offsets of the identifier that declares it. */
  start: number;
  end: number;
  /** The module it is imported from. */
  imported: string | undefined;
  /** A parameter of a function that is no component, or a function's own name for itself. */
  parameter: boolean;
  /** It holds an element of the page, or something else between two views. */
  ref: boolean;
}

/** Every name that a script declares for values, in any scope, members of classes included; types are the compiler's business. */
export function bindingsOf(script: Script): Declared[] {
  return [...membersOf(script), ...namesInScopes(script)];
}

/** Members of classes. */
function membersOf(script: Script): Declared[] {
  const found: Declared[] = [];
  t.traverseFast(script.ast, (node) => {
    if (!t.isClassMethod(node) && !t.isClassProperty(node)) return;
    if (!t.isIdentifier(node.key) || node.computed) return;
    const { name, start, end } = node.key;
    const place = { file: script.file, name, start: start ?? 0, end: end ?? 0 };
    found.push({ ...place, imported: undefined, parameter: false, ref: false });
  });
  return found;
}

function namesInScopes(script: Script): Declared[] {
  return scopesOf(script).flatMap((scope) =>
    Object.entries(scope.bindings).map(([name, binding]): Declared => {
      const { node, parent } = binding.path;
      const { start, end } = binding.identifier;
      return {
        file: script.file,
        name,
        start: start ?? 0,
        end: end ?? 0,
        imported: t.isImportDeclaration(parent) ? parent.source.value : undefined,
        ref: t.isVariableDeclarator(node) && isRefCall(node.init),
        parameter:
          (binding.kind === 'param' && !takesProps(scope)) ||
          (t.isFunctionExpression(node) && binding.kind === 'local'),
      };
    }),
  );
}

/** Every scope of a script, that of the file first. */
export function scopesOf(script: Script): Scope[] {
  const scopes: Scope[] = [script.program.scope];
  walk(script.program, {
    Scope(path) {
      scopes.push(path.scope);
    },
  });
  return scopes;
}

function isRefCall(node: t.Node | null | undefined): boolean {
  if (!t.isCallExpression(node)) return false;
  const name = t.isMemberExpression(node.callee) ? node.callee.property : node.callee;
  return t.isIdentifier(name, { name: 'useRef' });
}

/** Whether a scope is that of a component, whose parameters are what the author hands on. */
function takesProps({ block, path }: Scope): boolean {
  if (!t.isFunction(block)) return false;
  const own = 'id' in block && t.isIdentifier(block.id) ? block.id.name : undefined;
  const holder = path.findParent((parent) => !parent.isCallExpression());
  const named = holder?.isVariableDeclarator() && t.isIdentifier(holder.node.id) ? holder.node.id.name : undefined;
  return /^[A-Z]/.test(own ?? named ?? '') || (holder?.isExportDefaultDeclaration() ?? false);
}
