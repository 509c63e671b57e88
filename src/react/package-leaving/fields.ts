import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Control, Field, FormModel } from '../../form/model.js';
import { objectBehind } from '../../source/behind-names.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { plainCode, spanOf } from '../code.js';
import { frameOf } from '../form-frame.js';
import { kindOf, kindOfType } from '../form-parts.js';
import type { JsxControl } from '../jsx-controls.js';

/** A control of a form that a package keeps, and the field it shows. */
export interface PackageControl {
  field: string;
  control: JsxControl;
}

/** What a form begins as, value by value; undefined where no object tells it. */
export function startValues(
  start: NodePath | undefined,
  { script, load }: FormSite,
): { name: string; path: NodePath; script: Script }[] | undefined {
  const object = start && objectBehind({ path: start, script }, load);
  if (!object?.path.isObjectExpression()) return undefined;
  const values: { name: string; path: NodePath; script: Script }[] = [];
  for (const property of object.path.get('properties')) {
    const { node } = property;
    if (!t.isObjectProperty(node) || node.computed) return undefined;
    const name = t.isIdentifier(node.key) ? node.key.name : t.isStringLiteral(node.key) ? node.key.value : undefined;
    if (name === undefined) return undefined;
    values.push({ name, path: property.get('value') as NodePath, script: object.script });
  }
  return values;
}

/** The model of a form that a package keeps, as far as its code says it: fields with what they begin as, and controls. */
export function packageModel(
  site: FormSite,
  approach: string,
  parts: {
    start: NodePath | undefined;
    controls: readonly PackageControl[];
    made: NodePath;
    objects: readonly NodePath<t.Identifier>[];
    /** The fields by all that the code names; those of what it begins as where it is empty. */
    names: readonly string[];
  },
): FormModel {
  const { script } = site;
  const values = startValues(parts.start, site) ?? [];
  const begins = new Map(values.map((one) => [one.name, one]));
  const named = parts.names.length ? parts.names : values.map(({ name }) => name);
  const fields = named.map((name): Field => {
    const start = begins.get(name);
    const own = parts.controls.find(({ field }) => field === name)?.control;
    const type = start && expressionTypes(start.script).typeOf(start.path);
    const { node } = start?.path ?? parts.made;
    return {
      name,
      kind: own ? kindOf(own, type) : kindOfType(type),
      role: 'field',
      type,
      typeWritten: false,
      initial: {
        code: start && plainCode(start.script.file, start.path),
        text: start ? start.script.text.slice(node.start ?? 0, node.end ?? 0) : 'undefined',
        when: 'constant',
      },
      commentsBefore: [],
      commentBehind: undefined,
      names: {},
      declared: spanOf(start?.script.file ?? script.file, { node }),
    };
  });
  return {
    ...frameOf(site),
    approach,
    fields,
    controls: parts.controls.map(({ field, control }): Control => ({
      field,
      element: control.tag,
      type: control.type,
      name: control.name,
      label: control.label,
      shows: undefined,
      changes: undefined,
      wayIn: undefined,
      span: spanOf(script.file, control.element),
    })),
    uses: [],
    rules: [],
    others: [],
    declarations: [{ role: 'state', span: spanOf(script.file, parts.made), what: approach }],
    names: parts.objects.map(({ node }) => ({ file: script.file, name: node.name, declaredAt: node.start ?? 0 })),
    unclear: [],
    handlers: 0,
    stateVariables: 0,
  };
}
