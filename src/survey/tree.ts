import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { diskWorkspace, nearestWith } from '../source/workspace.js';
import { surveyFile, type FileSurvey, type SurveyedForm, type SurveySettings } from './survey.js';

/** What to survey. Paths are absolute. */
export interface SurveyRequest {
  root: string;
  paths: string[];
  include: string[] | undefined;
  exclude: string[];
  /** Whether stories, specs and tests are surveyed as well. */
  includeTests: boolean;
  settings: SurveySettings;
  cache: boolean;
  /** The tool's version: it is a part of the cache's key. */
  version: string;
  /** Absolute path of the built worker; without it everything runs here. */
  worker: string | undefined;
  onProgress?: (done: number, all: number) => void;
}

/** The forms of a tree. Paths are absolute. */
export interface SurveyResult {
  root: string;
  files: {
    seen: number;
    parsed: number;
    failed: { file: string; reason: string }[];
    leftOut: LeftOut;
    /** The files that took longest this time, the longest first. */
    slowest: { file: string; milliseconds: number }[];
  };
  forms: SurveyedForm[];
}

/** Folders and files that are made from sources, or are no sources of the project. */
const made =
  /(?:^|\/)(?:dist|build|out|coverage|\.next|\.nuxt|\.output|\.lively-graft)\/|\.min\.[cm]?js$|\.d\.[cm]?ts$/;
/** Stories, specs and tests. */
const tests =
  /(?:^|\/)(?:__tests__|__mocks__|__stories__|tests?|specs?|e2e|cypress|stories|\.storybook)\/|[.-](?:test|tests|spec|specs|stories|story|cy|e2e)\.[cm]?[jt]sx?$/i;
const sources = '**/*.{ts,tsx,js,jsx,mjs,cjs,mts,cts,vue}';
/** Endings of files that may hold forms and that nobody reads yet. */
const notRead = '**/*.{svelte,astro,mdx,marko,riot,coffee}';

/** Files that are not looked at, by the reason. */
export interface LeftOut {
  tests: number;
  endings: number;
  ignored: number;
}

/** The files to survey below some paths, and how many others there are. A file that is named is surveyed in any case. */
async function filesBelow(request: SurveyRequest): Promise<{ files: string[]; left: LeftOut }> {
  const { globby, isGitIgnored } = await import('globby');
  const found = new Set<string>();
  const left: LeftOut = { tests: 0, endings: 0, ignored: 0 };
  for (const place of request.paths) {
    if (diskWorkspace.exists(place)) {
      found.add(place);
      continue;
    }
    const inTree = !/(^|[/\\])(node_modules|dist|build|out)([/\\]|$)/.test(path.relative(request.root, place));
    const names = await globby(request.include ?? [sources, notRead], {
      cwd: place,
      ignore: [...(inTree ? ['**/node_modules/**'] : []), '**/.git/**', ...request.exclude],
      suppressErrors: true,
      followSymbolicLinks: false,
    });
    const isIgnored = await isGitIgnored({ cwd: place, suppressErrors: true });
    for (const name of names) {
      const file = path.join(place, name);
      if ((inTree && made.test(name)) || isIgnored(file)) left.ignored += 1;
      else if (!request.includeTests && request.include === undefined && tests.test(name)) left.tests += 1;
      else if (!/\.(?:[cm]?[jt]sx?|vue)$/.test(name)) left.endings += 1;
      else found.add(file);
    }
  }
  return { files: [...found].sort(), left };
}

interface Cache {
  files: Record<string, { size: number; changed: number; digest: string; result: FileSurvey }>;
}

function cacheFile(request: SurveyRequest): string {
  const folder = nearestWith(diskWorkspace, request.root, ['node_modules']);
  const key = createHash('sha256')
    .update(request.root + request.version + JSON.stringify(request.settings))
    .digest('hex')
    .slice(0, 16);
  const base =
    folder === undefined
      ? path.join(os.homedir(), '.cache', 'lively-graft')
      : path.join(folder, 'node_modules', '.cache', 'lively-graft');
  return path.join(base, `survey-${key}.json`);
}

function readCache(file: string): Cache {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Cache;
  } catch {
    return { files: {} };
  }
}

function writeCache(file: string, cache: Cache): void {
  try {
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(file, JSON.stringify(cache));
  } catch {
    // a cache that cannot be written only costs time
  }
}

function digestOf(file: string): string {
  try {
    return createHash('sha256').update(readFileSync(file)).digest('hex');
  } catch {
    return '';
  }
}

function factsOf(file: string): { size: number; changed: number } {
  try {
    const { size, mtimeMs } = statSync(file);
    return { size, changed: mtimeMs };
  } catch {
    return { size: -1, changed: 0 };
  }
}

const batchSize = 50;
/** Below this many files a worker costs more than it saves. */
const worthWorkers = 400;

/** The results of files, in their order. This thread reads as well: a worker more would load everything once more. */
async function surveyAll(files: string[], request: SurveyRequest): Promise<FileSurvey[]> {
  const results: FileSurvey[] = [];
  let next = 0;
  let done = 0;
  const through = async (read: (files: string[]) => Promise<FileSurvey[]>): Promise<void> => {
    while (next < files.length) {
      const at = next;
      next += batchSize;
      const batch = files.slice(at, at + batchSize);
      for (const [index, result] of (await read(batch)).entries()) results[at + index] = result;
      done += batch.length;
      request.onProgress?.(done, files.length);
    }
  };
  const here = through(async (batch) => {
    const read: FileSurvey[] = [];
    for (const file of batch) {
      read.push(await surveyFile(file, request.settings));
      // workers are answered between two files
      await setImmediate();
    }
    return read;
  });
  const others = Math.min(3, os.availableParallelism() - 1);
  if (request.worker === undefined || files.length < worthWorkers || others < 1) {
    await here;
    return results;
  }
  const { Tinypool } = await import('tinypool');
  const pool = new Tinypool({
    filename: new URL(`file://${request.worker}`).href,
    minThreads: others,
    maxThreads: others,
  });
  const there = Array.from({ length: others }, () =>
    through(async (batch) => (await pool.run({ files: batch, settings: request.settings })) as FileSurvey[]),
  );
  await Promise.all([here, ...there]);
  await pool.destroy();
  return results;
}

/** The five files that took longest, of those that were looked at. */
function slowestOf(files: readonly string[], results: readonly FileSurvey[]): SurveyResult['files']['slowest'] {
  return files
    .map((file, index) => ({ file, milliseconds: Math.round(results[index]?.took ?? 0) }))
    .sort((a, b) => b.milliseconds - a.milliseconds)
    .slice(0, 5);
}

/** Finds the forms below some paths. Files that cannot be parsed are listed and stop nothing. */
export async function surveyTree(request: SurveyRequest): Promise<SurveyResult> {
  const { files, left } = await filesBelow(request);
  const store = request.cache ? cacheFile(request) : undefined;
  const cache = store === undefined ? { files: {} } : readCache(store);
  const known = new Map<string, FileSurvey>();
  const digests = new Map<string, string>();
  for (const file of files) {
    const entry = cache.files[file];
    if (!entry) continue;
    const facts = factsOf(file);
    if (entry.size === facts.size && entry.changed === facts.changed) known.set(file, entry.result);
    else if (entry.size === facts.size) {
      const digest = digestOf(file);
      digests.set(file, digest);
      if (digest === entry.digest) known.set(file, entry.result);
    }
  }
  const waiting = files.filter((file) => !known.has(file));
  const fresh = await surveyAll(waiting, request);
  waiting.forEach((file, index) => {
    const result = fresh[index];
    if (result) known.set(file, result);
  });
  if (store !== undefined && waiting.length) {
    const next: Cache = { files: {} };
    for (const file of files) {
      const result = known.get(file);
      const old = cache.files[file];
      // a form that lives in several files is read anew: the others may change alone
      if (!result || result.forms.some((form) => form.files.length > 1)) continue;
      const reused = old && !waiting.includes(file);
      next.files[file] = reused
        ? { ...old, ...factsOf(file) }
        : { ...factsOf(file), digest: digests.get(file) ?? digestOf(file), result };
    }
    writeCache(store, next);
  }
  const result: SurveyResult = {
    root: request.root,
    files: { seen: files.length, parsed: 0, failed: [], leftOut: left, slowest: slowestOf(waiting, fresh) },
    forms: [],
  };
  for (const file of files) {
    const one = known.get(file);
    if (!one) continue;
    if (one.parsed) result.files.parsed += 1;
    if (one.failed !== undefined) result.files.failed.push({ file, reason: one.failed });
    result.forms.push(...one.forms);
  }
  return result;
}
