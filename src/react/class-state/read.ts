import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field, FormModel } from '../../form/model.js';
import { bare, returnedValue } from '../../source/behind-names.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { kindOf, kindOfType, type BoundControl } from '../form-parts.js';
import { objectMade, slotsOf, type Located } from '../held-object/held-starts.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { placeOfComponent, seenField, seenForm } from '../seen-form.js';
import { isThisState, methodNamed } from '../this-state.js';
import { holderOf, type Lens } from '../value-tracing.js';
import { walk } from '../../source/traverse.js';

/** What a class begins its state with: the object written there, or what a method of it gives. */
function stateStart(site: FormSite): Located | undefined {
  let found: NodePath | undefined;
  walk(site.component.path, {
    ClassProperty(property) {
      const value = property.get('value') as NodePath;
      if (t.isIdentifier(property.node.key, { name: 'state' }) && value.node) found = value;
    },
    AssignmentExpression(path) {
      const { left } = path.node;
      if (isThisState(left)) found = path.get('right');
    },
  });
  if (!found) return undefined;
  const path = bare(found);
  const callee = path.isCallExpression() ? (path.get('callee') as NodePath) : undefined;
  const method =
    callee?.isMemberExpression() && t.isThisExpression(callee.node.object) && t.isIdentifier(callee.node.property)
      ? methodNamed(site.component.path.get('body') as NodePath<t.ClassBody>, callee.node.property.name)
      : undefined;
  const made = method ? returnedValue(method) : undefined;
  return objectMade({ path: made ?? path, script: site.script }, site.load);
}

/** Reads a class component: its fields, controls and rules. What its methods do is told when it becomes a function. */
export function readClass(site: FormSite, bound: readonly BoundControl[], lens: Lens): FormModel {
  const { script, component } = site;
  const edited = new Set(bound.map(({ field }) => holderOf(field)));
  const known = slotsOf(stateStart(site), site.load).flatMap(({ name, initial }): Field[] => {
    if (!initial) return [];
    const control = bound.find(({ field }) => field === name)?.control;
    const type = expressionTypes(initial.script).typeOf(initial.path);
    const isList = initial.path.isArrayExpression();
    return [
      {
        name,
        kind: control ? kindOf(control, isList ? 'unknown[]' : type) : kindOfType(type),
        role: edited.has(name) ? 'field' : 'status',
        type,
        typeWritten: false,
        initial: {
          code: undefined,
          text: initial.script.text.slice(initial.path.node.start ?? 0, initial.path.node.end ?? 0),
          when: 'constant',
        },
        commentsBefore: [],
        commentBehind: undefined,
        names: {},
        declared: spanOf(initial.script.file, initial.path.parentPath ?? initial.path),
      },
    ];
  });
  // values that another object brings into the state are known by their controls alone
  for (const name of edited) {
    if (known.some((field) => field.name === name)) continue;
    const first = bound.find(({ field }) => holderOf(field) === name);
    known.push(seenField(name, first, placeOfComponent(site)));
  }
  const seen = seenForm(site, 'class-state', known, bound);
  return {
    ...seen,
    ...rulesAndMessages(
      { script, component: component.path, lens: ruleLens(lens, isStateOfClass, known, site.load) },
      seen.rules,
    ),
    declarations: [{ role: 'state', span: placeOfComponent(site), what: `class ${component.name}` }],
    handlers: component.path.node.type === 'ClassDeclaration' ? handlersOf(component.path.node) : 0,
    stateVariables: 1,
  };
}

/** `this.state` as a whole. */
function isStateOfClass(path: NodePath): boolean {
  return (
    path.isMemberExpression() &&
    t.isThisExpression(path.node.object) &&
    t.isIdentifier(path.node.property, { name: 'state' })
  );
}

/** Methods and arrow properties other than those React calls by itself. */
function handlersOf(node: t.Class): number {
  return node.body.body.filter(
    (member) =>
      (t.isClassMethod(member) || (t.isClassProperty(member) && t.isArrowFunctionExpression(member.value))) &&
      t.isIdentifier(member.key) &&
      !/^(constructor|render|component\w+|get\w+State\w*|should\w+)$/.test(member.key.name),
  ).length;
}
