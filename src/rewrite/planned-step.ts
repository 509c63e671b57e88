import type { RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { parseScript, type Script } from '../source/script.js';
import { styleOf } from '../source/style.js';
import { importersIn } from '../source/importers.js';
import type { Workspace } from '../source/workspace.js';
import type { FoundForm, ReadSettings } from './forms.js';
import { bracedBranches } from './braced-branches.js';
import { freeNames } from './free-names.js';
import { withNeededImports } from './needed-imports.js';
import type { Sources } from './sources.js';

/** One step of a rewrite as its writer planned it. */
export interface StepPlan {
  model: FormModel;
  plan: RewritePlan;
  sources: Sources;
}

/**
 * Reads a form and has the writer of a target plan the edits. Nothing is checked and nothing is written.
 * @param form a form that is read in full and that has a writer for the target
 * @param script the form's own file
 * @param goal the target, and the way of stating rules where it allows several
 * @throws Error where the form has no reader, or no writer of the target
 */
export function plannedStep(
  form: FoundForm,
  script: Script,
  goal: { to: string; rules?: string | undefined },
  workspace: Workspace,
  settings: ReadSettings,
): StepPlan {
  const write = form.writer(goal.to);
  if (!write || !form.read) throw new Error(`no writer of ${goal.to}`);
  const model = form.read();
  const sources = sourcesOf(workspace, script);
  const plan = write(model, {
    script: sources.script,
    text: sources.text,
    exists: (file) => workspace.exists(file),
    style: styleOf(script.text),
    hook: settings.hook,
    rules: goal.rules,
    importers: importersIn(workspace),
    freeName: freeNames(model.files.map(sources.text)),
  });
  const whole = withNeededImports(plan, model, sources, workspace);
  return { model, plan: bracedBranches(whole, sources), sources };
}

/** Texts of a form's files, and scripts among them parsed; each is read once. */
function sourcesOf(workspace: Workspace, known: Script): Sources {
  const scripts = new Map<string, Script>([[known.file, known]]);
  const texts = new Map<string, string>([[known.file, known.text]]);
  const text = (file: string): string => {
    const seen = texts.get(file);
    if (seen !== undefined) return seen;
    const read = workspace.read(file);
    if (!read.ok) throw new Error(`${file} cannot be read: ${read.reason}`);
    texts.set(file, read.text);
    return read.text;
  };
  return {
    text,
    script(file) {
      const seen = scripts.get(file);
      if (seen) return seen;
      const parsed = parseScript(file, text(file));
      if (!parsed.ok) throw new Error(`${file} is a part of the form and does not parse`);
      scripts.set(file, parsed.script);
      return parsed.script;
    },
  };
}
