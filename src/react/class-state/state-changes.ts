import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { fleeting, mayHaveEffects } from '../effects.js';
import type { Edit } from '../../source/edits.js';
import { indentAt } from '../../source/style.js';
import { bare } from '../../source/behind-names.js';
import { afterChange } from './after-change.js';
import type { ClassDraft } from './class-draft.js';
import { runsLater } from './later.js';
import { isStale } from './stale-reads.js';
import { walk } from '../../source/traverse.js';

function previousName(text: string): string {
  return ['prev', 'previous', 'before'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'previousState';
}

/**
 * What becomes of a call of `this.setState`: it merges, which the function's setter does only if it is told to.
 * @param only what is set, where the code that runs afterwards is said elsewhere
 * @returns edits of the call, or why there are none
 */
export function stateChangeText(
  call: NodePath<t.CallExpression>,
  draft: ClassDraft,
  only?: NodePath,
): { edits: Edit[]; why: string | undefined } {
  const { script, names } = draft;
  const no = (why: string): { edits: Edit[]; why: string } => ({ edits: [], why });
  const [written, callback] = only ? [only] : (call.get('arguments') as (NodePath | undefined)[]);
  if (!written) return no('nothing is set');
  const given = bare(written);
  const after = callback ? afterChange(call, given, callback, draft) : undefined;
  if (typeof after === 'string') return afterwards(call, given, written, draft) ?? no(after);
  if (after) {
    const change = stateChangeText(call, draft, given);
    for (const [node, text] of after.known) draft.known.set(node, text);
    return change.why === undefined ? { edits: [...change.edits, ...after.edits], why: undefined } : change;
  }
  const callee: Edit = { start: call.node.callee.start ?? 0, end: call.node.callee.end ?? 0, text: names.setState };
  const source = script.text.slice(given.node.start ?? 0, given.node.end ?? 0);
  // what the class had to claim of a part of its state is plain to see of the whole
  const claim: Edit[] = given === written ? [] : [{ start: given.node.end ?? 0, end: written.node.end ?? 0, text: '' }];
  if (given !== written && (!given.isObjectExpression() || script.text[written.node.start ?? 0] === '('))
    return no('what is set is claimed to be of another type');
  if (given.isObjectExpression()) {
    const later = fleeting.test(source);
    if (later && !isOnlyChange(call)) return no('it reads what may be another value by the time the state changes');
    const previous = later ? names.state : previousName(source);
    const open = (given.node.start ?? 0) + 1;
    const [first] = given.node.properties;
    const inserted = spreadIn(open, first, previous, draft);
    if (later) return { edits: [callee, inserted, ...claim], why: undefined };
    const apart =
      looksLater(given, draft) || mayHaveEffects(given)
        ? workedOutFirst(call, given, written, previous, draft, only !== undefined)
        : undefined;
    if (apart) return { edits: apart, why: undefined };
    return {
      edits: [
        callee,
        { start: given.node.start ?? 0, end: given.node.start ?? 0, text: `(${previous}) => (` },
        inserted,
        { start: given.node.end ?? 0, end: written.node.end ?? 0, text: ')' },
      ],
      why: undefined,
    };
  }
  if (!given.isArrowFunctionExpression() && !given.isFunctionExpression()) {
    if (!given.isIdentifier() && !given.isMemberExpression()) {
      if (!given.isCallExpression() && !given.isConditionalExpression()) return no('what is set is not written here');
    }
    const previous = previousName(source);
    return {
      edits: [
        callee,
        { start: given.node.start ?? 0, end: given.node.start ?? 0, text: `(${previous}) => ({ ...${previous}, ...` },
        { start: given.node.end ?? 0, end: given.node.end ?? 0, text: ' })' },
      ],
      why: undefined,
    };
  }
  return updaterEdits(given, callee, draft);
}

/** Whether what is set asks for the state or the props of now: it has to be worked out when it is set. */
function looksLater(given: NodePath, draft: ClassDraft): boolean {
  let found = false;
  walk(given, {
    ThisExpression(path) {
      const member = path.parentPath;
      if (!member.isMemberExpression() || !t.isIdentifier(member.node.property)) return;
      const { name } = member.node.property;
      if (name === 'state') found ||= isStale(member, draft.path) || runsLater(member, draft, 'methods');
      else found ||= draft.later.methods.has(name);
    },
  });
  return found;
}

/** What is set is worked out in a statement of its own, before the change that lays it over the state. */
function workedOutFirst(
  call: NodePath<t.CallExpression>,
  given: NodePath,
  written: NodePath,
  previous: string,
  draft: ClassDraft,
  open: boolean,
): Edit[] | undefined {
  const { script, style, names } = draft;
  const statement = call.parentPath;
  if (!statement.isExpressionStatement()) return undefined;
  const fn = call.findParent((parent) => parent.isFunction());
  const around = fn ? script.text.slice(fn.node.start ?? 0, fn.node.end ?? 0) : '';
  const taken = draft.workedOut.get(fn?.node) ?? 0;
  draft.workedOut.set(fn?.node, taken + 1);
  const base =
    ['change', 'changes', 'nextState'].find((name) => !new RegExp(`\\b${name}\\b`).test(around)) ?? 'stateChange';
  const name = taken ? `${base}${taken + 1}` : base;
  const indent = indentAt(script.text, call.node.start ?? 0);
  const set = `${names.setState}((${previous}) => ({ ...${previous}, ...${name} })${open ? '' : ')'}`;
  if (!statement.parentPath.isBlockStatement() && !open) {
    // a branch without braces gets them
    const step = `${style.newline}${indent}${style.indent}`;
    return [
      { start: call.node.callee.start ?? 0, end: given.node.start ?? 0, text: `{${step}const ${name} = ` },
      {
        start: given.node.end ?? 0,
        end: statement.node.end ?? 0,
        text: `${style.semicolon}${step}${set}${style.semicolon}${style.newline}${indent}}`,
      },
    ];
  }
  return [
    { start: call.node.callee.start ?? 0, end: given.node.start ?? 0, text: `const ${name} = ` },
    {
      start: given.node.end ?? 0,
      end: open ? (written.node.end ?? 0) : (call.node.end ?? 0),
      text: `${style.semicolon || ';'}${style.newline}${indent}${set}`,
    },
  ];
}

/** The values before, spread in front of what an object names: on a line of their own where each stands on one. */
function spreadIn(open: number, first: t.Node | undefined, previous: string, { script, style }: ClassDraft): Edit {
  if (!first) return { start: open, end: open, text: ` ...${previous} ` };
  const start = first.leadingComments?.[0]?.start ?? first.start ?? 0;
  const isWide = script.text.slice(open, start).includes('\n');
  if (!isWide) return { start: open, end: open, text: ` ...${previous},` };
  return { start, end: start, text: `...${previous},${style.newline}${indentAt(script.text, start)}` };
}

/** The code that runs once a change is shown waits in a list, which an effect runs. */
function afterwards(
  call: NodePath<t.CallExpression>,
  given: NodePath,
  written: NodePath,
  draft: ClassDraft,
): { edits: Edit[]; why: string | undefined } | undefined {
  const { script, style, names } = draft;
  const [, callback] = call.get('arguments') as (NodePath | undefined)[];
  const statement = call.parentPath;
  if (!callback || !statement.isExpressionStatement() || !statement.parentPath.isBlockStatement()) return undefined;
  if (callback.isFunction() && (callback.node.params.length || callback.node.async)) return undefined;
  // a change that may be none shows nothing
  if (given.isFunction() && /\bnull\b|\breturn;/.test(script.text.slice(given.node.start ?? 0, given.node.end ?? 0)))
    return undefined;
  const change = stateChangeText(call, draft, written);
  if (change.why !== undefined) return change;
  draft.needs.add('afterShown');
  const indent = indentAt(script.text, call.node.start ?? 0);
  const next = `)${style.semicolon || ';'}${style.newline}${indent}`;
  return {
    edits: [
      ...change.edits,
      { start: written.node.end ?? 0, end: callback.node.start ?? 0, text: `${next}${names.afterShown}.current.push(` },
      { start: callback.node.end ?? 0, end: call.node.end ?? 0, text: `${next}${names.showAgain}({})` },
    ],
    why: undefined,
  };
}

function updaterEdits(
  fn: NodePath<t.ArrowFunctionExpression | t.FunctionExpression>,
  callee: Edit,
  draft: ClassDraft,
): { edits: Edit[]; why: string | undefined } {
  const { names, script } = draft;
  const no = (why: string): { edits: Edit[]; why: string } => ({ edits: [], why });
  const [parameter, second, ...more] = fn.node.params;
  if (more.length) return no('the updater takes more than the state and the props');
  const edits: Edit[] = [callee];
  if (second) {
    if (!t.isIdentifier(second, { name: names.props })) return no('the updater takes the props by another name');
    edits.push({ start: parameter?.end ?? 0, end: second.end ?? 0, text: '' });
  }
  const source = script.text.slice(fn.node.start ?? 0, fn.node.end ?? 0);
  let previous: string;
  if (t.isIdentifier(parameter)) previous = parameter.name;
  else if (t.isObjectPattern(parameter)) {
    previous = previousName(source);
    for (const property of parameter.properties) {
      if (!t.isObjectProperty(property) || !property.shorthand || !t.isIdentifier(property.value))
        return no('the updater takes the state apart in a way that is not followed');
      const { name } = property.value;
      for (const reference of fn.scope.getBinding(name)?.referencePaths ?? []) {
        const short = t.isObjectProperty(reference.parent) && reference.parent.shorthand;
        edits.push({
          start: reference.node.start ?? 0,
          end: reference.node.end ?? 0,
          text: short ? `${name}: ${previous}.${name}` : `${previous}.${name}`,
        });
      }
    }
    edits.push({ start: parameter.start ?? 0, end: parameter.end ?? 0, text: previous });
    if (!/^(async\s*)?\(/.test(source)) return no('the updater is written in a way that is not followed');
  } else if (!parameter) {
    previous = previousName(source);
    const open = source.indexOf('(') + 1 + (fn.node.start ?? 0);
    edits.push({ start: open, end: open, text: previous });
  } else return no('the updater takes the state in a way that is not followed');
  const merge = (value: NodePath): boolean => {
    if (value.isNullLiteral()) {
      edits.push({ start: value.node.start ?? 0, end: value.node.end ?? 0, text: previous });
      return true;
    }
    if (value.isConditionalExpression()) return merge(value.get('consequent')) && merge(value.get('alternate'));
    if (!value.isObjectExpression()) return false;
    const open = (value.node.start ?? 0) + 1;
    const [first] = value.node.properties;
    if (t.isSpreadElement(first) && t.isIdentifier(first.argument, { name: previous })) return true;
    edits.push(spreadIn(open, first, previous, draft));
    return true;
  };
  const body = fn.get('body') as NodePath;
  let fine = true;
  if (!body.isBlockStatement()) fine = merge(body);
  else
    walk(fn, {
      Function: (inner) => inner.skip(),
      ReturnStatement(returned) {
        const value = returned.get('argument') as NodePath;
        if (!value.node)
          edits.push({
            start: (returned.node.start ?? 0) + 6,
            end: (returned.node.start ?? 0) + 6,
            text: ` ${previous}`,
          });
        else if (!merge(value)) fine = false;
      },
    });
  return fine ? { edits, why: undefined } : no('what the updater gives is not written as an object');
}

/** Whether a call is the only change of the state in its function, and none of it waits. */
function isOnlyChange(call: NodePath<t.CallExpression>): boolean {
  const fn = call.findParent((parent) => parent.isFunction());
  let count = 0;
  let waits = false;
  walk(fn, {
    AwaitExpression() {
      waits = true;
    },
    MemberExpression(path) {
      if (t.isThisExpression(path.node.object) && t.isIdentifier(path.node.property, { name: 'setState' })) count++;
    },
  });
  return count === 1 && !waits;
}
