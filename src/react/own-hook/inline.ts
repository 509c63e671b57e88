import path from 'node:path';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { FormModel, Span } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { applyEdits, type Edit } from '../../source/edits.js';
import { wholeLines } from '../../source/removal.js';
import type { Script } from '../../source/script.js';
import { indentAt, quoted } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { importOf } from '../hook-calls.js';
import { reactImportEdits } from '../import-edits.js';
import { namedReferences } from '../references.js';
import { argumentEdits, type GivenArguments } from './arguments.js';
import { membersOf, returnedBy, takenBy, type HookCall } from './hook-call.js';
import { expressionTypes } from '../../source/expression-types.js';
import { spreadEdits } from './spreads.js';

/** What the parts of the move share. */
export interface Move {
  site: FormSite;
  context: WriteContext;
  hook: HookCall;
  /** Edits of the hook's text that say its body in the component's words. */
  edits: Edit[];
  /** Names of the hook's body by the names they get in the component. */
  renamed: Map<string, string>;
  ledger: LedgerEntry[];
}

export function leave(move: Move, span: Span, what: string, why: string): void {
  move.ledger.push({ entry: 'by-hand', span, what, why });
}

/** Text of the hook with the edits made so far. */
export function moved(move: Move, node: t.Node): string {
  const start = node.start ?? 0;
  const end = node.end ?? 0;
  const inside = move.edits
    .filter((edit) => edit.start >= start && edit.end <= end)
    .map((edit) => ({ ...edit, start: edit.start - start, end: edit.end - start }));
  return applyEdits(move.hook.script.text.slice(start, end), inside);
}

/** Writes what a hook of the project does into the component that calls it. */
export function writeInlined(model: FormModel, context: WriteContext, site: FormSite, hook: HookCall): RewritePlan {
  const move: Move = { site, context, hook, edits: [], renamed: new Map(), ledger: [] };
  const { script } = site;
  const place = spanOf(script.file, hook.declarator);
  const what = script.text.slice(place.start, place.end).split('\n')[0] ?? '';
  const returned = returnedBy(hook.fn);
  const members = returned && membersOf(returned);
  const taken = takenBy(hook.declarator);
  if (!members || !taken || hook.declaration.node.declarations.length !== 1)
    leave(move, place, what, 'what the hook gives is not told by one return of an object or a list');
  if (hook.fn.node.async || hook.fn.node.generator) leave(move, place, what, 'it is no plain function');
  const given = argumentEdits(move);
  if (!members || !taken || !given || move.ledger.length) return leftByHand(byHandOf(move));
  const componentEdits: Edit[] = [];
  const asked = askedMembers(move, taken, members, componentEdits);
  if (!asked || move.ledger.length) return leftByHand(byHandOf(move));
  nameMembers(move, asked, members);
  typeEdits(move);
  const spreads = spreadEdits(move, asked, members);
  const inSpread = (edit: Edit): boolean =>
    spreads.edits.some(({ start, end }) => edit.start >= start && edit.end <= end);
  const ownEdits = [...componentEdits.filter((edit) => !inSpread(edit)), ...spreads.edits];
  if (move.ledger.length) return leftByHand(byHandOf(move));
  const lines = namedAsHere(move, bodyLines(move, given, asked, members, spreads.only));
  const spread = spreads.edits.map(({ text }) => text);
  const above = moduleParts(move, [...given.above, ...lines, ...spread].join('\n'), given.above);
  if (move.ledger.length) return leftByHand(byHandOf(move));
  const indent = indentAt(script.text, hook.declaration.node.start ?? 0);
  const joint = context.style.newline + indent;
  const edits: RewritePlan['edits'] = [
    { ...spanOf(script.file, hook.declaration), text: lines.join(joint) },
    ...ownEdits.map((edit) => ({ file: script.file, ...edit })),
  ];
  if (above.text !== '') edits.push({ file: model.file, start: model.before, end: model.before, text: above.text });
  edits.push(...importEdits(move, above.imports, lines.join('\n') + above.text));
  if (hook.from === undefined) edits.push(...ownDeclaration(move));
  for (const control of model.controls)
    move.ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same value',
    });
  move.ledger.push({ entry: 'carried', span: place, what, why: 'what the hook does stands in the component now' });
  if (hook.from !== undefined)
    move.ledger.push({
      entry: 'kept',
      span: { file: hook.script.file, start: hook.fn.node.start ?? 0, end: hook.fn.node.start ?? 0 },
      what: 'the hook itself',
      why: 'other components may use it',
    });
  return { edits, creates: [], deletes: [], dependencies: [], ledger: move.ledger };
}

/** Hooks of React that the hook's file imports by name, called as the component's file calls them. */
function namedAsHere({ hook, site }: Move, lines: string[]): string[] {
  if (hook.script === site.script) return lines;
  const names = hook.script.ast.program.body.flatMap((node) =>
    t.isImportDeclaration(node) && node.source.value === 'react'
      ? node.specifiers.flatMap((one) =>
          t.isImportSpecifier(one) && t.isIdentifier(one.imported, { name: one.local.name }) ? [one.local.name] : [],
        )
      : [],
  );
  const hooks = names.filter((name) => /^use[A-Z]/.test(name) && lines.some((line) => line.includes(name)));
  const { call } = reactImportEdits(site.script, { add: hooks, drop: [] }, (name) =>
    namedReferences(site.script, name),
  );
  return lines.map((line) =>
    hooks.reduce((text, name) => text.replace(new RegExp(`(?<![.\\w$])${name}(?=[(<])`, 'g'), () => call(name)), line),
  );
}

/** A hook of the component's own file goes when nothing else calls it. */
function ownDeclaration({ hook, site }: Move): RewritePlan['edits'] {
  const statement = hook.fn.getStatementParent() ?? hook.fn;
  const exported = statement.parentPath?.isExportNamedDeclaration() === true || statement.isExportNamedDeclaration();
  const uses = hook.call.scope.getBinding(calleeName(hook))?.references ?? 2;
  if (exported || uses > 1) return [];
  const { text } = site.script;
  const { start, end } = wholeLines(text, spanOf(site.script.file, statement));
  return [{ file: site.script.file, start, end, text: '' }];
}

function byHandOf(move: Move): LedgerEntry[] {
  return move.ledger.filter(({ entry }) => entry === 'by-hand');
}

/** The members that the component asks for, by the names it knows them by. */
function askedMembers(
  move: Move,
  taken: NonNullable<ReturnType<typeof takenBy>>,
  members: ReadonlyMap<string, NodePath>,
  edits: Edit[],
): Map<string, string> | undefined {
  const { site, hook } = move;
  const { script } = site;
  const missing = (key: string, span: Span): undefined => {
    leave(move, span, key, 'the hook gives nothing of this name');
    return undefined;
  };
  if (taken.kind === 'names') {
    for (const key of taken.names.keys())
      if (!members.has(key)) return missing(key, spanOf(script.file, hook.declarator));
    return taken.names;
  }
  const asked = new Map<string, string>();
  const binding = hook.declarator.scope.getBinding(taken.name);
  for (const reference of binding?.referencePaths ?? []) {
    const member = reference.parentPath;
    const span = spanOf(script.file, reference);
    // `const { values } = form`
    if (member?.isVariableDeclarator() && t.isObjectPattern(member.node.id)) {
      leave(move, span, taken.name, 'members are taken out of what the hook gives in a statement of their own');
      return undefined;
    }
    if (!member?.isMemberExpression() || member.node.computed || !t.isIdentifier(member.node.property)) {
      leave(move, span, taken.name, 'all that the hook gives is handed on together');
      return undefined;
    }
    const { name } = member.node.property;
    if (!members.has(name)) return missing(name, spanOf(script.file, member));
    const own = hook.declarator.scope.hasBinding(name)
      ? move.context.freeName(name, `${taken.name}${name.charAt(0).toUpperCase()}${name.slice(1)}`)
      : name;
    asked.set(name, asked.get(name) ?? own);
    edits.push({ start: member.node.start ?? 0, end: member.node.end ?? 0, text: asked.get(name) ?? name });
  }
  return asked;
}

/** Names of the hook's own body become those by which the component knows the members. */
function nameMembers(move: Move, asked: ReadonlyMap<string, string>, members: ReadonlyMap<string, NodePath>): void {
  const { hook, site } = move;
  for (const [key, local] of asked) {
    const value = members.get(key);
    if (!value?.isIdentifier()) continue;
    if (!move.renamed.has(value.node.name)) move.renamed.set(value.node.name, local);
  }
  nameSetters(move);
  const again = hook.call.scope.getBinding(calleeName(hook))?.references ?? 1;
  const lead = [...asked.values()][0] ?? 'form';
  for (const [name, binding] of Object.entries(hook.fn.scope.bindings)) {
    if (binding.kind === 'param') continue;
    const wished = move.renamed.get(name);
    const taken = site.component.path.scope.hasBinding(name) || [...move.renamed.values()].includes(name);
    const crowded = taken || again > 1 || hasSibling(site, name);
    const clash = wished === undefined && hook.script !== site.script && crowded;
    const next = wished ?? (clash ? move.context.freeName(prefixed(lead, name), `${name}OfForm`) : name);
    if (clash) move.renamed.set(name, next);
    if (next === name) continue;
    for (const reference of [...binding.referencePaths.map(({ node }) => node), binding.identifier]) {
      const parent = referenceParent(hook.fn, reference);
      const short = t.isObjectProperty(parent) && parent.shorthand ? `${name}: ` : '';
      move.edits.push({ start: reference.start ?? 0, end: reference.end ?? 0, text: short + next });
    }
    for (const change of binding.constantViolations) {
      const span = { file: hook.script.file, start: change.node.start ?? 0, end: change.node.end ?? 0 };
      leave(move, span, name, 'a variable of the hook is assigned anew');
    }
  }
}

/** Whether the component keeps a state variable that another call of such a hook left: `townTouched` beside `touched`. */
function hasSibling(site: FormSite, name: string): boolean {
  const tail = name.replace(/^set(?=[A-Z])/, '');
  const end = tail.charAt(0).toUpperCase() + tail.slice(1);
  return Object.entries(site.component.path.scope.bindings).some(
    ([other, { path: declared }]) =>
      other !== name && other.endsWith(end) && declared.isVariableDeclarator() && t.isArrayPattern(declared.node.id),
  );
}

function calleeName({ call }: HookCall): string {
  return t.isIdentifier(call.node.callee) ? call.node.callee.name : '';
}

/** `left` of `bird` is `birdLeft`, `setLeft` is `setBirdLeft`. */
function prefixed(lead: string, name: string): string {
  const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
  return /^set[A-Z]/.test(name) ? `set${upper(lead)}${name.slice(3)}` : lead + upper(name);
}

/** Where a value has the component's name, its setter is called after that. */
function nameSetters({ hook, renamed, site }: Move): void {
  for (const binding of Object.values(hook.fn.scope.bindings)) {
    const declarator = binding.path;
    const pattern = declarator.isVariableDeclarator() ? declarator.node.id : undefined;
    if (!t.isArrayPattern(pattern)) continue;
    const [value, setter] = pattern.elements;
    const given = t.isIdentifier(value) ? renamed.get(value.name) : undefined;
    if (given === undefined || !t.isIdentifier(setter) || renamed.has(setter.name) || !t.isIdentifier(value)) continue;
    const name = `set${given.charAt(0).toUpperCase()}${given.slice(1)}`;
    if (given !== value.name && !site.component.path.scope.hasBinding(name)) renamed.set(setter.name, name);
  }
}

function referenceParent(fn: NodePath, node: t.Node): t.Node | undefined {
  let found: t.Node | undefined;
  fn.traverse({
    Identifier(inner) {
      if (inner.node === node) found = inner.parent;
    },
  });
  return found;
}

/** The types that stand for the hook's type parameters where the component calls it. */
export function givenTypes(move: Move): Map<string, string> {
  const { hook, site } = move;
  const found = new Map<string, string>();
  const parameters = hook.fn.node.typeParameters;
  if (!t.isTSTypeParameterDeclaration(parameters)) return found;
  const given = hook.call.node.typeParameters?.params ?? [];
  for (const [index, parameter] of parameters.params.entries()) {
    const name = String(parameter.name);
    const written = given[index];
    const text = written ? site.script.text.slice(written.start ?? 0, written.end ?? 0) : inferredType(move, name);
    if (text !== undefined) found.set(name, text);
  }
  return found;
}

/** The hook's type parameters give way to the types the component names. */
function typeEdits(move: Move): void {
  const { hook } = move;
  const parameters = hook.fn.node.typeParameters;
  if (!t.isTSTypeParameterDeclaration(parameters)) return;
  const types = givenTypes(move);
  const body = hook.fn.get('body') as NodePath;
  for (const parameter of parameters.params) {
    const name = String(parameter.name);
    const text = types.get(name);
    body.traverse({
      ForInStatement(loop) {
        leave(
          move,
          spanOf(hook.script.file, loop),
          `for … in`,
          `its keys are typed by ${name}, which only the hook knows`,
        );
        loop.skip();
      },
      TSTypeReference(reference) {
        if (!t.isIdentifier(reference.node.typeName, { name })) return;
        if (text === undefined) {
          const span = spanOf(hook.script.file, reference);
          leave(move, span, name, 'which type it stands for is not written where the hook is called');
          reference.stop();
          return;
        }
        move.edits.push({ start: reference.node.start ?? 0, end: reference.node.end ?? 0, text });
      },
    });
  }
}

/** The type of the argument whose parameter is typed by nothing but the type parameter. */
function inferredType({ hook, site }: Move, name: string): string | undefined {
  for (const [index, parameter] of hook.fn.node.params.entries()) {
    const inner = t.isAssignmentPattern(parameter) ? parameter.left : parameter;
    const annotation = t.isIdentifier(inner) ? inner.typeAnnotation : undefined;
    if (!t.isTSTypeAnnotation(annotation)) continue;
    const type = annotation.typeAnnotation;
    if (!t.isTSTypeReference(type) || !t.isIdentifier(type.typeName, { name })) continue;
    const argument = hook.call.node.arguments[index];
    if (t.isObjectExpression(argument))
      return expressionTypes(site.script).typeOf((hook.call.get('arguments') as NodePath[])[index] as NodePath);
    if (!t.isIdentifier(argument)) return undefined;
    const declared = hook.call.scope.getBinding(argument.name)?.path;
    const id = declared?.isVariableDeclarator() ? declared.node.id : undefined;
    const own = t.isIdentifier(id) ? id.typeAnnotation : undefined;
    if (t.isTSTypeAnnotation(own))
      return site.script.text.slice(own.typeAnnotation.start ?? 0, own.typeAnnotation.end ?? 0);
    return `typeof ${argument.name}`;
  }
  return undefined;
}

/** The hook's statements as they stand in the component; what nothing there needs is left out. */
function bodyLines(
  move: Move,
  given: GivenArguments,
  asked: ReadonlyMap<string, string>,
  members: ReadonlyMap<string, NodePath>,
  spreadOnly: ReadonlyMap<string, NodePath>,
): string[] {
  const { hook, context } = move;
  const body = hook.fn.get('body') as NodePath<t.BlockStatement>;
  const statements = body.get('body').filter((statement) => !statement.isReturnStatement());
  const wanted = new Set<string>();
  const want = (root: NodePath): void => {
    const visit = (inner: NodePath): void => {
      if (!inner.isIdentifier() || !inner.isReferencedIdentifier()) return;
      if (inner.scope.getBinding(inner.node.name)?.scope.path.node === hook.fn.node) wanted.add(inner.node.name);
    };
    visit(root);
    root.traverse({ Identifier: visit });
  };
  for (const [key] of asked) want(spreadOnly.get(key) ?? (members.get(key) as NodePath));
  for (const path of given.kept) want(path);
  const kept = new Set<NodePath>();
  for (let changed = true; changed;) {
    changed = false;
    for (const statement of statements) {
      if (kept.has(statement) || given.gone.has(statement.node)) continue;
      const names = Object.keys(t.getBindingIdentifiers(statement.node, false, true));
      const declares = statement.isVariableDeclaration() || statement.isFunctionDeclaration();
      if (declares && !names.some((name) => wanted.has(name))) continue;
      kept.add(statement);
      want(statement);
      changed = true;
    }
  }
  const own = indentAt(hook.script.text, statements[0]?.node.start ?? 0);
  const to = indentAt(move.site.script.text, hook.declaration.node.start ?? 0);
  const placed = (text: string, from = own): string =>
    text
      .split('\n')
      .map((line, index) => (index > 0 && line.startsWith(from) ? to + line.slice(from.length) : line))
      .join('\n');
  const lines = [...given.lines];
  for (const statement of statements) {
    if (!kept.has(statement)) continue;
    trimPattern(move, statement, wanted);
    const comments = (statement.node.leadingComments ?? [])
      .filter((comment) => (comment.start ?? 0) > (body.node.start ?? 0))
      .map((comment) => hook.script.text.slice(comment.start ?? 0, comment.end ?? 0));
    lines.push(...comments, placed(moved(move, statement.node)));
  }
  for (const [key, local] of asked) {
    const value = members.get(key);
    if (!value || spreadOnly.has(key)) continue;
    const depth = indentAt(hook.script.text, value.node.start ?? 0);
    if (value.isObjectMethod()) {
      const open = hook.script.text.indexOf('(', value.node.key.end ?? 0);
      const text = moved(move, value.node).slice(open - (value.node.start ?? 0));
      lines.push(placed(`${value.node.async ? 'async ' : ''}function ${local}${text}`, depth));
    } else if (!value.isIdentifier() || move.renamed.get(value.node.name) !== local) {
      const same = value.isIdentifier() && (move.renamed.get(value.node.name) ?? value.node.name) === local;
      if (!same) lines.push(`const ${local} = ${placed(moved(move, value.node), depth)}${context.style.semicolon}`);
    }
  }
  return lines;
}

/** A pair of which the component needs one half only. */
function trimPattern(move: Move, statement: NodePath, wanted: ReadonlySet<string>): void {
  if (!statement.isVariableDeclaration()) return;
  for (const { id } of statement.node.declarations) {
    if (!t.isArrayPattern(id)) continue;
    const [first, second] = id.elements;
    const isUsed = (node: t.Node | null | undefined): boolean => t.isIdentifier(node) && wanted.has(node.name);
    if (!t.isIdentifier(first) || !t.isIdentifier(second)) continue;
    if (!isUsed(second)) move.edits.push({ start: first.end ?? 0, end: second.end ?? 0, text: '' });
    else if (!isUsed(first)) {
      move.edits = move.edits.filter((edit) => edit.start !== first.start);
      move.edits.push({ start: first.start ?? 0, end: first.end ?? 0, text: '' });
    }
  }
}

interface ModuleParts {
  text: string;
  imports: { module: string; name: string; local: string; isType: boolean }[];
}

/** What the moved text needs of the hook's module: declarations move along, imports are made again. */
function moduleParts(move: Move, written: string, constants: readonly string[]): ModuleParts {
  const { hook, site, context } = move;
  const parts: string[] = [];
  const imports: ModuleParts['imports'] = [];
  const done = new Set<string>();
  const need = (text: string): void => {
    for (const statement of hook.script.ast.program.body) {
      const node = t.isExportNamedDeclaration(statement) && statement.declaration ? statement.declaration : statement;
      if (t.isImportDeclaration(node)) {
        for (const specifier of node.specifiers) {
          const { name } = specifier.local;
          if (done.has(name) || !new RegExp(`(?<![.\\w$])${name}\\b`).test(text)) continue;
          done.add(name);
          const imported = t.isImportSpecifier(specifier)
            ? t.isIdentifier(specifier.imported)
              ? specifier.imported.name
              : specifier.imported.value
            : t.isImportDefaultSpecifier(specifier)
              ? 'default'
              : '*';
          const isType =
            node.importKind === 'type' || (t.isImportSpecifier(specifier) && specifier.importKind === 'type');
          imports.push({ module: node.source.value, name: imported, local: name, isType });
        }
        continue;
      }
      const names = Object.keys(t.getBindingIdentifiers(node, false, true));
      if ((t.isTSTypeAliasDeclaration(node) || t.isTSInterfaceDeclaration(node)) && node.id.name)
        names.push(node.id.name);
      const asked = names.filter((name) => !done.has(name) && new RegExp(`(?<![.\\w$])${name}\\b`).test(text));
      if (!asked.length || (node.start === hook.fn.node.start && t.isFunctionDeclaration(node))) continue;
      if ((node.start ?? 0) <= (hook.fn.node.start ?? 0) && (node.end ?? 0) >= (hook.fn.node.end ?? 0)) continue;
      for (const name of names) done.add(name);
      const known = asked.find((name) =>
        new RegExp(`\\b(type|interface|const|let|function|class)\\s+${name}\\b`).test(site.script.text),
      );
      const source = hook.script.text.slice(node.start ?? 0, node.end ?? 0);
      if (known !== undefined && !site.script.text.includes(source)) {
        leave(move, spanOf(hook.script.file, { node }), known, 'the component’s file has something else of this name');
        continue;
      }
      if (known !== undefined) continue;
      parts.push(source);
      need(source);
    }
  };
  if (hook.script !== site.script) need(written);
  parts.push(...constants);
  const gap = context.style.newline + context.style.newline;
  return { text: parts.length ? parts.join(gap) + gap : '', imports };
}

function importEdits(move: Move, wanted: ModuleParts['imports'], written: string): RewritePlan['edits'] {
  const { site, hook, context } = move;
  const { script } = site;
  const { style } = context;
  const edits: RewritePlan['edits'] = [];
  const has = (local: string): boolean =>
    script.ast.program.body.some(
      (node) => t.isImportDeclaration(node) && node.specifiers.some((one) => one.local.name === local),
    );
  const missing = wanted.filter(({ local }) => !has(local));
  const hooks = missing.filter(({ module, isType, name, local }) => module === 'react' && !isType && name === local);
  if (hooks.length || missing.length) {
    const result = reactImportEdits(script, { add: hooks.map(({ name }) => name), drop: [] }, (name) =>
      namedReferences(script, name),
    );
    edits.push(...result.edits.map((edit) => ({ file: script.file, ...edit })));
  }
  const rest = missing.filter((one) => !hooks.includes(one));
  const byModule = new Map<string, typeof rest>();
  for (const one of rest) {
    const key = `${one.isType ? 'type ' : ''}${one.module}`;
    byModule.set(key, [...(byModule.get(key) ?? []), one]);
  }
  const lines = [...byModule].map(([key, list]) => {
    const isType = key.startsWith('type ');
    const module = isType ? key.slice(5) : key;
    const from = module.startsWith('.') ? relativeTo(script.file, hook.script.file, module) : module;
    const whole = list.find(({ name }) => name === '*');
    const main = list.find(({ name }) => name === 'default');
    const named = list.filter(({ name }) => name !== '*' && name !== 'default');
    const names = [
      ...(main ? [main.local] : []),
      ...(whole ? [`* as ${whole.local}`] : []),
      ...(named.length
        ? [`{ ${named.map(({ name, local }) => (name === local ? name : `${name} as ${local}`)).join(', ')} }`]
        : []),
    ];
    return `import ${isType ? 'type ' : ''}${names.join(', ')} from ${quoted(from, style)}${style.semicolon}`;
  });
  const own = ownImport(hook);
  const callee = hook.call.node.callee;
  const uses = t.isIdentifier(callee) ? (hook.call.scope.getBinding(callee.name)?.references ?? 0) : 0;
  if (own && uses === 1 && !new RegExp(`\\b${t.isIdentifier(callee) ? callee.name : ''}\\(`).test(written)) {
    const { declaration, specifier } = own;
    if (declaration.specifiers.length === 1) {
      const place = { start: declaration.start ?? 0, end: declaration.end ?? 0 };
      if (lines.length) edits.push({ file: script.file, ...place, text: lines.join(style.newline) });
      else edits.push({ file: script.file, ...wholeLines(script.text, place), text: '' });
      return edits;
    }
    edits.push({ file: script.file, ...listItem(script.text, specifier) });
  }
  const last = script.ast.program.body.filter((node) => t.isImportDeclaration(node)).at(-1);
  const at = last?.end ?? 0;
  if (lines.length) {
    const text = lines.join(style.newline);
    edits.push({ file: script.file, start: at, end: at, text: last ? style.newline + text : text + style.newline });
  }
  return edits;
}

function listItem(text: string, node: t.Node): Edit {
  const start = node.start ?? 0;
  const end = node.end ?? 0;
  const behind = /^\s*,\s*/.exec(text.slice(end));
  if (behind) return { start, end: end + behind[0].length, text: '' };
  const before = /,\s*$/.exec(text.slice(0, start));
  return { start: start - (before?.[0].length ?? 0), end, text: '' };
}

function ownImport(hook: HookCall): { declaration: t.ImportDeclaration; specifier: t.Node } | undefined {
  const callee = hook.call.get('callee') as NodePath;
  if (!callee.isIdentifier() || !importOf(callee)) return undefined;
  const specifier = callee.scope.getBinding(callee.node.name)?.path;
  const declaration = specifier?.parent;
  return specifier && t.isImportDeclaration(declaration) ? { declaration, specifier: specifier.node } : undefined;
}

function relativeTo(file: string, hookScript: string, module: string): string {
  const target = path.join(path.dirname(hookScript), module);
  const relative = path.relative(path.dirname(file), target).split(path.sep).join('/');
  return relative.startsWith('.') ? relative : `./${relative}`;
}

export type { Script };
