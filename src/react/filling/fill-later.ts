import type * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Field, FormModel } from '../../form/model.js';
import { leftByHand, placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import type { LoadScript } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import { laidOut } from '../../source/layout.js';
import { indentAt } from '../../source/style.js';
import { referencesTo, type StateVariable } from '../state-variables.js';
import { emptyValue } from './empty-values.js';
import type { Filling } from './filling.js';
import { sayHeld } from './held-places.js';
import { saySet } from './set-places.js';

/**
 * Gives an object that is null until it is filled a start of its own, and a flag beside it that tells whether it is
 * filled: every way of holding values has a place for these.
 * @param held the variable that holds it, and the object's type without null where one is written
 */
export function fillLater(
  model: FormModel,
  context: WriteContext,
  {
    script,
    variable,
    type,
    load,
  }: { script: Script; variable: StateVariable; type: TypeInFile | undefined; load: LoadScript },
): RewritePlan {
  const { value, change } = variable;
  if (!value || !change) return leftByHand(unclearEntries(model));
  const held = value.node.name;
  const references = new Set<t.Node>(referencesTo(value).map(({ node }) => node));
  const flag = context.freeName('filled', `${held}Filled`, 'isFilled');
  const filling: Filling = {
    model,
    context,
    script,
    variable,
    held,
    setter: change.node.name,
    flag,
    raise: context.freeName(`set${flag.charAt(0).toUpperCase()}${flag.slice(1)}`),
    // another variable of the same name is none of it
    isHeld: (node) => node != null && references.has(node),
    starts: new Map(),
    edits: [],
    byHand: [...unclearEntries(model)],
  };
  const members = typeMembers(type, load);
  for (const name of new Set([...members.keys(), ...model.fields.map((field) => field.name)])) {
    const member = members.get(name);
    if (member?.optional) continue;
    const field = model.fields.find((one) => one.name === name);
    const start = member
      ? emptyValue({ node: member.node, script: member.script }, load)
      : field && untypedStart(field, model);
    if (start === undefined)
      filling.byHand.push(
        placeByHand(
          field?.declared ?? spanOfNode(script.file, variable.call.node),
          context,
          `nothing tells what ${name} would begin as before it is filled`,
        ),
      );
    else filling.starts.set(name, start);
  }
  declare(filling, type && type.script.text.slice(type.node.start ?? 0, type.node.end ?? 0));
  for (const reference of referencesTo(value)) sayHeld(reference, filling);
  for (const reference of referencesTo(change)) saySet(reference, filling);
  if (filling.byHand.length) return leftByHand(filling.byHand);
  return { edits: filling.edits, creates: [], deletes: [], dependencies: [], ledger: accountOf(filling) };
}

/** What a field begins as before it is filled, where no type tells: what its control shows. */
function untypedStart({ kind, name }: Field, model: FormModel): string {
  const shown = kind === 'text' || kind === 'choice' || model.controls.some(({ field }) => field === name);
  return kind === 'boolean' ? 'false' : shown ? "''" : 'undefined';
}

/** The object begins as values of its own, and the flag is declared behind it. */
function declare(filling: Filling, type: string | undefined): void {
  const { variable, script, context, starts, flag, raise, edits } = filling;
  const { style } = context;
  const { call, declaration } = variable;
  const callee = script.text.slice(call.node.callee.start ?? 0, call.node.callee.end ?? 0);
  const items = [...starts].map(([key, text]) => ({
    lead: `${/^[\w$]+$/.test(key) ? key : `'${key}'`}: `,
    value: text.replaceAll("'", style.quote),
  }));
  const indent = indentAt(script.text, declaration.node.start ?? 0);
  const head = `${callee}${type === undefined ? '' : `<${type}>`}(`;
  const used = (call.node.start ?? 0) - script.text.lastIndexOf('\n', call.node.start ?? 0) + head.length + 1;
  const text = `${head}${laidOut({ open: '{', close: '}', items }, style, indent, used)})`;
  const line = `const [${flag}, ${raise}] = ${callee}(false)${style.semicolon}`;
  edits.push(
    { file: script.file, start: call.node.start ?? 0, end: call.node.end ?? 0, text },
    {
      file: script.file,
      start: declaration.node.end ?? 0,
      end: declaration.node.end ?? 0,
      text: style.newline + indent + line,
    },
  );
}

/** What became of each use of the form, and of what declared it. */
function accountOf({ model, edits, variable, script, flag }: Filling): LedgerEntry[] {
  const touched = ({ file, start, end }: Span): boolean =>
    edits.some((edit) => edit.file === file && edit.start < end && edit.end > start);
  const ledger: LedgerEntry[] = [
    {
      entry: 'carried',
      span: spanOfNode(script.file, variable.declaration.node),
      what: 'an object that is filled later',
      why: `${flag} tells whether it is filled`,
    },
  ];
  for (const edit of edits)
    if (edit.start < edit.end)
      ledger.push({
        entry: 'carried',
        takenOver: true,
        span: { file: edit.file, start: edit.start, end: edit.end },
        what: (script.text.slice(edit.start, edit.end).split('\n')[0] ?? '').trim(),
        why: edit.text.split('\n')[0] ?? '',
      });
  for (const { span } of model.uses)
    ledger.push({
      entry: touched(span) ? 'carried' : 'kept',
      span,
      what: script.file === span.file ? script.text.slice(span.start, span.end) : '',
      why: touched(span) ? `${flag} tells whether there are values` : 'the same name means the same here',
    });
  for (const { span, what } of model.declarations.slice(1))
    ledger.push({ entry: 'kept', span, what, why: 'it stays as it is' });
  for (const control of model.controls)
    ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same value',
    });
  return ledger;
}
