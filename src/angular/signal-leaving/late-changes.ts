import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import { initialNode } from '../class-reading.js';
import { leave, type Leaving } from './leaving.js';
import type { Place } from './places.js';
import { calledOf, nameOf } from './rule-texts.js';
import { walk } from '../../source/traverse.js';

/** A change that comes after an answer, where nothing tells the template of it. */
export function leaveLate({ path, leaving, chain }: Place): void {
  const { script } = leaving.component;
  const fn = path?.findParent((one) => one.isFunction());
  if (!path || !fn) return;
  const late = isLate(fn, chain.start, script);
  const nested = fn.isArrowFunctionExpression() && isCallback(fn) && !isSubmission(fn, leaving);
  const inSubmission = path.findParent((one) => one.isFunction() && isSubmission(one, leaving));
  if ((late || nested) && !inSubmission)
    leave(
      leaving,
      { file: script.file, start: chain.start, end: chain.links.at(-1)?.end ?? chain.start },
      'it changes the form after an answer, of which a form that is no signal tells the template nothing',
    );
}

/** Whether a function waits for something else than a submit before a place of its own. */
function isLate(fn: NodePath, at: number, script: Script): boolean {
  let late = false;
  walk(fn, {
    Function: (inner) => inner.skip(),
    AwaitExpression({ node }) {
      const sends = calledOf(node.argument, script) === 'submit';
      if (!sends && (node.end ?? 0) <= at) late = true;
    },
  });
  return late;
}

function isCallback(fn: NodePath): boolean {
  const { parentPath } = fn;
  if (!parentPath?.isCallExpression()) return false;
  const { callee } = parentPath.node;
  const name = t.isMemberExpression(callee) ? nameOf(callee.property) : nameOf(callee);
  return /^(then|catch|finally|subscribe|setTimeout|setInterval|queueMicrotask|effect|requestAnimationFrame)$/.test(
    name ?? '',
  );
}

/** Whether a function is what a submit does. */
function isSubmission(fn: NodePath, leaving: Leaving): boolean {
  const { parentPath } = fn;
  const call = parentPath?.isObjectProperty() ? parentPath.parentPath.parentPath : parentPath;
  if (calledOf(call?.node, leaving.component.script) === 'submit') return true;
  return isInSubmission(fn.node.start ?? 0, leaving);
}

/** Whether an offset stands in what the form is given to do when it is sent. */
export function isInSubmission(at: number, { found }: Leaving): boolean {
  const call = initialNode(found.form);
  const options = t.isCallExpression(call) ? call.arguments[2] : undefined;
  return options !== undefined && at >= (options.start ?? 0) && at < (options.end ?? 0);
}
