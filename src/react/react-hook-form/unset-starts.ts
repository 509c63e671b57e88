import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { parseScript } from '../../source/script.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { drawnControl } from '../package-leaving/drawn-control.js';
import { givenBy } from '../package-leaving/events.js';
import { startValues, type StartValue } from '../package-leaving/fields.js';
import { stays, type Leaving } from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import type { HookForm } from './found.js';

/** Values that a form begins with because its controls do: their names, and what each is as source text. */
export interface UnsetStarts {
  values: StartValue[];
  pairs: string[];
}

/** Fields that are registered without a value to begin with: the page’s own control tells it as soon as it is there. */
export function unsetStarts(leaving: Leaving, form: HookForm): UnsetStarts {
  const given = form.options.get('defaultValues');
  const known = given ? startValues(given, leaving.site) : [];
  const pairs = new Map<string, string>();
  // what is told by no object may hold any of them
  if (!known) return { values: [], pairs: [] };
  for (const { member, path } of form.taken.places) {
    const call = member === 'register' ? callOf(path) : undefined;
    const [name, rules] = (call?.get('arguments') ?? []) as (NodePath | undefined)[];
    const element = call?.parentPath.parentPath?.parentPath;
    if (!name?.isStringLiteral() || !call?.parentPath.isJSXSpreadAttribute() || !element?.isJSXElement()) continue;
    const field = name.node.value;
    if (known.some((one) => one.name === field.split('.')[0])) continue;
    const begins = beginsAs(leaving, element, rules);
    if (begins === undefined || pairs.has(field) || !/^[\w$]+$/.test(field) || !isAlwaysThere(leaving, element))
      stays(leaving, call, 'what it begins as is told by no value, and not by its control alone');
    else pairs.set(field, begins);
  }
  return { values: parsed(leaving, pairs), pairs: [...pairs].map(([name, text]) => `${name}: ${text}`) };
}

/** What the value of a control is before anybody changes it, as source text. */
function beginsAs(leaving: Leaving, element: NodePath<t.JSXElement>, rules: NodePath | undefined): string | undefined {
  const own = tagOf(element);
  const drawn = /^[A-Z]/.test(own)
    ? drawnControl(element, leaving.site, ['name', 'value', 'onChange', 'onBlur'])
    : undefined;
  const tag = drawn?.tag ?? own;
  const type = attributesOf(element).find(({ name }) => name === 'type')?.text ?? drawn?.type;
  if (rules && memberNamed(rules, 'valueAsNumber')?.isBooleanLiteral({ value: true })) return 'NaN';
  if (tag === 'select') return drawn ? undefined : firstOption(element);
  if (type === 'radio') return undefined;
  const gives = givenBy(element, tag, drawn?.type);
  if (gives === 'checked') return 'false';
  const empty = leaving.context.style.quote + leaving.context.style.quote;
  // what a page makes of these is never empty
  return (gives === 'text' || gives === 'number') && !/^(?:range|color)$/.test(type ?? '') ? empty : undefined;
}

/** The value of the option that a choice begins with. */
function firstOption(select: NodePath<t.JSXElement>): string | undefined {
  const [first] = select.get('children').filter((one) => !one.isJSXText() || one.node.value.trim() !== '');
  const isMany = attributesOf(select).some(({ name }) => name === 'multiple');
  if (isMany || !first?.isJSXElement() || tagOf(first) !== 'option') return undefined;
  const attributes = attributesOf(first);
  if (attributes.some(({ name }) => name === 'disabled' || name === 'selected' || name === 'hidden')) return undefined;
  const value = attributes.find(({ name }) => name === 'value');
  const [text, ...more] = first.node.children;
  const said = value ? value.text : t.isJSXText(text) && !more.length ? text.value.trim() : undefined;
  return said === undefined || /['"\\]/.test(said) ? undefined : `'${said}'`;
}

/** Whether a control is there from the first view on, whatever the values are. */
function isAlwaysThere({ site }: Leaving, element: NodePath): boolean {
  const root = site.component.path as NodePath;
  const between = element.findParent(
    (one) =>
      one === root ||
      one.isFunction() ||
      one.isConditionalExpression() ||
      one.isLogicalExpression() ||
      one.isIfStatement(),
  );
  return between === root || between?.node === root.node;
}

/** Values as a file of their own would say them. */
function parsed({ script }: Leaving, pairs: ReadonlyMap<string, string>): StartValue[] {
  return [...pairs].flatMap(([name, text]): StartValue[] => {
    const own = parseScript(script.file, `(${text});`);
    const [statement] = own.ok ? own.script.program.get('body') : [];
    const path = statement?.isExpressionStatement() ? (statement.get('expression') as NodePath) : undefined;
    return own.ok && path ? [{ name, path, script: own.script }] : [];
  });
}
