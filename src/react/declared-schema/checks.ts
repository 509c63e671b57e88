import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { Rule } from '../../form/rules.js';
import type { Span } from '../../form/code.js';
import {
  answerOtherwise,
  commentsOfPieces,
  removals,
  replacedObject,
  restOf,
  startWithComments,
  uniqueSpans,
  withComma,
} from './piece-edits.js';
import { schemaOf } from '../../rules/json-schema/write.js';
import type { Script } from '../../source/script.js';
import type { WriteContext } from '../../form/writing.js';
import { walk } from '../../source/traverse.js';

/** A function of the form's file whose rules move into the schema, in whole or in part. */
export interface MovedCheck {
  /** The rules that move. */
  rules: Rule[];
  edits: RewritePlan['edits'];
  /** Offset of the statement of the file that the function stands in. */
  at: number;
  /** Comments of what goes, by the rule they speak of. */
  comments: Map<Rule, string[]>;
}

/** What the new code calls things. */
export interface CheckNames {
  /** The function that checks by the schema. */
  check: string;
  /** The variable of the component that holds all values. */
  values: string;
}

type Fn = NodePath<t.Function>;

/** How a function gives its messages. */
type Shape =
  /** It fills an object that is empty at first, and returns it. */
  | { kind: 'filled'; start: NodePath<t.ObjectExpression> }
  /** It returns an object with a property for each field. */
  | { kind: 'object'; object: NodePath<t.ObjectExpression> }
  /** It is asked for a field by its name. */
  | { kind: 'by name'; branches: NodePath<t.SwitchStatement>; name: string }
  /** It returns an object at the first rule that is broken. */
  | { kind: 'first' };

/**
 * Finds the function of a form whose rules can move into a schema: of several, the one that states most.
 * A field's rules move together or not at all; a schema stands for one function, as others check at other moments.
 */
export function movedCheck(
  model: FormModel,
  script: Script,
  names: CheckNames,
  context: WriteContext,
): MovedCheck | undefined {
  const groups = new Map<number, Rule[]>();
  for (const rule of model.rules) {
    const { statedIn } = rule;
    if (statedIn?.fn.file !== script.file || statedIn.piece.file !== script.file) continue;
    groups.set(statedIn.fn.start, [...(groups.get(statedIn.fn.start) ?? []), rule]);
  }
  const moved = [...groups].flatMap(([start, rules]): MovedCheck[] => {
    const fn = functionStarting(script, start);
    const found = fn && !takesGroup(fn, rules, model) ? moveRules(fn, rules, model, script, names, context) : undefined;
    return found ? [found] : [];
  });
  return moved.sort((a, b) => b.rules.length - a.rules.length)[0];
}

/** Whether a function is handed a group of the values, which the schema for all of them does not fit. */
function takesGroup(fn: Fn, rules: readonly Rule[], { holder }: FormModel): boolean {
  const groups = new Set(rules.flatMap(({ fields }) => fields.flatMap((name) => /^(\w+)\./.exec(name)?.[1] ?? [])));
  if (!groups.size) return false;
  const { parent } = fn;
  const id = fn.isFunctionDeclaration() ? fn.node.id : t.isVariableDeclarator(parent) ? parent.id : undefined;
  const calls = t.isIdentifier(id) ? (fn.parentPath.scope.getBinding(id.name)?.referencePaths ?? []) : [];
  return calls.some(({ parent: call, key }) => {
    const [given] = t.isCallExpression(call) && key === 'callee' ? call.arguments : [];
    const name = t.isMemberExpression(given) && !given.computed ? given.property : given;
    return t.isIdentifier(name) && groups.has(name.name) && (t.isMemberExpression(given) || name.name !== holder?.name);
  });
}

function functionStarting(script: Script, start: number): Fn | undefined {
  let found: Fn | undefined;
  walk(script.program, {
    Function(path) {
      if (path.node.start === start) found = path;
    },
  });
  return found;
}

function shapeOf(fn: Fn): Shape | undefined {
  const body = fn.get('body') as NodePath;
  if (fn.node.async || fn.node.generator) return undefined;
  if (body.isObjectExpression()) return { kind: 'object', object: body };
  if (!body.isBlockStatement()) return undefined;
  const statements = body.get('body');
  const last = statements.at(-1);
  const result = last?.isReturnStatement() ? (last.get('argument') as NodePath) : undefined;
  if (result?.isObjectExpression()) {
    const early = statements.some((statement) => statement.isIfStatement());
    if (early) return result.node.properties.length ? undefined : { kind: 'first' };
    return { kind: 'object', object: result };
  }
  if (result?.isIdentifier()) {
    const declared = result.scope.getBinding(result.node.name)?.path;
    const start = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
    const empty = start?.isObjectExpression() && !start.node.properties.length;
    return empty && start.isObjectExpression() ? { kind: 'filled', start } : undefined;
  }
  const branches = statements.find((statement) => statement.isSwitchStatement());
  if (!branches?.isSwitchStatement()) return undefined;
  const asked = branches.node.discriminant;
  const others = statements.filter((statement) => statement !== branches);
  const nothing = others.every((one) => one.isReturnStatement() && isNothing(one.node.argument));
  return t.isIdentifier(asked) && nothing ? { kind: 'by name', branches, name: asked.name } : undefined;
}

function isNothing(node: t.Node | null | undefined): boolean {
  return (
    !node ||
    t.isNullLiteral(node) ||
    t.isIdentifier(node, { name: 'undefined' }) ||
    t.isStringLiteral(node, { value: '' })
  );
}

/** The name a rule's message is kept under. */
function keyOf(rule: Rule): string {
  return rule.key ?? rule.fields[0] ?? '';
}

/** Rules that can move: all of their name's rules are stated, and the pieces that state them do nothing else. */
function movableRules(rules: readonly Rule[], model: FormModel, script: Script, shape: Shape): Rule[] {
  const stated = new Set(schemaOf(model, rules).stated.map((rule) => rule.span.start + rule.fields.join()));
  // what the schema tells of a value inside of another one has the name of the outer one
  const isNamed = (rule: Rule): boolean => {
    const [field = ''] = rule.fields;
    return !/[.[]/.test(field) || keyOf(rule) === /^[^.[]*/.exec(field)?.[0];
  };
  const isStated = (rule: Rule): boolean => stated.has(rule.span.start + rule.fields.join()) && isNamed(rule);
  let keys = new Set(rules.map(keyOf).filter((key) => rules.every((rule) => keyOf(rule) !== key || isStated(rule))));
  for (let before = -1; before !== keys.size;) {
    before = keys.size;
    keys = new Set(
      [...keys].filter((key) =>
        rules
          .filter((rule) => keyOf(rule) === key)
          .every((rule) => {
            const piece = rule.statedIn?.piece;
            if (!piece) return false;
            const sharing = rules.filter((one) => one.statedIn?.piece.start === piece.start);
            return sharing.every((one) => keys.has(keyOf(one))) && onlyStates(piece, script, sharing.length);
          }),
      ),
    );
  }
  if (shape.kind === 'first' && !rules.every((rule) => keys.has(keyOf(rule)))) return [];
  return rules.filter((rule) => keys.has(keyOf(rule)));
}

/** Whether a piece of a function does nothing but give messages under conditions. */
function onlyStates(piece: Span, script: Script, messages: number): boolean {
  let plain = true;
  let given = 0;
  const isMessage = (node: t.Node): boolean =>
    t.isStringLiteral(node) || t.isTemplateLiteral(node) || t.isIdentifier(node) || t.isMemberExpression(node);
  const statement = (node: t.Node | null | undefined): void => {
    if (!node) return;
    if (t.isBlockStatement(node)) node.body.forEach(statement);
    else if (t.isIfStatement(node)) [node.consequent, node.alternate].forEach(statement);
    else if (t.isSwitchCase(node)) node.consequent.forEach(statement);
    else if (t.isReturnStatement(node)) value(node.argument);
    else if (t.isExpressionStatement(node) && t.isAssignmentExpression(node.expression)) value(node.expression.right);
    else if (!t.isBreakStatement(node) && !t.isEmptyStatement(node)) plain = false;
  };
  const value = (node: t.Node | null | undefined): void => {
    if (!node || isNothing(node)) return;
    if (t.isConditionalExpression(node)) [node.consequent, node.alternate].forEach(value);
    else if (t.isLogicalExpression(node) && node.operator === '&&') value(node.right);
    else if (t.isObjectExpression(node))
      node.properties.forEach((one) => (t.isObjectProperty(one) ? value(one.value) : (plain = false)));
    else if (isMessage(node)) given += 1;
    else plain = false;
  };
  walk(script.program, {
    enter(path) {
      if (path.node.start !== piece.start || path.node.end !== piece.end) return;
      if (path.isObjectProperty()) value(path.node.value);
      else if (path.isStatement() || path.isSwitchCase()) statement(path.node);
      else return;
      path.stop();
    },
  });
  return plain && given > 0 && given <= messages;
}

function moveRules(
  fn: Fn,
  rules: readonly Rule[],
  model: FormModel,
  script: Script,
  names: CheckNames,
  context: WriteContext,
): MovedCheck | undefined {
  const shape = shapeOf(fn);
  if (!shape) return undefined;
  const moving = movableRules(rules, model, script, shape);
  if (!moving.length) return undefined;
  const pieces = uniqueSpans(moving.flatMap(({ statedIn }) => (statedIn ? [statedIn.piece] : [])));
  const values = valuesFor(fn, names, pieces, script);
  if (!values) return undefined;
  const file = script.file;
  const edits: RewritePlan['edits'] = [...values.edits];
  const called = `${names.check}(${values.text})`;
  const body = fn.get('body') as NodePath;
  const end = context.style.semicolon;
  let replaced = false;
  const whole = (text: string): void => {
    replaced = true;
    const inner = body.isBlockStatement() ? body.node.body : [];
    const [first] = inner;
    const last = inner.at(-1);
    const start = first?.start ?? body.node.start ?? 0;
    edits.push({ file, start, end: last?.end ?? body.node.end ?? 0, text });
  };
  switch (shape.kind) {
    case 'first':
      whole(`return ${called}${end}`);
      break;
    case 'filled': {
      const rest = restOf(body, pieces);
      if (rest.length <= 2) whole(`return ${called}${end}`);
      else
        edits.push(
          { file, start: shape.start.node.start ?? 0, end: shape.start.node.end ?? 0, text: called },
          ...removals(pieces, script),
        );
      break;
    }
    case 'object': {
      const left = shape.object.node.properties.filter(
        (property) => !pieces.some(({ start }) => start === property.start),
      );
      const { start, end: stop } = { start: shape.object.node.start ?? 0, end: shape.object.node.end ?? 0 };
      if (!left.length) edits.push(...replacedObject(shape.object, called, script));
      else {
        edits.push({ file, start: start + 1, end: start + 1, text: ` ...${called},` });
        edits.push(...pieces.map((piece) => ({ file, ...withComma(piece, script.text, stop), text: '' })));
      }
      break;
    }
    case 'by name': {
      if (!namesField(fn, shape.name, model)) return undefined;
      const nothing = nothingOf(shape.branches, body);
      const answer = `return ${called}[${shape.name}]${nothing === 'undefined' ? '' : ` ?? ${nothing}`}${end}`;
      const cases = shape.branches.get('cases');
      const left = cases.filter(({ node }) => node.test && !pieces.some(({ start }) => start === node.start));
      if (!left.length) whole(answer);
      else {
        const other = cases.find(({ node }) => !node.test);
        edits.push(...removals(pieces, script));
        edits.push(...answerOtherwise(shape.branches, other, answer, script, context));
      }
      break;
    }
    default: {
      const never: never = shape;
      return never;
    }
  }
  const statement = fn.find((path) => path.parentPath?.isProgram() === true);
  const comments = commentsOfPieces(moving, fn, pieces, script, replaced);
  const inComponent = (fn.node.start ?? 0) >= model.span.start && (fn.node.end ?? 0) <= model.span.end;
  return {
    rules: moving,
    edits,
    at: inComponent || !statement ? model.before : startWithComments(statement, script),
    comments,
  };
}

/** What a function gives where nothing is wrong, as source text. */
function nothingOf(branches: NodePath<t.SwitchStatement>, body: NodePath): string {
  let found = 'undefined';
  walk(body, {
    ReturnStatement(statement) {
      const { argument } = statement.node;
      if (t.isNullLiteral(argument)) found = 'null';
      if (t.isStringLiteral(argument, { value: '' })) found = "''";
    },
    ConditionalExpression(choice) {
      for (const one of [choice.node.consequent, choice.node.alternate]) {
        if (t.isNullLiteral(one)) found = 'null';
        if (t.isStringLiteral(one, { value: '' })) found = "''";
      }
    },
  });
  return branches.node.cases.length ? found : 'undefined';
}

/** Whether a parameter can ask the schema's messages: its type is the fields' names, or the file has no types. */
function namesField(fn: Fn, parameter: string, model: FormModel): boolean {
  if (!model.typescript) return true;
  const found = fn.node.params.find((one) => t.isIdentifier(one, { name: parameter }));
  const annotation = t.isIdentifier(found) ? found.typeAnnotation : undefined;
  if (!t.isTSTypeAnnotation(annotation)) return false;
  const type = annotation.typeAnnotation;
  if (t.isTSTypeOperator(type)) return type.operator === 'keyof';
  return t.isTSTypeReference(type) && t.isIdentifier(type.typeName) && /name|key|field/i.test(type.typeName.name);
}

/** What a function can hand to the schema's check: a parameter that is all values, or the component's variable. */
function valuesFor(
  fn: Fn,
  names: CheckNames,
  pieces: readonly Span[],
  script: Script,
): { text: string; edits: RewritePlan['edits'] } | undefined {
  const { params } = fn.node;
  if (!params.length) return { text: names.values, edits: [] };
  const wholes = params.filter((one) => t.isIdentifier(one) && isReadAsWhole(fn, one.name));
  const [whole] = wholes;
  if (t.isIdentifier(whole)) return { text: whole.name, edits: [] };
  const [taken] = params;
  if (!t.isObjectPattern(taken) || params.length > 1) return undefined;
  const inPieces = (path: NodePath): boolean =>
    pieces.some(({ start, end }) => (path.node.start ?? 0) >= start && (path.node.end ?? 0) <= end);
  const left = Object.keys(t.getBindingIdentifiers(taken)).filter((name) =>
    (fn.scope.getOwnBinding(name)?.referencePaths ?? []).some((reference) => !inPieces(reference)),
  );
  // names that the rest of the function still needs would have to be taken out once more
  if (left.length || taken.properties.some((property) => t.isRestElement(property))) return undefined;
  const annotation = t.isTSTypeAnnotation(taken.typeAnnotation) ? (taken.typeAnnotation.start ?? 0) : undefined;
  const start = taken.start ?? 0;
  const end = annotation ?? taken.end ?? 0;
  const name = names.values;
  const bare = fn.isArrowFunctionExpression() && script.text[start - 1] !== '(' ? `(${name})` : name;
  return { text: name, edits: [{ file: script.file, start, end, text: bare }] };
}

/** Whether a parameter is an object whose members are read. */
function isReadAsWhole(fn: Fn, name: string): boolean {
  const references = fn.scope.getOwnBinding(name)?.referencePaths ?? [];
  return references.some((reference) => {
    const parent = reference.parentPath;
    if (parent?.isVariableDeclarator()) return t.isObjectPattern(parent.node.id);
    return (
      parent?.isMemberExpression() === true &&
      reference.key === 'object' &&
      !t.isIdentifier(parent.node.property, { name: 'length' }) &&
      !(parent.parentPath.isCallExpression() && parent.key === 'callee')
    );
  });
}
