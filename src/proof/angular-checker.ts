import { createRequire } from 'node:module';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import type * as ts from 'typescript';
import { moduleDeclaring } from '../angular/module.js';
import { diskWorkspace } from '../source/workspace.js';
import { newComplaints, type Complaint, type Texts } from './proof.js';
import { complaintsIn, hostOf, installed, projectSettings, type TypesChecker } from './typescript-checker.js';

type TypeScript = typeof ts;
/** What is asked of Angular's compiler. */
interface AngularCompiler {
  NgtscProgram: new (roots: readonly string[], options: ts.CompilerOptions, host: ts.CompilerHost) => AngularProgram;
  readConfiguration(file: string): { options: ts.CompilerOptions };
}

interface AngularProgram {
  loadNgStructureAsync(): Promise<void>;
  getTsSyntacticDiagnostics(): readonly ts.Diagnostic[];
  getTsSemanticDiagnostics(): readonly ts.Diagnostic[];
  getNgStructuralDiagnostics(): readonly ts.Diagnostic[];
  getNgSemanticDiagnostics(): readonly ts.Diagnostic[];
}

/** A checker of components and their templates with the project's own Angular compiler. */
export function angularChecker(): TypesChecker {
  const kept = new Map<string, ts.SourceFile>();
  return {
    async compare(files, after) {
      const scripts = files.filter((file) => /\.ts$/.test(file));
      const [first] = scripts;
      if (first === undefined) return { kind: 'none', why: 'no script of the form changes' };
      const angular = await angularCompiler(first);
      if (!angular) return { kind: 'none', why: '@angular/compiler-cli is not installed here' };
      // the compiler's own TypeScript, which need not be the project's
      const compiler = installed<TypeScript>('typescript', angular.file) ?? installed<TypeScript>('typescript', first);
      if (!compiler) return { kind: 'none', why: 'typescript is not installed here' };
      const settings = optionsFor(angular.module, compiler, first);
      const homes = modulesOf(scripts);
      const complaintsOf = async (texts: Texts): Promise<Complaint[]> => {
        const host = hostOf(compiler, settings.options, texts, kept);
        const present = [...new Set([...scripts, ...homes])].filter((file) => host.fileExists(file));
        const program = new angular.module.NgtscProgram(
          [...present, ...settings.declarations],
          settings.options,
          withResources(host),
        );
        await program.loadNgStructureAsync();
        const all = [
          ...program.getTsSyntacticDiagnostics(),
          ...program.getTsSemanticDiagnostics(),
          ...program.getNgStructuralDiagnostics(),
          ...program.getNgSemanticDiagnostics(),
        ];
        const touched = new Set([...scripts, ...files]);
        return complaintsIn(compiler, all).filter(({ file }) => file === '' || touched.has(path.resolve(file)));
      };
      try {
        const before = await complaintsOf(new Map());
        const complaints = newComplaints(before, await complaintsOf(after));
        if (complaints.length) return { kind: 'worse', complaints };
        return before.some(({ message }) => /Cannot find module '@angular\//.test(message))
          ? { kind: 'none', why: 'the packages of Angular are not installed here' }
          : { kind: 'same' };
      } catch (error) {
        const reason = error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error);
        return { kind: 'none', why: `Angular's compiler stopped: ${reason}` };
      }
    },
  };
}

/** Templates are read where scripts are. */
function withResources(host: ts.CompilerHost): ts.CompilerHost & { readResource(name: string): string } {
  return Object.assign(host, { readResource: (name: string) => host.readFile(name) ?? '' });
}

async function angularCompiler(from: string): Promise<{ module: AngularCompiler; file: string } | undefined> {
  try {
    const file = createRequire(from).resolve('@angular/compiler-cli');
    return { module: (await import(pathToFileURL(file).href)) as AngularCompiler, file };
  } catch {
    return undefined;
  }
}

/** The project's settings with those for templates; strict ones where the project has none. */
function optionsFor(
  angular: AngularCompiler,
  compiler: TypeScript,
  from: string,
): { options: ts.CompilerOptions; declarations: string[] } {
  const { options, declarations, found } = projectSettings(compiler, from);
  const config = found ? compiler.findConfigFile(path.dirname(from), compiler.sys.fileExists) : undefined;
  const own = config === undefined ? {} : angular.readConfiguration(config).options;
  const template = config === undefined ? { strictTemplates: true } : {};
  const more = found ? {} : { experimentalDecorators: true, useDefineForClassFields: false };
  return {
    options: { ...options, ...more, ...own, ...template, noEmit: true, skipLibCheck: true } as ts.CompilerOptions,
    declarations,
  };
}

/** Files of the modules that declare the components of some files. */
function modulesOf(scripts: readonly string[]): string[] {
  return scripts.flatMap((file) => {
    const read = diskWorkspace.read(file);
    const names = read.ok
      ? [...read.text.matchAll(/export (?:default )?class (\w+)/g)].map(([, name]) => name ?? '')
      : [];
    return names.flatMap((name) => moduleDeclaring(name, file, diskWorkspace)?.script.file ?? []);
  });
}
