// Builds the program into dist/: one file for each entry, the parts that only some commands need in chunks of their own.
// Small packages that every command loads are built in, because finding and reading their many files takes longer than
// the work itself; their licences go along in dist/licences.txt.
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const dist = path.join(root, 'dist');
const { dependencies } = JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8'));

// The package of tree types is CommonJS with more than a thousand exports, and a bundle would copy all of them anew for
// each of the files that import it. As plain exports of one module they are there once.
const treeTypes = {
  name: 'tree-types',
  setup(bundle) {
    const names = Object.keys(createRequire(import.meta.url)('@babel/types')).filter(
      (name) => !/^(?:import|super|default|__esModule)$/.test(name),
    );
    const lines = names.map((name) => `export const ${name} = types.${name};`);
    bundle.onResolve({ filter: /^@babel\/types$/ }, ({ importer, kind }) =>
      kind === 'import-statement' && importer.startsWith(path.join(root, 'src'))
        ? { path: '@babel/types', namespace: 'plain-exports' }
        : undefined,
    );
    bundle.onLoad({ filter: /.*/, namespace: 'plain-exports' }, () => ({
      contents: `import * as types from '@babel/types';\n${lines.join('\n')}`,
      resolveDir: root,
    }));
  },
};

rmSync(dist, { recursive: true, force: true });
const { metafile } = await build({
  absWorkingDir: root,
  entryPoints: {
    cli: 'src/cli/main.ts',
    'survey-worker': 'src/survey/worker.ts',
    'trial-player': 'src/trial/player.ts',
  },
  outdir: dist,
  plugins: [treeTypes],
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20.19',
  external: Object.keys(dependencies).flatMap((name) => [name, `${name}/*`]),
  minifyWhitespace: true,
  minifySyntax: true,
  sourcemap: 'linked',
  sourcesContent: false,
  banner: {
    js: "import { createRequire as moduleRequire } from 'node:module'; const require = moduleRequire(import.meta.url);",
  },
  logLevel: 'warning',
  metafile: true,
});

const builtIn = new Set();
for (const file of Object.keys(metafile.inputs)) {
  const name = /^node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(file)?.[1];
  if (name) builtIn.add(name);
}
const notices = [...builtIn].sort().map((name) => {
  const folder = path.join(root, 'node_modules', name);
  const { license, version } = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
  const text = ['LICENSE', 'LICENSE.md', 'LICENCE', 'license', 'LICENSE.txt', 'License'].flatMap((file) => {
    try {
      return [readFileSync(path.join(folder, file), 'utf8').trim()];
    } catch {
      return [];
    }
  })[0];
  return `${name} ${version} (${license})\n\n${text ?? ''}`;
});
writeFileSync(
  path.join(dist, 'licences.txt'),
  `Packages that are built into this program:\n\n${notices.join(`\n\n${'-'.repeat(60)}\n\n`)}\n`,
);
