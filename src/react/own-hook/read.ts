import type { NodePath } from '@babel/traverse';
import type { FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import type { BoundControl } from '../form-parts.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { placeOfComponent, seenField, seenForm } from '../seen-form.js';

/** Reads a form whose values a hook of the project keeps: what the component itself tells of it. */
export function readHookForm(site: FormSite, bound: readonly BoundControl[], names: readonly string[]): FormModel {
  const fields = names.map((name) => {
    const first = bound.find(({ field, control }) => field.endsWith(name) || control.name === name);
    return seenField(name, first, placeOfComponent(site));
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
  return { ...seen, ...rulesAndMessages({ script: site.script, component, lens }, native) };
}
