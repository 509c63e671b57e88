import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { WriteContext } from '../../form/writing.js';
import type { Script } from '../../source/script.js';
import { quoted } from '../../source/style.js';
import type { HookFile } from '../form-hook/hook-file.js';
import type { FurtherImports } from './draft.js';

/** The import of the project's hook, where the file lacks it. `others` are the edits made so far. */
export function hookImport(
  script: Script,
  hook: HookFile,
  further: FurtherImports | undefined,
  { style }: WriteContext,
  others: RewritePlan['edits'],
): RewritePlan['edits'] {
  const imports = script.ast.program.body.filter((node) => t.isImportDeclaration(node));
  const known = imports.find((node) => node.specifiers.some(({ local }) => local.name === hook.name));
  if (known) return importedBeside(known, script.file, further, style);
  const last = imports.at(-1);
  const names = [hook.name, ...(further?.names ?? [])].join(', ');
  const own = `import { ${names} } from ${quoted(hook.from, style)}${style.semicolon}`;
  const line = [own, ...(further?.lines ?? [])].join(style.newline);
  const start = last?.end ?? 0;
  // the last import may go itself, with its line
  const gone = others.find(
    (edit) => edit.file === script.file && edit.start < start && edit.end >= start && edit.text === '',
  );
  if (gone) return [{ file: script.file, start: gone.end, end: gone.end, text: line + style.newline }];
  return [{ file: script.file, start, end: start, text: last ? `${style.newline}${line}` : `${line}${style.newline}` }];
}

/** What a form needs of a hook that another form of the file has imported already. */
function importedBeside(
  known: t.ImportDeclaration,
  file: string,
  further: FurtherImports | undefined,
  style: WriteContext['style'],
): RewritePlan['edits'] {
  const there = new Set(known.specifiers.map(({ local }) => local.name));
  const names = (further?.names ?? []).filter((name) => !there.has(name.replace(/^type /, '')));
  const last = known.specifiers.at(-1)?.end ?? 0;
  const end = known.end ?? 0;
  return [
    ...(names.length ? [{ file, start: last, end: last, text: `, ${names.join(', ')}` }] : []),
    ...(further?.lines ?? []).map((line) => ({ file, start: end, end, text: `${style.newline}${line}` })),
  ];
}
