import path from 'node:path';
import * as t from '@babel/types';
import { parseData } from './script.js';

/** A package that code needs, with the versions that do. */
export interface Dependency {
  name: string;
  range: string;
}

/** What is asked to find a project's package.json. */
interface Files {
  exists(file: string): boolean;
  text(file: string): string;
}

/** The nearest package.json at or above a file; undefined where there is none. */
export function packageFile(from: string, exists: (file: string) => boolean): string | undefined {
  for (let folder = path.dirname(from); ; folder = path.dirname(folder)) {
    const file = path.join(folder, 'package.json');
    if (exists(file)) return file;
    if (path.dirname(folder) === folder) return undefined;
  }
}

/** The packages that a package.json asks for, with the versions of each; empty where it cannot be read. */
function askedFor(text: string): Map<string, string> {
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value !== 'object' || value === null) return new Map();
    const groups = ['dependencies', 'devDependencies', 'peerDependencies', 'optionalDependencies'];
    return new Map(
      Object.entries(value).flatMap(([key, group]: [string, unknown]) =>
        groups.includes(key) && typeof group === 'object' && group !== null
          ? Object.entries(group).map(([name, range]): [string, string] => [name, String(range)])
          : [],
      ),
    );
  } catch {
    return new Map();
  }
}

/** What the package.json above a file asks for. */
function askedAbove(from: string, files: Files): Map<string, string> {
  const file = packageFile(from, (one) => files.exists(one));
  return file === undefined ? new Map() : askedFor(files.text(file));
}

/**
 * The version of a package that a file's project has: the installed one, or the lowest that its package.json asks for.
 * @returns undefined where nothing tells it
 */
export function versionOf(name: string, from: string, files: Files): string | undefined {
  for (let folder = path.dirname(from); ; folder = path.dirname(folder)) {
    const file = path.join(folder, 'node_modules', name, 'package.json');
    if (files.exists(file)) return numbersIn(/"version":\s*"([^"]+)"/.exec(files.text(file))?.[1]);
    if (path.dirname(folder) === folder) break;
  }
  return numbersIn(askedAbove(from, files).get(name));
}

function numbersIn(text: string | undefined): string | undefined {
  return /\d+\.\d+(?:\.\d+)?/.exec(text ?? '')?.[0];
}

/** Whether a version comes before another one. */
export function isBefore(version: string, other: string): boolean {
  return version.localeCompare(other, 'en', { numeric: true }) < 0;
}

/** The packages among some that the project of a file does not ask for. */
export function missingDependencies(wanted: readonly Dependency[], from: string, files: Files): Dependency[] {
  const known = askedAbove(from, files);
  return wanted.filter(({ name }) => !known.has(name));
}

/**
 * A package.json with further dependencies, everything else byte for byte.
 * @returns undefined where the text is no JSON object
 */
export function withDependencies(text: string, added: readonly Dependency[]): string | undefined {
  const parsed = parseData('package.json', text);
  const statement = parsed.ok ? parsed.script.ast.program.body[0] : undefined;
  const root = t.isExpressionStatement(statement) ? statement.expression : undefined;
  if (!t.isObjectExpression(root)) return undefined;
  const newline = text.includes('\r\n') ? '\r\n' : '\n';
  const step = /\n([ \t]+)"/.exec(text)?.[1] ?? '  ';
  const entry = ({ name, range }: Dependency): string =>
    `${step}${step}${JSON.stringify(name)}: ${JSON.stringify(range)}`;
  const group = root.properties.find(
    (one) => t.isObjectProperty(one) && t.isStringLiteral(one.key, { value: 'dependencies' }),
  );
  const object = t.isObjectProperty(group) && t.isObjectExpression(group.value) ? group.value : undefined;
  if (!object?.properties.length) {
    const lines = added.map(entry).join(`,${newline}`);
    const section = `{${newline}${lines}${newline}${step}}`;
    if (object) return text.slice(0, object.start ?? 0) + section + text.slice(object.end ?? 0);
    const last = root.properties.at(-1)?.end ?? (root.start ?? 0) + 1;
    const comma = root.properties.length ? ',' : '';
    const rest = root.properties.length ? text.slice(last) : newline + text.slice(last).trimStart();
    return `${text.slice(0, last)}${comma}${newline}${step}"dependencies": ${section}${rest}`;
  }
  let result = text;
  // from the end, so that places in front stay where they are
  for (const one of [...added].sort((a, b) => b.name.localeCompare(a.name))) {
    const before = object.properties.filter((other) => nameOf(other).localeCompare(one.name) < 0).at(-1);
    const at = before?.end ?? (object.start ?? 0) + 1;
    const line = `${newline}${entry(one)}`;
    result = result.slice(0, at) + (before ? `,${line}` : `${line},`) + result.slice(at);
  }
  return result;
}

function nameOf(property: t.ObjectExpression['properties'][number]): string {
  return t.isObjectProperty(property) && t.isStringLiteral(property.key) ? property.key.value : '';
}
