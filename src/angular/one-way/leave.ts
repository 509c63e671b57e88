import * as t from '@babel/types';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Control, FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { leftByHand, placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { signalArgument } from '../class-reading.js';
import type { AngularComponent, Member } from '../component.js';
import { attributeAt, attributeOf, elementAt } from '../form-site.js';
import type { TemplateAttribute } from '../template-model.js';
import { useEdits } from '../use-edits.js';
import { aroundUses, keyed, textOfUse } from '../use-texts.js';
import { valuesRoot } from '../values-root.js';
import { attributeRemoval, importsAfter, laidOver, type FileEdit } from '../writing.js';
import { feedingEdits } from '../feeding.js';
import { followerEdits, followersOf } from '../followers.js';

interface LeaveDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  root: string;
  member: Member;
  /** What the signal starts with, and the type of its values. */
  start: t.Expression;
  type: t.TSType | undefined;
  feed: TemplateAttribute;
  printer: CodePrinter;
}

/** Puts the values of a form that is fed one way into a plain object, which the template binds both ways. */
export function leaveOneWay(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const whole = (why: string): RewritePlan =>
    leftByHand([placeByHand({ ...model.span, end: model.span.start }, context, why)]);
  const unclear = unclearEntries(model, true);
  if (unclear.length) return leftByHand(unclear);
  const root = valuesRoot(model);
  const member = component.members.get(root ?? '');
  const signal = signalArgument(member);
  const feed = attributeAt(component, model.template?.feed?.attribute.start);
  if (root === undefined || !member || !signal?.value || !feed) return whole('its values do not live in one signal');
  const draft: LeaveDraft = {
    model,
    context,
    component,
    root,
    member,
    start: signal.value,
    type: signal.type,
    feed,
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
  };
  const followers = followersOf([root], draft);
  const byHand = [...unwritable(draft), ...followers.byHand];
  if (byHand.length) return leftByHand(byHand);
  const ledger: LedgerEntry[] = [];
  const edits: FileEdit[] = useEdits(
    { ...model, declarations: [], controls: [] },
    context,
    (use) => useText(use, draft),
    ledger,
  );
  for (const control of model.controls) edits.push(...controlEdits(control, draft, ledger));
  edits.push(...feedEdits(draft, ledger), ...memberEdits(draft, ledger));
  edits.push(...followerEdits(followers.found, ledger));
  edits.push(...listEdits(draft, edits, ledger));
  for (const { span, condition } of model.rules)
    ledger.push({ entry: 'kept', span, what: condition, why: 'the attribute states it as before', untouched: true });
  return { edits, creates: [], deletes: [], dependencies: [], ledger };
}

/** Takes the call of the signal away behind its name. */
function plain(text: string, { root }: LeaveDraft): string {
  return text.replace(new RegExp(`(?<![\\w$])(${root})\\(\\)`, 'g'), '$1');
}

function useText(use: Use, draft: LeaveDraft): string | undefined {
  const { root, context, printer, component } = draft;
  const text = context.text(use.span.file);
  const old = text.slice(use.span.start, use.span.end);
  return textOfUse(
    use,
    {
      read: ({ key }) => keyed(key, plain(old, draft)),
      'read-all'({ key, spread, span }) {
        const spreads = spread === true || old.startsWith('{') || /\.\.\.\s*$/.test(text.slice(0, span.start));
        const taken = /\}\s*=\s*$/.test(text.slice(Math.max(0, span.start - 40), span.start));
        // what is handed on is no longer a copy of its own
        return keyed(key, spreads || taken ? plain(old, draft) : `{ ...${plain(old, draft)} }`);
      },
      set: () => undefined,
      'set-all'({ code, merge }, inTemplate) {
        const own = inTemplate ? root : `this.${root}`;
        const given = codeText(code, printer);
        if (merge) return `${own} = ${laidOver(own, given)}`;
        return `${own} = ${given.trimStart().startsWith('{') ? given : `{ ...${given} }`}`;
      },
      ask: (one) => aroundUses(one, printer),
      reset: (one) => aroundUses(one, printer),
    },
    component,
  );
}

function unwritable(draft: LeaveDraft): LedgerEntry[] {
  const { model, context, component, root, feed, start } = draft;
  const { file } = component.template.place;
  const entries: LedgerEntry[] = [];
  const fed = (feed.value ?? '').replace(/\s+/g, '');
  const merges = fed === `${root}.set({...${root}(),...$event})`;
  if (fed !== `${root}.set($event)` && !merges)
    entries.push(placeByHand({ file, start: feed.start, end: feed.end }, context, 'it does more than take the values'));
  const bound = new Set(model.controls.map(({ field }) => field));
  for (const { name, declared } of model.fields)
    if (!merges && !bound.has(name))
      entries.push(
        placeByHand(declared, context, `no control holds ${name}, so the form’s values drop it at the first change`),
      );
  for (const { span, binding } of model.controls)
    if (!merges && (binding?.shownWhen || binding?.disabled))
      entries.push(
        placeByHand(span, context, 'the values lose it while it is not there, which a plain object would not'),
      );
  for (const use of model.uses)
    if (useText(use, draft) === undefined)
      entries.push(placeByHand(use.span, context, 'this place cannot be said with a plain object yet'));
  const nested = model.fields.some(({ name }) => name.includes('.'));
  if (nested && t.isIdentifier(start))
    entries.push(
      placeByHand(
        { file: model.file, start: start.start ?? 0, end: start.end ?? 0 },
        context,
        'its groups would be shared with the constant, and changed there',
      ),
    );
  return entries;
}

function controlEdits(control: Control, draft: LeaveDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { component } = draft;
  const element = elementAt(component, control.span.start);
  const bound = element && attributeOf(element, 'ngModel', 'property');
  if (!bound) return [];
  const value = plain(bound.value?.trim() ?? '', draft);
  ledger.push({
    entry: 'carried',
    span: control.span,
    what: `control of ${control.field}`,
    why: `it is bound to ${value}`,
  });
  return [{ file: component.template.place.file, start: bound.start, end: bound.end, text: `[(ngModel)]="${value}"` }];
}

function feedEdits({ component, feed, context }: LeaveDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { file, base } = component.template.place;
  const span = { file, start: feed.start, end: feed.end };
  ledger.push({ entry: 'retired', span, what: feed.name, why: 'each control keeps its own value in the object' });
  return [attributeRemoval(context.text(file), span, base)];
}

/** The signal becomes a plain object, a copy of the constant it begins as. */
function memberEdits({ component, member, start, type, root }: LeaveDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { script } = component;
  const { node } = member;
  if (!t.isClassProperty(node) || !node.value) return [];
  const { file, text } = script;
  const given = text.slice(start.start ?? 0, start.end ?? 0);
  const value = t.isIdentifier(start) ? `{ ...${given} }` : given;
  const key = node.key.end ?? 0;
  ledger.push({
    entry: 'carried',
    span: { file, start: node.start ?? 0, end: node.end ?? 0 },
    what: `member ${root}`,
    why: 'a plain object holds the values',
  });
  const typed = type ? `: ${text.slice(type.start ?? 0, type.end ?? 0)}` : '';
  const edits: FileEdit[] = [
    { file, start: key, end: node.value.start ?? 0, text: `${typed} = ` },
    { file, start: node.value.start ?? 0, end: node.value.end ?? 0, text: value },
  ];
  const lead = text.slice(node.start ?? 0, node.key.start ?? 0);
  const readonly = /\breadonly\s+/.exec(lead);
  const at = (node.start ?? 0) + (readonly?.index ?? 0);
  if (readonly) edits.push({ file, start: at, end: at + readonly[0].length, text: '' });
  return edits;
}

/** The directive that told the values goes from the list of imports where nothing else of it is used. */
function listEdits({ component, model }: LeaveDraft, edits: readonly FileEdit[], ledger: LedgerEntry[]): FileEdit[] {
  const listed = { script: component.script, edits: feedingEdits(model, component, ledger) };
  return importsAfter(component, edits, listed, () => ({}));
}
