import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { reactImportEdits } from '../import-edits.js';
import { namedReferences } from '../references.js';
import { memberName, type ClassDraft, type ClassMember } from './class-draft.js';
import { atDepth, bodyText, byHand, memberIndent, renamedMethods, replaceThis, textWithin } from './function-text.js';
import { afterShownLines, latestLines, laterParts, nothingLater } from './later.js';
import { effectTexts } from './life-cycle.js';
import { givenProps, staticText } from './props.js';
import { type State, constructorOf, initialState } from './state-declaration.js';
import { declareRefs } from './instance-refs.js';
import { commentsOf, innerComments, comments, trailingComments, arrowText, methodText } from './members-text.js';
import { walk } from '../../source/traverse.js';

const noCounterpart = new Map(
  Object.entries({
    componentDidCatch: 'only a class can catch the errors of what it shows',
    getDerivedStateFromError: 'only a class can catch the errors of what it shows',
    getSnapshotBeforeUpdate: 'a function has no moment just before the page changes',
    getDerivedStateFromProps: 'the state follows the props at every render, which a function has to say by itself',
    shouldComponentUpdate: 'a function decides in another way whether it is shown anew',
    UNSAFE_componentWillMount: 'a function has no moment before its first view',
    UNSAFE_componentWillReceiveProps: 'a function has no moment at which props arrive',
    UNSAFE_componentWillUpdate: 'a function has no moment just before it is shown anew',
    componentWillMount: 'a function has no moment before its first view',
    componentWillReceiveProps: 'a function has no moment at which props arrive',
  }),
);

/** Writes a class component as a function with one state variable for all that `this.state` held. */
export function writeFunction(model: FormModel, context: WriteContext, site: FormSite): RewritePlan {
  const { script, component } = site;
  if (component.kind !== 'class') throw new Error('it is no class');
  const { path } = component;
  const members = new Map<string, ClassMember>();
  for (const member of path.node.body.body) {
    const name = memberName(member);
    if (name !== undefined && (t.isClassMethod(member) || t.isClassProperty(member))) members.set(name, member);
  }
  const draft: ClassDraft = {
    script,
    path,
    style: context.style,
    name: component.name,
    names: namesFor(script.text, members),
    ledger: [],
    edits: [],
    refs: new Map(),
    hooks: new Set(['useState']),
    known: new Map(),
    renamed: renamedMethods(path, members),
    later: nothingLater(),
    workedOut: new Map(),
    needs: new Set(),
  };
  draft.later = laterParts(draft);
  refuseWhatStays(draft, members);
  const state = initialState(draft);
  declareRefs(draft, members);
  replaceThis(draft, members);
  const kept = draft.ledger.filter(({ entry }) => entry === 'by-hand');
  if (kept.length) return leftByHand(kept);
  const text = functionText(draft, members, state);
  const statics = staticText(draft, members);
  const again = draft.ledger.filter(({ entry }) => entry === 'by-hand');
  if (again.length) return leftByHand(again);
  const span = spanOf(script.file, path);
  const edits: RewritePlan['edits'] = [{ ...span, text }];
  const statement = spanOf(script.file, component.statement);
  if (statics) edits.push({ file: script.file, start: statement.end, end: statement.end, text: statics });
  edits.push(...importEdits(draft, text));
  for (const control of model.controls)
    draft.ledger.push({
      entry: 'kept',
      span: control.span,
      what: `control of ${control.field}`,
      why: 'it shows the same value',
    });
  draft.ledger.push({
    entry: 'carried',
    span,
    what: `class ${draft.name}`,
    why: `it is a function now; ${draft.names.state} holds what this.state held`,
  });
  return { edits, creates: [], deletes: [], dependencies: [], ledger: draft.ledger, renamed: draft.renamed };
}

function namesFor(text: string, members: ReadonlyMap<string, ClassMember>): ClassDraft['names'] {
  const free = (...wished: string[]): string =>
    wished.find(
      (name) =>
        (name === 'state' || !members.has(name)) &&
        !new RegExp(`\\b(const|let|var|function)\\s+${name}\\b|[({,]\\s*${name}\\s*[,})]\\s*=>`).test(text),
    ) ??
    wished.at(-1) ??
    '';
  const unused = (...wished: string[]): string =>
    wished.find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? `${wished.at(-1) ?? ''}Of`;
  return {
    state: free('state', 'values', 'current', 'formState'),
    setState: free('setState', 'changeState'),
    props: 'props',
    latest: unused('latest', 'latestState', 'stateNow'),
    latestProps: unused('latestProps', 'propsNow'),
    afterShown: unused('afterShown', 'onceShown', 'waitingForView'),
    showAgain: unused('showAgain', 'refresh', 'viewAgain'),
  };
}

function refuseWhatStays(draft: ClassDraft, members: ReadonlyMap<string, ClassMember>): void {
  const { path, script } = draft;
  const { superClass } = path.node;
  const base = superClass ? script.text.slice(superClass.start ?? 0, superClass.end ?? 0) : '';
  if (superClass && !/^(\w+\.)?(Component|PureComponent)$/.test(base))
    byHand(draft, superClass, 'it extends a class of the project, whose members a function does not have');
  if (path.node.decorators?.length) byHand(draft, path.node.decorators[0] ?? path.node, 'a decorator takes a class');
  if (!path.isClassDeclaration()) byHand(draft, path.node, 'the class is written as an expression');
  for (const [name, member] of members) {
    const why = noCounterpart.get(name);
    if (why !== undefined) byHand(draft, member.key, why);
    if (name === 'contextType') byHand(draft, member.key, 'the context is read by a hook in a function');
    if (t.isClassMethod(member) && (member.generator || member.kind === 'set'))
      byHand(draft, member.key, 'this kind of member has no counterpart in a function');
  }
  for (const member of path.node.body.body)
    if (memberName(member) === undefined) byHand(draft, member, 'this kind of member is not followed');
}

/** The whole function in place of the class. */
function functionText(
  draft: ClassDraft,
  members: ReadonlyMap<string, ClassMember>,
  begins: { node: t.Expression | undefined; type: string | undefined },
): string {
  const { path, style, names, script } = draft;
  const indent = memberIndent(draft);
  const end = style.semicolon;
  const state = stateOf(draft, begins);
  const parts: string[] = [];
  const call = (name: string): string => {
    draft.hooks.add(name);
    return callOf(draft, name);
  };
  if (state)
    parts.push(
      `${comments(draft, stateMember(draft))}${indent}const [${names.state}, ${names.setState}] = ${call('useState')}${state.type === undefined || !script.typescript ? '' : `<${state.type}>`}(${state.text})${end}`,
    );
  const refs = [...draft.refs].map(([name, { text }]) => `${indent}const ${name} = ${call('useRef')}${text}${end}`);
  const refComments = path.node.body.body
    .filter((member) => draft.refs.has(memberName(member) ?? ''))
    .map((member) => comments(draft, member))
    .join('');
  if (refs.length) parts.push(refComments + refs.join(style.newline));
  const latest = latestLines(draft, indent, call);
  if (latest.length) parts.push(latest.join(style.newline));
  const constructor = constructorOf(draft);
  if (constructor) {
    const lost = [...commentsOf(draft, constructor), ...innerComments(draft, constructor)].filter(
      (text) => !parts.join('\n').includes(text),
    );
    if (lost.length) parts.unshift(lost.map((text) => indent + text).join(style.newline));
  }
  const effects = effectTexts(draft, members, call);
  for (const member of path.node.body.body) {
    const name = memberName(member);
    if (name === undefined || member === constructor || name === 'state' || name === 'render') continue;
    if (!t.isClassMethod(member) && !t.isClassProperty(member)) continue;
    if (member.static === true || draft.refs.has(name)) continue;
    const effect = effects.get(name);
    if (effect !== undefined) {
      if (effect !== '') parts.push(comments(draft, member) + effect);
      continue;
    }
    if (t.isClassProperty(member)) parts.push(comments(draft, member) + arrowText(draft, member, indent));
    else parts.push(comments(draft, member) + methodText(draft, member, indent));
  }
  const shown = afterShownLines(draft, indent, call);
  const render = members.get('render');
  if (!render) return '';
  const rendered = t.isClassMethod(render) ? atDepth(bodyText(draft, render.body), indent + style.indent, indent) : '';
  if (!t.isClassMethod(render)) byHand(draft, render, 'render is no method');
  if (shown.length) parts.push(shown.join(style.newline));
  parts.push(comments(draft, render) + rendered);
  const joint = style.newline + style.newline;
  const given = givenProps(draft, members, new RegExp(`\\b${names.props}\\b`).test(parts.join('\n')));
  if (given.line !== undefined) parts.unshift(indent + given.line);
  const generics = path.node.typeParameters;
  const types = generics ? script.text.slice(generics.start ?? 0, generics.end ?? 0) : '';
  const tail = trailingComments(draft);
  const outer = indent.slice(0, Math.max(0, indent.length - style.indent.length));
  return `function ${draft.name}${types}(${given.parameter}) {${style.newline}${parts.join(joint)}${tail}${style.newline}${outer}}`;
}

function callOf(draft: ClassDraft, name: string): string {
  return reactImportEdits(draft.script, { add: [], drop: [] }, () => 1).call(name);
}

function stateMember(draft: ClassDraft): t.Node | undefined {
  return draft.path.node.body.body.find((member) => memberName(member) === 'state');
}

function stateOf(
  draft: ClassDraft,
  { node, type }: { node: t.Expression | undefined; type: string | undefined },
): State | undefined {
  if (!node) return undefined;
  const inner = t.isTSAsExpression(node) ? node.expression : node;
  const text = textWithin(draft, node.start ?? 0, node.end ?? 0);
  const own = memberIndent(draft);
  const deeper = constructorOf(draft) && !stateMember(draft) ? own + draft.style.indent : own;
  const placed = atDepth(text, deeper, own);
  // what is worked out is worked out once
  const once = /\w\(/.test(placed) && t.isObjectExpression(inner);
  return { text: once ? `() => (${placed})` : placed, type };
}

function importEdits(draft: ClassDraft, written: string): RewritePlan['edits'] {
  const { script, path } = draft;
  const start = path.node.start ?? 0;
  const end = path.node.end ?? 0;
  const inClass = (name: string): number => {
    let count = 0;
    walk(path, {
      Identifier(inner) {
        if (
          inner.node.name === name &&
          inner.scope.getBinding(name)?.scope.path.isProgram() === true &&
          inner.isReferencedIdentifier()
        )
          count++;
      },
      TSTypeReference(inner) {
        if (t.isIdentifier(inner.node.typeName, { name })) count++;
      },
    });
    return count;
  };
  const left = (name: string): number => {
    const stays = written.match(new RegExp(`(?<![.\\w$])${name}\\b`, 'g'))?.length ?? 0;
    const base = t.isIdentifier(path.node.superClass, { name }) ? 1 : 0;
    const outside = namedReferences(script, name) - inClass(name);
    return Math.max(0, outside - (base && inClass(name) === 0 ? base : 0)) + stays;
  };
  const result = reactImportEdits(
    script,
    {
      add: [...draft.hooks].filter((name) => callOf(draft, name) === name),
      drop: ['Component', 'PureComponent', 'createRef'],
    },
    left,
  );
  return result.edits
    .filter((edit) => edit.end <= start || edit.start >= end)
    .map((edit) => ({ file: script.file, ...edit }));
}
