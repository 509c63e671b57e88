import type { FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import type { AngularComponent } from '../component.js';
import { controlNames } from './names.js';
import { useText } from './use-texts.js';
import type { TemplateDraft } from './draft.js';

/** What the parts of the writer share while one form is written. */
export function draftOf(model: FormModel, context: WriteContext, component: AngularComponent): TemplateDraft {
  const base = component.name.replace(/(Form)?Component$|Form$/, '') || component.name;
  const owned = new Set(model.names.map(({ name }) => name));
  const taken = (name: string): boolean =>
    (component.members.has(name) && !owned.has(name)) ||
    component.template.variables.some((variable) => variable.name === name) ||
    name === model.template?.member;
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const draft: TemplateDraft = {
    model,
    context,
    component,
    values: ['model', 'values', `${lower}Model`].find((name) => !taken(name)) ?? 'formValues',
    form: model.template?.reference ?? model.template?.member ?? 'form',
    needs: { reference: false, query: false, start: false, startMember: false },
    startName: context.freeName(`empty${base}`, `initial${base}`),
    typeName: context.freeName(`${base}Values`, `${base}Model`),
    controls: controlNames(model, component),
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
    streams: new Map(),
    ruleMembers: new Map(),
  };
  return draft;
}
