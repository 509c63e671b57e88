import { feedersOf } from './feeders.js';
import { begunAnew } from './begun-anew.js';
import { spanOfNode } from '../../form/code.js';
import type { FormModel, Unclear } from '../../form/model.js';

import type { Member } from '../component.js';
import { controlParameters } from '../control-parameters.js';
import type { AngularSite } from '../form-site.js';
import type { TemplateAttribute } from '../template-model.js';
import { frameOf, submitMethods } from '../form-frame.js';
import { modelList, rowNameUses } from './rows.js';
import { type Draft, listFields, fieldsOf, modelField, extraFields } from './found-fields.js';
import { storageUses } from './storage-uses.js';
import { formNameUses, controlNameUses, formQueries, memberUses } from './form-name-uses.js';
import { templateOf, controlOf, rulesOf } from './template-controls.js';
import { rowsReading } from './rows-reading.js';
import { rootsOf } from './roots.js';

/**
 * Reads a form whose template holds `ngModel` controls and whose class holds their values.
 * @param feed the event through which the form tells all of its values, where the controls are fed one way
 */
export function readTemplateDriven(site: AngularSite, feed?: TemplateAttribute): FormModel {
  const { component } = site;
  const unclear: Unclear[] = [];
  const { fields, stores, lists, rowControls } = fieldsOf(site, unclear);
  const draft: Draft = {
    site,
    fields,
    lists,
    rowControls,
    stores,
    submits: submitMethods(site),
    uses: [],
    unclear,
    given: [],
    feed,
    feeders: feedersOf(fields, site),
    references: new Map(),
  };
  const formReference = site.form?.references.find(({ exportAs }) => exportAs === 'ngForm');
  storageUses(draft);
  rowNameUses(rowsReading(draft));
  if (formReference) formNameUses(formReference, draft);
  controlNameUses(draft);
  const queries = formQueries(site, formReference);
  for (const member of queries) memberUses(member, draft);
  const template = templateOf(draft, formReference, queries[0]?.name);
  const controls = [
    ...fields.flatMap((field) => field.bound.map((bound) => controlOf(field.name, bound, draft))),
    ...rowControls.map(({ bound, binding, list }) =>
      controlOf(`${list.field}[].${binding.keys.join('.')}`, bound, draft, { list: list.field, row: binding.row }),
    ),
  ];
  const rules = rulesOf(draft);
  const asked = controlParameters(draft.uses, component).filter(
    ({ method, name }) => !draft.given.some((one) => one.method === method && one.name === name),
  );
  return {
    ...frameOf(site, rootsOf(draft)),
    approach: feed ? 'template-one-way' : 'template-driven',
    fields: [
      ...fields.map((field) => modelField(field, draft)),
      ...lists.flatMap((list) => listFields(list, draft)),
      ...extraFields(draft),
    ],
    ...(lists.length ? { lists: lists.map((list) => modelList(list, site)) } : {}),
    controls,
    uses: begunAnew(draft.uses, controls, component.script.file, component.script.text),
    rules,
    declarations: declarationsOf(draft, queries),
    names: [...draft.references].map(([name, references]) => ({
      file: component.script.file,
      name,
      declaredAt: -1,
      references,
    })),
    unclear,
    handlers: fields.reduce((sum, { bound }) => sum + bound.reduce((count, one) => count + one.changes.length, 0), 0),
    stateVariables: rootsOf(draft).size,
    template: { ...template, asked },
  };
}

function declarationsOf(draft: Draft, queries: readonly Member[]): FormModel['declarations'] {
  const { component } = draft.site;
  return [
    ...[...rootsOf(draft)].flatMap((root) => {
      const member = component.members.get(root);
      return member
        ? [{ role: 'state' as const, span: spanOfNode(component.script.file, member.node), what: `member ${root}` }]
        : [];
    }),
    ...[...draft.feeders.methods].map(([name, span]) => ({
      role: 'support' as const,
      span,
      what: `method ${name}`,
    })),
    ...queries.map((member) => ({
      role: 'support' as const,
      span: spanOfNode(component.script.file, member.node),
      what: `query ${member.name}`,
    })),
  ];
}
