import path from 'node:path';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { Edit } from '../../source/edits.js';
import { importedFrom } from '../../source/handed-names.js';
import { moduleFor, relativePath } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { declarationNamed } from '../../source/type-members.js';
import { wholeLines } from '../../source/removal.js';
import { quoted } from '../../source/style.js';
import { spanOf } from '../code.js';
import { hookModule, importOf } from '../hook-calls.js';
import { reactImportEdits } from '../import-edits.js';
import { namedReferences } from '../references.js';
import type { HookCall } from './hook-call.js';
import { type Move, leave } from './move.js';

interface ModuleParts {
  text: string;
  imports: { module: string; name: string; local: string; isType: boolean }[];
}

/** What the moved text needs of the hook's module: declarations move along, imports are made again. */
export function moduleParts(move: Move, written: string, constants: readonly string[]): ModuleParts {
  const { hook, site, context } = move;
  const parts: string[] = [];
  const imports: ModuleParts['imports'] = [];
  const done = new Set<string>();
  const ownText = withoutImports(site.script);
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
          const source = node.source.value;
          const module = source.startsWith('.') ? fromHere(move, source) : source;
          if (isOther(move, { module, name: imported, local: name }))
            leave(move, spanOf(hook.script.file, { node: specifier }), name, otherOfThisName);
          else imports.push({ module, name: imported, local: name, isType });
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
        new RegExp(`\\b(type|interface|const|let|function|class)\\s+${name}\\b`).test(ownText),
      );
      const source = hook.script.text.slice(node.start ?? 0, node.end ?? 0);
      const module = moduleFor(site.script, hook.script, hook.from, site.load);
      const taken =
        known === undefined
          ? asked.find((name) => isOther(move, { module, name, local: name }))
          : site.script.text.includes(source)
            ? undefined
            : known;
      if (taken !== undefined) {
        leave(move, spanOf(hook.script.file, { node }), taken, otherOfThisName);
        continue;
      }
      if (known !== undefined) continue;
      if (t.isExportNamedDeclaration(statement)) {
        const isType = t.isTSTypeAliasDeclaration(node) || t.isTSInterfaceDeclaration(node);
        for (const name of asked) imports.push({ module, name, local: name, isType });
        continue;
      }
      if (t.isClassDeclaration(node) || t.isVariableDeclaration(node, { kind: 'let' })) {
        leave(
          move,
          spanOf(hook.script.file, { node }),
          asked.join(', '),
          'the hook’s file shares it and does not export it',
        );
        continue;
      }
      parts.push(source);
      need(source);
    }
  };
  if (hook.script !== site.script) need(written);
  parts.push(...constants);
  const gap = context.style.newline + context.style.newline;
  return { text: parts.length ? parts.join(gap) + gap : '', imports };
}

const otherOfThisName = 'the component’s file has something else of this name';

/** The text of a script without what it imports. */
function withoutImports({ ast, text }: Script): string {
  const ends = ast.program.body
    .filter((node) => t.isImportDeclaration(node))
    .map(({ start, end }) => [start ?? 0, end ?? 0] as const);
  return ends.reduceRight((rest, [start, end]) => rest.slice(0, start) + rest.slice(end), text);
}

/** A relative module of the hook's file as the component's file names it. */
function fromHere({ site, hook }: Move, module: string): string {
  return relativePath(path.dirname(site.script.file), path.join(path.dirname(hook.script.file), module));
}

/** Whether the component knows something else by the local name of what the moved code needs. */
function isOther({ site, hook }: Move, wanted: { module: string; name: string; local: string }): boolean {
  const binding = site.component.path.scope.getBinding(wanted.local);
  if (!binding) return false;
  const has = importedFrom(site.script, wanted.local);
  // an import of a type alone is a binding of no known kind
  if (!has || !binding.path.parentPath?.isImportDeclaration()) return true;
  if (has.module === wanted.module && has.name === wanted.name) return false;
  // React itself may be handed on by a module of the project
  const isReact = [site.script, hook.script].every(
    ({ ast }, index) => hookModule(ast.program) === [has, wanted][index]?.module,
  );
  if (isReact && has.name === wanted.name) return false;
  const [here, there] = [site.script, hook.script].map((script) => declarationNamed(wanted.local, script, site.load));
  return here?.script.file !== there?.script.file || here?.node.start !== there?.node.start;
}

/** Edits of the component's imports: what the moved code needs comes, the hook goes where nothing else calls it. */
export function importEdits(move: Move, wanted: ModuleParts['imports'], written: string): RewritePlan['edits'] {
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
    return `import ${isType ? 'type ' : ''}${names.join(', ')} from ${quoted(module, style)}${style.semicolon}`;
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
