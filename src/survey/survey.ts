import { formsOfFile, mayHoldForm, type ReadSettings, textsIn } from '../rewrite/forms.js';

import type { FormModel } from '../form/model.js';
import { leafFields } from './leaf-fields.js';
import { findingsOf, type FindingLevels } from '../findings/index.js';
import type { FindingLevel } from '../findings/finding.js';
import { lineIndex } from '../source/lines.js';
import { forgetFiles } from '../source/project-files.js';
import { isTooDeep, tooDeep } from '../source/depth.js';
import { diskWorkspace } from '../source/workspace.js';

/** A form as the survey lists it. `file` is an absolute path. */
export interface SurveyedForm {
  id: string;
  file: string;
  files: string[];
  line: number;
  name: string;
  framework: string;
  approach: string;
  fields: { name: string; kind: string; initial: string; rules: { kind: string; message: string | null }[] }[];
  findings: PlacedFinding[];
}

/** A finding with its place in words; `file` is an absolute path, lines and columns count from 1. */
export interface PlacedFinding {
  code: string;
  level: FindingLevel;
  file: string;
  line: number;
  column: number;
  message: string;
  remedy: string;
}

/** The findings of a form with their places. */
export function placedFindings(
  model: FormModel,
  levels: FindingLevels,
  textOf: (file: string) => string,
): PlacedFinding[] {
  return findingsOf(model, levels).map(({ span, ...finding }) => ({
    ...finding,
    file: span.file,
    ...lineIndex(textOf(span.file)).placeAt(span.start),
  }));
}

const textOnDisk = textsIn(diskWorkspace);

/** What one file gave. */
export interface FileSurvey {
  parsed: boolean;
  failed: string | undefined;
  forms: SurveyedForm[];
  /** How long it took, in milliseconds. */
  took?: number;
}

function describe(
  file: string,
  found: { name: string; line: number; framework: string; approach: string; fieldNames: string[] },
  model: FormModel | undefined,
  levels: FindingLevels,
): SurveyedForm {
  const fields = model
    ? leafFields(model).map((field) => ({
        name: field.name,
        kind: field.kind as string,
        initial: field.initial,
        rules: model.rules
          .filter((rule) => rule.fields.includes(field.path))
          .map(({ kind, message }) => ({ kind, message: message ?? null })),
      }))
    : found.fieldNames.map((name) => ({ name, kind: 'other', initial: '', rules: [] }));
  return {
    id: `${found.name}@${found.line}`,
    file,
    files: model?.files ?? [file],
    line: found.line,
    name: found.name,
    framework: found.framework,
    approach: found.approach,
    fields,
    findings: model ? placedFindings(model, levels, textOnDisk) : [],
  };
}

/** Settings of a survey: how forms are read, and the levels of findings. */
export interface SurveySettings extends ReadSettings {
  findings?: FindingLevels;
}

/** Characters after which trees are forgotten: files import the same ones over and over, and memory has an end. */
const enoughToForget = 400_000;
let looked = 0;

/** Surveys one file. A text that cannot hold a form is not parsed. */
export async function surveyFile(file: string, settings: SurveySettings): Promise<FileSurvey> {
  const begun = performance.now();
  const read = diskWorkspace.read(file);
  if (!read.ok) return { parsed: false, failed: read.reason, forms: [] };
  try {
    return { ...(await surveyText(file, read.text, settings)), took: performance.now() - begun };
  } catch (error) {
    // one file must not end the whole survey
    const told = error instanceof Error ? error.message : String(error);
    return { parsed: true, failed: isTooDeep(error) ? tooDeep : `a fault of the tool itself: ${told}`, forms: [] };
  } finally {
    looked += read.text.length;
    if (looked > enoughToForget) {
      looked = 0;
      forgetFiles();
    }
  }
}

/** Surveys one text as the file it stands for. */
export async function surveyText(file: string, text: string, settings: SurveySettings): Promise<FileSurvey> {
  if (!mayHoldForm(text)) return { parsed: false, failed: undefined, forms: [] };
  const found = await formsOfFile(file, text, diskWorkspace, settings);
  if (!found.ok) return { parsed: false, failed: `line ${found.problem.line}: ${found.problem.reason}`, forms: [] };
  return {
    parsed: true,
    failed: undefined,
    forms: found.forms.map((form) => describe(file, form, form.read?.(), settings.findings ?? {})),
  };
}
