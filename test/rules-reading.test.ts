import { describe, expect, it } from 'vitest';
import type { Rule } from '../src/form/rules.js';
import { readSchema } from '../src/rules/json-schema/read.js';
import { schemaOf } from '../src/rules/json-schema/write.js';
import { formsOfFile } from '../src/rewrite/forms.js';
import { diskWorkspace, overlaid } from '../src/source/workspace.js';
import { ruleTable, spellings } from './tools/rule-table.js';

async function formOf(text: string, others: Record<string, string> = {}) {
  const files = new Map(
    Object.entries({ 'Slip.tsx': text, ...others }).map(([name, body]) => [`/orchard/${name}`, body]),
  );
  const found = await formsOfFile('/orchard/Slip.tsx', text, overlaid(diskWorkspace, files), { ownValueNames: [] });
  const model = found.ok ? found.forms[0]?.read?.() : undefined;
  if (!model) throw new Error('the form was not read');
  return model;
}

/** Rules of code, in short: field, what is asked, message, moment. */
function told(rules: readonly Rule[]): string[] {
  return rules
    .filter(({ stated }) => stated === 'code')
    .map((rule) => {
      const value = rule.constraint && 'value' in rule.constraint ? ` ${rule.constraint.value}` : '';
      const guards = (rule.guards ?? []).map((guard) => ` [${guard.field} ${guard.is}]`).join('');
      return `${rule.fields.join('+')}: ${rule.constraint?.kind ?? 'nothing'}${value}${guards} “${rule.message ?? ''}” ${rule.moment}`;
    });
}

const slip = (rules: string, handlers: string, markup = '', before = ''): string => `import { useState } from 'react';
${before}
interface Slip { plot: string; hours: number; tools: boolean; note: string }
const empty: Slip = { plot: '', hours: 1, tools: false, note: '' };
${rules}
export function Booking({ send }: { send(slip: Slip): void }) {
  const [slip, setSlip] = useState(empty);
  const [errors, setErrors] = useState<Partial<Record<keyof Slip, string>>>({});
  const [error, setError] = useState('');
  ${handlers}
  return (
    <form noValidate onSubmit={submit}>
      <input name="plot" value={slip.plot} onChange={(event) => setSlip({ ...slip, plot: event.target.value })} ${markup} />
      <input type="number" value={slip.hours} onChange={(event) => setSlip({ ...slip, hours: Number(event.target.value) })} />
      <input type="checkbox" checked={slip.tools} onChange={(event) => setSlip({ ...slip, tools: event.target.checked })} />
      <textarea value={slip.note} onChange={(event) => setSlip({ ...slip, note: event.target.value })} />
      {Object.values(errors).join()} {error}
    </form>
  );
}
`;
const submits = (body: string): string =>
  `function submit(event: React.FormEvent) { event.preventDefault(); ${body} send(slip); }`;

describe('rules are read from code as people write it', () => {
  it('from a function that ends at the first message', async () => {
    const model = await formOf(
      slip(
        `function firstProblem(s: Slip) { if (!s.plot) return 'Which plot?'; if (s.hours > 8) return 'Too long'; }`,
        submits(`const problem = firstProblem(slip); if (problem) { setError(problem); return; }`),
      ),
    );
    expect(told(model.rules)).toEqual(['plot: required “Which plot?” submit', 'hours: max 8 “Too long” submit']);
  });

  it('from checks inside of the submit, each only where the one before was met', async () => {
    const model = await formOf(
      slip(
        '',
        submits(
          `if (!slip.plot.trim()) { setErrors({ plot: 'Which plot?' }); return; } if (slip.hours < 1) return setErrors({ hours: 'An hour at least' });`,
        ),
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: not-blank “Which plot?” submit',
      'hours: min 1 [plot not-blank] “An hour at least” submit',
    ]);
  });

  it('from a table of functions that is asked by name when a control is left', async () => {
    const model = await formOf(
      slip(
        `const checks = {
           plot: (value: string) => (value ? undefined : 'Which plot?'),
           note: (value: string, all: Slip) => (all.tools && value.length < 5 ? 'Say which tools' : undefined),
         };`,
        `const left = (name: 'plot' | 'note') => setErrors({ ...errors, [name]: checks[name](slip[name], slip) });
         ${submits('')}`,
        `onBlur={() => left('plot')}`,
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: required “Which plot?” blur',
      'note: min-length 5 [tools true] “Say which tools” blur',
    ]);
  });

  it('from a table of rows, each with its field, its test and its message', async () => {
    const model = await formOf(
      slip(
        `const rows = [
           { of: 'plot', holds: (value: string) => value.trim().length > 0, message: 'Which plot?' },
           { of: 'plot', holds: (value: string) => value.length <= 4, message: 'Four letters at most' },
           { of: 'note', holds: (value: string) => /^[^<]*$/.test(value), message: 'No marks' },
         ] as const;
         function validate(slip: Slip) {
           const found: Record<string, string> = {};
           for (const { of, holds, message } of rows) if (!found[of] && !holds(slip[of])) found[of] = message;
           return found;
         }`,
        submits('const found = validate(slip); setErrors(found); if (Object.keys(found).length) return;'),
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: not-blank “Which plot?” submit',
      'plot: max-length 4 “Four letters at most” submit',
      'note: pattern /^[^<]*$/ “No marks” submit',
    ]);
    expect(model.rules.map(({ condition }) => condition)[1]).toBe('!(value.length <= 4)');
  });

  it('from loops over the names of fields', async () => {
    const model = await formOf(
      slip(
        `const validate = (slip: Slip) => {
           const found: Record<string, string> = {};
           (['plot', 'note'] as const).forEach((name) => { if (!slip[name]) found[name] = 'This one is needed'; });
           return found;
         };`,
        submits('const found = validate(slip); setErrors(found); if (Object.keys(found).length) return;'),
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: required “This one is needed” submit',
      'note: required “This one is needed” submit',
    ]);
  });

  it('from functions that other functions make', async () => {
    const model = await formOf(
      slip(
        `type Check = (value: string) => string | undefined;
         const needed = (message: string): Check => (value) => (value ? undefined : message);
         const least = (count: number): Check => (value) => { if (value.length < count) return \`\${count} letters at least\`; };
         const all = (...checks: Check[]): Check => (value) => {
           for (const check of checks) { const message = check(value); if (message) return message; }
           return undefined;
         };
         const checks = { plot: all(needed('Which plot?'), least(2)), note: needed('Say something') };`,
        `const plotError = checks.plot(slip.plot);
         const noteError = checks.note(slip.note);
         ${submits('if (plotError || noteError) return;')}`,
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: required “Which plot?” change',
      'plot: min-length 2 “2 letters at least” change',
      'note: required “Say something” change',
    ]);
  });

  it('from a message that says itself which field it is about, and from a switch over names', async () => {
    const model = await formOf(
      slip(
        `function first(slip: Slip) {
           if (slip.plot === '') return { field: 'plot', text: 'Which plot?' };
           if (slip.hours > 8) return { field: 'hours', text: 'Too long' };
           return null;
         }`,
        `const look = (name: string, value: string) => {
           switch (name) {
             case 'note': if (value.length > 80) setErrors({ ...errors, note: 'Too much' }); break;
             default: break;
           }
         };
         ${submits('look("note", slip.note); const found = first(slip); if (found) { setError(found.text); return; }')}`,
      ),
    );
    expect(told(model.rules)).toEqual([
      'note: max-length 80 “Too much” submit',
      'plot: required “Which plot?” submit',
      'hours: max 8 [plot filled] “Too long” submit',
    ]);
  });

  it('from a condition that shows a message and keeps the form from being sent', async () => {
    const model = await formOf(
      slip('', `const noPlot = slip.plot.trim() === ''; ${submits('if (noPlot) return;')}`).replace(
        '{error}',
        '{error} {noPlot && <small>Which plot?</small>} {slip.note.length > 60 && <small>Nearly full</small>}',
      ),
    );
    expect(told(model.rules)).toEqual(['plot: not-blank “Which plot?” change']);
  });

  it('from helpers, patterns and limits of another file, with renamed imports', async () => {
    const model = await formOf(
      slip(
        `const validate = ({ plot, hours }: Slip) => { const found: Partial<Record<keyof Slip, string>> = {}; if (isBlank(plot)) found.plot = messages.plot; else if (!MARK.test(plot)) found.plot = 'Like A1'; if (hours > most) found.hours = 'Too long'; return found; };`,
        submits('const found = validate(slip); setErrors(found); if (Object.keys(found).length) return;'),
        '',
        `import { blank as isBlank, MARK, messages, LIMITS } from './rules';\nconst most = LIMITS.hours;`,
      ),
      {
        'rules.ts': `export const blank = (text: string) => text.trim().length === 0;
          export const MARK = /^[A-F]\\d$/;
          export const LIMITS = { hours: 8 };
          export const messages = { plot: 'Which plot?' };`,
      },
    );
    expect(told(model.rules)).toEqual([
      'plot: not-blank “Which plot?” submit',
      'plot: pattern /^[A-F]\\d$/ “Like A1” submit',
      'hours: max 8 “Too long” submit',
    ]);
  });

  it('from what is worked out while rendering, and from conditions right beside a message', async () => {
    const model = await formOf(
      slip('', `const plotError = slip.plot === '' ? 'Which plot?' : ''; ${submits('')}`).replace(
        '{Object.values',
        '{slip.hours > 6 && <p className="warning">That is a long day</p>}{plotError}{Object.values',
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: required “Which plot?” change',
      'hours: max 6 “That is a long day” change',
    ]);
  });

  it('keeps the order: of two messages put one over the other, the last one counts', async () => {
    const model = await formOf(
      slip(
        `function validate(s: Slip) { const e: Partial<Record<keyof Slip, string>> = {}; if (s.plot.length < 3) e.plot = 'Write it out'; if (!s.plot) e.plot = 'Which plot?'; return e; }`,
        submits('setErrors(validate(slip));'),
      ),
    );
    expect(told(model.rules)).toEqual([
      'plot: required “Which plot?” submit',
      'plot: min-length 3 “Write it out” submit',
    ]);
  });

  it('carries what is no standard condition as code, with the fields it looks at, and does not take other texts for messages', async () => {
    const model = await formOf(
      slip(
        `const grade = (hours: number) => (hours > 4 ? 'long' : 'short');
         function validate(s: Slip) { const e: Partial<Record<keyof Slip, string>> = {}; if (s.plot !== s.note) e.note = \`Not \${s.plot}\`; if (new Date(s.note) < new Date()) e.note = 'Not so late'; return e; }`,
        `const size = grade(slip.hours); ${submits('setErrors(validate(slip)); console.log(size);')}`,
      ),
    );
    expect(told(model.rules)).toEqual(['note: custom “Not so late” submit', 'note+plot: equal “Not ${s.plot}” submit']);
    expect(model.rules.at(-1)?.computed).toBe(true);
  });

  it('says nothing of the browser’s rules where the form tells it not to check', async () => {
    const checked = slip('', submits(''), 'required maxLength={9}');
    expect((await formOf(checked)).rules.map(({ condition }) => condition)).toEqual(['maxLength 9']);
    expect((await formOf(checked.replace('noValidate ', ''))).rules.map(({ condition }) => condition)).toEqual([
      'required',
      'maxLength 9',
    ]);
  });
});

describe('a schema read back gives the same rules', () => {
  it.each(Object.keys(spellings))('as stated in %s', async (name) => {
    const model = await formOf(spellings[name]?.() ?? '');
    const stated = schemaOf(model, model.rules);
    const back = readSchema(JSON.parse(JSON.stringify(stated.schema)) as typeof stated.schema);
    expect(back.troubles).toEqual([]);
    const short = (rule: { field: string; message: string | undefined; constraint: object }): string =>
      `${rule.field} “${rule.message ?? ''}” ${JSON.stringify(rule.constraint)}`;
    const before = stated.stated.map(({ fields: [field = ''], message, constraint = {} }) =>
      short({ field, message, constraint }),
    );
    const plain = (text: string): string =>
      text
        .replace(/\\"/g, '')
        .replace(/,"missing":"fails"/, '')
        .replace(/\[[bB]+\]|b/g, 'b');
    const lost = before.filter((rule) => !back.rules.map(short).map(plain).includes(plain(rule)));
    // an ignored case is written out, and an array's limit is that of its items
    expect(lost.filter((rule) => !/patternCase/.test(rule))).toEqual([]);
    expect(back.rules.length).toBe(stated.stated.length);
    expect(back.fields.map((field) => field.name)).toHaveLength(ruleTable.length + 2);
  });
});
