import path from 'node:path';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import type { RewritePlan } from '../../form/ledger.js';
import { applyEdits } from '../../source/edits.js';
import { wholeLines } from '../../source/removal.js';
import { parseScript, type Script } from '../../source/script.js';
import { signalForms } from '../signal-model/found-form.js';
import { unusableWhile } from '../unusable-while.js';
import { besideOnce } from '../written-once.js';
import { importEdits, moduleEdits, specifierFrom, type FileEdit } from '../writing.js';
import { helpersFile } from './helpers-file.js';
import { leave, type Leaving } from './leaving.js';
import { plainIdentifiers } from './rule-texts.js';

/** Imports of every file that is touched, and the file of helpers. */
export function supportEdits(leaving: Leaving): RewritePlan['creates'] {
  const { component, supports, context, ledger } = leaving;
  const { script } = component;
  const helpers = path.join(path.dirname(script.file), helpersFile.fileName);
  const directives =
    component.home?.list?.elements.filter(
      (one) => t.isIdentifier(one) && /^(FormField|FormRoot|Field|Control)$/.test(one.name),
    ) ?? [];
  const [first, ...others] = directives.map((one) => (t.isIdentifier(one) ? one.name : ''));
  const unusable = leaving.needs.has('unusable');
  const directive = path.join(path.dirname(script.file), unusableWhile.fileName);
  const listing = ['ReactiveFormsModule', ...(unusable ? [unusableWhile.className] : [])];
  const listed = moduleEdits(component, listing, first);
  leaving.edits.push(...(listed?.edits ?? []));
  for (const name of others) leaving.edits.push(...(moduleEdits(component, [], name)?.edits ?? []));
  if (listed)
    ledger.push({
      entry: 'retired',
      span: { file: listed.file, start: listed.edits[0]?.start ?? 0, end: listed.edits[0]?.end ?? 0 },
      what: first ?? 'FormField',
      why: 'ReactiveFormsModule takes its place',
    });
  const scripts = new Map<string, Script>(
    [script, ...supports.keys(), ...(listed ? [listed.script] : [])].map((one) => [one.file, one]),
  );
  for (const one of scripts.values()) {
    const own = leaving.edits.filter(({ file }) => file === one.file);
    const names = [...(supports.get(one) ?? [])].sort();
    const wanted = {
      '@angular/forms': ['FormArray', 'FormControl', 'FormGroup', 'ReactiveFormsModule', 'Validators'],
      [specifierFrom(path.dirname(one.file), helpers)]: names,
      ...(unusable ? { [specifierFrom(path.dirname(one.file), directive)]: [unusableWhile.className] } : {}),
      ...(one === script ? typesWanted(leaving) : {}),
    };
    const gone = packageImports(one);
    const within = (edit: { start: number; end: number }): boolean =>
      gone.some(({ start, end }) => edit.start >= (start ?? 0) && edit.end <= (end ?? 0));
    const made = importEdits(one, own, wanted);
    const imports = made.filter((edit) => !within(edit));
    // what takes the place of the package’s import stands where that stood
    const coming = made.flatMap((edit) => (within(edit) && edit.text.includes('import ') ? [edit.text.trim()] : []));
    const [first, ...others] = gone;
    if (first && coming.length)
      imports.push({ ...spanOfNode(one.file, first), text: coming.join(context.style.newline) });
    else if (first) others.unshift(first);
    for (const declaration of others)
      imports.push({ ...wholeLines(one.text, spanOfNode(one.file, declaration)), text: '' });
    leaving.edits.push(...imports.map((edit): FileEdit => ({ file: one.file, ...edit })));
    leftWords(one, gone, leaving);
  }
  const asked = [...supports.values()].some((names) => names.size > 0);
  const needed = [...(asked ? [helpersFile] : []), ...(unusable ? [unusableWhile] : [])];
  for (const one of needed) {
    const file = path.join(path.dirname(script.file), one.fileName);
    if (context.exists(file) && context.text(file) !== one.text(context))
      leave(leaving, { file: script.file, start: 0, end: 0 }, `a file ${one.fileName} stands there already`);
  }
  return besideOnce(script.file, needed, context);
}

/** Types of other files, by the file as the class's file calls it. */
function typesWanted({ types, component }: Leaving): Record<string, string[]> {
  const wanted: Record<string, string[]> = {};
  for (const [name, { file }] of types) {
    const own = component.script.ast.program.body.find(
      (node) => t.isImportDeclaration(node) && isFile(node.source.value, component.script.file, file),
    );
    const specifier = t.isImportDeclaration(own)
      ? own.source.value
      : specifierFrom(path.dirname(component.script.file), file);
    (wanted[specifier] ??= []).push(name);
  }
  return wanted;
}

/** Whether a module's name in one file means another file. */
function isFile(module: string, from: string, file: string): boolean {
  return (
    module.startsWith('.') &&
    path.resolve(path.dirname(from), module).replace(/\.[jt]s$/, '') === file.replace(/\.ts$/, '')
  );
}

/** Where a script imports from the package of signal forms. */
function packageImports({ ast }: Script): t.ImportDeclaration[] {
  return ast.program.body.filter(
    (node): node is t.ImportDeclaration => t.isImportDeclaration(node) && node.source.value === signalForms,
  );
}

/** What the result still speaks of, though its import is gone, is left by hand. */
function leftWords(script: Script, gone: readonly t.ImportDeclaration[], leaving: Leaving): void {
  const edits = leaving.edits.filter(({ file }) => file === script.file);
  const result = parseScript(script.file, applyEdits(script.text, edits));
  if (!result.ok) return void leave(leaving, { file: script.file, start: 0, end: 0 }, result.problem.reason);
  const names = new Set(gone.flatMap(({ specifiers }) => specifiers.map(({ local }) => local.name)));
  for (const { name } of plainIdentifiers(result.script.ast.program)) {
    if (!names.delete(name) || result.script.program.scope.hasOwnBinding(name)) continue;
    const [, found] = plainIdentifiers(script.ast.program).filter((one) => one.name === name);
    const span = found ? spanOfNode(script.file, found) : { file: script.file, start: 0, end: 0 };
    leave(leaving, span, `${name} of the package is still spoken of`);
  }
}
