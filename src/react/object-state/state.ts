import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { functionOf } from '../components.js';
import { casesOf } from '../held-object/cases.js';
import { changeEffect } from '../held-object/effects.js';
import { computedStart } from '../held-object/computed-start.js';
import { emptyStart } from '../held-object/empty-start.js';
import { describeHeld, type HeldObject } from '../held-object/held.js';
import { initialObjectAt, type Located } from '../held-object/held-starts.js';
import { stateVariablesOf, type StateVariable } from '../state-variables.js';

/** The type of the object: written at `useState<…>`, or at the constant it begins as. */
function typeOf(variable: StateVariable, object: Located | undefined, site: FormSite): TypeInFile | undefined {
  const written = variable.call.node.typeParameters?.params[0];
  if (written) return { node: written, script: site.script };
  const holder = object?.path.parentPath;
  const id = holder?.isVariableDeclarator() ? holder.node.id : undefined;
  if (object && t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation))
    return { node: id.typeAnnotation.typeAnnotation, script: object.script };
  const fn = object?.path.findParent((parent) => parent.isFunction());
  const returned = fn?.isFunction() ? fn.node.returnType : undefined;
  return object && t.isTSTypeAnnotation(returned)
    ? { node: returned.typeAnnotation, script: object.script }
    : undefined;
}

/** Finds the state variable whose members a form's controls show. */
export function objectStateOf(site: FormSite): HeldObject | undefined {
  const { component, script, load } = site;
  if (component.kind !== 'function') return undefined;
  const found: HeldObject[] = [];
  for (const variable of stateVariablesOf(component)) {
    if (variable.hook !== 'useState' || !variable.change) continue;
    const [first] = variable.call.get('arguments') as (NodePath | undefined)[];
    const lazy = first && (first.isFunction() || (first.isIdentifier() && functionOf(first) !== undefined));
    const begins = lazy ? initialObjectAt(undefined, first, site) : initialObjectAt(first, undefined, site);
    const empty = emptyStart(first, typeOf(variable, undefined, site), site, variable.call);
    const worked = begins.object || empty ? undefined : computedStart(first, typeOf(variable, undefined, site), site);
    const state = describeHeld(site, component.path, variable, {
      ...begins,
      ...(worked ? { slots: worked.slots, untold: worked.whole } : {}),
      value: lazy ? undefined : first,
      type: typeOf(variable, begins.object ?? worked?.object, site),
      ...empty,
      reducer: undefined,
      effects: ({ slots, absent, object, stateBinding }) => {
        const cases = { ...casesOf(component.path, script, load), state: undefined, action: undefined, cases: [] };
        const isHeld = (path: NodePath): boolean =>
          path.isIdentifier() && stateBinding !== undefined && path.scope.getBinding(path.node.name) === stateBinding;
        const guards = empty !== undefined && script.typescript;
        return (call) =>
          changeEffect(call, { cases, script, load, slots, absent, initialObject: object, isHeld, guards });
      },
    });
    if (state) found.push(state);
  }
  return found.sort((a, b) => b.bound.length - a.bound.length)[0];
}
