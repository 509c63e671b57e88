import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './project.js';

/** Compiles folders of a project with Angular's own compiler, in one run, everything strict; gives what it complains about. */
export function angularErrors(folder: string, ...inside: string[]): string {
  const settings = {
    compilerOptions: {
      target: 'es2022',
      module: 'esnext',
      moduleResolution: 'bundler',
      lib: ['es2023', 'dom'],
      strict: true,
      noEmit: true,
      skipLibCheck: true,
      types: [],
      experimentalDecorators: true,
      noUnusedLocals: true,
    },
    angularCompilerOptions: { strictTemplates: true },
    include: inside.map((one) => `${one}/**/*.ts`),
  };
  writeFileSync(path.join(folder, 'tsconfig.json'), JSON.stringify(settings));
  const compiler = path.join(root, 'node_modules', '.bin', 'ngc');
  const run = spawnSync(compiler, ['-p', 'tsconfig.json'], { cwd: folder, encoding: 'utf8' });
  return run.status === 0 ? '' : run.stdout + run.stderr;
}
