import { spanOfNode } from '../../form/code.js';
import type { FormModel } from '../../form/model.js';
import type { SetAllUse } from '../../form/uses.js';

import { controlParameters } from '../control-parameters.js';
import { attributeOf, type AngularSite } from '../form-site.js';
import { frameOf, submitMethods, unreadableForm } from '../form-frame.js';
import { madeRows, rowGroupUses } from './rows.js';
import { modelArray } from './array-fields.js';
import { builtForm } from './structure.js';
import {
  type Draft,
  formMember,
  collect,
  findArrays,
  arraysReading,
  fieldsInOrder,
  bindElements,
} from './bound-controls.js';
import { spanIn } from './template-spans.js';
import { findFollowedValues, followedUses } from './followed-values.js';
import { findSwitches } from './switches.js';
import { findAliases, retireShownFields, aliasUses } from './aliases.js';
import { memberUses } from './class-uses.js';
import { templateUses, directiveUses, directiveQueries } from './template-uses.js';
import { givenKeys } from './given-keys.js';
import { groupsOf, controlOf, rulesOf } from './fields.js';

/** Reads a form whose controls are built in the class. */
export function readModelDriven(site: AngularSite): FormModel {
  const { component } = site;
  const submits = submitMethods(site);
  const name = formMember(site);
  const form = name === undefined ? undefined : builtForm(name, site);
  if (!form) return unreadable(site, name);
  const draft: Draft = {
    site,
    form,
    controls: new Map(),
    groups: new Map(),
    arrays: [],
    bound: [],
    submits,
    uses: [],
    unclear: [],
    references: new Map(),
    aliases: new Map(),
    given: [],
    retired: [],
    kept: new Set(),
    follows: new Map(),
    switches: new Map(),
    skipped: [],
  };
  collect(form.group, '', draft);
  findAliases(draft);
  findFollowedValues(draft);
  findSwitches(draft);
  findArrays(draft);
  bindElements(draft);
  retireShownFields(draft);
  memberUses(form.member, draft);
  for (const alias of draft.aliases.values()) aliasUses(alias, draft);
  templateUses(draft);
  followedUses(draft);
  rowGroupUses(arraysReading(draft));
  for (const array of draft.arrays) draft.uses.push(...madeRows(array));
  const directive = site.form?.references.find(({ exportAs }) => exportAs === 'ngForm');
  if (directive) directiveUses(directive.name, draft);
  const queries = directiveQueries(site, directive?.name);
  for (const member of queries) memberUses(member, draft);
  const bindings = site.form
    ? [attributeOf(site.form, 'formGroup')].flatMap((one) => (one ? [spanIn(site, one)] : []))
    : [];
  return {
    ...frameOf(site, new Set([form.member.name])),
    approach: 'model-driven',
    fields: fieldsInOrder(draft),
    ...(draft.arrays.length ? { lists: draft.arrays.map((array) => modelArray(array, site)) } : {}),
    controls: draft.bound.map((one) => controlOf(one, draft)),
    uses: draft.uses.map((use) => (use.kind === 'set-all' ? withKeys(use, site) : use)),
    rules: rulesOf(draft),
    declarations: declarationsOf(draft),
    names: [...draft.references].map(([owned, references]) => ({
      file: component.script.file,
      name: owned,
      declaredAt: -1,
      references,
    })),
    unclear: draft.unclear,
    ...(draft.follows.size
      ? { follows: [...draft.follows.values()].map(({ member }) => spanOfNode(component.script.file, member.node)) }
      : {}),
    handlers: 0,
    stateVariables: 1,
    template: {
      file: component.template.place.file,
      element: site.form && spanIn(site, site.form),
      attributes: bindings,
      at: site.form?.nameEnd ?? 0,
      reference: directive?.name,
      member: form.member.name,
      query: queries[0]?.name,
      given: draft.given,
      asked: controlParameters(draft.uses, component).filter(
        ({ method, name: given }) => !draft.given.some((one) => one.method === method && one.name === given),
      ),
      updateOn: form.group.updateOn,
      groups: groupsOf(draft),
    },
  };
}

function withKeys(use: SetAllUse, site: AngularSite): SetAllUse {
  const gives = givenKeys(use.code, site);
  return gives ? { ...use, gives } : use;
}

function unreadable(site: AngularSite, name: string | undefined): FormModel {
  const { form, component } = site;
  const attribute = form && attributeOf(form, 'formGroup');
  const why =
    name === undefined
      ? 'the group is no plain member of the class'
      : `how ${component.name} builds ${name} is not clear: it is neither built where it is declared nor in one assignment`;
  const place = attribute ?? form ?? { start: 0, end: 0 };
  return unreadableForm(site, 'model-driven', place, attribute?.value ?? 'form', why, name);
}

function declarationsOf(draft: Draft): FormModel['declarations'] {
  const { script } = draft.site.component;
  const own = {
    role: 'state' as const,
    span: spanOfNode(script.file, draft.form.member.node),
    what: `member ${draft.form.member.name}`,
  };
  const built = draft.form.assignment
    ? [
        {
          role: 'support' as const,
          span: { file: script.file, ...draft.form.assignment },
          what: `the statement that builds ${draft.form.member.name}`,
        },
      ]
    : [];
  const aliases = [...draft.aliases].map(([name, { member }]) => ({
    role: 'support' as const,
    span: spanOfNode(script.file, member.node),
    what: `member ${name}`,
  }));
  const retired = draft.retired.map(({ what, ...place }) => ({
    role: 'support' as const,
    span: { file: script.file, ...place },
    what,
  }));
  const follows = [...draft.follows].map(([name, { member }]) => ({
    role: 'support' as const,
    span: spanOfNode(script.file, member.node),
    what: `member ${name}`,
  }));
  return [own, ...built, ...aliases, ...follows, ...retired];
}
