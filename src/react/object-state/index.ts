import * as t from '@babel/types';
import type { ReactApproach } from '../approach.js';
import { bindControls } from '../form-parts.js';
import { isInside } from '../form-regions.js';
import { stateVariablesOf } from '../state-variables.js';
import type { Lens } from '../value-tracing.js';

/** Sees a state variable as a whole; its members are fields. */
function lensOver(names: ReadonlyMap<unknown, string>): Lens {
  return {
    fieldOf: (path) => (path.isIdentifier() ? names.get(path.scope.getBinding(path.node.name)) : undefined),
    changesOf: () => [],
  };
}

/** Names taken out of a state variable: `const { town } = values`. */
function destructured(names: ReadonlyMap<unknown, string>): Lens {
  return {
    fieldOf(path) {
      if (!path.isIdentifier()) return undefined;
      const binding = path.scope.getBinding(path.node.name);
      const declared = binding?.path;
      if (
        !declared?.isVariableDeclarator() ||
        !t.isObjectPattern(declared.node.id) ||
        !t.isIdentifier(declared.node.init)
      )
        return undefined;
      const holder = names.get(declared.scope.getBinding(declared.node.init.name));
      return holder === undefined ? undefined : `${holder}.${path.node.name}`;
    },
    changesOf: () => [],
  };
}

export const objectState: ReactApproach = {
  id: 'object-state',
  title: 'one state variable for all fields',
  goodFor: 'a handful of plain fields that are sent together',
  reads: false,
  recognise(site) {
    if (site.component.kind !== 'function') return undefined;
    const names = new Map<unknown, string>();
    for (const { hook, value, call } of stateVariablesOf(site.component)) {
      if (hook === 'useState' && value) names.set(call.scope.getBinding(value.node.name), value.node.name);
    }
    const whole = lensOver(names);
    const parts = destructured(names);
    const lens: Lens = { fieldOf: (path) => whole.fieldOf(path) ?? parts.fieldOf(path), changesOf: () => [] };
    const bound = bindControls(site.script, site.candidates, lens, site.ownValueNames);
    const fields = bound
      .filter(({ control, field }) => isInside(control.element, site.region.element) && /^\w+\./.test(field))
      .map(({ field }) => field.replace(/^\w+\./, ''));
    const sends = site.region.element !== undefined || site.region.submit.how !== 'none';
    return fields.length && sends ? { fields: [...new Set(fields)] } : undefined;
  },
};
