import { hookModule } from './hook-calls.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { wholeLines } from '../source/removal.js';
import { walk } from '../source/traverse.js';

/** A stretch of text that goes. */
interface Gone {
  start: number;
  end: number;
}

/** Declarations and imports of a file that nothing needs any more. */
export interface Retirement {
  /** Spans of whole statements or import specifiers to take away. */
  edits: { start: number; end: number; text: string }[];
  /** Names that went, for the account. */
  names: { name: string; start: number; end: number }[];
  /** Comments inside of or directly above what went, in order. */
  comments: { text: string; start: number }[];
  /** Names imported from React that nothing refers to any more. */
  deadReactNames: string[];
  /** Whether nothing refers to an imported name any more. */
  isDead(name: string): boolean;
}

/** A declaration of one name, at the top of a file or inside of a function. */
interface Declared {
  name: string;
  statement: NodePath<t.Statement>;
  exported: boolean;
  references: Gone[];
}

function place(node: { start?: number | null | undefined; end?: number | null | undefined }): Gone {
  return { start: node.start ?? 0, end: node.end ?? 0 };
}

/** Every reference to a name of the top level, types included. */
function referencesByName(script: Script): Map<string, Gone[]> {
  const found = new Map<string, Gone[]>();
  const add = (name: string, node: t.Node): void => {
    found.set(name, [...(found.get(name) ?? []), place(node)]);
  };
  for (const [name, binding] of Object.entries(script.program.scope.bindings)) {
    for (const reference of binding.referencePaths) add(name, reference.node);
  }
  walk(script.program, {
    TSTypeReference(path) {
      let name: t.Node = path.node.typeName;
      while (t.isTSQualifiedName(name)) name = name.left;
      if (t.isIdentifier(name)) add(name.name, path.node);
    },
    TSTypeQuery(path) {
      let name: t.Node = path.node.exprName;
      while (t.isTSQualifiedName(name)) name = name.left;
      if (t.isIdentifier(name)) add(name.name, path.node);
    },
    TSExpressionWithTypeArguments(path) {
      if (t.isIdentifier(path.node.expression)) add(path.node.expression.name, path.node);
    },
  });
  return found;
}

function topLevel(script: Script): Declared[] {
  const references = referencesByName(script);
  const found: Declared[] = [];
  for (const statement of script.program.get('body')) {
    const exported = statement.isExportNamedDeclaration() || statement.isExportDefaultDeclaration();
    const node = t.isExportNamedDeclaration(statement.node) ? statement.node.declaration : statement.node;
    const names =
      t.isTSTypeAliasDeclaration(node) ||
      t.isTSInterfaceDeclaration(node) ||
      t.isFunctionDeclaration(node) ||
      t.isTSEnumDeclaration(node)
        ? [node.id?.name ?? '']
        : t.isVariableDeclaration(node) && node.declarations.length === 1
          ? Object.keys(t.getBindingIdentifiers(node))
          : [];
    const [name] = names;
    if (names.length === 1 && name) found.push({ name, statement, exported, references: references.get(name) ?? [] });
  }
  return found;
}

/** Whether an expression can go without anything missing what it did. */
function isQuiet(node: t.Node | null | undefined): boolean {
  if (!node || t.isLiteral(node) || t.isFunction(node) || t.isIdentifier(node)) return true;
  if (t.isMemberExpression(node)) return !node.computed && isQuiet(node.object);
  if (t.isArrayExpression(node)) return node.elements.every((element) => isQuiet(element));
  if (t.isObjectExpression(node))
    return node.properties.every(
      (one) => t.isObjectMethod(one) || isQuiet(t.isObjectProperty(one) ? one.value : one.argument),
    );
  if (
    t.isTSAsExpression(node) ||
    t.isTSSatisfiesExpression(node) ||
    t.isUnaryExpression(node) ||
    t.isSpreadElement(node)
  )
    return isQuiet(t.isUnaryExpression(node) || t.isSpreadElement(node) ? node.argument : node.expression);
  return t.isBinaryExpression(node) && isQuiet(node.left) && isQuiet(node.right);
}

/** Constants and functions that functions of the file declare for themselves. */
function declaredInside(script: Script): Declared[] {
  const found: Declared[] = [];
  const add = (name: string, statement: NodePath<t.Statement>): void => {
    const binding = statement.scope.getBinding(name);
    const references = binding?.referencePaths.map(({ node }) => place(node)) ?? [];
    if (binding?.constant) found.push({ name, statement, exported: false, references });
  };
  walk(script.program, {
    VariableDeclaration(path) {
      const [only, ...more] = path.node.declarations;
      const inBlock = path.parentPath.isBlockStatement();
      if (inBlock && only && !more.length && t.isIdentifier(only.id) && isQuiet(only.init)) add(only.id.name, path);
    },
    FunctionDeclaration(path) {
      if (path.parentPath.isBlockStatement() && path.node.id) add(path.node.id.name, path);
    },
  });
  return found;
}

function within(inner: Gone, outers: readonly Gone[]): boolean {
  return outers.some((outer) => inner.start >= outer.start && inner.end <= outer.end);
}

/**
 * Finds what a file no longer needs once some spans are gone.
 * @param gone spans that are taken away or replaced
 * @param written the text that comes in their place: a name in it is still needed
 * @param mayDropExports whether an exported declaration may go, too
 */
export function retirementOf(
  script: Script,
  gone: readonly Gone[],
  written: string,
  mayDropExports: (name: string) => boolean,
): Retirement {
  const words = new Set(written.match(/[A-Za-z_$][\w$]*/g) ?? []);
  const outers: Gone[] = [...gone];
  const retired: Declared[] = [];
  const locals = declaredInside(script).filter(({ statement }) => !within(place(statement.node), gone));
  const candidates = [...topLevel(script), ...locals].filter(
    ({ name, exported }) => !words.has(name) && (!exported || mayDropExports(name)),
  );
  for (let again = true; again;) {
    again = false;
    for (const candidate of [...candidates]) {
      const own = place(candidate.statement.node);
      const outside = candidate.references.filter((reference) => !within(reference, [own]));
      if (!outside.length && !(candidate.exported && mayDropExports(candidate.name))) continue;
      if (!outside.every((reference) => within(reference, outers))) continue;
      if (!(locals.includes(candidate) && within(own, outers))) retired.push(candidate);
      outers.push(own);
      candidates.splice(candidates.indexOf(candidate), 1);
      again = true;
    }
  }
  const edits: Retirement['edits'] = [];
  const comments: Retirement['comments'] = [];
  for (const { statement } of retired) {
    const { start, end, comments: above } = withComments(statement, script);
    comments.push(...above);
    edits.push({ ...wholeLines(script.text, { start, end }), text: '' });
  }
  const names = retired.map(({ name, statement }) => ({ name, ...place(statement.node) }));
  edits.push(...importEdits(script, outers, words));
  return {
    edits,
    names,
    comments: comments.sort((a, b) => a.start - b.start),
    deadReactNames: deadReactNames(script, outers, words),
    isDead: (name) =>
      !words.has(name) && (referencesByName(script).get(name) ?? []).every((reference) => within(reference, outers)),
  };
}

/** A statement with the comments directly above it, and every comment that goes with it. */
function withComments(statement: NodePath<t.Statement>, script: Script): Gone & { comments: Retirement['comments'] } {
  const { start, end } = place(statement.node);
  let first = start;
  for (const comment of [...(statement.node.leadingComments ?? [])].reverse()) {
    const between = script.text.slice(comment.end ?? 0, first);
    const ownLine = script.text.slice(script.lines.lineStart(comment.start ?? 0), comment.start ?? 0).trim() === '';
    if (!ownLine || /\n[ \t]*\r?\n/.test(between)) break;
    first = comment.start ?? first;
  }
  const comments = (script.ast.comments ?? [])
    .filter((comment) => (comment.start ?? 0) >= first && (comment.end ?? 0) <= end)
    .map((comment) => ({ text: script.text.slice(comment.start ?? 0, comment.end ?? 0), start: comment.start ?? 0 }));
  return { start: first, end, comments };
}

/** Names imported from React beside its hooks, types mostly, that only gone code referred to. */
function deadReactNames(script: Script, outers: readonly Gone[], words: ReadonlySet<string>): string[] {
  const references = referencesByName(script);
  const module = hookModule(script.ast.program);
  return script.ast.program.body.flatMap((node) => {
    if (!t.isImportDeclaration(node) || node.source.value !== module || node.importKind === 'type') return [];
    return node.specifiers.flatMap((specifier) => {
      const { name } = specifier.local;
      const found = references.get(name) ?? [];
      const dead =
        t.isImportSpecifier(specifier) &&
        !words.has(name) &&
        found.length > 0 &&
        found.every((reference) => within(reference, outers));
      return dead && t.isImportSpecifier(specifier) && t.isIdentifier(specifier.imported)
        ? [specifier.imported.name]
        : [];
    });
  });
}

/** Import specifiers that only gone code referred to. React's own are looked after elsewhere. */
function importEdits(script: Script, outers: readonly Gone[], words: ReadonlySet<string>): Retirement['edits'] {
  const references = referencesByName(script);
  const module = hookModule(script.ast.program);
  const edits: Retirement['edits'] = [];
  for (const node of script.ast.program.body) {
    if (!t.isImportDeclaration(node) || !node.specifiers.length) continue;
    const dead = node.specifiers.filter((specifier) => {
      const { name } = specifier.local;
      const found = references.get(name) ?? [];
      return !words.has(name) && found.length > 0 && found.every((reference) => within(reference, outers));
    });
    if (!dead.length) continue;
    if (node.source.value === module && node.importKind !== 'type') continue;
    if (dead.length === node.specifiers.length) edits.push({ ...wholeLines(script.text, place(node)), text: '' });
    else edits.push(...specifierEdits(node, dead, script));
  }
  return edits;
}

function specifierEdits(
  node: t.ImportDeclaration,
  dead: t.ImportDeclaration['specifiers'],
  script: Script,
): Retirement['edits'] {
  const named = node.specifiers.filter((specifier) => t.isImportSpecifier(specifier));
  const edits: Retirement['edits'] = [];
  for (const specifier of dead) {
    const index = named.findIndex((candidate) => candidate === specifier);
    const next = named[index + 1];
    const previous = named[index - 1];
    if (next) edits.push({ start: specifier.start ?? 0, end: next.start ?? 0, text: '' });
    else if (previous && !dead.includes(previous))
      edits.push({ start: previous.end ?? 0, end: specifier.end ?? 0, text: '' });
    else if (!previous && named.length === 1 && node.specifiers.length === 1)
      edits.push({ ...wholeLines(script.text, place(node)), text: '' });
  }
  return edits;
}
