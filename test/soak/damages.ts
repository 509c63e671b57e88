import type { RewritePlan } from '../../src/form/ledger.js';
import type { StepPlan } from '../../src/rewrite/planned-step.js';

/** A plan with one thing wrong in it, as a writer that forgot something would make it. */
export interface Damage {
  kind: string;
  what: string;
  plan: RewritePlan;
}

type Edit = RewritePlan['edits'][number];
type Random = () => number;

function pick<Item>(items: readonly Item[], random: Random): Item | undefined {
  return items[Math.floor(random() * items.length)];
}

/** One of the places that a pattern finds in the texts put in, changed. */
function inTexts(
  { plan, sources }: StepPlan,
  random: Random,
  kind: string,
  pattern: RegExp,
  change: (found: RegExpMatchArray) => string | undefined,
): Damage[] {
  const author = [...new Set(plan.edits.map(({ file }) => file))].map((file) => sources.text(file)).join('\n');
  const places = plan.edits.flatMap((edit) =>
    [...edit.text.matchAll(pattern)].flatMap((found) => {
      const text = change(found);
      const line = edit.text.slice(edit.text.lastIndexOf('\n', found.index) + 1).split('\n')[0] ?? '';
      // types are the compiler's to check, and what the tool itself says is no code of the author's
      const isType =
        /^\s*(?:type|interface|export type|export interface|\|)\b|^\s*\w+\??: (?:string|number|boolean)\b/.test(line);
      const own = /call|operator|comment|message/.test(kind) && !author.includes(found[0]);
      return text === undefined || text === found[0] || isType || own ? [] : [{ edit, found, text }];
    }),
  );
  const chosen = pick(places, random);
  if (!chosen) return [];
  const { edit, found, text } = chosen;
  const damaged = edit.text.slice(0, found.index) + text + edit.text.slice(found.index + found[0].length);
  return [{ kind, what: `${found[0]} → ${text}`, plan: exchanged(plan, edit, { ...edit, text: damaged }) }];
}

function exchanged(plan: RewritePlan, edit: Edit, by: Edit | undefined): RewritePlan {
  return { ...plan, edits: plan.edits.flatMap((one) => (one === edit ? (by ? [by] : []) : [one])) };
}

/** Damages of one plan, one of each kind where there is a place for it. */
export function damagesOf(step: StepPlan, random: Random): Damage[] {
  const { model, plan, sources } = step;
  const fields = model.fields
    .filter(({ role, name }) => role === 'field' && /^\w+$/.test(name))
    .map(({ name }) => name);
  const one = pick(fields, random);
  const other = pick(
    fields.filter((name) => name !== one),
    random,
  );
  const damages: Damage[] = [];

  const changing = plan.edits.filter(({ start, end, text }) => start < end || text.trim().length > 3);
  const left = pick(changing, random);
  if (left) {
    const old = sources.text(left.file).slice(left.start, left.end);
    damages.push({ kind: 'edit left out', what: old.slice(0, 80), plan: exchanged(plan, left, undefined) });
  }

  if (one !== undefined) {
    // an assignment of several
    damages.push(
      ...inTexts(
        step,
        random,
        'assignment dropped',
        /(?<=[{,]\s*)(\w+): ('[^']*'|\d+|true|false|null|\w+(?:\.\w+)*),(?=\s*[\w}])/g,
        ({ 1: key }) => (key !== undefined && fields.includes(key) ? '' : undefined),
      ),
      ...inTexts(step, random, 'statement dropped', /\bset[A-Z]\w*\([^()]*\);/g, () => ''),
    );
    if (other !== undefined)
      damages.push(
        ...inTexts(step, random, 'fields swapped', new RegExp(`(?<![\\w.'"])${one}(?=: |'\\s*,|",)`, 'g'), () => other),
      );
    const start = model.fields.find(({ name }) => name === one)?.initial.text ?? '';
    const plainStart = /^(?:'[^']+'|"[^"]+"|[1-9]\d*|true)$/.test(start) ? start : undefined;
    if (plainStart !== undefined) {
      const empty = /^['"]/.test(plainStart) ? "''" : plainStart === 'true' ? 'false' : '0';
      damages.push(
        ...inTexts(
          step,
          random,
          'start replaced',
          new RegExp(`(?<!\\w)${plainStart.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?!\\w)`, 'g'),
          () => empty,
        ),
      );
    }
  }
  damages.push(
    ...inTexts(
      step,
      random,
      'override of a spread lost',
      /(\.\.\.\w+(?:\.\w+)*), \w+: [^,{}()]+(?= \})/g,
      ({ 1: spread }) => spread,
    ),
    ...inTexts(step, random, 'message dropped', /(['"])([A-Z][a-z]+ [^'"]{4,})\1/g, () => "''"),
    ...inTexts(step, random, 'cast dropped', / as (?!const)[A-Z]\w+(?:<[^<>]*>)?/g, () => ''),
    ...inTexts(step, random, 'comment dropped', /\/\/[^\n]+|\/\*[\s\S]*?\*\/|<!--[\s\S]*?-->/g, () => ''),
    ...inTexts(step, random, 'dependency list cut', /(?<=\}, \[)(\w+), (\w+)/g, ({ 1: first }) => first),
    ...inTexts(
      step,
      random,
      'call dropped',
      /(?<![\w.])(?!set[A-Z]|use[A-Z]|dispatch)([a-z]\w*)\(([^()]+)\)/g,
      ({ 2: inner }) => inner,
    ),
    ...inTexts(step, random, 'operator changed', /===|!==|&&|\|\||>=|<=/g, ({ 0: operator }) =>
      operator === '&&' ? '||' : operator === '||' ? '&&' : '==',
    ),
    ...inTexts(
      step,
      random,
      'member still used removed',
      /^[ \t]*(?:readonly |private |protected )*\w+ = [^\n]+;$/gm,
      () => '',
    ),
  );
  // what an edit takes away grows by a statement, an attribute or an import beside it
  const wide = pick(
    plan.edits.filter(({ file, end }) =>
      /^\s*\n[ \t]*(?:[\w.]+\([^\n]*\);|[a-z]\w*=["{][^\n]*["}])\s*\n/.test(sources.text(file).slice(end)),
    ),
    random,
  );
  if (wide) {
    const behind = /^\s*\n[^\n]*/.exec(sources.text(wide.file).slice(wide.end))?.[0] ?? '';
    const grown = { ...wide, end: wide.end + behind.length };
    if (
      !plan.edits.some(
        (edit) => edit !== wide && edit.file === wide.file && edit.start < grown.end && edit.end > wide.end,
      )
    )
      damages.push({
        kind: 'line beside taken away',
        what: behind.trim().slice(0, 80),
        plan: exchanged(plan, wide, grown),
      });
  }
  // a rule whose statement goes
  const rule = model.rules.find(
    ({ statedIn, span }) =>
      statedIn &&
      span.file === model.file &&
      !plan.edits.some(
        ({ file, start, end }) =>
          file === statedIn.piece.file && start < statedIn.piece.end && end > statedIn.piece.start,
      ),
  );
  if (rule?.statedIn)
    damages.push({
      kind: 'rule dropped',
      what: rule.condition,
      plan: { ...plan, edits: [...plan.edits, { ...rule.statedIn.piece, text: '' }] },
    });
  return damages;
}
