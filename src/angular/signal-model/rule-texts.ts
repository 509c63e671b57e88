import { unusableText } from '../switched.js';
import { elementAt } from '../form-site.js';
import { codeText } from '../../form/code-text.js';
import type { Hole } from '../../form/code.js';
import { isRowField, rowFieldParts, type Control } from '../../form/model.js';
import type { CheckFunction, Rule } from '../../form/rules.js';
import { indentAt, quoted } from '../../source/style.js';
import { signalRuleText } from '../../rules/signal-rules.js';
import { isSame, rulesOfElement } from '../attribute-rules.js';
import { disablingPlace } from '../disabled.js';
import { pathText } from '../writing.js';
import type { SignalDraft } from './draft.js';

/** The name of the schema function's parameter. */
export const pathName = 'path';

/** What a schema says of a control that cannot be used, at all or while a condition on fields holds. */
export function disabledText(control: Control, draft: SignalDraft): string | undefined {
  const { disabled } = control.binding ?? {};
  const path = pathName + pathText(control.field);
  if (!disabled) return undefined;
  if (disabled.constant) return `disabled(${path})`;
  const { usableWhile } = disabled;
  if (usableWhile) {
    const value = `valueOf(${pathName}${pathText(usableWhile.of)})`;
    return `disabled(${path}, ({ valueOf }) => ${unusableText(usableWhile.text, value)})`;
  }
  const { file } = draft.component.template.place;
  const place = disablingPlace(control, draft.component);
  if (!place) return undefined;
  const asked = draft.model.uses.filter(
    ({ kind, span }) => kind === 'read' && span.file === file && span.start >= place.start && span.end <= place.end,
  );
  const condition = codeText(
    { file, ...place, holes: [] },
    {
      textOf: (name) => draft.context.text(name),
      uses: asked,
      use: (use) => (use.kind === 'read' ? `valueOf(${pathName}${pathText(use.field)})` : undefined),
      hole: () => undefined,
    },
  ).trim();
  // whatever else it asks would not be followed
  const others = condition.replace(/valueOf\([^)]*\)|'[^']*'|\b(?:true|false|null|undefined)\b|\.length\b/g, '');
  return asked.length && !/[A-Za-z_$]/.test(others) ? `disabled(${path}, ({ valueOf }) => ${condition})` : undefined;
}

/** A rule of the form, as the schema states it; undefined where it cannot. */
export interface SchemaRule {
  rule: Rule;
  text: string;
  /** The functions of the package that it calls. */
  needs: string[];
}

/** The rules that a schema can state, in the order of the form's fields, and those that it cannot. */
export function schemaRuleTexts(draft: SignalDraft): { stated: SchemaRule[]; unstated: Rule[] } {
  const { model, component, fields } = draft;
  const stated: SchemaRule[] = [];
  const unstated: Rule[] = [];
  for (const rule of [...model.rules, ...attributeRules(draft)]) {
    const name = rule.of ?? rule.fields[0] ?? '';
    const field = fields.find((one) => one.name === name);
    const control = model.controls.find((one) => one.field === name);
    const element = elementAt(component, control?.span.start);
    const ruled = {
      path: pathOf(name, draft),
      boolean: field?.kind === 'boolean',
      list: field?.kind === 'list of rows',
      limitsTyping: element?.attributes.some((one) => one.name === 'maxlength') ?? false,
    };
    const inRow = isRowField(name);
    const checked = rule.check && !inRow ? checkText(rule.check, name, ruled.path, draft) : undefined;
    if (checked) {
      stated.push({ rule, text: checked, needs: ['validate'] });
      continue;
    }
    const text = rule.constraint && field ? signalRuleText(rule.constraint, ruled) : undefined;
    if (text && !rule.guards?.length && rule.guard === undefined)
      stated.push({ rule, text: text.text, needs: inRow ? ['applyEach', ...text.needs] : text.needs });
    else unstated.push(rule);
  }
  return { stated, unstated };
}

/** A field's path as the schema says it; that of a row's field begins with the name of its row. */
function pathOf(name: string, draft: SignalDraft): string {
  if (!isRowField(name)) return pathName + pathText(name);
  const { list, key } = rowFieldParts(name);
  return rowName(list, draft) + pathText(key);
}

/** What a row of a list is called in the schema. */
function rowName(list: string, { model }: SignalDraft): string {
  const item = model.lists?.find(({ field }) => field === list)?.item.replace(/\W/g, '') ?? '';
  return item === '' || item === pathName ? 'row' : item;
}

/** The statements of the schema: those of the rows of a list stand together. */
export function ruleLines(stated: readonly SchemaRule[], draft: SignalDraft): string[] {
  const { newline, indent, semicolon } = draft.context.style;
  const listOf = ({ rule }: SchemaRule): string | undefined => {
    const name = rule.of ?? rule.fields[0] ?? '';
    return isRowField(name) ? rowFieldParts(name).list : undefined;
  };
  return stated.flatMap((one, index): string[] => {
    const list = listOf(one);
    if (list === undefined) return [one.text];
    if (stated.findIndex((other) => listOf(other) === list) < index) return [];
    const inner = stated.filter((other) => listOf(other) === list).map(({ text }) => indent + text + semicolon);
    const head = `applyEach(${pathName}${pathText(list)}, (${rowName(list, draft)}) => {`;
    return [[head, ...inner, '})'].join(newline)];
  });
}

/** A function of the project as a rule: it is given the value, and answers with an error of a kind. */
function checkText(
  { code, block, reads, errors }: CheckFunction,
  of: string,
  path: string,
  { context, fields }: SignalDraft,
): string | undefined {
  const inside = (key: string): string => (of === '' ? key : `${of}.${key}`);
  const known = reads.every(({ path: key }) => key === undefined || fields.some(({ name }) => name === inside(key)));
  if (!known) return undefined;
  const taken = /\b(?:const|let|var|function)\s+\{?[^=;]*\bvalue\b[^=;]*=/.test(
    context.text(code.file).slice(code.start, code.end),
  );
  const value = taken ? 'given' : 'value';
  const source = context.text(code.file);
  const old = indentAt(source, code.start);
  const again = reads.filter(({ path: key }) => key === undefined).length > 1;
  const once = /\bcurrent\b/.test(source.slice(code.start, code.end)) ? 'checked' : 'current';
  const holes = [
    ...code.holes,
    ...reads.map(({ start, end, path: key }): Hole => {
      const asked = key === undefined ? (again ? once : `${value}()`) : `valueOf(${pathName}${pathText(inside(key))})`;
      return { kind: 'text', start, end, text: asked };
    }),
    ...errors.map(({ start, end, key, detail }): Hole => {
      const kind = `kind: ${quoted(key, context.style)}`;
      return { kind: 'text', start, end, text: detail === undefined ? `{ ${kind} }` : `{ ${kind}, ${detail} }` };
    }),
  ].sort((a, b) => a.start - b.start);
  const text = codeText(
    { ...code, holes },
    {
      textOf: (file) => context.text(file),
      uses: [],
      use: () => undefined,
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
  );
  const given = [
    ...(reads.some(({ path: key }) => key === undefined) ? [taken ? 'value: given' : 'value'] : []),
    ...(reads.some(({ path: key }) => key !== undefined) ? ['valueOf'] : []),
  ];
  const rule = (body: string): string => `validate(${path}, ({ ${given.join(', ')} }) => ${body})`;
  const { indent, newline, semicolon } = context.style;
  const moved = text.split(newline).map((line) => (line.startsWith(old) ? line.slice(old.length) : line));
  if (!again) return rule(block || /^\(/.test(text) ? moved.join(newline) : `(${moved.join(newline)})`);
  // what is asked once stays the same for the compiler as well
  const kept = `${indent}const ${once} = ${value}()${semicolon}`;
  const body = block
    ? moved.join(newline).slice(1)
    : `${newline}${indent}return ${moved.join(newline)}${semicolon}${newline}}`;
  // a block on one line is opened up
  const opened = body.startsWith(newline) ? body : `${newline}${indent}${body.trim().replace(/\s*\}$/, `${newline}}`)}`;
  return rule(`{${newline}${kept}${opened}`);
}

/** Rules that attributes of controls state which a group of the class binds: the framework runs these as well. */
function attributeRules({ model, component }: SignalDraft): Rule[] {
  if (model.approach !== 'model-driven') return [];
  return model.controls.flatMap(({ field, span }) => {
    const element = elementAt(component, span.start);
    const rules = element ? rulesOfElement(element, field, component) : [];
    return rules.filter(({ constraint }) => !constraint || !model.rules.some(isSame(field, constraint)));
  });
}
