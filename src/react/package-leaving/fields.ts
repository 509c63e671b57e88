import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field, FormModel } from '../../form/model.js';
import { bare, objectBehind, type Placed } from '../../source/behind-names.js';
import { expressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { plainCode, spanOf } from '../code.js';
import { kindOf, kindOfType } from '../form-parts.js';
import type { JsxControl } from '../jsx-controls.js';
import { seenControl, seenField, seenForm } from '../seen-form.js';

/** A control of a form that a package keeps, and the field it shows. */
export interface PackageControl {
  field: string;
  control: JsxControl;
  /** The component that draws it, where that is not the form’s own. */
  site?: FormSite;
}

/** A value that a form begins with. */
export interface StartValue {
  name: string;
  path: NodePath;
  script: Script;
}

/** What a form begins as, value by value; undefined where no object tells it. */
export function startValues(start: NodePath | undefined, { script, load }: FormSite): StartValue[] | undefined {
  const object = start && writtenStart({ path: start, script }, load);
  if (!object?.path.isObjectExpression()) return undefined;
  const values: StartValue[] = [];
  for (const property of object.path.get('properties')) {
    const { node } = property;
    if (!t.isObjectProperty(node) || node.computed) return undefined;
    const name = t.isIdentifier(node.key) ? node.key.name : t.isStringLiteral(node.key) ? node.key.value : undefined;
    if (name === undefined) return undefined;
    values.push({ name, path: property.get('value') as NodePath, script: object.script });
  }
  return values;
}

function textAt({ text }: Script, { node }: NodePath): string {
  return text.slice(node.start ?? 0, node.end ?? 0);
}

/** The object that a form begins as; of several, which a type says to hold the same, the one that is written out. */
function writtenStart(start: Placed, load: FormSite['load']): Placed | undefined {
  const object = objectBehind(start, load);
  const path = bare(start.path);
  if (object || !start.script.typescript) return object;
  const parts = path.isLogicalExpression()
    ? [path.get('right')]
    : path.isConditionalExpression()
      ? [path.get('alternate'), path.get('consequent')]
      : [];
  return parts.map((part) => objectBehind({ path: part, script: start.script }, load)).find(Boolean);
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
    /** Further components that the form stands in, with their names for it. */
    parts?: readonly { site: FormSite; objects: readonly NodePath<t.Identifier>[] }[];
  },
): FormModel {
  const { script } = site;
  const values = startValues(parts.start, site) ?? [];
  const { start: given } = parts;
  // of several that it may begin as, only the running form tells which
  const whole = given && values.length && !objectBehind({ path: given, script }, site.load) ? given : undefined;
  const begins = new Map(values.map((one) => [one.name, one]));
  const named = parts.names.length ? parts.names : values.map(({ name }) => name);
  const bound = parts.controls.map(({ field, control, site: own }) => seenControl(own ?? site, field, control));
  const fields = named.map((name): Field => {
    const own = bound.find(({ field }) => field === name);
    const shown = seenField(name, own, spanOf(script.file, parts.made));
    const start = begins.get(name);
    if (!start) return shown;
    const type = expressionTypes(start.script).typeOf(start.path);
    const code = plainCode(start.script.file, start.path);
    return {
      ...shown,
      kind: own ? kindOf(own.control, type) : kindOfType(type),
      type,
      initial: whole
        ? { code: undefined, text: textAt(script, whole), when: 'once' }
        : { code, text: textAt(start.script, start.path), when: 'constant' },
      declared: code,
    };
  });
  const further = parts.parts ?? [];
  const seen = seenForm(site, approach, fields, bound);
  return {
    ...seen,
    files: [...new Set([...seen.files, ...further.map((part) => part.site.script.file)])],
    declarations: [{ role: 'state', span: spanOf(script.file, parts.made), what: approach }],
    names: [{ site, objects: parts.objects }, ...further].flatMap((part) =>
      part.objects.map(({ node }) => ({
        file: part.site.script.file,
        name: node.name,
        declaredAt: node.start ?? 0,
      })),
    ),
  };
}
