import * as t from '@babel/types';
import { parseScript } from '../source/script.js';
import { walk } from '../source/traverse.js';
import type { ReadResult, Workspace } from '../source/workspace.js';
import { decoratorNamed, propertyOf } from './decorators.js';

/** Stands for a backslash of a template whose escapes are not followed; private use, so that nobody's text holds it. */
export const unfollowedEscape = '\uE000';

interface Place {
  start: number;
  end: number;
}

/** Whether a text may hold a component's template that escapes something. */
function mayEscape(text: string): boolean {
  return /@Component\s*\(/.test(text) && /\btemplate['"]?\s*:\s*`/.test(text);
}

/** The templates of components that stand in the class's own file as one plain template literal, quotes left out. */
function inlineTemplates(text: string): Place[] {
  const parsed = parseScript('component.ts', text);
  const places: Place[] = [];
  if (!parsed.ok) return places;
  walk(parsed.script.program, {
    Class({ node }) {
      const metadata = decoratorNamed(node, 'Component');
      const template = metadata && propertyOf(metadata, 'template');
      if (!t.isTemplateLiteral(template) || template.expressions.length) return;
      places.push({ start: (template.start ?? 0) + 1, end: (template.end ?? 0) - 1 });
    },
  });
  return places;
}

function mapped(text: string, change: (template: string) => string): string {
  let result = text;
  for (const { start, end } of inlineTemplates(text).reverse())
    result = result.slice(0, start) + change(result.slice(start, end)) + result.slice(end);
  return result;
}

/** A template as Angular reads it: `\\d` is `\d`. Other escapes would not come back as they stood. */
function plain(template: string): string {
  const followed = template.replaceAll('\\\\', '');
  const isFollowed = !followed.includes('\\');
  const said = template.replaceAll('\\\\', '\\');
  // what the parser would take for an escape that is none
  const isReadable = !/\\[\dux\\]/.test(said) && !said.endsWith('\\');
  return isFollowed && isReadable ? said : template.replaceAll('\\', unfollowedEscape);
}

function escaped(template: string): string {
  return template.includes(unfollowedEscape)
    ? template.replaceAll(unfollowedEscape, '\\')
    : template.replaceAll('\\', '\\\\');
}

/**
 * A script with the templates in it said as Angular reads them, without the backslashes that the literal needs.
 * @returns a text for reading and rewriting; {@link escapedTemplates} gives the one that is written
 */
export function plainTemplates(text: string): string {
  if (!text.includes('\\') || !mayEscape(text) || text.includes(unfollowedEscape)) return text;
  return mapped(text, plain);
}

/** The script that a text of {@link plainTemplates} stands for. */
export function escapedTemplates(text: string): string {
  if (!mayEscape(text) || !(text.includes('\\') || text.includes(unfollowedEscape))) return text;
  return mapped(text, escaped);
}

/** A workspace that gives scripts as {@link plainTemplates} says them. */
export function withPlainTemplates(below: Workspace): Workspace {
  if (below.hasPlainTemplates) return below;
  return {
    ...below,
    hasPlainTemplates: true,
    read(file): ReadResult {
      const read = below.read(file);
      return read.ok && file.endsWith('.ts') ? { ok: true, text: plainTemplates(read.text) } : read;
    },
  };
}
