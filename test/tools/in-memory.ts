import { expect } from 'vitest';
import { rewriteForm } from '../../src/rewrite/rewrite.js';
import type { Rewrite } from '../../src/rewrite/results.js';
import { diskWorkspace, overlaid } from '../../src/source/workspace.js';

/** Rewrites the form of one file in memory, with the other files beside it. */
export async function rewritten(
  name: string,
  text: string,
  to: string,
  others: Record<string, string> = {},
): Promise<Rewrite> {
  const texts = Object.entries({ [name]: text, ...others });
  const files = new Map(texts.map(([file, body]) => [`/orchard/${file}`, body]));
  const workspace = overlaid(diskWorkspace, files);
  const result = await rewriteForm({ file: `/orchard/${name}`, to }, workspace, { ownValueNames: [] });
  if (result.kind !== 'rewrite') throw new Error(JSON.stringify(result));
  return result.rewrite;
}

/** The form's own file after a rewrite that leaves nothing by hand. */
export async function after(
  name: string,
  text: string,
  to: string,
  others: Record<string, string> = {},
): Promise<string> {
  const rewrite = await rewritten(name, text, to, others);
  expect(rewrite.ledger.filter(({ entry }) => entry === 'by-hand')).toEqual([]);
  return rewrite.files.find(({ file }) => file === `/orchard/${name}`)?.after ?? '';
}

/** What a rewrite leaves by hand: line and reason. */
export async function left(
  name: string,
  text: string,
  to: string,
  others: Record<string, string> = {},
): Promise<[number, string][]> {
  const rewrite = await rewritten(name, text, to, others);
  expect(rewrite.files).toEqual([]);
  return rewrite.ledger.flatMap(({ entry, line, why }) => (entry === 'by-hand' ? [[line, why]] : []));
}
