import path from 'node:path';
import { inspectJson } from '../../report/inspect-json.js';
import { inspectText } from '../../report/inspect-report.js';
import { formsOfFile, textsIn } from '../../rewrite/forms.js';
import { unreadable } from '../../rewrite/rewrite.js';
import { chooseForms } from '../../rewrite/rewrite.js';
import type { FormModel } from '../../form/model.js';
import { placedFindings, type PlacedFinding } from '../../survey/survey.js';
import { lineIndex } from '../../source/lines.js';
import { diskWorkspace } from '../../source/workspace.js';
import { readSettings, settingsFor, sourceFile } from '../files.js';
import { exit, jsonText, outputFor, UsageTrouble, type CommonOptions, type ExitCode } from '../output.js';

export interface InspectOptions extends CommonOptions {
  file: string;
  form?: string | undefined;
}

/** Shows the forms of a file in full. */
export async function inspect(options: InspectOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const file = sourceFile(options.file);
  const loaded = await settingsFor(path.dirname(file), options.config);
  const settings = readSettings(loaded);
  const text = diskWorkspace.read(file);
  const found = await formsOfFile(file, text.ok ? text.text : '', diskWorkspace, settings);
  if (!found.ok) {
    const { message, next } = unreadable(found.problem, options.file);
    throw new UsageTrouble(message, next);
  }
  const several = options.form === undefined && found.forms.length > 1;
  const chosen = several
    ? { ok: true as const, forms: found.forms }
    : chooseForms(found.forms, options.form, options.file);
  if ('kind' in chosen) throw new UsageTrouble(chosen.message, chosen.next);
  const unread = chosen.forms.filter((form) => !form.read);
  for (const form of unread)
    output.say(
      `${form.name}: ${form.approach} is recognised but cannot be read in full yet; its fields are ${form.fieldNames.join(', ')}`,
    );
  const models = chosen.forms.flatMap((form) => (form.read ? [form.read()] : []));
  if (!models.length) {
    throw new UsageTrouble(
      `no form of ${options.file} can be shown in full`,
      '`lively-graft approaches` lists the approaches that can be read',
    );
  }
  const indexes = new Map<string, ReturnType<typeof lineIndex>>();
  const textOf = textsIn(diskWorkspace);
  const lineOf = (name: string, offset: number): number => {
    let index = indexes.get(name);
    if (!index) {
      index = lineIndex(textOf(name));
      indexes.set(name, index);
    }
    return index.lineAt(offset);
  };
  const findings = (model: FormModel): PlacedFinding[] => placedFindings(model, loaded.settings.findings ?? {}, textOf);
  output.give(
    options.format === 'json'
      ? jsonText(inspectJson(models, output.cwd, lineOf, findings))
      : models.map((model) => inspectText(model, output.cwd, lineOf, output.paint, findings(model))).join('\n\n\n'),
  );
  return exit.done;
}
