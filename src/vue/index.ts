import path from 'node:path';
import type { ElementNode } from '@vue/compiler-dom';
import type { Control, Field, FormModel } from '../form/model.js';
import type { Rule } from '../form/rules.js';
import { conditionOf, constraintNames, constraintOfAttribute, ruleKindOf } from '../rules/native.js';
import { loadingFrom, type LoadScript } from '../source/project-files.js';
import { lineIndex } from '../source/lines.js';
import type { ParseProblem } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';
import { componentScript, type ComponentScript } from './holders.js';
import { sendsFrom, sendsIn } from './sends.js';
import { fieldSet, fieldShown, kindOfField, startText, type HeldBy, type ShownField } from './shown-fields.js';
import {
  attributeOf,
  boundText,
  templateParts,
  type TemplateParts,
  type Trigger,
  type VueControl,
} from './template-controls.js';
import { readVueFile, type VueFile } from './vue-file.js';

/** A form of a Vue file. It is seen and shown; rewrites of it are not covered yet. */
export interface VueForm {
  name: string;
  component: string;
  line: number;
  approach: string;
  fieldNames: string[];
  read(): FormModel;
}

export type VueFormsResult = { ok: true; forms: VueForm[] } | { ok: false; problem: ParseProblem };

/** A form's element, or the wrapper that stands for it; undefined for controls that stand in none. */
type Home = ElementNode | undefined;

interface Seen {
  home: Home;
  fields: ShownField[];
  /** What sends it. */
  sent: { by: 'form' | 'button' | 'effect'; trigger: Trigger | undefined };
}

const takesModel = /update:model-?[vV]alue|\bdefineModel\b|\bmodelValue\b/;

/** A model of a component that says whether it is open. */
const opens = /defineModel<boolean>|\bmodelValue\??:\s*(?:boolean|Boolean|\{\s*type:\s*Boolean)/;

/** Finds the forms of a single-file component. */
export function vueForms(file: string, text: string, workspace: Workspace): VueFormsResult {
  const read = readVueFile(file, text, workspace);
  if (!read.ok) return read;
  const { vue } = read;
  if (!vue.template) return { ok: true, forms: [] };
  const load = loadingFrom(workspace);
  const script = componentScript(vue, load);
  const parts = templateParts(vue);
  const shown = [
    ...parts.controls.flatMap((control) => shownBy(control, script, load) ?? []),
    ...inChildren(vue, parts, script, workspace),
    // a name that only the running form knows is none
  ].filter(({ name }) => !name.endsWith('[][]'));
  const homes = new Set<Home>([...parts.forms, ...shown.map(homeOf)]);
  const seen = [...homes].flatMap((home): Seen[] => {
    const fields = shown.filter((one) => homeOf(one) === home);
    const own = fields.length || !home ? fields : namedInMarkup(home, parts);
    // a control of its own tells its value to whoever shows it
    const isControl = home === undefined && takesModel.test(text) && !opens.test(text);
    const sent = own.length && !isControl ? sentBy(home, parts, script) : undefined;
    return sent ? [{ home, fields: own, sent }] : [];
  });
  const component = path.basename(file).replace(/\.vue$/, '');
  const lines = lineIndex(text);
  return {
    ok: true,
    forms: seen.map((one, index): VueForm => {
      const name = seen.length === 1 ? component : `${component}:${nameOfHome(one.home) ?? index + 1}`;
      const at = one.home?.loc.start.offset ?? one.fields[0]?.control.span.start ?? 0;
      const approach = approachOf(one.fields);
      const { line } = lines.placeAt(at);
      return {
        name,
        component,
        line,
        approach,
        fieldNames: [...new Set(one.fields.map((field) => field.name))],
        read: () => modelOf({ ...one, name, component, approach, line }, vue, script),
      };
    }),
  };
}

function shownBy(control: VueControl, script: ComponentScript | undefined, load: LoadScript): ShownField | undefined {
  if (control.shows !== undefined) return fieldShown(control.shows, control, script, load);
  return control.type === 'file' ? fieldSet(control, script, load) : undefined;
}

/** A wrapper with a slot stands for the form where its controls are in no form's element of their own. */
function homeOf({ control, wrapper }: ShownField): Home {
  return control.form ?? wrapper;
}

/** Fields of components of the project that get a whole object of values. */
function inChildren(
  vue: VueFile,
  parts: TemplateParts,
  script: ComponentScript | undefined,
  workspace: Workspace,
): ShownField[] {
  if (!script) return [];
  const load = loadingFrom(workspace);
  const models = parts.controls.flatMap((control) =>
    control.shows !== undefined && /^[A-Z]|-/.test(control.tag)
      ? [
          {
            tag: control.tag,
            property: control.through?.shows ?? 'modelValue',
            value: control.shows,
            form: control.form,
            locals: control.locals,
          },
        ]
      : [],
  );
  return [...parts.handed, ...models].flatMap((handed): ShownField[] => {
    const child = childOf(handed.tag, vue, script, workspace);
    if (!child) return [];
    const inner = templateParts(child);
    return inner.controls.flatMap((control): ShownField[] => {
      const expression = control.shows;
      const property = /^(?:props\.)?([\w$]+)((?:\.[\w$]+)+)$/.exec(expression ?? '');
      const isModel =
        handed.property === 'modelValue' && new RegExp(`${property?.[1] ?? ''}\\s*=\\s*defineModel`).test(child.text);
      if (!property || (property[1] !== handed.property && !isModel)) return [];
      const outer: VueControl = { ...control, form: handed.form, locals: handed.locals };
      const found = fieldShown(handed.value + (property[2] ?? ''), outer, script, load);
      return found ? [{ ...found, control: outer }] : [];
    });
  });
}

function childOf(tag: string, vue: VueFile, { script }: ComponentScript, workspace: Workspace): VueFile | undefined {
  const name = tag.includes('-') ? tag.replace(/(?:^|-)(\w)/g, (_, letter: string) => letter.toUpperCase()) : tag;
  const declared = script.program.scope.getBinding(name)?.path;
  const from = declared?.parent.type === 'ImportDeclaration' ? declared.parent.source.value : undefined;
  if (from === undefined || !/^\./.test(from)) return undefined;
  const file = path.resolve(path.dirname(script.file), /\.vue$/.test(from) ? from : `${from}.vue`);
  const text = workspace.read(file);
  const read = text.ok && file !== vue.file ? readVueFile(file, text.text, workspace) : undefined;
  return read?.ok ? read.vue : undefined;
}

/** Fields of a form that nothing is bound to: its controls' own names. */
function namedInMarkup(home: ElementNode, { controls }: TemplateParts): ShownField[] {
  return controls.flatMap((control): ShownField[] =>
    control.form === home && control.name !== undefined && control.name !== '' && control.shows === undefined
      ? [{ name: control.name, by: 'markup-only', holder: '', start: undefined, declared: undefined, control }]
      : [],
  );
}

/** What sends a form: its own submit, a button of it, or something that follows its values. */
function sentBy(
  home: Home,
  { triggers }: TemplateParts,
  script: ComponentScript | undefined,
): Seen['sent'] | undefined {
  const submit = triggers.find(({ element, event }) => element === home && /^(?:submit|sent|send|saved?)$/.test(event));
  if (submit) return { by: 'form', trigger: submit };
  const button = triggers.find(
    ({ element, form, event, handler }) =>
      (form === home || (form === undefined && (home?.tag === 'form' || isWithin(element, home)))) &&
      /^(?:click|keyup|keydown|keypress|submit|press)$/.test(event) &&
      sendsFrom(handler, script),
  );
  if (button) return { by: 'button', trigger: button };
  if (home?.tag === 'form') {
    const posts = attributeOf(home, 'action') !== undefined || attributeOf(home, 'method') !== undefined;
    return posts ? { by: 'form', trigger: undefined } : undefined;
  }
  // a wrapper of the project may be given the function that sends
  if (home && script && givenFunctions(home).some((name) => isSending(name, script)))
    return { by: 'form', trigger: undefined };
  if (script?.watchers.some((watcher) => sendsIn(watcher, script))) return { by: 'effect', trigger: undefined };
  return undefined;
}

function isWithin(element: ElementNode, home: Home): boolean {
  if (!home) return true;
  const [inner, outer] = [element.loc, home.loc];
  return inner.start.offset >= outer.start.offset && inner.end.offset <= outer.end.offset;
}

/** Names of the component that an element is given as properties. */
function givenFunctions(element: ElementNode): string[] {
  return element.props.flatMap((prop) =>
    'exp' in prop && prop.name === 'bind' && /^[\w$]+$/.test(prop.exp?.loc.source ?? '')
      ? [prop.exp?.loc.source ?? '']
      : [],
  );
}

function isSending(name: string, script: ComponentScript): boolean {
  const fn = script.functionNamed(name);
  return fn !== undefined && sendsIn(fn, script);
}

function approachOf(fields: readonly ShownField[]): string {
  const counts = new Map<string, number>();
  for (const name of new Set(fields.map((one) => one.name))) {
    const one = fields.find((field) => field.name === name);
    const by: HeldBy | string = one?.by === 'library' ? (one.from ?? 'library') : (one?.by ?? 'markup-only');
    counts.set(by, (counts.get(by) ?? 0) + 1);
  }
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0] ?? 'markup-only';
}

function nameOfHome(home: Home): string | undefined {
  if (!home) return undefined;
  return ['name', 'id', 'ref', 'aria-label'].map((name) => attributeOf(home, name)).find((one) => one !== undefined);
}

interface Told extends Seen {
  name: string;
  component: string;
  approach: string;
  line: number;
}

function modelOf(told: Told, vue: VueFile, script: ComponentScript | undefined): FormModel {
  const names = [...new Set(told.fields.map(({ name }) => name))];
  const controls = told.fields.map(({ name, control }): Control => controlOf(name, control));
  const whole = { file: vue.file, start: told.home?.loc.start.offset ?? 0, end: told.home?.loc.end.offset ?? 0 };
  const rules = told.fields.flatMap(({ name, control }) => nativeRules(name, control));
  const model: FormModel = {
    id: told.name,
    name: told.name,
    component: told.component,
    framework: 'vue',
    approach: told.approach,
    file: vue.file,
    files: vue.files,
    line: told.line,
    typescript: script?.script.typescript ?? false,
    span: whole,
    before: 0,
    shared: false,
    fields: names.map((name) => fieldOf(name, told.fields, vue)),
    controls,
    uses: [],
    rules,
    others: [],
    declarations: [],
    names: [],
    unclear: [],
    handlers: 0,
    stateVariables: new Set(told.fields.map(({ holder }) => holder)).size,
  };
  const { by, trigger } = told.sent;
  return {
    ...model,
    life: () => ({
      status: [],
      checkers: [],
      shown: [],
      course: {
        by,
        span: trigger?.span ?? whole,
        prevents: by === 'form' && told.home?.tag === 'form' ? (trigger?.prevents ?? false) : null,
        steps: [],
      },
      changed: [],
      moments: rules.map(() => ['submit']),
    }),
  };
}

function fieldOf(name: string, shown: readonly ShownField[], vue: VueFile): Field {
  const own = shown.filter((one) => one.name === name);
  const [first] = own;
  const text = startText(first?.start);
  const at = first?.declared ?? first?.control.span ?? { start: 0, end: 0 };
  return {
    name,
    kind: kindOfField(
      own.map(({ control }) => control),
      first?.start,
    ),
    role: 'field',
    type: undefined,
    typeWritten: false,
    initial: { code: undefined, text, when: 'constant' },
    commentsBefore: [],
    commentBehind: undefined,
    names: {},
    declared: { file: vue.file, start: at.start, end: at.end },
  };
}

function controlOf(field: string, { tag, type, name, label, through, span }: VueControl): Control {
  return {
    field,
    element: tag,
    type,
    name,
    label,
    shows: through?.shows,
    changes: through?.changes,
    wayIn: undefined,
    span,
  };
}

/** Rules that a control's attributes state. */
function nativeRules(field: string, { element, tag, type, span }: VueControl): Rule[] {
  return constraintNames.flatMap((name): Rule[] => {
    const plain = attributeOf(element, name);
    const bound = plain === undefined ? boundText(element, name) : undefined;
    const value = plain ?? bound;
    if (value === undefined) return [];
    const constraint = constraintOfAttribute({ name, value, bound: plain === undefined }, { element: tag, type });
    if (constraint === undefined || constraint === 'conditional') return [];
    return [
      {
        fields: [field],
        kind: ruleKindOf(constraint),
        condition: conditionOf(constraint),
        message: undefined,
        moment: 'submit',
        stated: 'native',
        span,
        constraint,
      },
    ];
  });
}
