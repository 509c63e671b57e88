import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import { isBefore, versionOf } from '../../source/packages.js';
import { placedUses } from '../disabled.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import { isRowField, type FormModel } from '../../form/model.js';
import { placeByHand, leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { freeMember } from '../free-member.js';
import { followerEdits, followersOf } from '../followers.js';
import { besideOnce } from '../written-once.js';
import { unusableWhile } from '../unusable-while.js';
import { useEdits } from '../use-edits.js';
import { writtenType } from '../class-reading.js';
import type { LoadScript } from '../../source/project-files.js';
import type { AngularComponent } from '../component.js';
import { outsideOfGone, type FileEdit } from '../writing.js';
import { groupName, needsDirective } from './names.js';
import { conditionalFields } from './conditional.js';
import { isUnusable } from './first-state.js';
import { isFollowed, unfollowable } from './following.js';
import { nullableFields, typeTrouble, wideningEdits } from './nullable.js';
import { rowNames, rowTrouble } from './rows-text.js';
import { type ModelDraft, nameAliases } from './draft.js';
import { useText } from './use-texts.js';
import { formEdits, controlEdits } from './markup-edits.js';
import { classEdits } from './class-edits.js';
import { importAndModuleEdits } from './module-edits.js';
import { selectorEdits } from './selectors.js';
import { walk } from '../../source/traverse.js';

/** Writes a form whose controls are built in the class: a group there, its name on the form, a control's name on each element. */
export function writeModelDriven(
  model: FormModel,
  context: WriteContext,
  component: AngularComponent,
  load: LoadScript,
): RewritePlan {
  const interop = versionOf('@angular/core', model.file, context);
  // a control outside of the group is no part of its values
  const apart = model.controls.some(({ binding }) => binding?.standalone);
  const signals = !apart && (interop === undefined || !isBefore(interop, '17.0.0'));
  const effects = signals && interop !== undefined && !isBefore(interop, '19.0.0');
  const followed = followedSignals(model);
  const kept = signals ? ['computed', ...(effects ? ['effect'] : [])] : [];
  const followers = followersOf(followed, { model, context, component }, kept);
  const places = followed.size && signals ? callsOf(kept, component) : [];
  const reads = model.uses.some(({ kind, span }) => /^read/.test(kind) && places.some((one) => holds(one, span)));
  const byHand = [...unclearEntries(model, true), ...followers.byHand];
  const resets = model.uses.some((use) => use.kind === 'reset');
  const nullable = nullableFields(model, context, component);
  byHand.push(...typeTrouble(model, nullable, context, component));
  const conditional = conditionalFields(model, component, byHand);
  const draft: ModelDraft = {
    model,
    context,
    component,
    group: groupName(model, component),
    keepsDirective: needsDirective(model),
    nullable,
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
    signal: reads ? { name: freeMember(component, context, 'values', 'formValues', 'allValues'), places } : undefined,
    aliases: new Map(),
    rows: rowNames(model, (wished, ...others) => context.freeName(wished, ...others)),
    rowMembers: new Set(),
    rowTypesNeeded: new Set(),
    followed: new Set(
      model.controls.filter((control) => resets && isFollowed(control, model)).map(({ field }) => field),
    ),
  };
  byHand.push(...unwritable(draft), ...unfollowable(draft), ...rowTrouble(draft));
  if (byHand.length) return leftByHand(byHand);
  nameAliases(draft);
  const unusable = model.controls.some((control) => isUnusable(control, draft));
  const ledger: LedgerEntry[] = [];
  const edits: FileEdit[] = [
    ...useEdits({ ...model, uses: placedUses(model.uses, model) }, context, (use) => useText(use, draft), ledger),
    ...formEdits(draft, ledger),
    ...model.controls.flatMap((control) => controlEdits(control, draft, ledger)),
    ...selectorEdits(draft, load, ledger),
    ...classEdits(draft, conditional, ledger),
    ...wideningEdits(model, nullable, context, component),
  ];
  if (!draft.signal) edits.push(...followerEdits(followers.found, ledger));
  edits.push(...importAndModuleEdits(draft, edits, ledger));
  for (const rule of model.rules) {
    const stays = !rule.constraint;
    ledger.push({
      entry: stays ? 'kept' : 'carried',
      span: rule.span,
      what: rule.condition,
      why: stays
        ? 'the attribute states the rule for a control of the model as well, and follows its expression'
        : 'it is a validator of the control now',
      ...(stays ? {} : { untouched: true }),
    });
  }
  for (const { role, span, what } of model.declarations)
    if (role === 'support' && !ledger.some((entry) => entry.span.file === span.file && entry.span.start === span.start))
      ledger.push({ entry: 'kept', span, what, why: 'it is still needed' });
  for (const other of model.others)
    ledger.push({
      entry: 'kept',
      span: { ...model.span, end: model.span.start },
      what: `member ${other.name}`,
      why: other.why,
    });
  const files = new Set(edits.map(({ file }) => file));
  return {
    edits: [...files].flatMap((name) => outsideOfGone(edits.filter(({ file }) => file === name))),
    creates: besideOnce(model.file, unusable ? [unusableWhile] : [], context),
    deletes: [],
    dependencies: [],
    ledger,
  };
}

/** Calls of the class in which code follows signals: `computed(…)`, `effect(…)`. */
function callsOf(names: readonly string[], { script, path }: AngularComponent): Span[] {
  const spans: Span[] = [];
  walk(path, {
    CallExpression({ node }) {
      if (t.isIdentifier(node.callee) && names.includes(node.callee.name)) spans.push(spanOfNode(script.file, node));
    },
  });
  return spans;
}

function holds(outer: Span, { file, start, end }: Span): boolean {
  return outer.file === file && outer.start <= start && outer.end >= end;
}

/** Signals of fields that something follows. */
function followedSignals({ unclear, fields }: FormModel): Set<string> {
  if (!unclear.some(({ unlessSignal }) => unlessSignal)) return new Set();
  return new Set(fields.flatMap(({ names }) => names.value?.split('.')[0] ?? []));
}

/** What keeps the form from becoming model-driven. */
function unwritable(draft: ModelDraft): LedgerEntry[] {
  const { model, context } = draft;
  const entries: LedgerEntry[] = [];
  for (const field of model.fields) {
    const required = model.rules.some((rule) => rule.fields[0] === field.name && rule.kind === 'required');
    if (field.initial.text !== 'undefined' || required || !sentWhole(draft)) continue;
    entries.push({
      entry: 'by-hand',
      span: field.declared,
      what: `initial value of ${field.name}`,
      why: 'it starts unset, and a control cannot: it would hold null where now the key is missing; give it an initial value first',
    });
  }
  entries.push(...untypedFields(draft), ...sharedControls(draft));
  for (const control of model.controls) {
    const { binding } = control;
    if (!binding?.disabled || binding.disabled.constant) continue;
    const asked = model.uses.some((use) => use.kind === 'read-all' && use.what === 'shown');
    const ruled = model.rules.some((rule) => rule.fields.includes(control.field));
    if (asked || ruled)
      entries.push({
        entry: 'by-hand',
        span: binding.disabled.span,
        what: `disabled while ${binding.disabled.text}`,
        why: 'the control has to be disabled in the class at the same moments, because its rules or the values sent depend on it',
      });
  }
  for (const { span, member, asks } of model.template?.asked?.flatMap(({ uses }) => uses) ?? [])
    if (/^(control|name|path|formDirective|model|viewModel|viewToModelUpdate)$/.test(member ?? ''))
      entries.push(placeByHand(asks?.span ?? span, context, 'only the template’s own directive has this'));
  for (const use of model.uses) {
    if (!/^(set-named|made-handler|hand-on|watch)$/.test(use.kind)) continue;
    entries.push(placeByHand(use.span, context, 'this place cannot be said with controls yet'));
  }
  return entries;
}

/** Values of which the class says `any`, or nothing: their controls would get a type that is a guess. */
function untypedFields({ model, component }: ModelDraft): LedgerEntry[] {
  const isAny = (root: string): boolean => t.isTSAnyKeyword(writtenType(component.members.get(root)));
  return model.fields.flatMap((field): LedgerEntry[] => {
    const root = field.names.value?.split('.')[0];
    if (root === undefined || isRowField(field.name)) return [];
    const untold = /^(?:undefined|null|\{\}|\[\])$/.test(field.initial.text);
    const unsure = isAny(root) || (untold && (field.type === undefined || field.type === 'any'));
    const why = `nothing tells the type of ${field.name}, so its control’s type would be a guess; give ${root} a type`;
    return unsure ? [{ entry: 'by-hand', span: field.declared, what: field.name, why }] : [];
  });
}

/** Two controls that show the same value: what is typed in one would not be shown by the other. */
function sharedControls({ model }: ModelDraft): LedgerEntry[] {
  return model.controls.flatMap((control, index): LedgerEntry[] => {
    const first = model.controls.find(({ field }) => field === control.field);
    const apart = first?.binding?.shownWhen && control.binding?.shownWhen;
    if (!first || first === control || control.type === 'radio' || apart || index === 0) return [];
    const why = `another control shows ${control.field} as well; bound to one control of the class, neither would follow the other`;
    return [{ entry: 'by-hand', span: control.span, what: `control of ${control.field}`, why }];
  });
}

/** Whether the values are sent or kept together, so that a missing key would be seen. */
function sentWhole({ model }: ModelDraft): boolean {
  return model.uses.some((use) => use.kind === 'read-all');
}
