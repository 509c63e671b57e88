import path from 'node:path';
import type { SurveyResult } from '../survey/tree.js';
import type { PlacedFinding } from '../survey/survey.js';
import { cut } from './cut.js';
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

function levelOf({ level }: PlacedFinding, paint: Paint): string {
  return { note: paint.dim, warning: paint.yellow, error: paint.red }[level](level);
}

/** Findings for people: place, level and code in one line, what is wrong and what to do below. */
export function findingsText(
  findings: readonly PlacedFinding[],
  relative: (file: string) => string,
  paint: Paint,
): string {
  return findings
    .flatMap((finding) => [
      `${levelOf(finding, paint)} ${finding.code}  ${paint.dim(`${relative(finding.file)}:${finding.line}:${finding.column}`)}`,
      `  ${finding.message}`,
      `  ${paint.dim(finding.remedy)}`,
    ])
    .join('\n');
}

/** How a survey is shown. Widths and heights are in characters of a terminal; undefined where there is none. */
export interface SurveyView {
  paint: Paint;
  width: number | undefined;
  height: number | undefined;
  verbose: boolean;
}

/** Findings up to this number are told one by one. */
const fewFindings = 10;

/** The survey for people: a line for each form, findings, what could not be read, and how much there is of everything. */
export function surveyText(result: SurveyResult, cwd: string, view: SurveyView): string {
  const { paint } = view;
  const relative = (file: string): string => path.relative(cwd, file).split(path.sep).join('/');
  const parts = [
    formsText(result.forms, relative, view),
    approachesText(result.forms, view),
    foundText(
      result.forms.flatMap((form) => form.findings),
      relative,
      view,
    ),
    result.files.failed
      .map(({ file, reason }) => paint.yellow(`could not read ${relative(file)}: ${reason}`))
      .join('\n'),
    view.verbose ? slowestText(result, relative, view) : '',
    [totals(result), paint.dim(leftOutText(result))].filter(Boolean).join('\n'),
  ];
  return parts.filter((part) => part !== '').join('\n\n');
}

type Form = SurveyResult['forms'][number];

/** A line for each form; folder by folder where there are more than a terminal shows at once. */
function formsText(forms: readonly Form[], relative: (file: string) => string, view: SurveyView): string {
  if (!forms.length) return '';
  const byFolder = view.height !== undefined && forms.length > view.height - 4;
  const frameworks = new Set(forms.map(({ framework }) => framework)).size > 1;
  const folderOf = byFolder ? foldersOf(forms, relative) : (): string => '';
  const nameOf = (form: Form): string =>
    byFolder ? path.posix.relative(folderOf(form), relative(form.file)) : relative(form.file);
  const cells = forms.map((form) => [
    cut(form.name, 40),
    ...(frameworks ? [form.framework] : []),
    form.approach,
    String(form.fields.length),
    `${nameOf(form)}:${form.line}`,
  ]);
  const titles = ['FORM', ...(frameworks ? ['FRAMEWORK'] : []), 'APPROACH', 'FIELDS', 'PLACE'];
  const last = titles.length - 1;
  const indent = byFolder ? 2 : 0;
  const widths = titles.map((title, at) => Math.max(title.length, ...cells.map((row) => row[at]?.length ?? 0)));
  const before = widths.slice(0, last).reduce((sum, width) => sum + width + 2, indent);
  const room = view.width === undefined ? Infinity : Math.max(24, view.width - before);
  const painted = cells.map(([name = '', ...row]) => [
    view.paint.bold(name),
    ...row.map((cell, at) => {
      if (at === last - 3) return view.paint.cyan(cell);
      return at === last - 1 ? view.paint.dim(cutBefore(cell, room)) : cell;
    }),
  ]);
  const lines = columns([titles.map((title) => view.paint.dim(title)), ...painted], {
    right: [last - 1],
    indent: ' '.repeat(indent),
  }).split('\n');
  if (!byFolder) return lines.join('\n');
  const folders = [...new Set(forms.map(folderOf))];
  return [
    lines[0] ?? '',
    ...folders.flatMap((folder) => [
      view.width === undefined ? folder : cutBefore(folder, view.width),
      ...lines.slice(1).filter((_line, index) => {
        const form = forms[index];
        return form !== undefined && folderOf(form) === folder;
      }),
    ]),
  ].join('\n');
}

/** The folder under which a form is shown: as deep as there are three forms to a folder, taken all together. */
function foldersOf(forms: readonly Form[], relative: (file: string) => string): (form: Form) => string {
  const parts = ({ file }: Form): string[] => path.posix.dirname(relative(file)).split('/');
  const at = (form: Form, depth: number): string => parts(form).slice(0, depth).join('/');
  let depth = Math.max(...forms.map((form) => parts(form).length));
  while (depth > 1 && new Set(forms.map((form) => at(form, depth))).size * 3 > forms.length) depth -= 1;
  return (form) => at(form, depth);
}

/** A text whose end says most, cut where it is longer than some characters. */
function cutBefore(text: string, most: number): string {
  return text.length > most ? `…${text.slice(text.length - most + 1)}` : text;
}

/** How many forms there are of each approach, the most first. */
function approachesText(forms: readonly Form[], { paint }: SurveyView): string {
  const counts = countsOf(forms.map(({ approach }) => approach));
  const most = counts[0]?.[1] ?? 0;
  if (counts.length < 2) return '';
  const rows = counts.map(([approach, count]) => [
    paint.cyan(approach),
    String(count),
    paint.dim('■'.repeat(Math.max(1, Math.round((count * 24) / most)))),
  ]);
  return columns(rows, { right: [1], indent: '  ' });
}

function countsOf(names: readonly string[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const name of names) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
}

/** The findings one by one, or how many there are of each kind where they are many. */
function foundText(
  findings: readonly PlacedFinding[],
  relative: (file: string) => string,
  { paint, verbose }: SurveyView,
): string {
  if (!findings.length) return '';
  if (verbose || findings.length <= fewFindings) return findingsText(findings, relative, paint);
  const rows = countsOf(findings.map(({ code }) => code)).map(([code, count]) => {
    const first = findings.find((finding) => finding.code === code);
    const place = first ? `first in ${relative(first.file)}:${first.line}` : '';
    return [first ? levelOf(first, paint) : '', code, String(count), paint.dim(place)];
  });
  return `${columns(rows, { right: [2] })}\n${paint.dim('--verbose tells every finding')}`;
}

/** The files that took longest. */
function slowestText({ files }: SurveyResult, relative: (file: string) => string, { paint }: SurveyView): string {
  if (!files.slowest.length) return '';
  const rows = files.slowest.map(({ file, milliseconds }) => [`${milliseconds} ms`, paint.dim(relative(file))]);
  return `Slowest files\n${columns(rows, { right: [0], indent: '  ' })}`;
}

function totals({ forms, files }: SurveyResult): string {
  const approaches = new Set(forms.map((form) => form.approach)).size;
  const findings = forms.flatMap((form) => form.findings).length;
  const tail = forms.length ? ` in ${approaches} ${approaches === 1 ? 'approach' : 'approaches'}` : '';
  return `${counted(forms.length, 'form')}${tail}; ${counted(files.seen, 'file')} seen, ${files.parsed} of them parsed${
    findings ? `; ${counted(findings, 'finding')}` : ''
  }`;
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
