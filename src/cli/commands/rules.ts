import path from 'node:path';
import { besideText, rulesJson, schemaRulesText } from '../../report/rules-report.js';
import { formsOfFile, textsIn } from '../../rewrite/forms.js';
import { chooseForms, schemaTrouble, unreadable } from '../../rewrite/rewrite.js';
import { readSchema } from '../../rules/json-schema/read.js';
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
  if (options.file.endsWith('.json')) return rulesOfSchema(options);
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
  if (form?.obstacle !== undefined && !form.read)
    throw new UsageTrouble(`${form.name}: ${form.obstacle}`, 'mend that first');
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
  const trouble = await schemaTrouble(model, diskWorkspace);
  if (trouble) throw new UsageTrouble(trouble.message, trouble.next);
  const stated = schemaOf(model, model.rules);
  const textOf = textsIn(diskWorkspace);
  const lineOf = (name: string, offset: number): number => lineIndex(textOf(name)).lineAt(offset);
  if (options.format === 'json') output.give(jsonText(rulesJson(model, stated, output.cwd, lineOf)));
  else {
    output.give(schemaText(stated.schema));
    const beside = besideText(stated, output.cwd, lineOf);
    if (beside) output.say(beside);
  }
  return exit.done;
}

/** Checks a schema that stands by itself, and lists what it says. */
async function rulesOfSchema(options: RulesOptions): Promise<ExitCode> {
  const output = outputFor(options);
  const read = diskWorkspace.read(path.resolve(options.file));
  if (!read.ok) throw new UsageTrouble(`cannot read ${options.file}: ${read.reason}`, 'check the path');
  const { readableSchema } = await import('../../rules/json-schema/check.js');
  const checked = readableSchema(options.file, read.text);
  if (!checked.ok) throw new UsageTrouble(checked.message, checked.next);
  const stated = readSchema(checked.schema);
  if (options.format === 'json')
    output.give(
      jsonText({
        version: 1,
        form: null,
        file: options.file,
        schema: checked.schema,
        beside: [],
        troubles: stated.troubles,
      }),
    );
  else output.give(schemaRulesText(stated, output.paint));
  return exit.done;
}
