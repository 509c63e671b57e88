import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { SubmitHandler } from '../../form/life.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { functionOf } from '../components.js';
import { walk } from '../../source/traverse.js';

/**
 * The function that sends a form, where it stands in the component itself.
 * @param given what the event that sends is given
 */
export function handlerOf(
  { region, script, component }: FormSite,
  given: NodePath | undefined,
): SubmitHandler | undefined {
  const attribute = given?.findParent((outer) => outer.isJSXAttribute());
  if (!given || !attribute?.isJSXAttribute() || !/^on[A-Z]/.test(String(attribute.node.name.name))) return undefined;
  const fn = functionOf(given);
  if (!fn?.findParent((outer) => outer.node === component.path.node)) return undefined;
  const name = given.isIdentifier() ? given.node.name : undefined;
  const [event, ...more] = fn.get('params') as NodePath[];
  const taken = event?.isIdentifier() ? event : undefined;
  const asked = taken ? (fn.scope.getOwnBinding(taken.node.name)?.referencePaths ?? []) : [];
  const stops = asked.map(statementThatStops);
  const isElsewhere = name !== undefined && (given.scope.getBinding(name)?.referencePaths.length ?? 0) > 1;
  const isHere = given.isFunction() || name !== undefined;
  const bound = !isHere
    ? 'it is made where the form is given it'
    : more.length || (event && !taken)
      ? 'it takes more than the event'
      : stops.some((one) => one === undefined)
        ? 'it asks the event for more than not to leave the page'
        : isElsewhere
          ? 'it is also called from elsewhere'
          : undefined;
  return {
    given: spanOf(script.file, given),
    fn: spanOf(script.file, fn),
    name,
    hoisted: fn.isFunctionDeclaration(),
    async: fn.node.async === true,
    event: taken && eventOf(taken, fn, script),
    typed: typeAt(fn, script),
    prevents: stops.flatMap((one) => (one ? [spanOf(script.file, one)] : [])),
    bound,
    mayFail: waitsUncaught(fn),
    untyped: untypedButtons(region.element),
  };
}

/** Whether a function waits for something outside of a `try` that catches, so that its failure reaches the page. */
function waitsUncaught(fn: NodePath): boolean {
  let found = false;
  walk(fn, {
    Function: (inner) => inner.skip(),
    AwaitExpression(wait) {
      const { node } = wait.get('argument');
      const caught =
        t.isCallExpression(node) &&
        t.isMemberExpression(node.callee) &&
        t.isIdentifier(node.callee.property, { name: 'catch' });
      const around = wait.findParent(
        (outer) =>
          outer.isTryStatement() &&
          outer.node.handler != null &&
          wait.findParent((one) => one === outer.get('block')) !== null,
      );
      if (!caught && !around) found = true;
    },
  });
  return found;
}

/** The type that is written at the constant a function stands in. */
function typeAt(fn: NodePath, { file }: FormSite['script']): Span | undefined {
  const holder = fn.parentPath;
  const id = holder?.isVariableDeclarator() ? (holder.get('id') as NodePath) : undefined;
  const type = id?.isIdentifier() ? (id.get('typeAnnotation') as NodePath) : undefined;
  return type?.node ? spanOf(file, type) : undefined;
}

/** Where buttons that state no type can be given one. */
function untypedButtons(form: NodePath | undefined): number[] {
  const found: number[] = [];
  walk(form, {
    JSXOpeningElement(opening) {
      if (!t.isJSXIdentifier(opening.node.name, { name: 'button' })) return;
      const told = opening.node.attributes.some(
        (one) => t.isJSXSpreadAttribute(one) || t.isJSXIdentifier(one.name, { name: 'type' }),
      );
      if (!told) found.push(opening.node.name.end ?? 0);
    },
  });
  return found;
}

/** The statement that only keeps the browser from leaving the page: `event.preventDefault();`. */
function statementThatStops(event: NodePath): NodePath | undefined {
  const member = event.parentPath;
  const call = member?.parentPath;
  const statement = call?.parentPath;
  const stops =
    member?.isMemberExpression() === true &&
    event.key === 'object' &&
    t.isIdentifier(member.node.property) &&
    /^(preventDefault|stopPropagation|persist)$/.test(member.node.property.name) &&
    call?.isCallExpression() === true &&
    call.node.arguments.length === 0;
  return stops && statement?.isExpressionStatement() ? statement : undefined;
}

function eventOf(
  event: NodePath<t.Identifier>,
  fn: NodePath,
  { file, text }: FormSite['script'],
): { span: Span; enclosed: boolean } {
  const span = spanOf(file, event);
  const enclosed = !fn.isArrowFunctionExpression() || text.slice(fn.node.start ?? 0, span.start).includes('(');
  return { span, enclosed };
}
