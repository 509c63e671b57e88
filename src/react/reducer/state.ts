import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import type { TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { functionOf, type FunctionPath } from '../components.js';
import { computedStart } from '../held-object/computed-start.js';
import { casesOf } from '../held-object/cases.js';
import { dispatchEffect } from '../held-object/effects.js';
import { emptyStart } from '../held-object/empty-start.js';
import { describeHeld, type HeldObject } from '../held-object/held.js';
import { initialObjectAt, resolved, type Located } from '../held-object/held-starts.js';
import { stateVariablesOf, type StateVariable } from '../state-variables.js';

function reducerFunction(variable: StateVariable, site: FormSite): { fn: FunctionPath; script: Script } | undefined {
  const first = variable.call.get('arguments')[0];
  if (!first) return undefined;
  const found = resolved({ path: first, script: site.script }, site.load);
  const fn = functionOf(found.path);
  return fn ? { fn, script: found.script } : undefined;
}

function annotationOf(node: t.Node | null | undefined): t.Node | undefined {
  return node && 'typeAnnotation' in node && t.isTSTypeAnnotation(node.typeAnnotation)
    ? node.typeAnnotation.typeAnnotation
    : undefined;
}

function textOf(script: Script, node: t.Node | null | undefined): string | undefined {
  const type = t.isTSTypeAnnotation(node) ? node.typeAnnotation : node;
  return type ? script.text.slice(type.start ?? 0, type.end ?? 0) : undefined;
}

/** The type a reducer gives its state: at its parameter, at its variable, or at the initial state. */
function stateType(reducer: { fn: FunctionPath; script: Script }, object: Located | undefined): TypeInFile | undefined {
  const { fn, script } = reducer;
  const parameter = fn.node.params[0];
  const own = annotationOf(t.isAssignmentPattern(parameter) ? parameter.left : parameter) ?? fn.node.returnType;
  const generic =
    t.isTSTypeParameterDeclaration(fn.node.typeParameters) &&
    fn.node.typeParameters.params.some(({ name }) => textOf(script, own) === String(name));
  if (own && !generic) return { node: t.isTSTypeAnnotation(own) ? own.typeAnnotation : own, script };
  const holder = fn.parentPath;
  const whole = holder.isVariableDeclarator() ? annotationOf(holder.node.id) : undefined;
  const given = t.isTSTypeReference(whole) ? whole.typeParameters?.params[0] : undefined;
  if (given) return { node: given, script };
  const declared: NodePath | null | undefined = object?.path.parentPath;
  const initial = declared?.isVariableDeclarator() ? annotationOf(declared.node.id) : undefined;
  return initial && object ? { node: initial, script: object.script } : undefined;
}

/** Finds the reducer whose state a form's controls show. */
export function reducerStateOf(site: FormSite): HeldObject | undefined {
  const { component } = site;
  if (component.kind !== 'function') return undefined;
  for (const variable of stateVariablesOf(component)) {
    if (variable.hook !== 'useReducer' || !variable.change) continue;
    const found = reducerFunction(variable, site);
    if (!found) continue;
    const [, value, maker] = variable.call.get('arguments') as (NodePath | undefined)[];
    const begins = initialObjectAt(value, maker, site);
    const cases = casesOf(found.fn, found.script, site.load);
    const type = stateType(found, begins.object);
    const empty = maker ? undefined : emptyStart(value, type, site);
    const worked = begins.object || empty ? undefined : computedStart(maker ?? value, type, site);
    const state = describeHeld(site, component.path, variable, {
      ...begins,
      ...(worked ? { slots: worked.slots, untold: worked.whole } : {}),
      value: maker ? undefined : value,
      type,
      ...empty,
      reducer: { ...found, cases },
      effects:
        ({ slots, absent, object }) =>
        (call, argument) =>
          dispatchEffect(
            call,
            {
              cases,
              script: site.script,
              load: site.load,
              slots,
              absent,
              initialObject: object,
              guards: empty !== undefined && site.script.typescript,
            },
            argument,
          ),
    });
    if (state) return state;
  }
  return undefined;
}
