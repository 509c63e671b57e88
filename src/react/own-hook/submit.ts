import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import { wholeLines } from '../../source/removal.js';
import type { Script } from '../../source/script.js';
import { spanOf } from '../code.js';
import { functionOf } from '../components.js';
import type { StatusVariable } from '../status-variables.js';
import { walk } from '../../source/traverse.js';

/** A handler of the form's submit that asks the rules first and sends then: what the hook's `submit` does. */
export interface PlainSubmit {
  /** The function that gives the messages, as the component calls it. */
  rules: string;
  edits: RewritePlan['edits'];
  span: Span;
  /** Statements that the hook does by itself. */
  takenOver: Span[];
  /** The hook raises and lowers the submitting flag by itself. */
  keepsFlag: boolean;
}

interface Handler {
  fn: NodePath<t.FunctionDeclaration | t.ArrowFunctionExpression | t.FunctionExpression>;
  name: string;
  event: string;
}

/**
 * Finds the submit handler of a form if it prevents the page's own submit, asks a function of rules about all values,
 * keeps the errors, ends where there are some, and sends. Anything else it does in between stays its own.
 * @param status the status variables of the component that the hook will keep
 */
export function plainSubmit(
  model: FormModel,
  script: Script,
  status: readonly StatusVariable[],
): PlainSubmit | undefined {
  const errors = status.find(({ role }) => role === 'errors');
  const values = model.holder?.name;
  const handler = handlerOf(model, script);
  const body = handler?.fn.get('body') as NodePath | undefined;
  if (!errors?.setter || values === undefined || !handler || !body?.isBlockStatement()) return undefined;
  const [prevents, asks, keeps, ends, ...rest] = body.get('body');
  if (!prevents || !asks || !keeps || !ends || !rest.length) return undefined;
  const rules = askedRules(asks, values);
  const matches =
    isCall(prevents, (call) => isMemberCall(call, handler.event, 'preventDefault')) &&
    rules !== undefined &&
    isCall(
      keeps,
      ({ callee, arguments: [given] }) =>
        t.isIdentifier(callee, { name: errors.setter ?? '' }) && t.isIdentifier(given, { name: rules.found }),
    ) &&
    endsWhereBroken(ends, rules.found, script);
  if (!matches || !rules) return undefined;
  const start = handler.fn.node.start ?? 0;
  const end = ends.node.end ?? 0;
  const within = (node: { start?: number | null; end?: number | null }): boolean =>
    (node.start ?? 0) >= start && (node.end ?? 0) <= end;
  if (
    (script.ast.comments ?? []).some(within) ||
    model.uses.some(({ kind, span }) => kind !== 'read-all' && within(span))
  )
    return undefined;
  if (namesIn(rest, [handler.event, rules.found])) return undefined;
  const flag = flagEdits(
    rest,
    status.find(({ role }) => role === 'submitting'),
    script,
    model,
  );
  const lead = /^[ \t]*\r?\n([ \t]*\r?\n)*/.exec(script.text.slice(end))?.[0] ?? '';
  const opened = `submit(${handler.fn.node.async ? 'async ' : ''}() => {`;
  const declared = handler.fn.isFunctionDeclaration();
  const close = handler.fn.node.end ?? 0;
  const newline = /\r?\n$/.exec(lead)?.[0] ?? '';
  return {
    rules: rules.name,
    span: { file: script.file, start, end: close },
    takenOver: [
      ...[prevents, asks, keeps, ends].map((statement) => spanOf(script.file, statement)),
      ...(flag ?? []).map((edit) => ({ file: edit.file, start: edit.start, end: edit.end })),
    ],
    keepsFlag: flag !== undefined,
    edits: [
      {
        file: script.file,
        start,
        end: end + lead.length,
        text: `${declared ? `const ${handler.name} = ` : ''}${opened}${newline}`,
      },
      ...(flag ?? []),
      { file: script.file, start: close, end: close, text: declared ? ');' : ')' },
    ],
  };
}

/** The function that the form's submit goes to, where the form alone asks for it. */
function handlerOf(model: FormModel, script: Script): Handler | undefined {
  let found: Handler | undefined;
  walk(script.program, {
    JSXAttribute(attribute) {
      const inside = (attribute.node.start ?? 0) >= model.span.start && (attribute.node.end ?? 0) <= model.span.end;
      if (!inside || !t.isJSXIdentifier(attribute.node.name, { name: 'onSubmit' })) return;
      const container = attribute.get('value') as NodePath;
      const value = container.isJSXExpressionContainer() ? (container.get('expression') as NodePath) : undefined;
      const fn = value?.isIdentifier() ? functionOf(value) : undefined;
      const binding = value?.isIdentifier() ? value.scope.getBinding(value.node.name) : undefined;
      if (!fn || !value?.isIdentifier() || binding?.referencePaths.length !== 1) return;
      const [event, ...more] = fn.node.params;
      const ownVariable = fn.isFunctionDeclaration() || fn.parentPath.isVariableDeclarator();
      if (t.isIdentifier(event) && !more.length && ownVariable && !fn.node.generator)
        found = { fn, name: value.node.name, event: event.name };
    },
  });
  return found;
}

function isCall(statement: NodePath, test: (call: t.CallExpression) => boolean): boolean {
  const { node } = statement;
  return t.isExpressionStatement(node) && t.isCallExpression(node.expression) && test(node.expression);
}

function isMemberCall({ callee, arguments: given }: t.CallExpression, object: string, member: string): boolean {
  return (
    t.isMemberExpression(callee) &&
    t.isIdentifier(callee.object, { name: object }) &&
    t.isIdentifier(callee.property, { name: member }) &&
    !given.length
  );
}

/** `const found = check(values)`, with a function that stands outside of the component. */
function askedRules(statement: NodePath, values: string): { name: string; found: string } | undefined {
  const { node } = statement;
  const [declarator, ...more] = t.isVariableDeclaration(node) ? node.declarations : [];
  if (!declarator || more.length || !t.isIdentifier(declarator.id) || !t.isCallExpression(declarator.init))
    return undefined;
  const { callee, arguments: given } = declarator.init;
  const [only, ...others] = given;
  if (!t.isIdentifier(callee) || !t.isIdentifier(only, { name: values }) || others.length) return undefined;
  const outside = statement.scope.getBinding(callee.name)?.scope.path.isProgram() === true;
  return outside ? { name: callee.name, found: declarator.id.name } : undefined;
}

/** `if (Object.keys(found).length) return;` in its spellings. */
function endsWhereBroken(statement: NodePath, found: string, script: Script): boolean {
  const { node } = statement;
  if (!t.isIfStatement(node) || node.alternate) return false;
  const then = t.isBlockStatement(node.consequent) ? node.consequent.body : [node.consequent];
  const [only, ...more] = then;
  if (more.length || !t.isReturnStatement(only) || only.argument) return false;
  const test = script.text.slice(node.test.start ?? 0, node.test.end ?? 0).replace(/\s+/g, '');
  const counts = `Object.keys(${found}).length`;
  return [counts, `${counts}>0`, `${counts}!==0`, `${counts}>=1`, `Object.values(${found}).some(Boolean)`].includes(
    test,
  );
}

function namesIn(statements: readonly NodePath[], names: readonly string[]): boolean {
  let found = false;
  for (const statement of statements)
    walk(statement, {
      Identifier(path) {
        if (names.includes(path.node.name) && path.isReferencedIdentifier()) found = true;
      },
    });
  return found;
}

/** Takes away what raises and lowers the submitting flag around everything that is sent; undefined where it is more than that. */
function flagEdits(
  rest: readonly NodePath[],
  flag: StatusVariable | undefined,
  script: Script,
  model: FormModel,
): RewritePlan['edits'] | undefined {
  const [first] = rest;
  const last = rest.at(-1);
  const { setter } = flag ?? {};
  if (setter === undefined || !first || !last?.isTryStatement()) return undefined;
  const sets = (node: t.Node | null | undefined, value: boolean): boolean =>
    t.isExpressionStatement(node) &&
    t.isCallExpression(node.expression) &&
    t.isIdentifier(node.expression.callee, { name: setter }) &&
    t.isBooleanLiteral(node.expression.arguments[0], { value });
  const { handler, finalizer } = last.node;
  const [lowers, ...more] = finalizer?.body ?? [];
  if (!handler || !finalizer || more.length || !sets(first.node, true) || !sets(lowers, false)) return undefined;
  const references = first.scope.getBinding(setter)?.referencePaths ?? [];
  const commented = (script.ast.comments ?? []).some(
    ({ start, end }) => (start ?? 0) >= (handler.end ?? 0) && (end ?? 0) <= (finalizer.end ?? 0),
  );
  if (references.length !== 2 || commented) return undefined;
  return [
    {
      file: model.file,
      ...wholeLines(script.text, { start: first.node.start ?? 0, end: first.node.end ?? 0 }),
      text: '',
    },
    { file: model.file, start: handler.end ?? 0, end: finalizer.end ?? 0, text: '' },
  ];
}
