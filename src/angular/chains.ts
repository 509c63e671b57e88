import {
  ASTWithSource,
  Binary,
  Call,
  Interpolation,
  KeyedRead,
  LiteralArray,
  LiteralMap,
  LiteralPrimitive,
  NonNullAssert,
  ParenthesizedExpression,
  PropertyRead,
  SafeCall,
  SafeKeyedRead,
  SafePropertyRead,
  SpreadElement,
  type AST,
} from '@angular/compiler';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { literalText } from './decorators.js';
import type { Place, TemplateName, TemplatePlace } from './template-model.js';

/** One step of a chain: `model`, `.vessel`, `.get('vessel')`. */
export interface Link {
  key: string;
  /** Offset behind the step, its call included. */
  end: number;
  /** Where the step is called. */
  call: { arguments: Place[]; texts: (string | undefined)[] } | undefined;
  /** The key is computed: `model[key]`; it is empty then. */
  computed: Place | undefined;
}

/** What happens to the whole chain. */
export type Ending =
  | { kind: 'assigned'; operator: string; value: Place; whole: Place; statement: Place | undefined }
  | { kind: 'stepped'; operator: '++' | '--'; whole: Place; statement: Place | undefined }
  | { kind: 'spread'; object: Place | undefined }
  | { kind: 'statement'; statement: Place }
  | { kind: 'shorthand'; key: string }
  | { kind: 'plain' };

/** A name with everything that is asked of it: `this.model.vessel = value`, `vessel.errors?.['required']`. */
export interface Chain {
  file: string;
  start: number;
  links: Link[];
  ending: Ending;
  inTemplate: boolean;
  /** Whether it stands in a handler of the template. */
  inEvent: boolean;
}

function classPlace(node: { start?: number | null; end?: number | null }): Place {
  return { start: node.start ?? 0, end: node.end ?? 0 };
}

/**
 * The chain that starts with a path of the class: `this.name` or a name that stands for it.
 * @param first the path of the first link
 * @param key the first link's name
 */
export function classChain(file: string, first: NodePath, key: string): Chain {
  const links: Link[] = [{ key, end: first.node.end ?? 0, call: undefined, computed: undefined }];
  let at = first;
  for (let parent = at.parentPath; parent; parent = at.parentPath) {
    const last = links.at(-1);
    if (!last) break;
    if ((parent.isMemberExpression() || parent.isOptionalMemberExpression()) && at.key === 'object') {
      const { property, computed } = parent.node;
      const text = computed ? literalText(property) : t.isIdentifier(property) ? property.name : undefined;
      const numeric = computed && t.isNumericLiteral(property) ? String(property.value) : undefined;
      links.push({
        key: text ?? numeric ?? '',
        end: parent.node.end ?? 0,
        call: undefined,
        computed: text === undefined && numeric === undefined ? classPlace(property) : undefined,
      });
    } else if ((parent.isCallExpression() || parent.isOptionalCallExpression()) && at.key === 'callee') {
      if (last.call) break;
      const { arguments: given } = parent.node;
      last.call = { arguments: given.map(classPlace), texts: given.map((one) => literalText(one) ?? pathText(one)) };
      last.end = parent.node.end ?? 0;
    } else if (!parent.isTSNonNullExpression() && !parent.isParenthesizedExpression() && !parent.isTSAsExpression())
      break;
    at = parent;
  }
  return { file, start: first.node.start ?? 0, links, ending: classEnding(at), inTemplate: false, inEvent: false };
}

/** A path that is given as a list of keys. */
function pathText(node: t.Node): string | undefined {
  if (!t.isArrayExpression(node)) return undefined;
  const keys = node.elements.map((one) => literalText(one));
  return keys.every((key) => key !== undefined) ? keys.join('.') : undefined;
}

function classEnding(at: NodePath): Ending {
  const parent = at.parentPath;
  const statement = (path: NodePath): Place | undefined =>
    path.parentPath?.isExpressionStatement() ? classPlace(path.parentPath.node) : undefined;
  if (parent?.isAssignmentExpression() && at.key === 'left') {
    return {
      kind: 'assigned',
      operator: parent.node.operator,
      value: classPlace(parent.node.right),
      whole: classPlace(parent.node),
      statement: statement(parent),
    };
  }
  if (parent?.isUpdateExpression())
    return {
      kind: 'stepped',
      operator: parent.node.operator,
      whole: classPlace(parent.node),
      statement: statement(parent),
    };
  if (parent?.isSpreadElement() && parent.parentPath.isObjectExpression()) {
    const object = parent.parentPath;
    const alone = object.node.properties.length === 1 && !object.node.extra?.['trailingComma'];
    return { kind: 'spread', object: alone ? classPlace(object.node) : undefined };
  }
  const own = statement(at);
  return own ? { kind: 'statement', statement: own } : { kind: 'plain' };
}

/**
 * The chain that starts with a name of the template.
 * @param place where the template's text stands
 */
export function templateChain(name: TemplateName, place: TemplatePlace): Chain {
  const { base } = place;
  const end = (node: AST): number => base + node.sourceSpan.end;
  const span = (node: AST): Place => ({ start: base + node.sourceSpan.start, end: end(node) });
  const links: Link[] = [{ key: name.name, end: name.end, call: undefined, computed: undefined }];
  let index = 0;
  let at = name.around[0];
  for (; at && index + 1 < name.around.length; index++) {
    const parent: AST | undefined = name.around[index + 1];
    const last = links.at(-1);
    if (!parent || !last) break;
    if ((parent instanceof PropertyRead || parent instanceof SafePropertyRead) && parent.receiver === at) {
      links.push({ key: parent.name, end: end(parent), call: undefined, computed: undefined });
    } else if ((parent instanceof KeyedRead || parent instanceof SafeKeyedRead) && parent.receiver === at) {
      const key = parent.key instanceof LiteralPrimitive ? String(parent.key.value) : undefined;
      links.push({
        key: key ?? '',
        end: end(parent),
        call: undefined,
        computed: key === undefined ? span(parent.key) : undefined,
      });
    } else if ((parent instanceof Call || parent instanceof SafeCall) && parent.receiver === at) {
      if (last.call) break;
      last.call = {
        arguments: parent.args.map(span),
        texts: parent.args.map((one) => literalOf(one)),
      };
      last.end = end(parent);
    } else if (!(parent instanceof NonNullAssert) && !(parent instanceof ParenthesizedExpression)) break;
    at = parent;
  }
  return {
    file: place.file,
    start: name.start,
    links,
    ending: templateEnding(at, name.around.slice(index + 1), span),
    inTemplate: true,
    inEvent: name.inEvent,
  };
}

/** A text, or the keys of a list of texts as a path. */
function literalOf(node: AST): string | undefined {
  if (node instanceof LiteralPrimitive) return typeof node.value === 'string' ? node.value : undefined;
  if (!(node instanceof LiteralArray)) return undefined;
  const keys = node.expressions.map(literalOf);
  return keys.every((key) => key !== undefined) ? keys.join('.') : undefined;
}

function templateEnding(at: AST | undefined, around: readonly AST[], span: (node: AST) => Place): Ending {
  const [parent] = around;
  if (parent instanceof Binary && Binary.isAssignmentOperation(parent.operation) && parent.left === at) {
    return {
      kind: 'assigned',
      operator: parent.operation,
      value: span(parent.right),
      whole: span(parent),
      statement: undefined,
    };
  }
  if (parent instanceof LiteralMap) {
    const key = parent.keys.find((_, index) => parent.values[index] === at);
    if (key && 'isShorthandInitialized' in key && key.isShorthandInitialized)
      return { kind: 'shorthand', key: key.key };
  }
  if (parent instanceof SpreadElement) return { kind: 'spread', object: undefined };
  if (parent instanceof ASTWithSource || parent instanceof Interpolation) return { kind: 'plain' };
  return { kind: 'plain' };
}

/** How many links of a chain spell a path: `['model', 'vessel']` in `model.vessel.length` gives 2; 0 where they do not. */
export function linksAlong(chain: Chain, path: readonly string[]): number {
  for (const [index, key] of path.entries()) {
    const link = chain.links[index];
    if (link?.key !== key || link.computed || (link.call && index < path.length - 1)) return 0;
  }
  return path.length;
}
