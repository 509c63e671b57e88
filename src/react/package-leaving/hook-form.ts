import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { calledImport } from '../hook-calls.js';
import { stays, type Leaving } from './leaving.js';
import { membersTaken, type Members } from './members.js';

/** The call of a package’s hook by which a component makes its form, with what it is given and what it gives. */
export interface HookForm {
  /** `const form = useForm(…)`, as the statement’s only declaration. */
  hook: NodePath<t.VariableDeclarator>;
  call: NodePath<t.CallExpression>;
  /** What it is given, by name. */
  options: Map<string, NodePath>;
  /** Options that are no plain pairs of name and value. */
  unclear: NodePath[];
  taken: Members;
  /** The type that is written for the values. */
  type: t.TSType | undefined;
}

/** Every form that a component makes with one hook of a package. */
export function formsByHook({ component }: FormSite, module: string, hook: string): HookForm[] {
  if (component.kind !== 'function') return [];
  const found: HookForm[] = [];
  component.path.traverse({
    CallExpression(call) {
      const made = calledImport(call);
      const form = made?.module === module && made.name === hook ? hookFormAt(call) : undefined;
      if (form) found.push(form);
    },
  });
  return found;
}

function hookFormAt(call: NodePath<t.CallExpression>): HookForm | undefined {
  const declarator = call.parentPath;
  const statement = declarator.parentPath;
  const [given] = call.get('arguments') as (NodePath | undefined)[];
  if (!declarator.isVariableDeclarator() || !statement?.isVariableDeclaration()) return undefined;
  if (statement.node.declarations.length > 1) return undefined;
  return {
    hook: declarator,
    call,
    ...optionsIn(given),
    taken: membersTaken(declarator.get('id') as NodePath),
    type: call.node.typeParameters?.params[0] as t.TSType | undefined,
  };
}

function optionsIn(given: NodePath | undefined): Pick<HookForm, 'options' | 'unclear'> {
  const options = new Map<string, NodePath>();
  const unclear: NodePath[] = given && !given.isObjectExpression() ? [given] : [];
  for (const property of given?.isObjectExpression() ? given.get('properties') : []) {
    const { node } = property;
    const key = t.isSpreadElement(node) || node.computed ? undefined : node.key;
    const value = t.isIdentifier(key) && given ? memberNamed(given, key.name) : undefined;
    if (t.isIdentifier(key) && value) options.set(key.name, value);
    else unclear.push(property);
  }
  return { options, unclear };
}

/** Leaves by hand what a form is given that is not said without the package. */
export function refuseUnknown(
  leaving: Leaving,
  { unclear, taken, options }: Pick<HookForm, 'unclear' | 'taken' | 'options'>,
  known: ReadonlySet<string>,
): void {
  for (const one of unclear) stays(leaving, one, 'what it is given here is told only when the form runs');
  for (const one of taken.unclear) stays(leaving, one, 'the form is handed on as a whole');
  for (const [name, path] of options)
    if (!known.has(name)) stays(leaving, path, `the option ${name} is not said without the package yet`);
}
