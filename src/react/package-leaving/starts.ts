import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionOf, type FunctionPath } from '../components.js';
import { pascal } from '../form-names.js';
import { quoted } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { typedAs } from './apart.js';
import { depthOf, reindented, saysAt, stays, type Leaving } from './leaving.js';
import { walk } from '../../source/traverse.js';

/** The identifiers that a target binds: a name, or those of a pattern. */
export function declaredNames(targets: readonly NodePath[]): NodePath<t.Identifier>[] {
  return targets.flatMap((target): NodePath<t.Identifier>[] => {
    if (target.isIdentifier()) return [target];
    if (!target.isObjectPattern()) return [];
    return declaredNames(
      target.get('properties').flatMap((one) => (one.isObjectProperty() ? [one.get('value') as NodePath] : [])),
    );
  });
}

/** The name of the values’ type: written for the package, for what it begins as, or for a parameter of a function. */
export function typeOfValues(
  { script }: Leaving,
  written: t.TSType | undefined,
  start: NodePath | undefined,
  functions: readonly (NodePath | undefined)[],
): string | undefined {
  const said = (node: t.Node): string => script.text.slice(node.start ?? 0, node.end ?? 0);
  if (written) return said(written);
  // the author says it of the object itself
  if (start?.isTSAsExpression()) return said(start.node.typeAnnotation);
  const declared = start?.isIdentifier() ? start.scope.getBinding(start.node.name)?.path : undefined;
  const id = declared?.isVariableDeclarator() ? declared.node.id : undefined;
  if (t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation)) return said(id.typeAnnotation.typeAnnotation);
  for (const given of functions) {
    const fn: FunctionPath | undefined = given && !given.isObjectMethod() ? functionOf(given) : undefined;
    const [values] = fn?.node.params ?? [];
    if (t.isIdentifier(values) && t.isTSTypeAnnotation(values.typeAnnotation))
      return said(values.typeAnnotation.typeAnnotation);
  }
  return undefined;
}

/** What the values begin as: the author’s constant, or one that is put above the component. */
function startOf(
  leaving: Leaving,
  start: NodePath | undefined,
  type: string | undefined,
  added: readonly string[],
): string | undefined {
  const { site } = leaving;
  const wished = `initial${pascal(site.component.name)}`;
  if (!start) return nameAbove(leaving, `{ ${added.join(', ')} }`, wished, type);
  if (start.isIdentifier()) {
    const binding = start.scope.getBinding(start.node.name);
    if (!binding?.scope.path.isProgram()) return undefined;
    const all = `{ ${[`...${start.node.name}`, ...added].join(', ')} }`;
    return added.length ? nameAbove(leaving, all, wished, type) : start.node.name;
  }
  if (asksComponent(start, site)) return undefined;
  if (start.isTSAsExpression() && start.get('expression').isObjectExpression() && !added.length)
    return putAbove(leaving, start, wished);
  return start.isObjectExpression() ? putAbove(leaving, start, wished, type, added) : undefined;
}

/** What the values begin as where only the first view tells it, as an expression that is asked once. */
function firstStart({ script }: Leaving, start: NodePath): string | undefined {
  if (start.isFunction()) return undefined;
  const text = script.text.slice(start.node.start ?? 0, start.node.end ?? 0);
  if (start.isIdentifier()) return text;
  let calls = start.isCallExpression();
  walk(start, { CallExpression: () => void (calls = true), NewExpression: () => void (calls = true) });
  return calls ? `() => ${start.isObjectExpression() ? `(${text})` : text}` : text;
}

/** Puts an expression into a constant above the component. */
export function putAbove(
  leaving: Leaving,
  path: NodePath,
  wished: string,
  type?: string,
  added: readonly string[] = [],
): string {
  const { script } = leaving;
  const own = reindented(script.text.slice(path.node.start ?? 0, path.node.end ?? 0), depthOf(leaving, path), '');
  const more = added.map((one) => `, ${one}`).join('');
  const whole = more === '' ? own : own.replace(/,?(\s*)\}$/, (_, space: string) => `${more}${space}}`);
  return nameAbove(leaving, whole, wished, type);
}

/** Puts an expression under a name above the component. */
function nameAbove(leaving: Leaving, text: string, wished: string, type: string | undefined): string {
  const name = leaving.context.freeName(wished, `${wished}Value`);
  stateAbove(leaving, `const ${typedAs(name, type)} = ${text}`);
  return name;
}

/** Declares a type above the component, and gives its name. */
export function typeAbove(leaving: Leaving, wished: string, type: string): string {
  const name = leaving.context.freeName(wished, `${wished}Type`);
  stateAbove(leaving, `type ${name} = ${type}`);
  return name;
}

function stateAbove(leaving: Leaving, text: string): void {
  const { site, context } = leaving;
  const statement = site.component.statement.node;
  const at = statement.leadingComments?.[0]?.start ?? statement.start ?? 0;
  const { newline, semicolon } = context.style;
  saysAt(leaving, at, at, `${text}${semicolon}${newline}${newline}`);
}

/** Whether an expression needs its component, or does something each time. */
function asksComponent(path: NodePath, site: FormSite): boolean {
  let calls = false;
  walk(path, { CallExpression: () => void (calls = true) });
  return calls || asksView(path, site);
}

/** Whether an expression speaks of something that its component declares. */
export function asksView(path: NodePath, { component }: FormSite): boolean {
  let asks = false;
  walk(path, {
    Identifier(inner) {
      if (!inner.isReferencedIdentifier()) return;
      const of = inner.scope.getBinding(inner.node.name)?.scope.path;
      // what a function of the expression itself declares is its own
      if (!of || of.isProgram() || of.findParent((parent) => parent.node === path.node)) return;
      asks ||=
        of.node === component.path.node || of.findParent((parent) => parent.node === component.path.node) !== null;
    },
  });
  return asks;
}

/** Takes away declarations that only took members of the package apart, with their lines. */
export function takePatterns(leaving: Leaving, patterns: readonly NodePath<t.VariableDeclarator>[]): void {
  const { script } = leaving;
  for (const pattern of patterns) {
    const declaration = pattern.parentPath;
    if (!declaration.isVariableDeclaration() || declaration.node.declarations.length > 1) {
      stays(leaving, pattern, 'it is declared along with something else');
      continue;
    }
    const from = script.lines.lineStart(declaration.node.start ?? 0);
    const rest = /^[^\n]*\n/.exec(script.text.slice(declaration.node.end ?? 0))?.[0] ?? '';
    if (rest.trim() !== '') stays(leaving, pattern, 'something stands behind it on its line');
    else saysAt(leaving, from, (declaration.node.end ?? 0) + rest.length, '');
  }
}

/** The type of one value by the type of all of them. */
export function memberType(type: string, name: string, { context }: Leaving): string {
  return `${type.startsWith('typeof ') ? `(${type})` : type}[${quoted(name, context.style)}]`;
}

/** What the values begin as, with the types that follow from it, as source text; undefined in JavaScript. */
export interface StartedAs {
  start: string;
  type: string | undefined;
  errors: string | undefined;
  touched: string | undefined;
  /** What it begins as is told by the first view alone: `start` is what its state is made of. */
  fromView: boolean;
}

/**
 * What a form begins as, said without the package.
 * @param written the name of the values’ type, where there is one
 * @param keepsFirst whether the package keeps what the first view told it, whatever comes later
 * @param added what it begins as besides, as pairs of name and value
 * @returns undefined where it would have to be kept from the first view, which is said
 */
export function startedAs(
  leaving: Leaving,
  start: NodePath | undefined,
  written: string | undefined,
  keepsFirst: boolean,
  added: readonly string[] = [],
): StartedAs | undefined {
  const { typescript } = leaving.script;
  const constant = startOf(leaving, start, written, added);
  const first = start && keepsFirst && !added.length ? firstStart(leaving, start) : undefined;
  const begins = constant ?? first;
  if (begins === undefined) {
    stays(
      leaving,
      start ?? leaving.site.component.path,
      'what it begins as needs the component, and would have to be kept from the first view',
    );
    return undefined;
  }
  if (constant === undefined && typescript && written === undefined) {
    stays(
      leaving,
      start ?? leaving.site.component.path,
      'what it begins as needs the component, and its type has no name',
    );
    return undefined;
  }
  const type = typescript ? (written ?? `typeof ${begins}`) : undefined;
  const byField = (of: string): string | undefined => type && `Partial<Record<keyof ${type}, ${of}>>`;
  const fromView = constant === undefined;
  return { start: begins, type, errors: byField('string'), touched: byField('boolean'), fromView };
}
