import path from 'node:path';
import type { RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import type { WriteContext, Writer } from '../form/writing.js';
import { loadingFrom } from '../source/project-files.js';
import type { ParseProblem, Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';
import { lostDirectives } from './applied-directives.js';
import type { AngularApproach } from './approach.js';
import { angularApproaches } from './approaches.js';
import { componentsOfScript, type AngularComponent } from './component.js';
import { sitesOf } from './form-site.js';
import { missedMembers } from './shown-members.js';
import { withLife } from './reading/life.js';

/** A form of an Angular file: what is seen of it, and its model when it is asked for. */
export interface AngularForm {
  name: string;
  component: string;
  line: number;
  approach: string;
  fieldNames: string[];
  read: (() => FormModel) | undefined;
  /** The writer of an approach for this form; undefined where none is covered. */
  writer(to: string): Writer | undefined;
  /** The approaches on the way to another one, itself included; undefined where none is covered. */
  route(to: string): string[] | undefined;
  /** What keeps the form from being rewritten to anything. */
  obstacle: string | undefined;
  /** Names of the template that mean nothing in the class, and members that others would not find; not so before. */
  trouble(before: Script, workspace: Workspace): { name: string; why: string }[];
}

/** The forms of an Angular file in the order in which they stand, and components that could not be read. */
export function angularForms(script: Script, workspace: Workspace): { forms: AngularForm[]; problems: ParseProblem[] } {
  const load = loadingFrom(workspace);
  const forms: AngularForm[] = [];
  const problems: ParseProblem[] = [];
  for (const result of componentsOfScript(script, workspace)) {
    if (!result.ok) {
      const { file, line, column, reason, className } = result.problem;
      problems.push({ file, line, column, reason: `${className}: ${reason}` });
      continue;
    }
    forms.push(...formsOf(result.component, load));
  }
  return { forms, problems };
}

function formsOf(component: AngularComponent, load: ReturnType<typeof loadingFrom>): AngularForm[] {
  const forms: AngularForm[] = [];
  for (const site of sitesOf(component, load)) {
    for (const approach of angularApproaches) {
      const found = approach.recognise(site);
      if (!found) continue;
      const { read } = found;
      forms.push({
        name: site.name,
        component: component.name,
        line: component.script.lines.lineAt(component.path.node.id?.start ?? 0),
        approach: approach.id,
        fieldNames: found.fields,
        read: read && (() => withLife(read(), site)),
        writer(to) {
          const write =
            approach.leave?.to === to ? approach.leave.write : angularApproaches.find(({ id }) => id === to)?.write;
          return write && ((model, context) => withSpecLines(write(model, context, component, load), model, context));
        },
        route: (to) => routeFrom(approach, to),
        obstacle: component.home
          ? undefined
          : `no module that declares ${component.name} was found beside or above ${path.basename(component.script.file)}`,
        trouble(before, workspace) {
          const olds = componentsOfScript(before, workspace).flatMap((one) => (one.ok ? [one.component] : []));
          const known = olds.flatMap(unknownNames);
          const unknown = unknownNames(component)
            .filter((name) => !known.includes(name))
            .map((name) => ({ name, why: `the template's name ${name} is no member of ${component.name}` }));
          const old = olds.find(({ name }) => name === component.name);
          if (!old) return unknown;
          const orphans = lostDirectives(old, component, load);
          return [...unknown, ...orphans, ...missedMembers(old, component, workspace, load)];
        },
      });
      break;
    }
  }
  return forms;
}

/** The approaches on the way from one to another; undefined where no writer is there. */
function routeFrom({ id, leave, stays }: AngularApproach, to: string): string[] | undefined {
  const target = angularApproaches.find((one) => one.id === to);
  if (!target?.write || stays) return undefined;
  const first = leave?.unless === to ? undefined : leave?.to;
  const way = [first, target.writesFrom, to].filter((one): one is string => one !== undefined && one !== id);
  return way.filter((one, index) => way.indexOf(one) === index);
}

/** Names of a template that are neither members of its class nor variables of its own. */
function unknownNames({ template, members, path }: AngularComponent): string[] {
  if (path.node.superClass) return [];
  const known = (name: string): boolean =>
    members.has(name) || /^(\$event|\$any|undefined|null|true|false|this)$/.test(name);
  return [...new Set(template.names.filter(({ name, variable }) => !variable && !known(name)).map(({ name }) => name))];
}

const formsWords =
  /\b(NgForm|NgModel|ngModel|FormsModule|ReactiveFormsModule|FormGroup|FormControl|FormBuilder|formControlName|Validators)\b/;

/** Spec files are not rewritten; the account names their lines that speak of forms. */
function withSpecLines(plan: RewritePlan, model: FormModel, context: WriteContext): RewritePlan {
  const spec = model.file.replace(/\.ts$/, '.spec.ts');
  if (!context.exists(spec)) return plan;
  const text = context.text(spec);
  const ledger = [...plan.ledger];
  let start = 0;
  for (const line of text.split('\n')) {
    if (formsWords.test(line))
      ledger.push({
        entry: 'kept',
        span: { file: spec, start, end: start + line.length },
        what: line.trim(),
        why: 'it speaks of the old approach; tests are not rewritten',
      });
    start += line.length + 1;
  }
  return { ...plan, ledger };
}
