// Builds the program into dist/: one file for each entry, the parts that only some commands need in chunks of their own.
import { rmSync } from 'node:fs';
import { build } from 'esbuild';

const root = new URL('..', import.meta.url).pathname;
rmSync(`${root}dist`, { recursive: true, force: true });
await build({
  absWorkingDir: root,
  entryPoints: { cli: 'src/cli/main.ts', 'survey-worker': 'src/survey/worker.ts', 'trial-player': 'src/trial/player.ts' },
  outdir: 'dist',
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20.19',
  packages: 'external',
  sourcemap: 'linked',
  sourcesContent: false,
  logLevel: 'warning',
});
