import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import type * as ts from 'typescript';
import { newComplaints, type Complaint, type Texts, type TypesProof } from './proof.js';

type TypeScript = typeof ts;

/** Compares what the project's own TypeScript says of files; what it has read serves every rewrite of one call. */
export interface TypesChecker {
  /**
   * @param files absolute paths of the scripts that a rewrite touches
   * @param after their texts after it
   */
  compare(files: readonly string[], after: Texts): TypesProof | Promise<TypesProof>;
}

/** The project's own compiler, found from a file of it; undefined where none is installed. */
export function installed<Module>(name: string, from: string): Module | undefined {
  try {
    return createRequire(from)(name) as Module;
  } catch {
    return undefined;
  }
}

const usual: ts.CompilerOptions = {
  strict: true,
  skipLibCheck: true,
  noEmit: true,
  allowJs: true,
  resolveJsonModule: true,
};

/** The settings under which a project compiles a file: its own, or those of the part that holds the file. */
function settingsFor(compiler: TypeScript, config: string, from: string, depth = 0): ts.ParsedCommandLine {
  const read = compiler.readConfigFile(config, (name) => readFileSync(name, 'utf8'));
  const parsed = compiler.parseJsonConfigFileContent(read.config, compiler.sys, path.dirname(config));
  const holds = ({ fileNames }: ts.ParsedCommandLine): boolean =>
    fileNames.some((name) => path.resolve(name) === path.resolve(from));
  if (holds(parsed) || depth > 3) return parsed;
  const parts = (parsed.projectReferences ?? [])
    .map((reference) => compiler.resolveProjectReferencePath(reference))
    .filter((name) => existsSync(name))
    .map((name) => settingsFor(compiler, name, from, depth + 1));
  return parts.find(holds) ?? (parsed.fileNames.length ? parsed : (parts[0] ?? parsed));
}

/** The settings of a project, and the files of declarations that every file of it sees. */
export function projectSettings(
  compiler: TypeScript,
  from: string,
): { options: ts.CompilerOptions; declarations: string[]; found: boolean } {
  const file = compiler.findConfigFile(path.dirname(from), (name) => existsSync(name));
  if (file === undefined) {
    const options = {
      ...usual,
      jsx: compiler.JsxEmit.ReactJSX,
      target: compiler.ScriptTarget.ES2022,
      module: compiler.ModuleKind.ESNext,
      moduleResolution: compiler.ModuleResolutionKind.Bundler,
      lib: ['lib.es2022.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
    };
    return { options, declarations: [], found: false };
  }
  const parsed = settingsFor(compiler, file, from);
  return {
    options: {
      ...parsed.options,
      noEmit: true,
      skipLibCheck: true,
      composite: false,
      incremental: false,
      declaration: false,
    },
    declarations: parsed.fileNames.filter((name) => /\.d\.[cm]?ts$/.test(name)),
    found: true,
  };
}

/** A checker of scripts with the project's own TypeScript. Files are read from the disk, the rewritten ones from memory. */
export function typescriptChecker(): TypesChecker {
  const kept = new Map<string, ts.SourceFile>();
  let old: ts.Program | undefined;
  return {
    compare(files, after) {
      const scripts = files.filter((file) => /\.[cm]?tsx?$/.test(file));
      const [first] = scripts;
      if (first === undefined)
        return { kind: 'none', why: 'the form is written in JavaScript, which the compiler does not check' };
      const compiler = installed<TypeScript>('typescript', first);
      if (!compiler) return { kind: 'none', why: 'typescript is not installed here' };
      if (typeof compiler.createProgram !== 'function')
        return { kind: 'none', why: 'the typescript that is installed here cannot be asked from a program' };
      const { options, declarations } = projectSettings(compiler, first);
      const complaintsOf = (texts: Texts): Complaint[] => {
        const host = hostOf(compiler, options, texts, kept);
        const roots = [...scripts.filter((file) => texts.get(file) !== null && host.fileExists(file)), ...declarations];
        const program = compiler.createProgram({
          rootNames: roots,
          options,
          host,
          ...(old ? { oldProgram: old } : {}),
        });
        old = program;
        return scripts.flatMap((file) => {
          const source = program.getSourceFile(file);
          return source
            ? complaintsIn(compiler, [
                ...program.getSyntacticDiagnostics(source),
                ...program.getSemanticDiagnostics(source),
              ])
            : [];
        });
      };
      const before = complaintsOf(new Map());
      const now = complaintsOf(after);
      const complaints = newComplaints(before, now);
      if (complaints.length) return { kind: 'worse', complaints };
      const lacking = before.find(({ message }) =>
        /declaration file for module '(?:react|vue)\b|Cannot find module '(?:react|vue)'/.test(message),
      );
      return lacking ? { kind: 'none', why: 'the types of the framework are not installed here' } : { kind: 'same' };
    },
  };
}

/** Diagnostics as complaints, in the order of their places. */
export function complaintsIn(compiler: TypeScript, diagnostics: readonly ts.Diagnostic[]): Complaint[] {
  return diagnostics
    .filter(({ category }) => category === compiler.DiagnosticCategory.Error)
    .map(({ file, start, messageText }) => ({
      file: file?.fileName ?? '',
      line: file && start !== undefined ? file.getLineAndCharacterOfPosition(start).line + 1 : 0,
      message: compiler.flattenDiagnosticMessageText(messageText, ' ').replace(/\s+/g, ' '),
    }));
}

/** A host that reads the disk, with some texts in memory over it; what did not change is parsed once. */
export function hostOf(
  compiler: TypeScript,
  options: ts.CompilerOptions,
  texts: Texts,
  kept: Map<string, ts.SourceFile>,
): ts.CompilerHost {
  const host = compiler.createCompilerHost(options, true);
  const readFile = host.readFile.bind(host);
  const fileExists = host.fileExists.bind(host);
  const getSourceFile = host.getSourceFile.bind(host);
  const inMemory = (name: string): string | null | undefined => texts.get(path.resolve(name));
  host.readFile = (name) => {
    const text = inMemory(name);
    return text === undefined ? readFile(name) : (text ?? undefined);
  };
  host.fileExists = (name) => {
    const text = inMemory(name);
    return text === undefined ? fileExists(name) : text !== null;
  };
  host.getSourceFile = (name, language, onError, fresh) => {
    const text = inMemory(name);
    if (text === null) return undefined;
    if (text !== undefined) return compiler.createSourceFile(name, text, language, true);
    const known = kept.get(name);
    if (known) return known;
    const source = getSourceFile(name, language, onError, fresh);
    if (source) kept.set(name, source);
    return source;
  };
  return host;
}
