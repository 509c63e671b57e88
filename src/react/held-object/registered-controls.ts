import * as t from '@babel/types';
import { plainChange, type Use } from '../../form/uses.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { referencesTo } from '../state-variables.js';
import type { HeldObject } from './held.js';

/** What the attributes do that a hook gives a control: they show the value of its field, and take in what is typed. */
export function registeredUses({ variable, lens }: HeldObject, { script }: FormSite): Use[] {
  return referencesTo(variable.registers).flatMap((reference): Use[] => {
    const call = reference.parentPath;
    const field = call ? lens.registered?.(call) : undefined;
    const element = call?.findParent((parent) => parent.isJSXOpeningElement());
    if (!call || field === undefined || !element?.isJSXOpeningElement()) return [];
    const span = spanOf(script.file, call);
    const isBox = element.node.attributes.some(
      (one) =>
        t.isJSXAttribute(one) &&
        t.isJSXIdentifier(one.name, { name: 'type' }) &&
        t.isStringLiteral(one.value, { value: 'checkbox' }),
    );
    const text = isBox ? 'event.target.checked' : 'event.target.value';
    const code = { ...span, holes: [{ kind: 'text' as const, start: span.start, end: span.end, text }] };
    return [
      { kind: 'read', field, key: undefined, where: 'render', span: spanOf(script.file, call.parentPath ?? call) },
      plainChange({ assignments: [{ field, value: { kind: 'value', code } }], where: 'event', span }),
    ];
  });
}
