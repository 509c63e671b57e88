import type { NodePath } from '@babel/traverse';
import type { Field, FormModel } from '../../form/model.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { kindOf } from '../form-parts.js';
import type { RuleLens } from '../../rules/meanings.js';
import type { FunctionPath } from '../components.js';
import { ruleLens } from '../form-rules.js';
import { rulesAndMessages } from '../shown-messages.js';
import { seenControl, seenField, seenForm } from '../seen-form.js';
import { functionsCalledBy } from '../value-tracing.js';
import { pageFields, type PageField } from './page-fields.js';
import { pageUses } from './page-reads.js';
import { variableName } from './state-draft.js';

/** Reads a form whose values the page keeps. */
export function readPage(site: FormSite): FormModel {
  const { script, region, component } = site;
  const found = pageFields(site);
  const bound = found.flatMap(({ name, controls }) => controls.map((control) => seenControl(site, name, control)));
  const fields = found.flatMap(({ name, controls: [control], initial, kind }): Field[] => {
    if (!control) return [];
    const type = kind === 'list' ? 'string[]' : kind === 'checked' ? 'boolean' : 'string';
    const first = bound.find((one) => one.control === control);
    return [
      {
        ...seenField(name, first, spanOf(script.file, control.element)),
        kind: kind === 'list' ? 'many choices' : kindOf(control, type),
        type,
        initial: { code: undefined, text: initial ?? 'undefined', when: 'constant' },
        names: { value: variableName(name) },
      },
    ];
  });
  const submits = region.submit.handler ? functionsCalledBy(region.submit.handler, component.path) : [];
  const seen = seenForm(site, 'dom-values', fields, bound);
  return {
    ...seen,
    ...rulesAndMessages({ script, component: component.path, lens: lensOf(site, found, fields, submits) }, seen.rules),
  };
}

/** A field is what the page is asked for. */
function lensOf(
  site: FormSite,
  found: readonly PageField[],
  fields: readonly Field[],
  submits: readonly FunctionPath[],
): RuleLens {
  const { uses } = pageUses(site, found, submits);
  const reads = new Map(uses.flatMap((use) => (use.kind === 'read' ? [[use.path.node, use.field.name] as const] : [])));
  const wholes = new Set(uses.flatMap((use) => (use.kind === 'all' ? [use.path.node] : [])));
  const isWhole = (path: NodePath): boolean => {
    const declared = path.isIdentifier() ? path.scope.getBinding(path.node.name)?.path : undefined;
    const init = declared?.isVariableDeclarator() ? declared.node.init : undefined;
    return wholes.has(path.node) || (init !== undefined && init !== null && wholes.has(init));
  };
  return ruleLens({ fieldOf: (path) => reads.get(path.node), changesOf: () => [] }, isWhole, fields, site.load);
}
