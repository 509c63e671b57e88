import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { calledImport } from '../hook-calls.js';
import { says, stays, takeStatement } from '../package-leaving/leaving.js';
import { declaredBy, forgetNames } from '../package-leaving/hook-form.js';
import { membersTaken } from '../package-leaving/members.js';
import { sayControllerHook } from './controllers.js';
import type { Component } from '../components.js';
import type { TakenApart } from './form.js';
import { sayMember, valuesAsked } from './places.js';
import { sayList } from './rows.js';
import { sayWatchedChild } from './watchers.js';
import { walk } from '../../source/traverse.js';

/** The package’s other hooks in the file: those of the component itself, and of components that follow its values. */
export function sayFollowed(
  apart: TakenApart,
  { component, script }: FormSite,
  parts: readonly { component: Component }[],
): void {
  walk(script.program, {
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module !== 'react-hook-form' || made.name === 'useForm') return;
      const isIn = ({ node }: NodePath): boolean => call.findParent((parent) => parent.node === node) !== null;
      if (parts.some((part) => isIn(part.component.path))) return;
      if (isIn(component.path)) sayHook(apart, call);
      else if (made.name !== 'useWatch' || !sayWatchedChild(apart, call))
        stays(apart.leaving, call, `${made.name} of the package is not said here without it yet`);
    },
  });
}

/** `useWatch({ control, name })` and `useFieldArray({ control, name })` of a component that has the form. */
export function sayHook(apart: TakenApart, call: NodePath<t.CallExpression>): void {
  const { leaving } = apart;
  const made = calledImport(call);
  if (made?.name === 'useFieldArray' && sayList(apart, call)) return;
  if (made?.name === 'useController' && sayControllerHook(apart, call)) return;
  if (made?.name === 'useFormState' && sayStatus(apart, call)) return;
  const [given] = call.get('arguments') as (NodePath | undefined)[];
  const asked = given && memberNamed(given, 'name');
  const text = made?.name === 'useWatch' && given ? valuesAsked(apart, asked ? [asked] : []) : undefined;
  if (text === undefined) {
    stays(leaving, call, `${made?.name ?? 'a hook'} of the package is not said here without it yet`);
    return;
  }
  const declared = call.parentPath;
  if (declared.isVariableDeclarator() && t.isIdentifier(declared.node.id) && asked?.isStringLiteral())
    apart.watched.set(declared.node.id.name, asked.node.value);
  says(leaving, call, text);
}

/** `const { errors } = useFormState({ control })`: status of the form under names of its own. */
function sayStatus(apart: TakenApart, call: NodePath<t.CallExpression>): boolean {
  const { leaving } = apart;
  const [given, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const declared = declaredBy(call);
  const isWhole =
    !given ||
    (given.isObjectExpression() &&
      given.node.properties.every((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: 'control' })));
  if (!isWhole || more.length || !declared) return false;
  const { target, statement } = declared;
  const taken = membersTaken(target);
  forgetNames(leaving, [target, ...taken.patterns.map((one) => one.get('id') as NodePath)]);
  for (const path of taken.unclear) stays(leaving, path, 'the status of the form is handed on as a whole');
  for (const place of taken.places) sayMember(apart, { ...place, member: `formState.${place.member}` });
  for (const one of [statement, ...taken.patterns.map(({ parentPath }) => parentPath)]) takeStatement(leaving, one);
  return true;
}
