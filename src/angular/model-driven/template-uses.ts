import * as t from '@babel/types';
import { templateChain, type Chain } from '../chains.js';
import type { Member } from '../component.js';
import { literalText, memberDecorator } from '../decorators.js';
import type { AngularSite } from '../form-site.js';
import { variableNamed } from '../template.js';
import { type TemplateName } from '../template-model.js';
import { formUse } from '../uses.js';
import { arrayUses } from './rows.js';
import { type Draft, arraysReading, fieldAt, reading, refer } from './bound-controls.js';
import { spanIn } from './template-spans.js';
import { aliasedField } from './aliases.js';
import { controlOrGroupUse, followArgument } from './class-uses.js';

/** Uses of the form in the template, the bindings of its controls left out. */
export function templateUses(draft: Draft): void {
  const { names, place } = draft.site.component.template;
  const { site } = draft;
  for (const name of names) {
    if (name.variable) continue;
    const chain = (): Chain => templateChain(name, place);
    const alias = draft.aliases.get(name.name);
    if (name.name === draft.form.member.name) {
      refer(draft, name.name, spanIn(site, name));
      if (isOwnBinding(name, draft)) continue;
      const here = reading(chain(), draft);
      if (arrayUses(here.chain, arraysReading(draft))) continue;
      draft.uses.push(formUse(here, 1, fieldAt(draft)));
      if (here.chain.links.length === 1) followArgument(name, draft);
    } else if (alias) {
      refer(draft, name.name, spanIn(site, name));
      if (isOwnBinding(name, draft)) continue;
      const here = reading(chain(), draft);
      if (arrayUses(here.chain, arraysReading(draft))) continue;
      const found = aliasedField(here.chain, alias, draft);
      if (found) draft.uses.push(controlOrGroupUse(here, found, draft));
      else
        draft.unclear.push({
          span: spanIn(site, name),
          what: name.name,
          why: 'which control is meant is told only when it runs',
        });
    }
  }
}

function isOwnBinding(name: TemplateName, draft: Draft): boolean {
  const { attribute, element } = name;
  if (!attribute) return false;
  return (element === draft.site.form && attribute.name === 'formGroup') || attribute.name === 'formControl';
}

/** Uses of the form's directive by a variable of the template. */
export function directiveUses(reference: string, draft: Draft): void {
  const { names, place } = draft.site.component.template;
  for (const name of names) {
    if (name.name !== reference || !name.variable || variableNamed(reference, name.view) !== name.variable) continue;
    refer(draft, reference, spanIn(draft.site, name));
    const here = reading(templateChain(name, place), draft);
    draft.uses.push(formUse(here, 1, fieldAt(draft)));
    if (here.chain.links.length === 1) followArgument(name, draft);
  }
}

/** Members of the class that ask the template for the form's directive. */
export function directiveQueries(site: AngularSite, reference: string | undefined): Member[] {
  const { members, script } = site.component;
  return [...members.values()].filter(({ node }) => {
    const asked = memberDecorator(node, 'ViewChild')?.arguments[0];
    const text = script.text.slice(node.start ?? 0, node.end ?? 0);
    if (!asked || !/FormGroupDirective/.test(text)) return false;
    return t.isIdentifier(asked, { name: 'FormGroupDirective' }) || literalText(asked) === reference;
  });
}
