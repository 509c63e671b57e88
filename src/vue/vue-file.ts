import path from 'node:path';
import type { RootNode } from '@vue/compiler-dom';
import { parse } from '@vue/compiler-sfc';
import { parseScript, type ParseProblem, type Script } from '../source/script.js';
import type { Workspace } from '../source/workspace.js';

/** A Vue file as its readers see it. Offsets count in the whole file, also in its script. */
export interface VueFile {
  file: string;
  text: string;
  /** Undefined where it has no template of its own. */
  template: RootNode | undefined;
  /** Its script, which may be a file of its own; undefined where it has none. */
  script: Script | undefined;
  /** Whether names of the script are those of the template as they stand. */
  setup: boolean;
  /** The file, and that of its script. */
  files: string[];
}

export type VueFileResult = { ok: true; vue: VueFile } | { ok: false; problem: ParseProblem };

/** Reads a single-file component: both styles of script, and a script in a file of its own. */
export function readVueFile(file: string, text: string, workspace: Workspace): VueFileResult {
  const { descriptor, errors } = parse(text, { filename: file, sourceMap: false });
  const [error] = errors;
  if (error) {
    const place = 'loc' in error ? error.loc?.start : undefined;
    return {
      ok: false,
      problem: { file, line: place?.line ?? 1, column: place?.column ?? 1, reason: error.message },
    };
  }
  const { template, script, scriptSetup } = descriptor;
  const vue: VueFile = {
    file,
    text,
    template: template?.ast ?? undefined,
    script: undefined,
    setup: scriptSetup !== null,
    files: [file],
  };
  if (script?.src !== undefined) {
    const other = path.resolve(path.dirname(file), script.src);
    const read = workspace.read(other);
    if (!read.ok) return { ok: true, vue };
    const parsed = parseScript(other, read.text);
    return parsed.ok ? { ok: true, vue: { ...vue, script: parsed.script, files: [file, other] } } : parsed;
  }
  const blocks = [script, scriptSetup].flatMap((block) => (block ? [block] : []));
  if (!blocks.length) return { ok: true, vue };
  const lang = blocks.map((block) => block.lang).find((one) => one !== undefined) ?? 'js';
  const parsed = parseScript(
    `${file}.${lang}`,
    onlyWithin(
      text,
      blocks.map(({ loc }) => loc),
    ),
  );
  if (!parsed.ok) return { ok: false, problem: { ...parsed.problem, file } };
  return { ok: true, vue: { ...vue, script: { ...parsed.script, file, text } } };
}

/** A text of which all but some stretches is blank, so that offsets and lines stay. */
function onlyWithin(
  text: string,
  stretches: readonly { start: { offset: number }; end: { offset: number } }[],
): string {
  let result = '';
  let at = 0;
  for (const { start, end } of [...stretches].sort((a, b) => a.start.offset - b.start.offset)) {
    result += text.slice(at, start.offset).replace(/[^\r\n]/g, ' ') + text.slice(start.offset, end.offset);
    at = end.offset;
  }
  return result + text.slice(at).replace(/[^\r\n]/g, ' ');
}
