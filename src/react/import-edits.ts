import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { hookModule } from './hook-calls.js';
import { styleOf, quoted } from '../source/style.js';

/** What a file's imports from React should gain and lose. */
export interface ImportWish {
  /** Names to import, such as `useReducer`. */
  add: readonly string[];
  /** Names that may go when nothing else in the file refers to them. */
  drop: readonly string[];
}

interface TextEdit {
  start: number;
  end: number;
  text: string;
}

/** How the file calls a hook of React, and the edits of its imports that make it so. */
export interface ImportResult {
  /** The text that calls a wished name: `useReducer` or `React.useReducer`. */
  call(name: string): string;
  edits: TextEdit[];
}

function reactImports(script: Script): t.ImportDeclaration[] {
  const module = hookModule(script.ast.program);
  return script.ast.program.body.filter(
    (node): node is t.ImportDeclaration =>
      t.isImportDeclaration(node) && node.source.value === module && node.importKind !== 'type',
  );
}

/** Where a file that imports React’s types by a statement of their own names the last of them. */
function lastTypeImport({ ast }: Script): number | undefined {
  const module = hookModule(ast.program);
  const types = ast.program.body.find(
    (node) => t.isImportDeclaration(node) && node.source.value === module && node.importKind === 'type',
  );
  const last = t.isImportDeclaration(types) ? types.specifiers.at(-1) : undefined;
  return t.isImportSpecifier(last) ? (last.end ?? undefined) : undefined;
}

/** The pattern of `const { useState } = require('react')`. */
function requiredPattern(script: Script): t.ObjectPattern | undefined {
  for (const node of script.ast.program.body) {
    if (!t.isVariableDeclaration(node)) continue;
    for (const { id, init } of node.declarations) {
      if (!t.isObjectPattern(id) || !init) continue;
      const text = script.text.slice(init.start ?? 0, init.end ?? 0);
      if (/^require\((['"])react\1\)$/.test(text) || text === 'React') return id;
    }
  }
  return undefined;
}

function specifierName(node: t.Node): string | undefined {
  if (t.isImportSpecifier(node)) return t.isIdentifier(node.imported) ? node.imported.name : node.imported.value;
  return t.isObjectProperty(node) && t.isIdentifier(node.key) ? node.key.name : undefined;
}

/**
 * Plans the edits of a file's React imports.
 * @param usesLeft how many references to a dropped name stay in the file
 */
export function reactImportEdits(script: Script, wish: ImportWish, usesLeft: (name: string) => number): ImportResult {
  const declarations = reactImports(script);
  const named = declarations.find((node) => node.specifiers.some((specifier) => t.isImportSpecifier(specifier)));
  const whole = declarations
    .flatMap((node) => node.specifiers)
    .find((specifier) => t.isImportDefaultSpecifier(specifier) || t.isImportNamespaceSpecifier(specifier));
  const pattern = named ? undefined : requiredPattern(script);
  const list: t.Node[] | undefined = named
    ? named.specifiers.filter((node) => t.isImportSpecifier(node))
    : pattern?.properties;
  if (!list?.length) {
    if (whole) return { call: (name) => `${whole.local.name}.${name}`, edits: [] };
    const globalReact = /\bReact\.use[A-Z]/.test(script.text);
    if (globalReact) return { call: (name) => `React.${name}`, edits: [] };
    const style = styleOf(script.text);
    const from = quoted('react', style);
    const first = script.ast.program.body.find((node) => t.isImportDeclaration(node));
    const areTypes = wish.add.length > 0 && wish.add.every((name) => name.startsWith('type '));
    const beside = areTypes ? lastTypeImport(script) : undefined;
    if (beside !== undefined) {
      const text = wish.add.map((name) => `, ${name.slice('type '.length)}`).join('');
      return { call: (name) => name, edits: [{ start: beside, end: beside, text }] };
    }
    const names = wish.add.map((name) => (areTypes ? name.slice('type '.length) : name)).join(', ');
    const text = `import ${areTypes ? 'type ' : ''}{ ${names} } from ${from}${style.semicolon}${style.newline}${first ? '' : style.newline}`;
    return {
      call: (name) => name,
      edits: wish.add.length ? [{ start: first?.start ?? 0, end: first?.start ?? 0, text }] : [],
    };
  }
  const present = new Map(list.map((node) => [specifierName(node), node]));
  const local = (name: string): string => {
    const node = present.get(name);
    if (t.isImportSpecifier(node)) return node.local.name;
    return t.isObjectProperty(node) && t.isIdentifier(node.value) ? node.value.name : name;
  };
  const missing = wish.add.filter((name) => !present.has(name));
  const gone = [...new Set(wish.drop)].filter((name) => present.has(name) && usesLeft(local(name)) === 0);
  return { call: local, edits: listEdits(script, list, present, missing, gone) };
}

function listEdits(
  script: Script,
  list: t.Node[],
  present: Map<string | undefined, t.Node>,
  missing: string[],
  gone: string[],
): TextEdit[] {
  const whole = dropWholeImport(script, list, gone, missing);
  if (whole) return whole;
  const goneNodes = new Set(gone.map((name) => present.get(name)));
  const waiting = [...missing];
  const first = list[0];
  const last = list.at(-1);
  if (!first || !last || (!gone.length && !missing.length)) return [];
  const entries = list.flatMap((node, index) => {
    const before = list[index - 1];
    const lead = before ? script.text.slice(before.end ?? 0, node.start ?? 0) : '';
    const name = specifierName(node) ?? '';
    if (!goneNodes.has(node))
      return [
        {
          lead,
          name,
          text: script.text.slice(node.start ?? 0, node.end ?? 0),
          isType: t.isImportSpecifier(node) && node.importKind === 'type',
        },
      ];
    const replacement = waiting.shift();
    return replacement === undefined ? [] : [{ lead, name: replacement, text: replacement, isType: false }];
  });
  const common = entries[1]?.lead ?? (list[1] ? script.text.slice(first.end ?? 0, list[1].start ?? 0) : ', ');
  for (const name of waiting)
    entries.splice(placeFor(name, entries), 0, { lead: common, name, text: name, isType: false });
  const text = entries.map((entry, index) => (index === 0 ? '' : entry.lead || common) + entry.text).join('');
  return [{ start: first.start ?? 0, end: last.end ?? 0, text }];
}

/** Where a new name belongs: by the alphabet where the others follow it, behind the last hook otherwise. */
function placeFor(name: string, entries: readonly { name: string; isType: boolean }[]): number {
  const values = entries.filter((entry) => !entry.isType).map((entry) => entry.name);
  const sorted = values.every((value, index) => index === 0 || (values[index - 1] ?? '') <= value);
  const fits = (entry: { name: string; isType: boolean }): boolean =>
    !entry.isType && (sorted ? entry.name < name : /^use[A-Z]/.test(entry.name));
  const after = entries.map(fits).lastIndexOf(true);
  if (after >= 0) return after + 1;
  return sorted ? 0 : values.length;
}

/** Where every name of an import goes and none comes, the import goes with its line. */
function dropWholeImport(script: Script, list: t.Node[], gone: string[], missing: string[]): TextEdit[] | undefined {
  if (missing.length || gone.length !== list.length) return undefined;
  const declaration = script.ast.program.body.find(
    (node) => t.isImportDeclaration(node) && node.specifiers.some((specifier) => specifier === list[0]),
  );
  if (!t.isImportDeclaration(declaration)) return undefined;
  const other = declaration.specifiers.find((specifier) => !t.isImportSpecifier(specifier));
  if (other) {
    const brace = script.text.indexOf('}', list.at(-1)?.end ?? 0) + 1;
    return [{ start: other.end ?? 0, end: brace, text: '' }];
  }
  let end = declaration.end ?? 0;
  if (script.text.startsWith('\r\n', end)) end += 2;
  else if (script.text[end] === '\n') end += 1;
  return [{ start: declaration.start ?? 0, end, text: '' }];
}
