import path from 'node:path';
import type { SurveyResult } from '../survey/tree.js';
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
    },
    forms: result.forms.map((form) => ({
      ...form,
      id: `${relative(form.file)}#${form.name}`,
      file: relative(form.file),
      files: form.files.map(relative),
      findings: [],
    })),
    findings: [],
  };
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
  for (const { file, reason } of result.files.failed)
    lines.push(paint.yellow(`could not read ${relative(file)}: ${reason}`));
  if (result.files.failed.length) lines.push('');
  const approaches = new Set(result.forms.map((form) => form.approach));
  const tail = result.forms.length
    ? ` in ${counted(approaches.size, 'approach').replace('approachs', 'approaches')}`
    : '';
  lines.push(
    `${counted(result.forms.length, 'form')}${tail}; ${counted(result.files.seen, 'file')} seen, ${result.files.parsed} of them parsed`,
  );
  return lines.join('\n');
}
