import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import type { Loader, Plugin } from 'esbuild';
import { runnableAngular } from '../angular/component-source.js';
import { importedPaths } from '../source/project-files.js';
import type { Workspace } from '../source/workspace.js';

export type Framework = 'react' | 'angular' | 'vue';

/** What to bundle: a mount module's source, and the folder its imports are resolved from. */
export interface BundleRequest {
  framework: Framework;
  mount: { source: string; folder: string; loader: 'js' | 'ts' | 'tsx' };
  workspace: Workspace;
}

export type BundleResult = { ok: true; code: string } | { ok: false; reason: string; next: string };

const needed: Record<Framework, string[]> = {
  react: ['react', 'react-dom'],
  angular: ['@angular/core', '@angular/compiler', '@angular/platform-browser'],
  vue: ['vue'],
};

/** The packages of a framework that a project lacks. */
export function missingPackages(framework: Framework, folder: string): string[] {
  const require = createRequire(path.join(folder, 'here.js'));
  return needed[framework].filter((name) => {
    const searched = require.resolve.paths(name) ?? [];
    return !searched.some((place) => {
      try {
        require.resolve(path.join(place, name, 'package.json'));
        return true;
      } catch {
        return false;
      }
    });
  });
}

const harmless =
  /\.(css|scss|sass|less|styl|pcss|svg|png|jpe?g|gif|webp|avif|ico|woff2?|ttf|eot|mp3|mp4|webm|md|txt)(\?.*)?$/;

function loaderOf(file: string): Loader {
  if (/\.tsx$/.test(file)) return 'tsx';
  if (/\.[cm]?ts$/.test(file)) return 'ts';
  // JSX may stand in any JavaScript file of the project
  return 'jsx';
}

/** Files as the workspace of what is asked now has them, ready to run; what only concerns looks is left out. */
function sourcePlugin(asked: { now: BundleRequest }): Plugin {
  const { framework } = asked.now;
  const workspace = (): Workspace => asked.now.workspace;
  return {
    name: 'sources',
    setup(build) {
      build.onResolve({ filter: mountName }, (args) => ({ path: args.path, namespace: 'mount' }));
      build.onLoad({ filter: /.*/, namespace: 'mount' }, () => {
        const { source, folder, loader } = asked.now.mount;
        return { contents: source, resolveDir: folder, loader };
      });
      build.onResolve({ filter: harmless }, (args) => ({ path: args.path, namespace: 'harmless' }));
      build.onLoad({ filter: /.*/, namespace: 'harmless' }, (args) => ({
        contents: /\.module\.\w+$/.test(args.path)
          ? 'export default new Proxy({}, { get: (_, name) => String(name) });'
          : `export default ${JSON.stringify(path.basename(args.path))};`,
        loader: 'js',
      }));
      build.onResolve({ filter: /./ }, (args) => {
        if (args.kind === 'entry-point' || args.resolveDir.includes(`${path.sep}node_modules${path.sep}`))
          return undefined;
        // a file that exists only in the workspace cannot be found on disk, and settings may name folders in their own way
        const bases = importedPaths(path.join(args.resolveDir, 'index'), args.path);
        const found = bases
          .flatMap((base) =>
            ['', '.tsx', '.ts', '.jsx', '.js', '.vue', '/index.tsx', '/index.ts', '/index.js'].map((end) => base + end),
          )
          .find((file) => /\.\w+$/.test(file) && workspace().exists(file));
        return found && !found.includes('node_modules') ? { path: found } : undefined;
      });
      // a page that is built for development keeps where each of its elements was made, which nobody reads here
      build.onLoad(
        { filter: /node_modules[\\/]react[\\/]cjs[\\/][\w.-]+\.development\.js$/ },
        async ({ path: file }) => ({
          contents: (await readFile(file, 'utf8')).replaceAll(
            'Error.stackTraceLimit = 10',
            'Error.stackTraceLimit = 0',
          ),
          loader: 'js',
        }),
      );
      build.onLoad({ filter: /\.vue$/ }, async (args) => {
        const read = workspace().read(args.path);
        if (!read.ok) return { errors: [{ text: read.reason }] };
        const external = (source: string): string | undefined => {
          const script = workspace().read(path.resolve(path.dirname(args.path), source));
          return script.ok ? script.text : undefined;
        };
        const { compileVueFile } = await import('../vue/single-file.js');
        const compiled = compileVueFile(args.path, read.text, external);
        if (!compiled.ok) return { errors: [{ text: compiled.reason }] };
        return {
          contents: compiled.code,
          loader: compiled.typescript ? 'ts' : 'js',
          resolveDir: path.dirname(args.path),
        };
      });
      build.onLoad({ filter: /\.json$/ }, (args) => {
        const read = workspace().read(args.path);
        return read.ok ? { contents: read.text, loader: 'json' } : { errors: [{ text: read.reason }] };
      });
      build.onLoad({ filter: /\.[cm]?[jt]sx?$/ }, (args) => {
        if (args.path.includes(`${path.sep}node_modules${path.sep}`)) return undefined;
        const read = workspace().read(args.path);
        if (!read.ok) return { errors: [{ text: read.reason }] };
        if (framework === 'angular') {
          const template = (specifier: string): string | undefined => {
            const file = workspace().read(path.resolve(path.dirname(args.path), specifier));
            return file.ok ? file.text : undefined;
          };
          const runnable = runnableAngular(args.path, read.text, template);
          return runnable.ok
            ? { contents: runnable.code, loader: loaderOf(args.path) }
            : { errors: [{ text: runnable.reason }] };
        }
        return { contents: read.text, loader: loaderOf(args.path) };
      });
    },
  };
}

/** What builds forms of one framework, one after the other; packages that were read for one are kept for the next. */
interface Builder {
  build(request: BundleRequest): Promise<string>;
  end(): Promise<void>;
}

const mountName = /^graft-mount$/;

const builders = new Map<Framework, Promise<Builder>>();

function builderFor(first: BundleRequest): Promise<Builder> {
  const known = builders.get(first.framework) ?? builderOf(first);
  builders.set(first.framework, known);
  return known;
}

/** Ends the builds, which keep what they read until then. */
export async function endBuilds(): Promise<void> {
  const open = [...builders.values()];
  builders.clear();
  await Promise.all(open.map(async (builder) => (await builder).end()));
}

async function builderOf(first: BundleRequest): Promise<Builder> {
  const { context } = await import('esbuild');
  const asked = { now: first };
  const { framework } = first;
  const kept = await context({
    entryPoints: ['graft-mount'],
    bundle: true,
    write: false,
    format: 'iife',
    platform: 'browser',
    target: 'es2022',
    jsx: 'automatic',
    define: {
      'process.env.NODE_ENV': '"development"',
      __VUE_OPTIONS_API__: 'true',
      __VUE_PROD_DEVTOOLS__: 'false',
      __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false',
    },
    conditions: ['development', 'browser', 'module'],
    mainFields: ['browser', 'module', 'main'],
    plugins: [sourcePlugin(asked)],
    logLevel: 'silent',
    ...(framework === 'angular'
      ? {
          tsconfigRaw: { compilerOptions: { experimentalDecorators: true, useDefineForClassFields: false } },
          keepNames: true,
        }
      : {}),
    ...(framework === 'vue' ? { alias: { vue: 'vue/dist/vue.esm-bundler.js' } } : {}),
  });
  let last: Promise<unknown> = Promise.resolve();
  return {
    build(request) {
      const built = last.then(async () => {
        asked.now = request;
        const { outputFiles } = await kept.rebuild();
        return outputFiles[0]?.text ?? '';
      });
      last = built.catch(() => undefined);
      return built;
    },
    end: () => kept.dispose(),
  };
}

/** Builds one version of a form into a script that shows it on a page. */
export async function bundleForm(request: BundleRequest): Promise<BundleResult> {
  const { framework, mount } = request;
  const missing = missingPackages(framework, mount.folder);
  if (missing.length) {
    return {
      ok: false,
      reason: `the project of this form lacks ${missing.join(' and ')}`,
      next: `install what is missing: npm install ${missing.join(' ')}`,
    };
  }
  const builder = await builderFor(request);
  try {
    return { ok: true, code: await builder.build(request) };
  } catch (error) {
    const errors =
      error instanceof Error && 'errors' in error
        ? (error.errors as { text: string; location: { file: string; line: number } | null }[])
        : [];
    const [first] = errors;
    const at = first?.location ? ` (${first.location.file}:${first.location.line})` : '';
    return {
      ok: false,
      reason: first
        ? `it cannot be built: ${first.text}${at}`
        : `it cannot be built: ${error instanceof Error ? error.message : String(error)}`,
      next: 'mend the file, or install what it imports',
    };
  }
}
