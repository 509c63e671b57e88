import { existsSync } from 'node:fs';
import path from 'node:path';
import { angularComponents } from '../angular/component-source.js';
import { standIns } from '../angular/stand-ins.js';
import { injectedClasses } from '../angular/injected.js';
import { moduleDeclaring } from '../angular/module.js';
import type { FormModel } from '../form/model.js';
import { sampleContexts } from '../react/sample-contexts.js';
import { sampleComponent } from '../react/sample-props.js';
import { formsOfFile, type ReadSettings } from '../rewrite/forms.js';
import { loadingFrom, relativePath } from '../source/project-files.js';
import { parseScript, type Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';
import { bundleForm, type Framework } from './bundle.js';
import { compareTraces, type Comparison } from './compare.js';
import { hintsOf } from './hints.js';
import { angularMount, reactMount, vueMount } from './mount.js';
import type { Player } from './process.js';
import type { Answer, RequestAnswer } from './trace.js';
import type { Step } from './steps.js';

/** What a form is given instead of what is made up from its types. */
export interface Given {
  /** Values of properties by name, JSON. */
  props?: Record<string, unknown>;
  answers?: Record<string, Answer[]>;
  requests?: RequestAnswer[];
}

/** Two versions to play. Paths are absolute. */
export interface TrialRequest {
  before: { file: string; workspace: Workspace };
  after: { file: string; workspace: Workspace };
  form?: string | undefined;
  steps?: Step[] | undefined;
  given: Given;
  /** A mount module that puts the form on the page itself, in place of one that is made. */
  mount?: string | undefined;
  player: Player;
  settings: ReadSettings;
}

export type TrialResult =
  { kind: 'compared'; comparison: Comparison } | { kind: 'unplayable'; reason: string; next: string; broken?: boolean };

function unplayable(reason: string, next: string): Extract<TrialResult, { kind: 'unplayable' }> {
  return { kind: 'unplayable', reason, next };
}

/** The framework of a file, from its text. */
export function frameworkOf(file: string, text: string): Framework {
  if (/\.vue$/.test(file)) return 'vue';
  return /@Component\s*\(/.test(text) && /from\s+['"]@angular\/core['"]/.test(text) ? 'angular' : 'react';
}

/** What a component is given: a name, and source that gives its value. */
interface Prop {
  name: string;
  source: string;
}

type Mounted =
  | { ok: true; source: string; framework: Framework; model: FormModel | undefined; props?: readonly Prop[] }
  | { ok: false; reason: string; next: string };

function withGiven(props: readonly Prop[], given: Given): Prop[] {
  const own = Object.entries(given.props ?? {}).map(([name, value]) => ({ name, source: JSON.stringify(value) }));
  return [...props.filter(({ name }) => !own.some((one) => one.name === name)), ...own];
}

/**
 * Approaches of which one version answers at another moment of the same turn: a page has its values at once, a
 * package sends a moment later. Two clicks at one moment, which no person makes, would compare that.
 */
const answersLater = /^(?:dom-values|formik|react-hook-form|tanstack-form)$/;

async function mountOf(
  version: TrialRequest['before'],
  request: TrialRequest,
  known: readonly Prop[],
): Promise<Mounted> {
  const { file, workspace } = version;
  const read = workspace.read(file);
  if (!read.ok) return { ok: false, reason: `cannot read ${file}: ${read.reason}`, next: 'check the path' };
  const framework = frameworkOf(file, read.text);
  const specifier = `./${path.basename(file)}`;
  if (framework === 'vue') {
    const { vueInterface } = await import('../vue/single-file.js');
    const { props, emits } = vueInterface(read.text);
    return {
      ok: true,
      framework,
      model: undefined,
      source: vueMount(specifier, withGiven(props, request.given), emits),
    };
  }
  const parsed = parseScript(file, read.text);
  if (!parsed.ok)
    return {
      ok: false,
      reason: `${file}:${parsed.problem.line} does not parse: ${parsed.problem.reason}`,
      next: 'mend the syntax error first',
    };
  return framework === 'angular'
    ? mountAngular(parsed.script, version, request, specifier)
    : mountReact(parsed.script, version, request, specifier, known);
}

async function mountReact(
  script: Script,
  version: TrialRequest['before'],
  request: TrialRequest,
  specifier: string,
  known: readonly Prop[],
): Promise<Mounted> {
  const { file, workspace } = version;
  const found = await formsOfFile(file, script.text, workspace, request.settings);
  const forms = found.ok
    ? found.forms.filter(
        (form) => request.form === undefined || form.name === request.form || form.component === request.form,
      )
    : [];
  const [form] = forms;
  if (!form)
    return {
      ok: false,
      reason: `${path.basename(file)} holds no form${request.form === undefined ? '' : ` called ${request.form}`}`,
      next: '`lively-graft survey` lists the forms',
    };
  if (new Set(forms.map(({ component }) => component)).size > 1)
    return {
      ok: false,
      reason: `${path.basename(file)} holds several forms: ${forms.map(({ name }) => name).join(', ')}`,
      next: 'say which one with --form NAME',
    };
  const load = loadingFrom(workspace);
  const sample = sampleComponent(script, form.component, load);
  if (sample.exported === undefined)
    return {
      ok: false,
      reason: `${form.component} is not exported, so it cannot be shown by itself`,
      next: 'give a mount module with --with FILE',
    };
  const folder = path.dirname(file);
  const contexts = sampleContexts(script, load).map(({ exported, file: from, source }) => ({
    specifier: relativePath(folder, from),
    exported,
    source,
  }));
  // both versions are given the same
  const props = [...known, ...sample.props.filter(({ name }) => !known.some((one) => one.name === name))];
  return {
    ok: true,
    framework: 'react',
    model: form.read?.(),
    source: reactMount(specifier, sample.exported, withGiven(props, request.given), contexts),
    props,
  };
}

function mountAngular(
  script: Script,
  version: TrialRequest['before'],
  request: TrialRequest,
  specifier: string,
): Mounted {
  const { file, workspace } = version;
  const components = angularComponents(script, loadingFrom(workspace));
  // forms that share a component are told apart behind a colon
  const wanted = request.form?.split(':')[0];
  const component = components.find(({ className }) => wanted === undefined || className === wanted);
  if (!component)
    return {
      ok: false,
      reason: `${path.basename(file)} declares no component${request.form === undefined ? '' : ` called ${request.form}`}`,
      next: 'name the file of the component’s class',
    };
  const inputs = withGiven(component.inputs, request.given);
  const home = component.standalone ? undefined : moduleDeclaring(component.className, file, workspace);
  if (!component.standalone && !home)
    return {
      ok: false,
      reason: `no module that declares ${component.className} was found beside or above it`,
      next: 'give a mount module with --with FILE',
    };
  const folder = path.dirname(file);
  const load = loadingFrom(workspace);
  const needed = standIns(script, load).map(({ name, file: from, source }) => ({
    specifier: relativePath(folder, from),
    name,
    source,
  }));
  const services = injectedClasses(script, load)
    .filter(({ name }) => !needed.some((one) => one.name === name))
    .map((one) => ({ specifier: relativePath(folder, one.file), className: one.name }));
  return {
    ok: true,
    framework: 'angular',
    model: undefined,
    source: angularMount(
      specifier,
      { ...component, inputs },
      {
        module: home && { specifier: relativePath(folder, home.script.file), className: home.className },
        services,
        standIns: needed,
        zoneless: !workspaceHasPackage(file, 'zone.js'),
        routed: /@angular\/router/.test(script.text) && workspaceHasPackage(file, '@angular/router'),
      },
    ),
  };
}

function workspaceHasPackage(file: string, name: string): boolean {
  for (let folder = path.dirname(file); ; folder = path.dirname(folder)) {
    if (existsSync(path.join(folder, 'node_modules', name, 'package.json'))) return true;
    if (path.dirname(folder) === folder) return false;
  }
}

/** Plays two versions of a form with the same steps and compares what a person would see. */
export async function runTrial(request: TrialRequest): Promise<TrialResult> {
  try {
    return await played(request);
  } finally {
    request.player.stop();
  }
}

async function played(request: TrialRequest): Promise<TrialResult> {
  const versions: { name: 'before' | 'after'; bundle: string }[] = [];
  let model: FormModel | undefined;
  const mounts = [];
  let props: readonly Prop[] = [];
  let answersApart = false;
  for (const name of ['before', 'after'] as const) {
    const version = request[name];
    const mounted =
      request.mount === undefined ? await mountOf(version, request, props) : givenMount(request.mount, version);
    if (!mounted.ok) return unplayable(`${name}: ${mounted.reason}`, mounted.next);
    model ??= mounted.model;
    props = mounted.props ?? props;
    answersApart ||= answersLater.test(mounted.model?.approach ?? '');
    const folder = request.mount === undefined ? path.dirname(version.file) : path.dirname(request.mount);
    const loader =
      request.mount === undefined
        ? ('js' as const)
        : /\.[jt]sx$/.test(request.mount)
          ? ('tsx' as const)
          : ('ts' as const);
    mounts.push({
      name,
      framework: mounted.framework,
      mount: { source: mounted.source, folder, loader },
      workspace: version.workspace,
    });
  }
  const bundles = await Promise.all(
    mounts.map(async (mount) => ({ name: mount.name, bundle: await bundleForm(mount) })),
  );
  for (const { name, bundle } of bundles) {
    if (!bundle.ok) return unplayable(`${name}: ${bundle.reason}`, bundle.next);
    versions.push({ name, bundle: bundle.code });
  }
  const answer = await request.player.play({
    versions,
    hints: { ...hintsOf(model), clicksApart: answersApart },
    answers: request.given.answers ?? {},
    requests: request.given.requests ?? [],
    ...(request.steps ? { steps: request.steps } : {}),
  });
  if (!answer.ok)
    return unplayable(`${answer.version}: ${answer.reason}`, 'run the form by itself and mend this first');
  if (!answer.reply.ok) {
    const { version, reason } = answer.reply;
    const next = 'if the form needs something around it, give it with --with FILE';
    // the version before has been played by then
    return { ...unplayable(`${version}: ${reason}`, next), broken: version === 'after' };
  }
  const [before, after] = answer.reply.traces;
  if (!before || !after) return unplayable('nothing was played', 'try again');
  return { kind: 'compared', comparison: compareTraces(before.trace, after.trace) };
}

/** A mount module of the project; the file it imports as the form is the version's. */
function givenMount(mount: string, version: TrialRequest['before']): Mounted {
  const read = version.workspace.read(mount);
  if (!read.ok)
    return { ok: false, reason: `cannot read ${mount}: ${read.reason}`, next: 'check the path given with --with' };
  const text = version.workspace.read(version.file);
  const framework = frameworkOf(version.file, text.ok ? text.text : '');
  // the framework's own packages are compiled in part only; the rest happens on the page
  const source = framework === 'angular' ? `import '@angular/compiler';\n${read.text}` : read.text;
  return { ok: true, framework, model: undefined, source };
}
