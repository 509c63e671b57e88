import path from 'node:path';
import ts from 'typescript';

/** Type-checks files with everything strict; gives the errors as `file:line message`. */
export function typeErrors(folder: string, files: readonly string[]): string[] {
  const program = ts.createProgram(
    files.map((file) => path.join(folder, file)),
    {
      target: ts.ScriptTarget.ES2022,
      module: ts.ModuleKind.ESNext,
      moduleResolution: ts.ModuleResolutionKind.Bundler,
      lib: ['lib.es2023.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
      jsx: ts.JsxEmit.ReactJSX,
      strict: true,
      noUnusedLocals: true,
      noEmit: true,
      skipLibCheck: true,
      types: [],
    },
  );
  return ts.getPreEmitDiagnostics(program).map((diagnostic) => {
    const text = ts.flattenDiagnosticMessageText(diagnostic.messageText, ' ');
    if (!diagnostic.file) return text;
    const { line } = diagnostic.file.getLineAndCharacterOfPosition(diagnostic.start ?? 0);
    return `${path.relative(folder, diagnostic.file.fileName)}:${line + 1} ${text}`;
  });
}
