import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { isRowField, type Field, type FormModel } from '../form/model.js';
import type { Span } from '../form/code.js';
import type { LedgerEntry } from '../form/ledger.js';
import type { WatchUse } from '../form/uses.js';
import { wholeLines } from '../source/removal.js';
import { indentAt } from '../source/style.js';
import type { WriteContext } from '../form/writing.js';
import type { AngularComponent, Member } from './component.js';
import { commentsIn, memberRemoval, type FileEdit } from './writing.js';

/** What writing a class needs, whatever the approach. */
export interface ClassDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
}

/** The members of the class that go with the old approach. */
function membersGoing(draft: ClassDraft): Member[] {
  const starts = draft.model.declarations.map(({ span }) => span.start);
  return [...draft.component.members.values()].filter(({ node }) => starts.includes(node.start ?? -1));
}

/** Comments of what goes, put with the fields they speak of. */
export function fieldsWithComments(draft: ClassDraft, group: Member): Field[] {
  const { script } = draft.component;
  const { model } = draft;
  const spans = model.declarations.map(({ span }) => span).filter(({ file }) => file === script.file);
  const built = spans.filter(
    (span) =>
      span.start === group.node.start ||
      model.fields.some(({ declared }) => declared.start >= span.start && declared.end <= span.end),
  );
  const all = model.fields.map((field) => ({ ...field, commentsBefore: [...field.commentsBefore] }));
  const fields = all.filter(({ name }) => !isRowField(name));
  for (const span of built) {
    for (const comment of commentsIn(script, span)) {
      const behind = fields
        .filter(
          ({ declared }) =>
            declared.end <= comment.start && !script.text.slice(declared.end, comment.start).includes('\n'),
        )
        .at(-1);
      const next = fields.find(({ declared }) => declared.start >= comment.end) ?? fields[0];
      if (behind && behind.commentBehind === undefined) behind.commentBehind = comment.text;
      else next?.commentsBefore.push(comment.text);
    }
  }
  return all;
}

/** The access that a member takes over from the one whose place it takes. */
export function accessOf(member: Member): string {
  const { node } = member;
  const accessibility = t.isClassProperty(node) ? node.accessibility : undefined;
  return accessibility && accessibility !== 'private' ? `${accessibility} ` : '';
}

/** Whether a copy of the values' object shares nothing with it. */
export function isFlat({ model }: ClassDraft): boolean {
  return model.fields.every(
    ({ name, initial }) => !isRowField(name) && !name.includes('.') && !/^[[{]|^new /.test(initial.text),
  );
}

/** The constructors and early hooks of which nothing is left when some statements go. */
function emptied(statements: readonly { start: number; end: number }[], draft: ClassDraft): t.ClassMethod[] {
  return draft.component.path.node.body.body.filter((member): member is t.ClassMethod => {
    if (!t.isClassMethod(member) || !member.body.body.length) return false;
    const early = member.kind === 'constructor' || t.isIdentifier(member.key, { name: 'ngOnInit' });
    const gone = member.body.body.every((one) => statements.some(({ start }) => start === one.start));
    return early && gone && !member.params.length && !(member.body.innerComments?.length ?? 0);
  });
}

/**
 * Builders that nobody asks any more, and a constructor or a hook that only built the group.
 * @param statements statements that go
 * @param called whether code that follows a field only calls a method, which stays
 */
export function spareEdits(
  draft: ClassDraft,
  statements: readonly { start: number; end: number }[],
  called: (use: WatchUse) => boolean = () => false,
): FileEdit[] {
  const { component, model } = draft;
  const { script } = component;
  const { file } = script;
  const edits: FileEdit[] = [];
  const gone = [
    ...model.declarations.map(({ span }) => span),
    ...model.uses.flatMap((use) => (use.kind === 'make-row' ? [use.span] : [])),
    ...model.uses.flatMap((use) =>
      use.kind === 'watch' ? [{ ...use.span, end: use.code.start }, use.statement].slice(0, called(use) ? 2 : 1) : [],
    ),
  ];
  const isGone = (node: { start?: number | null }): boolean =>
    gone.some((span) => (node.start ?? 0) >= span.start && (node.start ?? 0) < span.end);
  const constructor = component.path.node.body.body.find(
    (member): member is t.ClassMethod => t.isClassMethod(member) && member.kind === 'constructor',
  );
  const builders = [...component.members.values(), ...plainParameters(draft)].filter(({ node, references }) => {
    const text = script.text.slice(node.start ?? 0, node.end ?? 0);
    const asked =
      /\b(NonNullable|Untyped)?FormBuilder\b/.test(text) || (/=\s*inject\(/.test(text) && references.length > 0);
    return asked && references.every((path) => isGone(path.node));
  });
  const spare = emptied(statements, draft);
  for (const builder of builders) {
    if (builder.kind !== 'parameter') {
      edits.push({ file, ...memberRemoval(script, builder) });
      continue;
    }
    const others = constructor?.params.filter((parameter) => parameter !== builder.node) ?? [];
    const left =
      constructor?.body.body.filter((statement) => !statements.some(({ start }) => start === statement.start)) ?? [];
    if (constructor && !others.length && !left.length) {
      if (!spare.includes(constructor)) spare.push(constructor);
      continue;
    }
    const { start, end } = { start: builder.node.start ?? 0, end: builder.node.end ?? 0 };
    const behind = /^\s*,\s*/.exec(script.text.slice(end));
    const before = /,\s*$/.exec(script.text.slice(0, start));
    edits.push({
      file,
      start: behind ? start : start - (before?.[0].length ?? 0),
      end: behind ? end + behind[0].length : end,
      text: '',
    });
  }
  for (const member of spare) {
    const comments = commentsIn(script, { start: member.start ?? 0, end: member.end ?? 0 }).filter(
      (comment) => !gone.some((span) => comment.start >= span.start && comment.end <= span.end),
    );
    if (comments.length) continue;
    const name = t.isIdentifier(member.key) ? member.key.name : '';
    const removal = memberRemoval(script, { node: member });
    edits.push({ file, ...removal });
    if (name === 'ngOnInit') edits.push(...interfaceRemoval(draft));
  }
  return edits;
}

/** Parameters of the constructor that are no members of the class, with their references. */
function plainParameters({ component }: ClassDraft): { kind: 'parameter'; node: t.Node; references: NodePath[] }[] {
  const constructor = component.path
    .get('body')
    .get('body')
    .find((member) => member.isClassMethod({ kind: 'constructor' }));
  if (!constructor?.isClassMethod()) return [];
  return constructor.get('params').flatMap((parameter) => {
    if (!parameter.isIdentifier()) return [];
    const references = constructor.scope.getOwnBinding(parameter.node.name)?.referencePaths ?? [];
    return [{ kind: 'parameter' as const, node: parameter.node, references }];
  });
}

/** `implements OnInit` goes with the hook it asks for. */
function interfaceRemoval({ component }: ClassDraft): FileEdit[] {
  const { script, path } = component;
  const list = path.node.implements ?? [];
  const index = list.findIndex((one) => script.text.slice(one.start ?? 0, one.end ?? 0) === 'OnInit');
  const one = list[index];
  if (!one) return [];
  const text = script.text;
  if (list.length === 1) {
    const start = text.slice(0, one.start ?? 0).search(/\s+implements\s+$/);
    return [{ file: script.file, start, end: one.end ?? 0, text: '' }];
  }
  const next = list[index + 1];
  const previous = list[index - 1];
  return [
    {
      file: script.file,
      start: next ? (one.start ?? 0) : (previous?.end ?? 0),
      end: next ? (next.start ?? 0) : (one.end ?? 0),
      text: '',
    },
  ];
}

/** What takes the place of the members that hold a form's state, and why. */
export interface HeldAnew {
  /** Declarations that come where the first of them was, line by line. */
  lines: readonly string[];
  /** Declarations that come above the class. */
  above: readonly string[];
  /** Statements that go, besides those that built the state. */
  statements?: readonly Span[];
  /** Whether code that follows a field only calls a method, which stays. */
  called?: (use: WatchUse) => boolean;
  held: string;
  gone: string;
}

/** The member that a form's new state takes the place of. */
export function groupMember(draft: ClassDraft): Member | undefined {
  const going = membersGoing(draft);
  return going.find(({ name }) => name === draft.model.template?.member) ?? going[0];
}

/** The edits of a class whose state is held anew: the old members and what built them go. */
export function heldAnew(draft: ClassDraft, group: Member, anew: HeldAnew, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { script } = component;
  const { newline } = context.style;
  const { file } = script;
  const placeOf = ({ node }: Member): Span => ({ file, start: node.start ?? 0, end: node.end ?? 0 });
  const others = membersGoing(draft).filter((member) => member !== group);
  const statements = [
    ...model.declarations
      .filter(
        ({ role, span }) => role === 'support' && ![group, ...others].some(({ node }) => node.start === span.start),
      )
      .map(({ span }) => span),
    ...(anew.statements ?? []),
  ];
  const spare = spareEdits(draft, statements, anew.called);
  const covered = ({ start, end }: Span): boolean => spare.some((edit) => edit.start <= start && edit.end >= end);
  const indent = indentAt(script.text, group.node.start ?? 0);
  const above = anew.above.map((one) => one + newline + newline).join('');
  ledger.push({ entry: 'carried', span: placeOf(group), what: `member ${group.name}`, why: anew.held });
  for (const member of others)
    ledger.push({ entry: 'retired', span: placeOf(member), what: `member ${member.name}`, why: anew.gone });
  return [
    { ...placeOf(group), text: anew.lines.join(newline + indent) },
    ...others.map((member) => ({ file, ...memberRemoval(script, member) })),
    ...statements
      .filter((span) => !covered(span))
      .map((span) => ({ file: span.file, ...wholeLines(script.text, span), text: '' })),
    ...(above === '' ? [] : [{ file, start: model.before, end: model.before, text: above }]),
    ...spare,
  ];
}
