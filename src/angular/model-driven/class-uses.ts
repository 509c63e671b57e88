import { spanOfNode } from '../../form/code.js';
import type { NodePath } from '@babel/traverse';
import type { Use } from '../../form/uses.js';
import { classChain } from '../chains.js';
import { parameterReferences } from '../class-reading.js';
import type { Member } from '../component.js';
import type { TemplateName } from '../template-model.js';
import { controlUse, formUse, type Reading } from '../uses.js';
import { arrayUses, exchangeUse } from './rows.js';
import { type Draft, arraysReading, fieldAt, reading, refer } from './bound-controls.js';
import { spanIn } from './template-spans.js';

function isDeclaring(path: NodePath, draft: Draft): boolean {
  const start = path.node.start ?? 0;
  const spans = [
    draft.form.assignment,
    ...[...draft.follows.values()].map(({ member }) => ({
      start: member.node.start ?? 0,
      end: member.node.end ?? 0,
    })),
    ...[...draft.aliases.values()].map(({ member }) => ({ start: member.node.start ?? 0, end: member.node.end ?? 0 })),
  ];
  return [...spans, ...draft.skipped, ...draft.retired].some((span) => span && start >= span.start && start < span.end);
}

/** Uses of the form in the class, through the member that holds it. */
export function memberUses(member: Member, draft: Draft): void {
  const { script } = draft.site.component;
  for (const path of member.references) {
    const span = spanOfNode(script.file, path.node);
    refer(draft, member.name, span);
    if (isDeclaring(path, draft)) continue;
    const chain = classChain(script.file, path, member.name);
    const rows = arraysReading(draft);
    if (arrayUses(chain, rows, path) || exchangeUse(chain, rows, path)) continue;
    draft.uses.push(formUse(reading(chain, draft, path), 1, fieldAt(draft)));
  }
  for (const path of member.aliases)
    draft.unclear.push({
      span: spanOfNode(script.file, path.node),
      what: `const { ${member.name} } = this`,
      why: 'the group is taken out of the component',
    });
}

/** The use that a chain behind a control or a group makes; undefined where it is none that is known. */
export function controlOrGroupUse(here: Reading, found: { field: string; count: number }, draft: Draft): Use {
  if (draft.controls.has(found.field)) return controlUse(here, found.count, found.field);
  const use = formUse(here, found.count, (names) => fieldAt(draft)([...found.field.split('.'), ...names]));
  if (use.kind === 'ask' && use.of === undefined) return { ...use, of: found.field };
  if (use.kind === 'read-all')
    return { kind: 'read', field: found.field, key: use.key, where: use.where, span: use.span };
  return use;
}

/** The form handed to a method of the class: what the method does with it. */
export function followArgument(name: TemplateName, draft: Draft): void {
  const { component } = draft.site;
  const call = name.around[1] as unknown as { args?: unknown[]; receiver?: { name?: string } } | undefined;
  const index = call?.args?.indexOf(name.around[0]) ?? -1;
  const method = component.members.get(call?.receiver?.name ?? '');
  if (index < 0 || method?.kind !== 'method') return;
  const parameter = parameterReferences(method, index);
  if (!parameter) return;
  const argument = spanIn(draft.site, name);
  const known = draft.given.find((one) => one.method === method.name && one.name === parameter.name);
  if (known) {
    known.argument.push(argument);
    return;
  }
  draft.given.push({
    method: method.name,
    parameter: spanOfNode(component.script.file, parameter.node),
    name: parameter.name,
    argument: [argument],
    of: undefined,
  });
  for (const path of parameter.references)
    draft.uses.push(
      formUse(reading(classChain(component.script.file, path, parameter.name), draft, path), 1, fieldAt(draft)),
    );
}
