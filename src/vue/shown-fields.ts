import * as t from '@babel/types';
import type { ElementNode } from '@vue/compiler-dom';
import type { ValueKind } from '../form/model.js';
import { nativeKind } from '../markup/element-kinds.js';
import { leadsToValues } from '../markup/value-members.js';
import { bare, behindName, objectBehind, returnedValue, type Placed } from '../source/behind-names.js';
import type { LoadScript } from '../source/project-files.js';
import { reactiveCopies, startOfMember, type ComponentScript, type Holder } from './holders.js';
import { boundText, type LocalName, type VueControl } from './template-controls.js';
import { walk } from '../source/traverse.js';

/** Ways in which a Vue form holds its values, and `library` where a package does. */
export type HeldBy = 'field-refs' | 'reactive-object' | 'form-wrapper' | 'own-composable' | 'library' | 'markup-only';

/** A field as a control leads to it. */
export interface ShownField {
  name: string;
  by: HeldBy;
  /** The name that holds it, and the package where one does. */
  holder: string;
  from?: string | undefined;
  start: Placed | undefined;
  declared: { start: number; end: number } | undefined;
  control: VueControl;
  /** The wrapper around it. */
  wrapper?: ElementNode | undefined;
}

/** The chain of names that an expression shows: its root and what is asked of it; the first one that `knows`. */
export function chainOf(
  expression: string,
  knows: (root: string) => boolean,
): { root: string; parts: string[] } | undefined {
  const plain = expression
    .replace(/\bthis\./g, '')
    .replace(/\?\./g, '.')
    .replace(/!(?=[.[])/g, '');
  for (const found of plain.matchAll(/(?<![\w$.'"`])([A-Za-z_$][\w$]*)((?:\.[\w$]+|\[[^\]]*\])*)/g)) {
    const [, root = '', behind = ''] = found;
    if (!knows(root)) continue;
    const parts = [...behind.matchAll(/\.([\w$]+)|\[([^\]]*)\]/g)].map(([, member, index]) => {
      const key = /^\s*['"]([\w$-]+)['"]\s*$/.exec(index ?? '')?.[1];
      return member ?? key ?? '[]';
    });
    // a method that is asked of a value is no part of its path
    const called = plain.charAt(found.index + found[0].length) === '(';
    return { root, parts: called ? parts.slice(0, -1) : parts };
  }
  return undefined;
}

/** The field that an expression of the template shows; undefined where it leads to no values of the component. */
export function fieldShown(
  expression: string,
  control: VueControl,
  script: ComponentScript | undefined,
  load: LoadScript,
  depth = 0,
): ShownField | undefined {
  if (depth > 5) return undefined;
  const { locals } = control;
  const chain = chainOf(expression, (root) => locals.has(root) || script?.holders.has(root) === true);
  if (!chain) return undefined;
  const local = locals.get(chain.root);
  if (local) return throughLocal(local, chain, control, script, load, depth);
  const holder = script?.holders.get(chain.root);
  if (!holder) return undefined;
  if (holder.kind === 'alias')
    return fieldShown(joined(holder.of ?? '', chain.parts), control, script, load, depth + 1);
  return heldField(holder, chain.parts, control, load);
}

function joined(root: string, parts: readonly string[]): string {
  return root + parts.map((part) => (part === '[]' ? '[0]' : `.${part}`)).join('');
}

function throughLocal(
  local: LocalName,
  { parts }: { parts: string[] },
  control: VueControl,
  script: ComponentScript | undefined,
  load: LoadScript,
  depth: number,
): ShownField | undefined {
  if (local.kind === 'item') return fieldShown(joined(`${local.of}[0]`, parts), control, script, load, depth + 1);
  const path = [...(local.member === '' || leadsToValues.test(local.member) ? [] : [local.member]), ...parts];
  const own = local.member === '' && path[0] !== undefined && leadsToValues.test(path[0]) ? path.slice(1) : path;
  if (!own.length) return undefined;
  const given = startGiven(local.element, script, own, load);
  return {
    name: nameOf(own),
    by: 'form-wrapper',
    holder: local.component,
    start: given,
    declared: undefined,
    control,
    wrapper: local.element,
  };
}

/** What a wrapper is given to begin with: the bound object that has such a member. */
function startGiven(
  element: ElementNode,
  script: ComponentScript | undefined,
  path: readonly string[],
  load: LoadScript,
): Placed | undefined {
  if (!script) return undefined;
  for (const prop of element.props) {
    if (!('exp' in prop) || prop.name !== 'bind' || !prop.exp) continue;
    const argument = prop.arg && 'content' in prop.arg ? prop.arg.content : '';
    const expression = boundText(element, argument) ?? '';
    const name = /^[\w$]+/.exec(expression)?.[0];
    if (name === undefined) continue;
    const at = script.holders.get(name)?.start ?? declared(name, script) ?? imported(name, script, load);
    const found = at && startOfMember(at, path, load);
    if (found) return found;
  }
  return undefined;
}

/** A constant of the component by its name. */
function declared(name: string, { script, scope }: ComponentScript): Placed | undefined {
  const found = scope.scope.getBinding(name)?.path;
  const init = found?.isVariableDeclarator() ? (found.get('init') as Placed['path']) : undefined;
  return init?.node ? { path: init, script } : undefined;
}

function imported(name: string, { script }: ComponentScript, load: LoadScript): Placed | undefined {
  const specifier = script.program.scope.getBinding(name)?.path;
  if (!specifier?.isImportSpecifier() && !specifier?.isImportDefaultSpecifier()) return undefined;
  const local = specifier.get('local') as Placed['path'];
  const found = behindName({ path: local, script }, load);
  return found.path === local ? undefined : found;
}

function heldField(
  holder: Holder,
  given: readonly string[],
  control: VueControl,
  load: LoadScript,
): ShownField | undefined {
  const declared = holder.span;
  const base = { holder: holder.name, control, declared };
  if (holder.kind === 'ref' || holder.kind === 'object' || holder.kind === 'data') {
    const parts = holder.kind === 'ref' && given[0] === 'value' ? given.slice(1) : given;
    const single = !parts.length || parts.every((part) => part === '[]');
    if (single && holder.kind === 'object') return undefined;
    const start = holder.start && startOfMember(holder.start, parts, load);
    if (single)
      return {
        ...base,
        name: nameOf([holder.name, ...parts]),
        by: holder.kind === 'ref' ? 'field-refs' : 'reactive-object',
        start,
      };
    // rows of a list that a ref holds: `rows[].kilos`
    const own = parts[0] === '[]' ? [holder.name, ...parts] : [...parts];
    return { ...base, name: nameOf(own), by: 'reactive-object', start };
  }
  const taken = holder.taken === undefined ? [] : [holder.taken];
  const path = [...taken, ...given].filter(
    (part, index, all) => !(part === 'value' && index === all.length - 1 && index > 0),
  );
  const own = path[0] !== undefined && leadsToValues.test(path[0]) && path.length > 1 ? path.slice(1) : path;
  const fields = own[0] !== undefined && leadsToValues.test(own[0]) && own.length > 1 ? own.slice(1) : own;
  const start = holder.call && startInCall(holder.call, fields, load);
  // a function that holds one value is called once for each field
  const [only] = fields;
  if (only === undefined || (fields.length === 1 && only === holder.taken && leadsToValues.test(only)))
    return {
      ...base,
      name: namedInCall(holder) ?? holder.name,
      by: holder.kind === 'library' ? 'library' : 'own-composable',
      from: holder.from,
      start,
    };
  if (holder.kind === 'library') return { ...base, name: nameOf(fields), by: 'library', from: holder.from, start };
  return { ...base, name: nameOf(fields), by: 'own-composable', start };
}

/** The name that a call is given for its field: `useField('town')`. */
function namedInCall({ call }: Holder): string | undefined {
  const [first] = call?.path.isCallExpression() ? call.path.node.arguments : [];
  return t.isStringLiteral(first) && /^[\w.[\]]+$/.test(first.value) ? first.value : undefined;
}

/** What a composable is called with that has such a member, or what its own code begins with. */
function startInCall(call: Placed, path: readonly string[], load: LoadScript): Placed | undefined {
  if (!call.path.isCallExpression() || !path.length) return undefined;
  const { script } = call;
  for (const argument of call.path.get('arguments') as Placed['path'][]) {
    const found = startOfMember({ path: argument, script }, path, load);
    if (found) return found;
    const object = objectBehind({ path: argument, script }, load, reactiveCopies);
    if (!object?.path.isObjectExpression()) continue;
    for (const property of object.path.get('properties')) {
      if (!property.isObjectProperty()) continue;
      const inner = startOfMember({ path: property.get('value') as Placed['path'], script: object.script }, path, load);
      if (inner) return inner;
    }
  }
  const fn = behindName({ path: call.path.get('callee') as Placed['path'], script }, load);
  if (!fn.path.isFunction()) return undefined;
  let found: Placed | undefined;
  walk(fn.path, {
    CallExpression(inner) {
      if (found || !t.isIdentifier(inner.node.callee) || !/^(?:ref|reactive)$/.test(inner.node.callee.name)) return;
      const [first] = inner.get('arguments') as (Placed['path'] | undefined)[];
      const declared = inner.parentPath.isVariableDeclarator() ? inner.parentPath.node.id : undefined;
      if (first && path.length === 1 && t.isIdentifier(declared, { name: path[0] ?? '' }))
        found = { path: first, script: fn.script };
      else if (first) found = startOfMember({ path: first, script: fn.script }, path, load);
    },
  });
  return found;
}

/** A path in words: `rows[].kilos`. */
export function nameOf(parts: readonly string[]): string {
  return parts.reduce((name, part) => (part === '[]' ? `${name}[]` : name === '' ? part : `${name}.${part}`), '');
}

/** The kind of a field's value, by its controls and what it begins as. */
export function kindOfField(controls: readonly VueControl[], start: Placed | undefined): ValueKind {
  const [first] = controls;
  if (!first) return 'other';
  const { tag, type } = first;
  const begins = start && bare(start.path);
  const isList =
    begins?.isArrayExpression() === true ||
    (begins?.isNewExpression() === true && t.isIdentifier(begins.node.callee, { name: 'Set' }));
  const told = nativeKind({ tag, type, multiple: first.multiple, list: isList });
  if (told) return told;
  if (first.modifiers.includes('number')) return 'number';
  if (/^[A-Z]|-/.test(tag)) {
    if (begins?.isBooleanLiteral()) return 'boolean';
    if (begins?.isNumericLiteral()) return 'number';
    if (isList) return 'many choices';
    if (!begins?.isStringLiteral()) return 'other';
  }
  return begins?.isNumericLiteral() ? 'number' : 'text';
}

/** The field that a file input or a choosing component fills: what its handler sets. */
export function fieldSet(
  control: VueControl,
  script: ComponentScript | undefined,
  load: LoadScript,
): ShownField | undefined {
  for (const handler of control.handlers) {
    const direct = /^([\w$.]+)\s*=(?!=)/.exec(handler)?.[1];
    const fn = script?.functionNamed(/^[\w$]+/.exec(handler)?.[0] ?? '');
    let target = direct;
    walk(fn, {
      AssignmentExpression(path) {
        target ??= path.get('left').toString();
      },
    });
    const found = target === undefined ? undefined : fieldShown(target, control, script, load);
    if (found) return found;
  }
  return undefined;
}

/** What a value that begins as what a function gives begins as. */
export function startText(start: Placed | undefined): string {
  if (!start) return '';
  const path = bare(start.path);
  const value = path.isFunction() ? (returnedValue(path) ?? path) : path;
  return start.script.text.slice(value.node.start ?? 0, value.node.end ?? 0);
}
