import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field, FormModel } from '../../form/model.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { FormSite } from '../approach.js';
import { kindOf, kindOfType, type BoundControl } from '../form-parts.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { placeOfComponent, seenField, seenForm } from '../seen-form.js';
import { holderOf, type Lens } from '../value-tracing.js';

/** The object that a class begins its state with. */
function initialObject(site: FormSite): t.ObjectExpression | undefined {
  let found: t.ObjectExpression | undefined;
  site.component.path.traverse({
    ClassProperty(property) {
      const { key, value } = property.node;
      const inner = t.isTSAsExpression(value) ? value.expression : value;
      if (t.isIdentifier(key, { name: 'state' }) && t.isObjectExpression(inner)) found = inner;
    },
    AssignmentExpression({ node }) {
      const isState =
        t.isMemberExpression(node.left) &&
        t.isThisExpression(node.left.object) &&
        t.isIdentifier(node.left.property, { name: 'state' });
      if (isState && t.isObjectExpression(node.right)) found = node.right;
    },
  });
  return found;
}

/** Reads a class component: its fields, controls and rules. What its methods do is told when it becomes a function. */
export function readClass(site: FormSite, bound: readonly BoundControl[], lens: Lens): FormModel {
  const { script, component } = site;
  const types = expressionTypes(script);
  const edited = new Set(bound.map(({ field }) => holderOf(field)));
  const properties = (initialObject(site)?.properties ?? []).filter((one): one is t.ObjectProperty =>
    t.isObjectProperty(one),
  );
  const known = properties.flatMap((property): Field[] => {
    const name = t.isIdentifier(property.key)
      ? property.key.name
      : t.isStringLiteral(property.key)
        ? property.key.value
        : undefined;
    if (name === undefined) return [];
    const control = bound.find(({ field }) => field === name)?.control;
    const text = script.text.slice(property.value.start ?? 0, property.value.end ?? 0);
    let type: string | undefined;
    component.path.traverse({
      ObjectProperty(path) {
        if (path.node === property) type = types.typeOf(path.get('value') as Parameters<typeof types.typeOf>[0]);
      },
    });
    return [
      {
        name,
        kind: control ? kindOf(control, type) : kindOfType(type),
        role: edited.has(name) ? 'field' : 'status',
        type,
        typeWritten: false,
        initial: { code: undefined, text, when: 'constant' },
        commentsBefore: [],
        commentBehind: undefined,
        names: {},
        declared: { file: script.file, start: property.start ?? 0, end: property.end ?? 0 },
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
