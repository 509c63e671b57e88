import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's own root. */
export const root = path.dirname(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
const program = path.join(root, 'dist', 'cli.js');

export interface Run {
  code: number;
  stdout: string;
  stderr: string;
}

/** A project in a temporary folder with the real frameworks. */
export interface TestProject {
  folder: string;
  write(name: string, text: string): void;
  read(name: string): string;
  copy(from: string, to: string): void;
  run(...parameters: string[]): Promise<Run>;
  remove(): void;
}

/** Packages as a project of forms has them: the types are those of its framework, not those of the tool's own code. */
function installPackages(folder: string): void {
  const from = path.join(root, 'node_modules');
  const to = path.join(folder, 'node_modules');
  mkdirSync(path.join(to, '@types'), { recursive: true });
  const names = readdirSync(from).filter((name) => name !== '@types');
  for (const name of [...names, '@types/react', '@types/react-dom'])
    symlinkSync(path.join(from, name), path.join(to, name), 'dir');
}

/** Makes a project; `files` are names and texts. */
export function project(files: Record<string, string> = {}): TestProject {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'graft-test-'));
  installPackages(folder);
  const at = (name: string): string => path.join(folder, name);
  const write = (name: string, text: string): void => {
    mkdirSync(path.dirname(at(name)), { recursive: true });
    writeFileSync(at(name), text);
  };
  write('package.json', '{ "name": "orchard", "private": true }\n');
  for (const [name, text] of Object.entries(files)) write(name, text);
  return {
    folder,
    write,
    read: (name) => readFileSync(at(name), 'utf8'),
    copy: (from, to) => cpSync(path.join(root, from), at(to), { recursive: true }),
    run: (...parameters) => runProgram(folder, parameters),
    remove: () => rmSync(folder, { recursive: true, force: true }),
  };
}

/** Runs the built program in a folder. */
export function runProgram(folder: string, parameters: string[], env: NodeJS.ProcessEnv = {}): Promise<Run> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [program, ...parameters], {
      cwd: folder,
      env: { ...process.env, NO_COLOR: '1', ...env },
    });
    let stdout = '';
    let stderr = '';
    child.stdout.setEncoding('utf8').on('data', (text: string) => (stdout += text));
    child.stderr.setEncoding('utf8').on('data', (text: string) => (stderr += text));
    child.on('close', (code) => resolve({ code: code ?? -1, stdout, stderr }));
  });
}

/** Runs tasks, two at a time. */
export async function inPairs<Item, Result>(
  items: readonly Item[],
  task: (item: Item) => Promise<Result>,
): Promise<Result[]> {
  const results: Result[] = [];
  let next = 0;
  const lane = async (): Promise<void> => {
    for (let index = next++; index < items.length; index = next++) {
      const item = items[index];
      if (item !== undefined) results[index] = await task(item);
    }
  };
  await Promise.all([lane(), lane()]);
  return results;
}

/** One rewrite to make: the form of a file, and the approach it goes to. */
export interface Rewrite {
  file: string;
  form: string;
  to: string;
}

/**
 * Makes rewrites that do not depend on one another: files with one form go together to each approach in one run of
 * the program, forms that share a file one after the other.
 * @returns what went wrong, with what was asked for
 */
export async function applyAll(home: TestProject, rewrites: readonly Rewrite[]): Promise<string[]> {
  const alone = (one: Rewrite): boolean => rewrites.filter(({ file }) => file === one.file).length === 1;
  const targets = [...new Set(rewrites.map(({ to }) => to))];
  const together = targets.map((to) => ({
    to,
    files: rewrites.filter((one) => one.to === to && alone(one)).map(({ file }) => file),
  }));
  const runs = together.map(({ to, files }) => [...files, '--to', to]).filter(({ length }) => length > 2);
  const rest = rewrites.filter((one) => !alone(one)).map(({ file, form, to }) => [file, '--form', form, '--to', to]);
  const trouble: string[] = [];
  for (const parameters of [...runs, ...rest]) {
    // the tests prove types and behaviour themselves, all forms together
    const run = await home.run('apply', ...parameters, '--proof', 'none');
    if (run.code !== 0) trouble.push(`${parameters.join(' ')}: ${run.stdout}${run.stderr}`);
  }
  return trouble;
}
