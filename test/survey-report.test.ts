import { describe, expect, it } from 'vitest';
import { paintFor } from '../src/report/paint.js';
import { surveyText, type SurveyView } from '../src/report/survey-report.js';
import type { PlacedFinding, SurveyedForm } from '../src/survey/survey.js';

const view = (given: Partial<SurveyView> = {}): SurveyView => ({
  paint: paintFor(false),
  width: undefined,
  height: undefined,
  verbose: false,
  ...given,
});

function form(file: string, approach = 'field-state', findings: PlacedFinding[] = []): SurveyedForm {
  const name = file.split('/').at(-1)?.replace('.tsx', '') ?? '';
  return {
    id: name,
    file: `/orchard/${file}`,
    files: [],
    line: 7,
    name,
    framework: 'react',
    approach,
    fields: [],
    findings,
  };
}

function shown(forms: SurveyedForm[], given: Partial<SurveyView> = {}): string[] {
  const slowest = [{ file: '/orchard/src/rows/Rows.tsx', milliseconds: 120 }];
  const leftOut = { tests: 2, endings: 0, ignored: 0 };
  const files = { seen: 40, parsed: 20, failed: [], leftOut, slowest };
  return surveyText({ root: '/orchard', files, forms }, '/orchard', view(given)).split('\n');
}

const folders = ['src/harvest/logs', 'src/harvest/slips', 'src/frost/watches/night'];
const many = folders.flatMap((folder) => ['One', 'Two', 'Three'].map((name) => form(`${folder}/${name}.tsx`)));

describe('the survey in a terminal', () => {
  it('tells the forms one after another where they fit, and how many there are of an approach', () => {
    const lines = shown([form('src/Log.tsx'), form('src/Slip.tsx'), form('src/Watch.tsx', 'reducer')], { height: 30 });
    expect(lines).toEqual([
      'FORM   APPROACH     FIELDS  PLACE',
      'Log    field-state       0  src/Log.tsx:7',
      'Slip   field-state       0  src/Slip.tsx:7',
      'Watch  reducer           0  src/Watch.tsx:7',
      '',
      `  field-state  2  ${'■'.repeat(24)}`,
      `  reducer      1  ${'■'.repeat(12)}`,
      '',
      '3 forms in 2 approaches; 40 files seen, 20 of them parsed',
      'not looked at: 2 tests and stories (--include-tests reads them)',
    ]);
  });

  it('groups them by folder where there are more than a screenful, and never loses one', () => {
    const lines = shown(many, { height: 10 });
    expect(lines.filter((line) => line.startsWith('src/'))).toEqual(folders);
    expect(lines.filter((line) => line.endsWith('.tsx:7'))).toHaveLength(many.length);
    expect(lines[2]).toMatch(/^ {2}One +field-state +0 {2}One\.tsx:7$/);
    const few = shown(
      folders.map((folder) => form(`${folder}/One.tsx`)),
      { height: 5 },
    );
    expect(few.filter((line) => !line.startsWith(' ') && line.startsWith('src'))).toEqual(['src']);
  });

  it('stays as it is where no terminal shows it', () => {
    expect(shown(many).filter((line) => /src\/harvest\/logs\/One\.tsx:7$/.test(line))).toHaveLength(1);
  });

  it('cuts places at the width of the terminal, at their beginning', () => {
    const lines = shown([form(`src/${'deep/'.repeat(20)}Log.tsx`)], { width: 60 });
    expect(Math.max(...lines.slice(0, 2).map((line) => line.length))).toBeLessThanOrEqual(60);
    expect(lines[1]).toMatch(/…[\w/]*Log\.tsx:7$/);
  });

  it('counts findings where they are many, and tells each of them when asked', () => {
    const finding = (line: number): PlacedFinding => ({
      code: 'double-submit',
      level: 'warning',
      file: '/orchard/src/Log.tsx',
      line,
      column: 3,
      message: 'it can be sent twice',
      remedy: 'keep a flag',
    });
    const found = Array.from({ length: 11 }, (_, index) => finding(index + 1));
    const counted = shown([form('src/Log.tsx', 'reducer', found)]);
    expect(counted).toContain('warning  double-submit  11  first in src/Log.tsx:1');
    expect(counted.join()).not.toContain('keep a flag');
    const told = shown([form('src/Log.tsx', 'reducer', found)], { verbose: true });
    expect(told.filter((line) => line.includes('keep a flag'))).toHaveLength(11);
    expect(told).toContain('  120 ms  src/rows/Rows.tsx');
    expect(shown([form('src/Log.tsx', 'reducer', found.slice(0, 2))]).join()).toContain('keep a flag');
  });
});
