import path from 'node:path';
import type { SurveyResult } from '../survey/tree.js';
import type { PlacedFinding } from '../survey/survey.js';
import { counted, type Paint } from './paint.js';
import { columns } from './table.js';

/** The survey as JSON, paths relative to the working folder. */
export function surveyJson(result: SurveyResult, cwd: string): object {
  const relative = (file: string): string => path.relative(cwd, file).split(path.sep).join('/');
  return {
    version: 1,
    root: relative(result.root) || '.',
    files: {
      seen: result.files.seen,
      parsed: result.files.parsed,
      failed: result.files.failed.map(({ file, reason }) => ({ file: relative(file), reason })),
      leftOut: result.files.leftOut,
    },
    forms: result.forms.map((form) => ({
      ...form,
      id: `${relative(form.file)}#${form.name}`,
      file: relative(form.file),
      files: form.files.map(relative),
      findings: form.findings.map((finding) => ({ ...finding, file: relative(finding.file) })),
    })),
    findings: result.forms.flatMap(({ findings }) =>
      findings.map((finding) => ({ ...finding, file: relative(finding.file) })),
    ),
  };
}

/** Findings for people: place, level and code in one line, what is wrong and what to do below. */
export function findingsText(
  findings: readonly PlacedFinding[],
  relative: (file: string) => string,
  paint: Paint,
): string {
  const level = (finding: PlacedFinding): string => {
    const colour = { note: paint.dim, warning: paint.yellow, error: paint.red }[finding.level];
    return colour(finding.level);
  };
  return findings
    .flatMap((finding) => [
      `${level(finding)} ${finding.code}  ${paint.dim(`${relative(finding.file)}:${finding.line}:${finding.column}`)}`,
      `  ${finding.message}`,
      `  ${paint.dim(finding.remedy)}`,
    ])
    .join('\n');
}

/** The survey for people: a line for each form, then what could not be read. */
export function surveyText(result: SurveyResult, cwd: string, paint: Paint): string {
  const relative = (file: string): string => path.relative(cwd, file).split(path.sep).join('/');
  const lines: string[] = [];
  if (result.forms.length) {
    const rows = result.forms.map((form) => [
      paint.bold(form.name),
      form.framework,
      paint.cyan(form.approach),
      String(form.fields.length),
      paint.dim(`${relative(form.file)}:${form.line}`),
    ]);
    lines.push(
      columns([['FORM', 'FRAMEWORK', 'APPROACH', 'FIELDS', 'PLACE'].map((title) => paint.dim(title)), ...rows], {
        right: [3],
      }),
      '',
    );
  }
  const findings = result.forms.flatMap((form) => form.findings);
  if (findings.length) lines.push(findingsText(findings, relative, paint), '');
  for (const { file, reason } of result.files.failed)
    lines.push(paint.yellow(`could not read ${relative(file)}: ${reason}`));
  if (result.files.failed.length) lines.push('');
  const approaches = new Set(result.forms.map((form) => form.approach));
  const tail = result.forms.length
    ? ` in ${counted(approaches.size, 'approach').replace('approachs', 'approaches')}`
    : '';
  lines.push(
    `${counted(result.forms.length, 'form')}${tail}; ${counted(result.files.seen, 'file')} seen, ${result.files.parsed} of them parsed${
      findings.length ? `; ${counted(findings.length, 'finding')}` : ''
    }`,
  );
  const left = leftOutText(result);
  if (left !== '') lines.push(paint.dim(left));
  return lines.join('\n');
}

/** How many files were not looked at, and why. */
function leftOutText({ files: { leftOut } }: SurveyResult): string {
  const { tests, endings, ignored } = leftOut;
  const reasons = [
    ...(tests ? [`${tests} ${tests === 1 ? 'test or story' : 'tests and stories'} (--include-tests reads them)`] : []),
    ...(ignored ? [`${ignored} ignored or built`] : []),
    ...(endings ? [`${endings} of endings that are not read`] : []),
  ];
  return reasons.length ? `not looked at: ${reasons.join(', ')}` : '';
}
