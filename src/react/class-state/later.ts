import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { afterChange, methodsCalled } from './after-change.js';
import { memberName, type ClassDraft } from './class-draft.js';
import { bare } from '../../source/behind-names.js';
import { isStale } from './stale-reads.js';
import { walk } from '../../source/traverse.js';

/**
 * Code of a class that runs later than the view it was made in: a function would see that view's state and props
 * there, where the class sees the ones of now.
 */
export interface Later {
  /** Methods by name: their reads of the state are of now. */
  methods: Set<string>;
  /** Methods that are handed on once, after the first view: their reads of the props are of now as well. */
  mounted: Set<string>;
  /** Functions that run once a change is shown. */
  afterwards: Set<t.Node>;
}

/** Nothing of a class runs later. */
export function nothingLater(): Later {
  return { methods: new Set(), mounted: new Set(), afterwards: new Set() };
}

/** Finds what of a class runs later than its view. */
export function laterParts(draft: ClassDraft): Later {
  const later = nothingLater();
  const add = (root: NodePath, mounted: boolean): void => {
    for (const name of methodsCalled(root, draft).keys()) {
      later.methods.add(name);
      if (mounted) later.mounted.add(name);
    }
  };
  walk(draft.path, {
    Class: (inner) => inner.skip(),
    CallExpression(call) {
      const callee = call.get('callee');
      if (!isOwn(callee, 'setState')) return;
      const [written, callback] = call.get('arguments') as (NodePath | undefined)[];
      if (!written || !callback || typeof afterChange(call, bare(written), callback, draft) !== 'string') return;
      later.afterwards.add(callback.node);
      add(callback, false);
    },
    MemberExpression(member) {
      if (!t.isThisExpression(member.node.object) || member.node.computed) return;
      if (isStale(member, draft.path)) add(member, false);
    },
  });
  for (const member of draft.path.get('body').get('body')) {
    const name = memberName(member.node);
    if (name === 'componentWillUnmount') {
      later.methods.add(name);
      later.mounted.add(name);
      add(member, true);
    }
    if (name !== 'componentDidMount') continue;
    walk(member, {
      MemberExpression(inner) {
        // what is handed on, or called in a function of its own, may run at any time
        const called = inner.parentPath.isCallExpression() && inner.key === 'callee';
        const nested = inner.findParent((parent) => parent.isFunction())?.node !== member.node;
        if (t.isThisExpression(inner.node.object) && (!called || nested)) add(inner, true);
      },
    });
  }
  return later;
}

function isOwn(path: NodePath, name: string): boolean {
  return (
    path.isMemberExpression() && t.isThisExpression(path.node.object) && t.isIdentifier(path.node.property, { name })
  );
}

/** Whether a path stands in code that runs later. */
export function runsLater(path: NodePath, draft: ClassDraft, which: 'methods' | 'mounted'): boolean {
  if (which === 'methods' && path.findParent((parent) => draft.later.afterwards.has(parent.node))) return true;
  const member = path.findParent((parent) => parent.parentPath?.parentPath?.node === draft.path.node);
  const name = member ? memberName(member.node) : undefined;
  if (name === 'componentDidMount') return path.findParent((parent) => parent.isFunction())?.node !== member?.node;
  return name !== undefined && draft.later[which].has(name);
}

/** The lines that keep what is read later at hand: state and props of the latest view. */
export function latestLines(draft: ClassDraft, indent: string, call: (name: string) => string): string[] {
  const { names, style, needs } = draft;
  const keep = (ref: string, of: string): string =>
    [
      `${indent}const ${ref} = ${call('useRef')}(${of})${style.semicolon}`,
      `${indent}${ref}.current = ${of}${style.semicolon}`,
    ].join(style.newline);
  return [
    ...(needs.has('latest') ? [keep(names.latest, names.state)] : []),
    ...(needs.has('latestProps') ? [keep(names.latestProps, names.props)] : []),
  ];
}

/**
 * The lines that keep what waits for a change, and run it once the change is shown. The view is shown again also
 * where no value changed: a class renders on each change, and what waits has to run.
 */
export function afterShownLines(draft: ClassDraft, indent: string, call: (name: string) => string): string[] {
  const { names, style, needs, script } = draft;
  if (!needs.has('afterShown')) return [];
  const type = script.typescript ? '<(() => void)[]>' : '';
  const end = style.semicolon;
  return [
    [
      `${indent}const ${names.afterShown} = ${call('useRef')}${type}([])${end}`,
      `${indent}const [, ${names.showAgain}] = ${call('useState')}({})${end}`,
    ].join(style.newline),
    [
      `${indent}${call('useEffect')}(() => {`,
      `${indent}${style.indent}for (const run of ${names.afterShown}.current.splice(0)) run()${end}`,
      `${indent}})${end}`,
    ].join(style.newline),
  ];
}
