import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field, FormModel } from '../../form/model.js';
import { expressionTypes } from '../../source/expression-types.js';
import { typeMembers } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { kindOfType, type BoundControl } from '../form-parts.js';
import type { Slot } from '../held-object/held-starts.js';
import { spanOf } from '../code.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { startText } from './hook-values.js';
import { placeOfComponent, seenField, seenForm } from '../seen-form.js';

/** Reads a form whose values a hook of the project keeps: what the component itself tells of it. */
export function readHookForm(
  site: FormSite,
  bound: readonly BoundControl[],
  names: readonly string[],
  slots: readonly Slot[],
): FormModel {
  const fields = names.map((name) => {
    const first = bound.find(({ field, control }) => field.endsWith(name) || control.name === name);
    const field = seenField(name, first, placeOfComponent(site));
    const slot = slots.find((one) => one.name === name);
    return slot ? withStart(field, slot, site.load) : field;
  });
  const seen = seenForm(site, 'own-hook', fields, bound);
  const holder = bound.map(({ field }) => /^(\w+)\./.exec(field)?.[1]).find((name) => name !== undefined);
  const withoutHolder = (field: string): string =>
    holder !== undefined && field.startsWith(`${holder}.`) ? field.slice(holder.length + 1) : field;
  const isValues = (path: NodePath): boolean =>
    holder !== undefined && path.isIdentifier() && path.node.name === holder;
  const lens = ruleLens({ fieldOf: () => undefined, changesOf: () => [] }, isValues, fields, site.load);
  const { path: component } = site.component;
  const native = seen.rules.map((rule) => ({ ...rule, fields: rule.fields.map(withoutHolder) }));
  const controls = seen.controls.map((control) => ({ ...control, field: withoutHolder(control.field) }));
  return { ...seen, controls, ...rulesAndMessages({ script: site.script, component, lens }, native) };
}

/** A field with what the hook's values begin as. */
function withStart(field: Field, slot: Slot, load: FormSite['load']): Field {
  const { initial } = slot;
  if (!initial) return field;
  const told = saidType(slot, load) ?? expressionTypes(initial.script).typeOf(initial.path);
  return {
    ...field,
    kind: field.kind === 'other' ? kindOfType(told) : field.kind,
    initial: { code: undefined, text: startText(slot, load), when: 'constant' },
    declared: spanOf(initial.script.file, initial.path),
  };
}

/** The type of a value where the object that it stands in has one: `const blank: Booking = { … }`. */
function saidType({ name, initial }: Slot, load: FormSite['load']): string | undefined {
  const holder = initial?.path.parentPath?.parentPath?.parentPath;
  const annotation =
    holder?.isVariableDeclarator() && t.isIdentifier(holder.node.id) ? holder.node.id.typeAnnotation : undefined;
  if (!initial || !t.isTSTypeAnnotation(annotation)) return undefined;
  return typeMembers({ node: annotation.typeAnnotation, script: initial.script }, load).get(name)?.text;
}
