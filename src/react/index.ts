import path from 'node:path';
import type { FormModel } from '../form/model.js';
import { parseScript, type Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';
import type { FormSite, ReactApproach } from './approach.js';
import { classState } from './class-state/index.js';
import { componentsOf, type Component } from './components.js';
import { domValues } from './dom-values/index.js';
import { fieldState } from './field-state/index.js';
import { nameOfSite } from './form-frame.js';
import { formElementsOf, isInside, type FormRegion } from './form-regions.js';
import { formik } from './formik/index.js';
import { controlsIn } from './jsx-controls.js';
import { objectState } from './object-state/index.js';
import { ownHook } from './own-hook/index.js';
import { reactHookForm } from './react-hook-form/index.js';
import { reducer } from './reducer/index.js';
import { tanstackForm } from './tanstack-form/index.js';

/** React's approaches, in the order in which a form is asked for them: the most telling marks first. */
export const reactApproaches: readonly ReactApproach[] = [
  formik,
  reactHookForm,
  tanstackForm,
  classState,
  reducer,
  fieldState,
  objectState,
  ownHook,
  domValues,
];

/** A form of a React file: what is seen of it, and its model when it is asked for. */
export interface ReactForm {
  name: string;
  component: string;
  line: number;
  approach: ReactApproach;
  fieldNames: string[];
  /** The form in full; undefined where its approach is only recognised. */
  read: (() => FormModel) | undefined;
}

export interface ReactSettings {
  ownValueNames: readonly string[];
}

function regionsOf(component: Component): FormRegion[] {
  const elements = formElementsOf(component);
  if (elements.length) return elements;
  return [{ element: undefined, hint: undefined, submit: { how: 'none', attribute: undefined, handler: undefined } }];
}

const endings = ['', '.tsx', '.ts', '.jsx', '.js', '.mjs', '/index.tsx', '/index.ts', '/index.jsx', '/index.js'];

/** The file a relative import leads to; an ending `.js` may stand for a TypeScript file. */
export function importedFile(workspace: Workspace, from: string, specifier: string): string | undefined {
  if (!specifier.startsWith('.')) return undefined;
  const base = path.resolve(path.dirname(from), specifier);
  const bases = [base, base.replace(/\.jsx?$/, '')];
  for (const candidate of bases.flatMap((one) => endings.map((ending) => one + ending))) {
    if (/\.[cm]?[jt]sx?$/.test(candidate) && workspace.exists(candidate)) return candidate;
  }
  return undefined;
}

function loader(workspace: Workspace): FormSite['load'] {
  const loaded = new Map<string, Script | undefined>();
  return (from, specifier) => {
    const file = importedFile(workspace, from, specifier);
    if (file === undefined) return undefined;
    if (!loaded.has(file)) {
      const read = workspace.read(file);
      const parsed = read.ok ? parseScript(file, read.text) : undefined;
      loaded.set(file, parsed?.ok ? parsed.script : undefined);
    }
    return loaded.get(file);
  };
}

/** The sites of a file: each form of each component. */
function sitesOf(script: Script, workspace: Workspace, settings: ReactSettings): FormSite[] {
  const load = loader(workspace);
  const sites: FormSite[] = [];
  for (const component of componentsOf(script)) {
    const regions = regionsOf(component);
    const candidates = controlsIn(component.path, script.text, settings.ownValueNames);
    if (!candidates.length) continue;
    for (const region of regions) {
      sites.push({ script, component, region, regions, candidates, load, ownValueNames: settings.ownValueNames });
    }
  }
  return sites;
}

/** Finds the forms of a React file, in the order in which they stand. */
export function reactForms(script: Script, workspace: Workspace, settings: ReactSettings): ReactForm[] {
  const forms: ReactForm[] = [];
  for (const site of sitesOf(script, workspace, settings)) {
    for (const approach of reactApproaches) {
      const found = approach.recognise(site);
      if (!found) continue;
      const element =
        site.region.element && isInside(site.region.element, site.component.path) && site.regions.length > 1
          ? site.region.element
          : site.component.path;
      forms.push({
        name: nameOfSite(site),
        component: site.component.name,
        line: script.lines.lineAt(element.node.start ?? 0),
        approach,
        fieldNames: found.fields,
        read: found.read,
      });
      break;
    }
  }
  return forms;
}
