import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code } from '../../form/code.js';
import type { StepFunction } from '../../form/model.js';
import type { SetAllUse } from '../../form/uses.js';
import type { FormSite } from '../approach.js';
import { plainCode, spanOf } from '../code.js';
import { isReserved } from '../form-names.js';
import { typesOf } from './action-types.js';
import { actionAt, type Action, type EffectContext } from './actions.js';
import { askedOf, asksFor, changedBy, endsWithReturn, partOf, replacedBy } from './case-parts.js';
import type { ReducerCase } from './cases.js';
import type { HeldObject } from './held.js';
import { fromPrevious, isUpdater, placeOf } from './whole-change.js';
import { walk } from '../../source/traverse.js';

/** Steps that a reader found so far, by the case of the reducer they come from. */
export type Steps = Map<ReducerCase, StepFunction>;

/** What is needed to make a function of a case. */
export interface StepContext {
  state: HeldObject;
  site: FormSite;
  steps: Steps;
  /** Tells calls that change the values. */
  isChange(call: t.CallExpression): boolean;
}

/**
 * A dispatch whose case cannot be told field by field, as a call of a function of all values: the statements of the
 * case with what they take from the action as parameters.
 * @returns undefined where the case cannot stand by itself
 */
export function stepAt(
  call: NodePath<t.CallExpression>,
  why: string,
  { state, site, steps, isChange }: StepContext,
): Omit<SetAllUse, 'where'> | undefined {
  const { reducer } = state;
  const at = caseAt(call, { state, site });
  if (!reducer || !at || reducer.cases.trouble !== undefined) return undefined;
  const { action, found } = at;
  const { file } = site.script;
  const place = { ...placeOf(call, state.component, file, isChange), span: spanOf(file, call) };
  const replaced = replacedBy(found, reducer.cases);
  const values = replaced === undefined ? undefined : action.properties.get(replaced);
  if (values && values.code.file === file) {
    const updates = isUpdater(values.path) ? { from: { body: fromPrevious(values.path, state, file) } } : {};
    return { kind: 'set-all', code: values.code, merge: false, why, ...updates, ...place };
  }
  const nothing = emptiedBy(found);
  if (nothing) return { kind: 'set-all', code: plainCode(reducer.script.file, nothing), merge: false, why, ...place };
  const step = steps.get(found) ?? stepOf(found, state, site, steps);
  if (!step) return undefined;
  const given = step.parameters.map(({ key }): Code | undefined => action.properties.get(key)?.code);
  if (given.some((code, index) => code === undefined && !step.parameters[index]?.optional)) return undefined;
  steps.set(found, step);
  return {
    kind: 'set-all',
    code: { ...spanOf(file, at.argument), holes: [] },
    merge: false,
    why,
    step: { name: step.name, takesValues: step.state.asked, arguments: given },
    fields: changedBy(found, reducer.cases, (key) => action.properties.get(key)?.path),
    ...place,
  };
}

/** The null that a case gives where it does nothing else: no values are held any more. */
function emptiedBy({ statements }: ReducerCase): NodePath | undefined {
  const [only, ...more] = statements;
  if (more.length || !only?.isReturnStatement()) return undefined;
  const given = only.get('argument');
  return given.isNullLiteral() ? given : undefined;
}

/** The case that a dispatch comes to. */
function caseAt(
  call: NodePath<t.CallExpression>,
  { state, site }: Pick<StepContext, 'state' | 'site'>,
): { argument: NodePath; action: Action; found: ReducerCase } | undefined {
  const { reducer } = state;
  const [argument, ...more] = call.get('arguments') as NodePath[];
  if (!reducer || !argument || more.length) return undefined;
  const context: EffectContext = {
    cases: reducer.cases,
    script: site.script,
    load: site.load,
    slots: state.slots.map(({ name }) => name),
    initialObject: state.initialObject,
  };
  const action = actionAt(argument, context);
  if (typeof action === 'string') return undefined;
  const found = reducer.cases.cases.find(({ types }) => types.includes(action.type ?? ''));
  return found && { argument, action, found };
}

/** The cases of which one dispatch at least is told only as a whole: all of theirs are. */
export function wholeCases(
  calls: readonly NodePath<t.CallExpression>[],
  { state, site }: Pick<StepContext, 'state' | 'site'>,
): Set<ReducerCase> {
  const { reducer } = state;
  const found = calls.flatMap((call) => {
    const own = caseAt(call, { state, site })?.found;
    return own && reducer && (state.effectAt(call).kind === 'unclear' || isLoose(own, reducer, site.load)) ? [own] : [];
  });
  return new Set(found);
}

/**
 * Whether a case sets a field whose name its action types loosely, by `keyof`: told field by field, the value would have
 * to be of that field's own type.
 */
function isLoose(found: ReducerCase, reducer: NonNullable<HeldObject['reducer']>, load: FormSite['load']): boolean {
  const { cases, script } = reducer;
  if (!script.typescript) return false;
  const keys = new Set<string>();
  const values = new Set<string>();
  for (const statement of found.statements)
    walk(statement, {
      ObjectProperty({ node }) {
        const [key, value] = [node.computed ? partOf(node.key, cases) : undefined, partOf(node.value, cases)];
        if (key === undefined || value === undefined) return;
        keys.add(key);
        values.add(value);
      },
    });
  if (!keys.size) return false;
  const types = typesOf(found, [...keys, ...values], reducer, load)?.keys;
  return (
    [...keys].some((key) => /\bkeyof\b/.test(types?.get(key)?.text ?? '')) &&
    [...values].some((value) => types?.get(value)?.text === 'string')
  );
}

/** Whether a dispatch is one of some cases. */
export function isOfCases(
  call: NodePath<t.CallExpression>,
  cases: ReadonlySet<ReducerCase>,
  context: Pick<StepContext, 'state' | 'site'>,
): boolean {
  const own = cases.size ? caseAt(call, context)?.found : undefined;
  return own !== undefined && cases.has(own);
}

/** The statements of a case as a function; undefined where they need what stands around them. */
function stepOf(found: ReducerCase, { reducer }: HeldObject, site: FormSite, steps: Steps): StepFunction | undefined {
  const [first] = found.statements;
  const last = found.statements.at(-1);
  if (!reducer || !first || !last || !endsWithReturn(last)) return undefined;
  const { cases, script } = reducer;
  if (cases.state === undefined) return undefined;
  const asked = askedOf(found, cases);
  if (!asked) return undefined;
  const [type] = found.types;
  const name = freeName(type ?? '', [site, { script }], steps);
  const typed = script.typescript
    ? typesOf(
        found,
        asked.keys.map(({ key }) => key),
        reducer,
        site.load,
      )
    : undefined;
  if (name === undefined || (script.typescript && !typed)) return undefined;
  const comment = first.node.leadingComments?.[0]?.start;
  return {
    name,
    state: {
      name: cases.state,
      asked: asksFor(cases.state, found.statements),
      ...(typed ? { type: typed.state } : {}),
    },
    parameters: asked.keys.map(({ key, parameter }) => {
      const own = typed?.keys.get(key);
      return {
        name: parameter,
        key,
        ...(own ? { type: own.text } : {}),
        optional: own ? own.optional : !script.typescript,
      };
    }),
    body: {
      file: script.file,
      start: comment ?? first.node.start ?? 0,
      end: last.node.end ?? 0,
      holes: asked.holes.sort((a, b) => a.start - b.start),
    },
  };
}

/** `FIELD_CHANGED`, `skill/edited` and `step` as the name of a function that stands for nothing else yet. */
function freeName(type: string, files: readonly { script: FormSite['script'] }[], steps: Steps): string | undefined {
  const words = type.split(/[^A-Za-z0-9]+|(?<=[a-z0-9])(?=[A-Z])/).filter(Boolean);
  const lower = words.map((word) => word.toLowerCase());
  const camel = lower.map((word, index) => (index ? word.charAt(0).toUpperCase() + word.slice(1) : word)).join('');
  if (!/^[a-z]/.test(camel)) return undefined;
  const taken = new Set([...steps.values()].map(({ name }) => name));
  for (const { script } of files) {
    t.traverseFast(script.ast, (node) => {
      if (t.isIdentifier(node) || t.isJSXIdentifier(node)) taken.add(node.name);
    });
  }
  const wished = [camel, `${camel}Values`, `next${camel.charAt(0).toUpperCase()}${camel.slice(1)}`];
  return wished.find((name) => !taken.has(name) && !isReserved(name));
}
