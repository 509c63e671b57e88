import * as t from '@babel/types';
import type { FormSite, ReactApproach } from '../approach.js';
import { bindControls } from '../form-parts.js';
import { isInside } from '../form-regions.js';
import type { Lens } from '../value-tracing.js';
import { isThisState } from '../this-state.js';
import { readClass } from './read.js';
import { writeFunction } from './write.js';

/** Sees `this.state.town`, and names taken out of `this.state`. */
const lens: Lens = {
  fieldOf(path) {
    if (path.isMemberExpression() && t.isMemberExpression(path.node.object)) {
      const { object, property } = path.node;
      return isThisState(object) && t.isIdentifier(property) ? property.name : undefined;
    }
    if (!path.isIdentifier()) return undefined;
    const declared = path.scope.getBinding(path.node.name)?.path;
    if (!declared?.isVariableDeclarator() || !t.isObjectPattern(declared.node.id)) return undefined;
    return isThisState(declared.node.init) ? path.node.name : undefined;
  },
  changesOf: () => [],
};

export const classState: ReactApproach = {
  id: 'class-state',
  title: 'a class component with this.state',
  goodFor: 'code that is older than hooks',
  reads: true,
  recognise(site) {
    if (site.component.kind !== 'class') return undefined;
    const bound = bindControls(site.script, site.candidates, lens, site.ownValueNames);
    const fields = bound
      .filter(({ control }) => isInside(control.element, site.region.element))
      .map(({ field }) => field);
    const names = [...new Set(fields)];
    if (!names.length || !(site.region.element || handsValuesOn(site))) return undefined;
    return {
      fields: names,
      read: () => readClass(site, bound, lens),
      leave: { to: 'object-state', write: (model, context) => writeFunction(model, context, site) },
    };
  },
};

/** Whether a class without a form's element gives what it holds to anybody: a function of its properties, or a request. */
function handsValuesOn({ script, component }: FormSite): boolean {
  const { start, end } = component.path.node;
  const text = script.text.slice(start ?? 0, end ?? 0);
  return /(?:\bprops\.\w+|\bfetch|\baxios(?:\.\w+)?|\bon[A-Z]\w*|\bapi\.\w+)\s*\??\.?\(\s*[^)\s]/.test(text);
}
