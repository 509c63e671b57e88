import type { FormModel } from '../form/model.js';
import type { DependUse } from '../form/uses.js';
import type { RewritePlan } from '../form/ledger.js';
import type { Script } from '../source/script.js';
import { wholeLines } from '../source/removal.js';
import { indentAt } from '../source/style.js';

/**
 * Takes the declarations of a form's state out of its component and puts a text where the first of them stood.
 * Comments that belong to a declaration go with it; those above the first one stay.
 * @param replacement the new text, given the indentation of its line
 */
export function removeStateEdits(
  model: FormModel,
  script: Script,
  replacement: (indent: string) => string,
): RewritePlan['edits'] {
  const states = model.declarations
    .filter((declaration) => declaration.role === 'state')
    .sort((a, b) => a.span.start - b.span.start);
  const place = placeOfState(model);
  const edits: RewritePlan['edits'] = [];
  for (const declaration of states) {
    const { span } = declaration;
    const field = model.fields.find(
      (candidate) => candidate.declared.start >= span.start && candidate.declared.end <= span.end,
    );
    const comments = span === place ? [] : (field?.commentsBefore ?? []);
    let { start, end } = span;
    for (const comment of [...comments].reverse()) {
      const at = script.text.lastIndexOf(comment, start);
      if (at >= 0) start = at;
    }
    if (field?.commentBehind !== undefined) {
      const lineEnd = script.text.indexOf('\n', end);
      end = lineEnd < 0 ? script.text.length : script.text[lineEnd - 1] === '\r' ? lineEnd - 1 : lineEnd;
    }
    const { statement } = declaration;
    if (span === place && statement) {
      const indent = indentAt(script.text, statement.start);
      edits.push({
        file: model.file,
        start: statement.start,
        end: statement.start,
        text: `${replacement(indent)}${newlineOf(script.text)}${indent}`,
      });
      edits.push({ file: model.file, start, end, text: '' });
    } else if (span === place)
      edits.push({ file: model.file, start, end, text: replacement(indentAt(script.text, start)) });
    else if (statement) edits.push({ ...span, text: '' });
    else if (span.end > span.start)
      edits.push({ file: model.file, ...wholeLines(script.text, { start, end }), text: '' });
  }
  return mergedTouching(edits);
}

function newlineOf(text: string): string {
  return text.includes('\r\n') ? '\r\n' : '\n';
}

/** The declaration whose place the new state takes: the first one behind everything that initial values need. */
export function placeOfState(model: FormModel): FormModel['declarations'][number]['span'] {
  const states = model.declarations
    .filter((declaration) => declaration.role === 'state')
    .sort((a, b) => a.span.start - b.span.start);
  const needed = Math.max(-1, ...model.fields.map((field) => field.initial.needsFrom ?? -1));
  const place = states.find((declaration) => declaration.span.start > needed) ?? states.at(-1);
  if (!place) throw new Error(`${model.name} declares no state`);
  return place.span;
}

/** Removals that meet at a shared blank line become one, so that no byte is taken twice. */
function mergedTouching(edits: RewritePlan['edits']): RewritePlan['edits'] {
  const ordered = [...edits].sort((a, b) => a.start - b.start || a.end - b.end);
  const result: RewritePlan['edits'] = [];
  for (const edit of ordered) {
    const last = result.at(-1);
    if (last && edit.start < last.end) {
      last.end = Math.max(last.end, edit.end);
      last.text += edit.text;
    } else result.push({ ...edit });
  }
  return result;
}

/**
 * Setters in dependency lists give way to the one function that changes everything now; it stands in each list once.
 * @param changer name of that function, which never changes, or the names that a function with a list needs
 */
export function dependencyEdits(
  model: FormModel,
  changer: string | ((use: DependUse) => string),
  textOf: (file: string) => string,
): RewritePlan['edits'] {
  const edits: RewritePlan['edits'] = [];
  const seen = new Set<number>();
  for (const use of model.uses) {
    if (use.kind !== 'depend') continue;
    if (!seen.has(use.list.start)) {
      seen.add(use.list.start);
      edits.push({ ...use.span, text: typeof changer === 'string' ? changer : changer(use) });
      continue;
    }
    const text = textOf(use.span.file);
    let { start } = use.span;
    while (/[\s,]/.test(text[start - 1] ?? '')) start--;
    edits.push({ file: use.span.file, start, end: use.span.end, text: '' });
  }
  return edits;
}
