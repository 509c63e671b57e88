import { leafFields } from '../../src/survey/leaf-fields.js';
import type { FormModel } from '../../src/form/model.js';
import type { GatedMessage, Run } from '../../src/form/life.js';

/** A form's model as lines that a person can check against the source: fields, rules, status, checks, messages, submit. */
export function storyOf(model: FormModel): string[] {
  const life = model.life?.();
  const one = (text: string): string => text.replace(/\s+/g, ' ').trim();
  const lines = leafFields(model).map(({ name, kind, initial, once }) =>
    one(`${name}: ${kind}, begins as ${initial === '' ? 'what is worked out' : initial}${once ? ', once' : ''}`),
  );
  for (const other of model.others) lines.push(`beside it ${other.name}`);
  for (const { role, name, shape, derived } of life?.status ?? [])
    lines.push(`status ${role}: ${name}, ${shape}${derived ? ', worked out' : ''}`);
  model.rules.forEach(({ fields, message, kind }, index) => {
    const moments = life?.moments[index]?.join(' ') ?? '';
    lines.push(one(`rule ${fields.join(' ')}: ${kind}, says ${message ?? 'nothing of its own'}, on ${moments}`));
  });
  for (const { name, runs } of life?.checkers ?? [])
    for (const run of runs) lines.push(one(`check ${name} on ${run.moment} of ${ofWhom(run)}${guardOf(run)}`));
  for (const shown of life?.shown ?? []) lines.push(`message of ${shown.field ?? 'the form'} ${gateOf(shown)}`);
  const { course } = life ?? {};
  if (course) {
    lines.push(`submit by ${course.by}, prevents ${course.prevents === null ? 'nothing' : String(course.prevents)}`);
    for (const { branch, does, call, implied } of course.steps)
      lines.push(`  ${branch}: ${does}${implied ? ', by itself' : ''}${call === undefined ? '' : ` ${one(call)}`}`);
  }
  for (const { fields, whole } of life?.changed ?? []) lines.push(`changes ${whole ? 'as a whole' : fields.join(' ')}`);
  return lines;
}

function ofWhom({ of }: Run): string {
  return of === 'all' ? 'all' : of.join(' ');
}

function guardOf({ when }: Run): string {
  return when === null ? '' : `, when ${when}`;
}

function gateOf({ after, all }: GatedMessage): string {
  return after.length ? `after ${after.join(all ? ' and ' : ' or ')}` : 'as soon as there is one';
}
