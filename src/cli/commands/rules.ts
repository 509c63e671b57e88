import path from 'node:path';
import { rulesJson, besideText } from '../../report/rules-report.js';
import { formsOfFile } from '../../rewrite/forms.js';
import { chooseForms, unreadable } from '../../rewrite/rewrite.js';
import { schemaOf } from '../../rules/json-schema/write.js';
import { lineIndex } from '../../source/lines.js';
import { jsonText as schemaText } from '../../source/json-text.js';
import { diskWorkspace } from '../../source/workspace.js';
import { readSettings, settingsFor, sourceFile } from '../files.js';
import { exit, jsonText, outputFor, UsageTrouble, type CommonOptions, type ExitCode } from '../output.js';

export interface RulesOptions extends CommonOptions {
  file: string;
  form?: string | undefined;
}

/** Prints the fields and rules of a form as a JSON Schema; what it cannot state is told beside it. */
export async function rules(options: RulesOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const file = sourceFile(options.file);
  const settings = readSettings(await settingsFor(path.dirname(file), options.config));
  const text = diskWorkspace.read(file);
  const found = await formsOfFile(file, text.ok ? text.text : '', diskWorkspace, settings);
  if (!found.ok) {
    const { message, next } = unreadable(found.problem, options.file);
    throw new UsageTrouble(message, next);
  }
  const chosen = chooseForms(found.forms, options.form, options.file);
  if ('kind' in chosen) throw new UsageTrouble(chosen.message, chosen.next);
  const [form] = chosen.forms;
  if (!form?.read)
    throw new UsageTrouble(
      `${form?.name ?? options.file} follows ${form?.approach ?? 'no approach'}, which cannot be read in full yet`,
      '`lively-graft approaches` lists the approaches that can be read',
    );
  if (chosen.forms.length > 1)
    throw new UsageTrouble(
      `${form.component} holds ${chosen.forms.length} forms: ${chosen.forms.map(({ name }) => name).join(', ')}`,
      'say which one with --form NAME',
    );
  const model = form.read();
  const stated = schemaOf(model, model.rules);
  const lineOf = (name: string, offset: number): number => {
    const read = diskWorkspace.read(name);
    return lineIndex(read.ok ? read.text : '').lineAt(offset);
  };
  if (options.format === 'json') output.give(jsonText(rulesJson(model, stated, output.cwd, lineOf)));
  else {
    output.give(schemaText(stated.schema));
    const beside = besideText(stated, output.cwd, lineOf);
    if (beside) output.say(beside);
  }
  return exit.done;
}
