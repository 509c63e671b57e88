import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { calledImport } from '../hook-calls.js';
import { membersTaken, type Members } from '../package-leaving/members.js';

/** The call of the hook by which a component makes its form, with what it is given and what it gives. */
export interface StoreForm {
  hook: NodePath<t.VariableDeclarator>;
  call: NodePath<t.CallExpression>;
  options: Map<string, NodePath>;
  unclear: NodePath[];
  taken: Members;
}

/** The one form of the package that a component makes; undefined where it makes none, or several. */
export function storeFormOf({ component }: FormSite): StoreForm | undefined {
  if (component.kind !== 'function') return undefined;
  const found: StoreForm[] = [];
  component.path.traverse({
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module !== '@tanstack/react-form' || made.name !== 'useForm') return;
      const form = fromHook(call);
      if (form) found.push(form);
    },
  });
  return found.length === 1 ? found[0] : undefined;
}

function fromHook(call: NodePath<t.CallExpression>): StoreForm | undefined {
  const declarator = call.parentPath;
  const [given] = call.get('arguments') as (NodePath | undefined)[];
  if (!declarator.isVariableDeclarator() || !given?.isObjectExpression()) return undefined;
  const statement = declarator.parentPath;
  if (!statement.isVariableDeclaration() || statement.node.declarations.length > 1) return undefined;
  const options = new Map<string, NodePath>();
  const unclear: NodePath[] = [];
  for (const property of given.get('properties')) {
    const { node } = property;
    const key = t.isSpreadElement(node) || node.computed ? undefined : node.key;
    const value = t.isIdentifier(key) ? memberNamed(given, key.name) : undefined;
    if (t.isIdentifier(key) && value) options.set(key.name, value);
    else unclear.push(property);
  }
  return { hook: declarator, call, options, unclear, taken: membersTaken(declarator.get('id') as NodePath) };
}
