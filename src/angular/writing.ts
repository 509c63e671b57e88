import path from 'node:path';
import type { LedgerEntry } from '../form/ledger.js';
import * as t from '@babel/types';
import type { RewritePlan } from '../form/ledger.js';
import type { Field, FormModel } from '../form/model.js';
import type { Span } from '../form/code.js';
import type { WriteContext } from '../form/writing.js';
import { applyEdits, type Edit } from '../source/edits.js';
import { wholeLines } from '../source/removal.js';
import type { Script } from '../source/script.js';
import { indentAt, quoted, styleOf } from '../source/style.js';
import type { AngularComponent, Member } from './component.js';

export type FileEdit = RewritePlan['edits'][number];

function withoutComments(text: string): string {
  // what an inline template says is no code of the script
  return text
    .replace(/`(?:[^`\\]|\\.)*`/g, (template) => (template.includes('${') ? template : '``'))
    .replace(/\/\*[\s\S]*?\*\//g, '')
    .replace(/\/\/[^\n]*/g, '');
}

function importsOf(script: Script): t.ImportDeclaration[] {
  return script.ast.program.body.filter((node) => t.isImportDeclaration(node));
}

function mentions(text: string, name: string): number {
  // what stands behind a dot is a member of that name; behind three it is spread
  return text.match(new RegExp(`(?<![\\w$'"\`-])(?<!(?<!\\.\\.)\\.)${name}\\b`, 'g'))?.length ?? 0;
}

function bodyText(text: string, imports: readonly t.ImportDeclaration[]): string {
  const edits = imports.map((node) => ({ start: node.start ?? 0, end: node.end ?? 0, text: '' }));
  return withoutComments(applyEdits(text, edits));
}

/**
 * The edits of a script's imports that its other edits make necessary: names that came are added, names that nothing
 * uses any more go.
 * @param edits the other edits of the file
 * @param wanted names by the package or file they come from
 */
export function importEdits(script: Script, edits: readonly Edit[], wanted: Record<string, readonly string[]>): Edit[] {
  const declarations = importsOf(script);
  const before = bodyText(script.text, declarations);
  const spans = declarations.map((node) => ({ start: node.start ?? 0, end: node.end ?? 0, text: '' }));
  const result = withoutComments(applyEdits(script.text, [...edits, ...spans]));
  const style = styleOf(script.text);
  const made: Edit[] = [];
  const imported = new Set(declarations.flatMap((node) => node.specifiers.map(({ local }) => local.name)));
  const coming = new Map<string, string[]>();
  for (const [source, names] of Object.entries(wanted)) {
    const fresh = names.filter((name) => !imported.has(name) && mentions(result, name) > 0);
    if (fresh.length) coming.set(source, fresh);
  }
  const gone = (name: string): boolean => mentions(before, name) > 0 && mentions(result, name) === 0;
  let anchor = 0;
  const removed: t.ImportDeclaration[] = [];
  for (const node of declarations) {
    const named = node.specifiers.filter((specifier) => t.isImportSpecifier(specifier));
    const add = named.length && node.importKind !== 'type' ? (coming.get(node.source.value) ?? []) : [];
    const left = node.specifiers.filter(({ local }) => !gone(local.name));
    const goes = !left.length && !add.length && node.specifiers.length > 0;
    if (goes) removed.push(node);
    else anchor = node.end ?? 0;
    if (goes || (!add.length && left.length === node.specifiers.length)) continue;
    coming.delete(node.source.value);
    made.push(...specifierEdits(script, named, gone, add));
  }
  const lines = [...coming].map(
    ([source, names]) => `import { ${names.join(', ')} } from ${quoted(source, style)}${style.semicolon}`,
  );
  // what comes takes the place of what goes
  const place = lines.length ? removed.pop() : undefined;
  if (place) made.push({ start: place.start ?? 0, end: place.end ?? 0, text: lines.join(style.newline) });
  else if (lines.length && anchor === 0)
    made.push({ start: 0, end: 0, text: lines.map((line) => line + style.newline).join('') });
  else if (lines.length)
    made.push({ start: anchor, end: anchor, text: lines.map((line) => style.newline + line).join('') });
  for (const node of removed)
    made.push({ ...wholeLines(script.text, { start: node.start ?? 0, end: node.end ?? 0 }), text: '' });
  return made;
}

/**
 * Types and classes that only the old approach needed: nothing of the result speaks of them.
 * @param ledger what goes is said there
 */
export function spareDeclarations(script: Script, edits: readonly Edit[], ledger: LedgerEntry[]): Edit[] {
  const made: Edit[] = [];
  // what only a spare declaration spoke of is spare as well
  for (;;) {
    const more = spareOnce(script, [...edits, ...made], ledger);
    if (!more.length) return made;
    made.push(...more);
  }
}

/** Edits without what is only put into a declaration that goes. */
export function outsideOfGone<One extends Edit>(edits: readonly One[]): One[] {
  const gone = edits.filter(({ start, end, text }) => text === '' && end > start);
  return edits.filter(
    (edit) => edit.start < edit.end || !gone.some(({ start, end }) => start < edit.start && end > edit.end),
  );
}

function spareOnce(script: Script, edits: readonly Edit[], ledger: LedgerEntry[]): Edit[] {
  const result = withoutComments(applyEdits(script.text, outsideOfGone(edits)));
  const before = withoutComments(script.text);
  return script.ast.program.body.flatMap((node) => {
    const named =
      t.isTSInterfaceDeclaration(node) ||
      t.isTSTypeAliasDeclaration(node) ||
      t.isClassDeclaration(node) ||
      t.isFunctionDeclaration(node)
        ? node.id?.name
        : constantNamed(node);
    if (named === undefined || (t.isClassDeclaration(node) && node.decorators?.length)) return [];
    const span = { start: node.start ?? 0, end: node.end ?? 0 };
    if (edits.some(({ start, end, text }) => text === '' && start <= span.start && end >= span.end)) return [];
    if (mentions(before, named) < 2 || mentions(result, named) > 1) return [];
    ledger.push({
      entry: 'retired',
      span: { file: script.file, ...span },
      what: named,
      why: 'nothing refers to it any more',
    });
    return [{ ...wholeLines(script.text, span), text: '' }];
  });
}

function constantNamed(node: t.Statement): string | undefined {
  const [only, ...more] = t.isVariableDeclaration(node) ? node.declarations : [];
  return only && !more.length && t.isIdentifier(only.id) ? only.id.name : undefined;
}

function specifierEdits(
  script: Script,
  named: readonly t.ImportSpecifier[],
  gone: (name: string) => boolean,
  add: readonly string[],
): Edit[] {
  const [first] = named;
  const last = named.at(-1);
  if (!first || !last) return [];
  const waiting = [...add];
  const parts = named.flatMap((specifier) => {
    const text = script.text.slice(specifier.start ?? 0, specifier.end ?? 0);
    if (!gone(specifier.local.name)) return [text];
    const next = waiting.shift();
    return next === undefined ? [] : [next];
  });
  const names = [...parts, ...waiting];
  const sorted = (list: readonly string[]): boolean =>
    list.every((name, index) => index === 0 || (list[index - 1] ?? '') <= name);
  if (sorted(named.map(({ local }) => local.name))) names.sort();
  const second = named[1];
  const joint = second ? script.text.slice(first.end ?? 0, second.start ?? 0) : ', ';
  return [{ start: first.start ?? 0, end: last.end ?? 0, text: names.join(joint) }];
}

/**
 * The edits of a component's or a module's `imports`: names come, and one may go.
 * @param drop a name that nothing needs any more
 */
export function moduleEdits(
  component: AngularComponent,
  add: readonly string[],
  drop: string | undefined,
): { file: string; script: Script; edits: FileEdit[] } | undefined {
  const { home } = component;
  if (!home) return undefined;
  const { script, list, metadata } = home;
  const style = styleOf(script.text);
  const done = (edits: Edit[]): { file: string; script: Script; edits: FileEdit[] } => ({
    file: script.file,
    script,
    edits: edits.map((edit) => ({ file: script.file, ...edit })),
  });
  if (!list) {
    const { properties } = metadata;
    const named = (key: string): t.Node | undefined =>
      properties.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: key }));
    const before = named('standalone') ?? named('selector') ?? properties[0];
    const start = before?.start ?? 0;
    const alone = script.text.slice(script.lines.lineStart(start), start).trim() === '';
    const joint = alone ? style.newline + indentAt(script.text, start) : ' ';
    const at = before?.end ?? 0;
    return done(before ? [{ start: at, end: at, text: `,${joint}imports: [${add.join(', ')}]` }] : []);
  }
  const named = (name: string | undefined): t.Node | undefined =>
    list.elements.find((element) => name !== undefined && t.isIdentifier(element, { name })) ?? undefined;
  const missing = add.filter((name) => !named(name));
  const old = named(drop);
  const [first, second] = list.elements;
  const joint = first && second ? script.text.slice(first.end ?? 0, second.start ?? 0) : ', ';
  if (!missing.length) return done(old ? [elementRemoval(list, old)] : []);
  if (old) return done([{ start: old.start ?? 0, end: old.end ?? 0, text: missing.join(joint) }]);
  const last = list.elements.at(-1);
  if (!last) return done([{ start: (list.start ?? 0) + 1, end: (list.start ?? 0) + 1, text: missing.join(', ') }]);
  return done([{ start: last.end ?? 0, end: last.end ?? 0, text: joint + missing.join(joint) }]);
}

function elementRemoval(list: t.ArrayExpression, node: t.Node): Edit {
  const index = list.elements.indexOf(node as t.Expression);
  const next = list.elements[index + 1];
  const previous = list.elements[index - 1];
  if (next) return { start: node.start ?? 0, end: next.start ?? 0, text: '' };
  return { start: previous?.end ?? node.start ?? 0, end: node.end ?? 0, text: '' };
}

/** Takes an attribute away with the white space before it. */
export function attributeRemoval(text: string, span: Span, base = 0): FileEdit {
  let { start } = span;
  while (start > base && /\s/.test(text[start - 1] ?? '')) start--;
  return { file: span.file, start, end: span.end, text: '' };
}

/** A member's own lines, with the comments and decorators that stand with it. */
export function memberRemoval(script: Script, member: Pick<Member, 'node'>): Edit {
  const start = member.node.start ?? 0;
  const decorators = 'decorators' in member.node ? (member.node.decorators ?? []) : [];
  const first = Math.min(start, ...decorators.map((decorator) => decorator.start ?? start));
  return { ...wholeLines(script.text, { start: first, end: member.node.end ?? 0 }), text: '' };
}

/** Comments inside a stretch of a script, as texts with their places. */
export function commentsIn(
  script: Script,
  span: { start: number; end: number },
): { text: string; start: number; end: number }[] {
  return (script.ast.comments ?? [])
    .filter((comment) => (comment.start ?? 0) >= span.start && (comment.end ?? 0) <= span.end)
    .map((comment) => ({
      text: script.text.slice(comment.start ?? 0, comment.end ?? 0),
      start: comment.start ?? 0,
      end: comment.end ?? 0,
    }));
}

/** Offset behind the last property of a class, where methods may begin; and whether properties stand there at all. */
export function behindProperties(component: AngularComponent): number {
  const { body } = component.path.node;
  const last = body.body.filter((member) => t.isClassProperty(member)).at(-1);
  return last?.end ?? (body.start ?? 0) + 1;
}

/** The white space before the members of a class. */
export function memberIndent(component: AngularComponent): string {
  const { script, path } = component;
  const [first] = path.node.body.body;
  return first
    ? indentAt(script.text, first.start ?? 0)
    : indentAt(script.text, path.node.start ?? 0) + styleOf(script.text).indent;
}

/** Groups fields by their first key: `address.town` stands in the group `address`. */
export interface FieldTree {
  field: Field | undefined;
  children: Map<string, FieldTree>;
}

/** @param fields fields with paths */
export function fieldTree(fields: readonly Field[]): FieldTree {
  const root: FieldTree = { field: undefined, children: new Map() };
  for (const field of fields) {
    let at = root;
    for (const key of field.name.split('.')) {
      const next = at.children.get(key) ?? { field: undefined, children: new Map<string, FieldTree>() };
      at.children.set(key, next);
      at = next;
    }
    at.field = field;
  }
  return root;
}

/** A key as it stands in an object literal. */
export function keyText(key: string, context: WriteContext): string {
  return /^[A-Za-z_$][\w$]*$/.test(key) ? key : quoted(key, context.style);
}

/** Access to a key: `.town` or `['home-town']`. */
export function accessText(key: string): string {
  return /^[A-Za-z_$][\w$]*$/.test(key) ? `.${key}` : `['${key}']`;
}

/** Access to a value by its path: `.place.town`. */
export function pathText(path: string): string {
  return path === '' ? '' : path.split('.').map(accessText).join('');
}

/** An object in which given values are laid over others. */
export function laidOver(before: string, given: string): string {
  const inner = /^\{\s*([\s\S]*?),?\s*\}$/.exec(given.trim())?.[1] ?? `...${given}`;
  return `{ ...${before}, ${inner} }`;
}

/** A name for the values before a change that does not stand in the new ones. */
export function nameOfBefore(given: string): string {
  return /\bvalues\b/.test(given) ? 'before' : 'values';
}

/**
 * The edits of the list of imports, with those of the import declarations of each file that the others make necessary,
 * and the declarations of the form's own file that only the old approach needed.
 * @param edits the other edits
 * @param listed the edits of a list of imports, and the script it stands in
 * @param wanted names by the package or file they come from, as a file of that folder calls it
 * @param ledger declarations that go are said there; none go where it is left out
 */
export function importsAfter(
  component: AngularComponent,
  edits: readonly FileEdit[],
  listed: { script: Script; edits: FileEdit[] } | undefined,
  wanted: (folder: string) => Record<string, readonly string[]>,
  ledger?: LedgerEntry[],
): FileEdit[] {
  const { script } = component;
  const all = [...(listed?.edits ?? [])];
  const own = (file: string): FileEdit[] => outsideOfGone([...edits, ...all].filter((edit) => edit.file === file));
  if (ledger)
    all.push(...spareDeclarations(script, own(script.file), ledger).map((edit) => ({ file: script.file, ...edit })));
  const scripts = new Set([script, ...(listed ? [listed.script] : [])]);
  const files = new Map([...scripts].map((one) => [one.file, one]));
  const imports = [...files.values()].flatMap((one) =>
    importEdits(one, own(one.file), wanted(path.dirname(one.file))).map((edit) => ({ file: one.file, ...edit })),
  );
  return [...all, ...imports];
}

/** A file as another one of a folder names it in an import. */
export function specifierFrom(folder: string, file: string): string {
  const relative = path.relative(folder, file).split(path.sep).join('/').replace(/\.ts$/, '');
  return relative.startsWith('.') ? relative : `./${relative}`;
}

/** The form's element, controls' elements and the rest as places of the ledger. */
export function controlSpan(model: FormModel, field: string): Span {
  return model.controls.find((control) => control.field === field)?.span ?? model.span;
}
