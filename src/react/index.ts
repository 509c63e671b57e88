import type { FormModel } from '../form/model.js';
import type { Writer } from '../form/writing.js';
import { keptBesideState } from './page-beside-state.js';
import { looseForm } from './loose-form.js';
import { loadingFrom } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';
import type { FormSite, ReactApproach } from './approach.js';
import { classState } from './class-state/index.js';
import { componentsOf, type Component } from './components.js';
import { declaredSchema } from './declared-schema/index.js';
import { withDrifts } from './drifting-values.js';
import { domValues } from './dom-values/index.js';
import { fieldState } from './field-state/index.js';
import { nameOfSite } from './form-frame.js';
import { formElementsOf, isInside, type FormRegion } from './form-regions.js';
import { formik } from './formik/index.js';
import { controlsIn } from './jsx-controls.js';
import { objectState } from './object-state/index.js';
import { ownHook, showsHook } from './own-hook/index.js';
import { withLife } from './reading/life.js';
import { reactHookForm } from './react-hook-form/index.js';
import { reducer } from './reducer/index.js';
import { tanstackForm } from './tanstack-form/index.js';

/** React's approaches, in the order in which a form is asked for them: the most telling marks first. */
export const reactApproaches: readonly ReactApproach[] = [
  formik,
  reactHookForm,
  tanstackForm,
  declaredSchema,
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
  /** What keeps the form from being read. */
  obstacle: string | undefined;
  /** The form in full; undefined where its approach is only recognised. */
  read: (() => FormModel) | undefined;
  /** The writer of one step to an approach; undefined where there is none. */
  writer(to: string): Writer | undefined;
  /** Its first step leads out of the approach; what it leads to is told by the result. */
  leaves: boolean;
  /** The approaches on the way to another one, itself included; undefined where none is covered. */
  route(to: string): string[] | undefined;
}

export interface ReactSettings {
  ownValueNames: readonly string[];
  /** Name of the generated hook, and the absolute folder it stands in. */
  hook?: { name: string | undefined; folder: string | undefined };
}

function regionsOf(component: Component): FormRegion[] {
  const elements = formElementsOf(component);
  if (elements.length) return elements;
  return [{ element: undefined, hint: undefined, submit: { how: 'none', attribute: undefined, handler: undefined } }];
}

const libraries = [formik, reactHookForm, tanstackForm];

function mayUseLibrary(script: Script): boolean {
  return /\buse\w*Form\w*\s*(?:<[^;]*?>)?\(|<Formik\b|withFormik/.test(script.text);
}

/** The sites of a file: each form of each component. */
function sitesOf(script: Script, workspace: Workspace, settings: ReactSettings): FormSite[] {
  const load = loadingFrom(workspace);
  const sites: FormSite[] = [];
  for (const component of componentsOf(script)) {
    const regions = regionsOf(component);
    const candidates = controlsIn(component.path, script.text, settings.ownValueNames);
    // a package's controls may stand in other files, or be told by spread properties alone
    if (!candidates.length && !mayUseLibrary(script)) continue;
    for (const region of regions) {
      sites.push({ script, component, region, regions, candidates, load, ownValueNames: settings.ownValueNames });
    }
  }
  return sites;
}

function approachNamed(id: string): ReactApproach | undefined {
  return reactApproaches.find((approach) => approach.id === id);
}

/**
 * The approaches on the way from one to another.
 * @param leaves where the natural first step out of it leads, where there is one
 */
export function routeFrom(from: string, leaves: string | undefined, to: string): string[] | undefined {
  const target = approachNamed(to);
  if (!target?.write) return undefined;
  const steps = leaves === undefined ? [] : [leaves];
  const before = steps.at(-1) ?? from;
  const wanted = target.writesFrom;
  if (wanted !== undefined && before !== wanted && before !== to) steps.push(wanted);
  if (steps.at(-1) !== to) steps.push(to);
  return steps;
}

/** Finds the forms of a React file, in the order in which they stand. */
export function reactForms(script: Script, workspace: Workspace, settings: ReactSettings): ReactForm[] {
  const forms: ReactForm[] = [];
  const textOf = (file: string): string => {
    if (file === script.file) return script.text;
    const text = workspace.read(file);
    return text.ok ? text.text : '';
  };
  for (const site of sitesOf(script, workspace, settings)) {
    const before = forms.length;
    const own = showsHook(site) ? [ownHook, ...reactApproaches] : reactApproaches;
    const order = site.candidates.length ? own : libraries;
    for (const approach of order) {
      const found = approach.recognise(site);
      if (!found) continue;
      const { read } = found;
      const leads = (to: string): boolean => found.leave !== undefined && !found.leave.direct?.includes(to);
      const beside = approach.id === 'dom-values' ? [] : keptBesideState(site);
      const mixed = approachNamed('dom-values');
      if (beside.length && mixed) {
        forms.push({
          name: nameOfSite(site),
          component: site.component.name,
          line: script.lines.lineAt(site.component.path.node.start ?? 0),
          approach: mixed,
          fieldNames: [...new Set([...found.fields, ...beside])],
          obstacle: `its values stand in two places: the page keeps ${beside.join(', ')}, and the component ${found.fields.join(', ')}`,
          read: undefined,
          writer: () => undefined,
          leaves: false,
          route: (to) => routeFrom(mixed.id, undefined, to),
        });
        break;
      }
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
        obstacle: found.obstacle,
        read: read && (() => (found.partly ? read() : withLife(withDrifts(read(), textOf), site))),
        writer: (to) => {
          if (found.leave?.to === to) return found.leave.write;
          return leads(to) ? undefined : approachNamed(to)?.write;
        },
        leaves: found.leave !== undefined && found.leave.direct === undefined,
        route: (to) => routeFrom(approach.id, leads(to) ? found.leave?.to : undefined, to),
      });
      break;
    }
    if (forms.length === before) forms.push(...looselySeen(site));
  }
  return forms;
}

/** A form that is only seen by its controls: it is shown, and rewritten to nothing. */
function looselySeen(site: FormSite): ReactForm[] {
  const loose = looseForm(site);
  const approach = loose && approachNamed(loose.approach);
  if (!loose || !approach) return [];
  const { read, fields, obstacle } = loose.found;
  return [
    {
      name: nameOfSite(site),
      component: site.component.name,
      line: site.script.lines.lineAt(site.component.path.node.start ?? 0),
      approach,
      fieldNames: fields,
      obstacle,
      read: read && (() => withLife(read(), site)),
      writer: () => undefined,
      leaves: false,
      route: (to) => routeFrom(approach.id, undefined, to),
    },
  ];
}
