import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { behindName, memberNamed, type Placed } from '../../source/behind-names.js';
import { camel, pascal } from '../form-names.js';
import { importOf } from '../hook-calls.js';
import { returnedBy } from './sending.js';
import { stays, type Leaving } from './leaving.js';
import { otherwise } from './conditions.js';
import { asksView, putAbove, typeAbove } from './starts.js';
import { walk } from '../../source/traverse.js';

/** The packages whose schemas are kept as they are, and asked by the form’s own code. */
export type SchemaLibrary = 'zod' | 'yup';

/** Rules that a schema states, and what it makes of the values that it is given. */
export interface SchemaRules {
  library: SchemaLibrary;
  /** The schema, as the component says it. */
  name: string;
  /** What it gives may be other than what it was given: trimmed, cast, without keys that it does not know. */
  makes: boolean;
  /** What it gives may be of another type than what it was given. */
  retypes: boolean;
  /** It asks something of all values together, and names no field for its message. */
  asksAll: boolean;
}

/** Words of a schema that check at once, by their package. */
const vocabulary: Readonly<Record<SchemaLibrary, ReadonlySet<string>>> = {
  zod: new Set(
    (
      'object strictObject looseObject string number boolean date enum nativeEnum literal array any unknown null undefined ' +
      'min max length email url uuid regex includes startsWith endsWith nonempty int positive nonnegative negative ' +
      'nonpositive gt gte lt lte multipleOf step finite safe datetime time optional nullable nullish refine superRefine ' +
      'check trim toLowerCase toUpperCase transform default prefault catch preprocess pipe extend merge pick omit partial ' +
      'required passthrough strict strip brand readonly describe meta'
    ).split(' '),
  ),
  yup: new Set(
    (
      'object string number boolean bool date array mixed of shape required notRequired defined optional nullable ' +
      'nonNullable min max length email url uuid matches oneOf notOneOf is equals test when ref positive negative integer ' +
      'moreThan lessThan trim lowercase uppercase typeError label meta describe default concat pick omit noUnknown strict ' +
      'strip transform truncate round compact ensure isTrue isFalse'
    ).split(' '),
  ),
};

const making: Readonly<Record<SchemaLibrary, RegExp>> = {
  zod: /^(?:trim|to(?:Lower|Upper)Case|transform|default|prefault|catch|preprocess|pipe|extend|merge|pick|omit|partial|strip|coerce)$/,
  yup: /^(?:number|date|array|mixed|shape|concat|pick|omit|trim|lowercase|uppercase|transform|default|truncate|round|compact|ensure|strip|noUnknown|nullable)$/,
};

const retyping: Readonly<Record<SchemaLibrary, RegExp>> = {
  zod: /^(?:transform|default|prefault|catch|preprocess|pipe|coerce|brand)$/,
  yup: /^(?:number|date|boolean|bool|mixed|transform|default|nullable|ensure|optional|notRequired)$/,
};

/**
 * The rules of a schema that the form was given, where all of it checks at once.
 * @param given the schema, as an expression of the component
 * @param fields all values of the form
 * @returns undefined where it is left by hand, which is said
 */
export function schemaRules(
  leaving: Leaving,
  given: NodePath,
  fields: readonly string[],
  rows = 0,
): SchemaRules | undefined {
  const { script, site } = leaving;
  const around = given.findParent((one) => one.isObjectProperty() || one.isJSXAttribute());
  if (around) otherwise(leaving, [around.node.start, given.node.start], around.node, 'the form asks its schema itself');
  const isNamed = given.isIdentifier() || given.isMemberExpression();
  if (!isNamed && asksView(given, site)) {
    stays(leaving, given, 'a schema that needs the component is made anew with each view');
    return undefined;
  }
  const root = behindName({ path: given, script }, site.load);
  const library = libraryOf(root.path);
  if (!library) {
    stays(leaving, given, 'the schema it is checked by could not be followed');
    return undefined;
  }
  const reading: Reading = {
    leaving,
    library,
    words: new Set(),
    seen: new Set(),
    objects: 0,
    rows: rows > 0,
    asksAll: false,
    odd: undefined,
  };
  readSchema(reading, root);
  if (reading.odd !== undefined) {
    stays(leaving, given, reading.odd);
    return undefined;
  }
  const words = [...reading.words];
  const knowsAll =
    reading.objects === 1 + rows && (library === 'yup' || fields.every((name) => knows(root.path, name)));
  return {
    library,
    name: isNamed
      ? script.text.slice(given.node.start ?? 0, given.node.end ?? 0)
      : putAbove(leaving, given, `${camel(site.component.name)}Schema`),
    makes: !knowsAll || words.some((word) => making[library].test(word)),
    retypes: words.some((word) => retyping[library].test(word)),
    asksAll: reading.asksAll,
  };
}

/** A schema while it is read. */
interface Reading {
  leaving: Leaving;
  library: SchemaLibrary;
  words: Set<string>;
  seen: Set<t.Node>;
  /** How many objects it states. */
  objects: number;
  /** Whether what it asks of each row of a list has a place. */
  rows: boolean;
  asksAll: boolean;
  /** The first thing of it that is not told. */
  odd: string | undefined;
}

/** The package at the root of a chain of calls: `z.object({…}).refine(…)`. */
function libraryOf(path: NodePath): SchemaLibrary | undefined {
  const made = importOf(rootOf(path));
  return made && moduleOf(made.module);
}

function moduleOf(module: string): SchemaLibrary | undefined {
  if (/^zod(?:\/v\d)?$/.test(module)) return 'zod';
  return module === 'yup' ? 'yup' : undefined;
}

/** What a chain of calls and members begins with. */
function rootOf(path: NodePath): NodePath {
  if (path.isCallExpression()) return rootOf(path.get('callee') as NodePath);
  return path.isMemberExpression() ? rootOf(path.get('object')) : path;
}

/** The first word of a chain of calls. */
function firstCall(path: NodePath): string | undefined {
  if (!path.isCallExpression()) return undefined;
  const callee = path.get('callee') as NodePath;
  const inner = callee.isMemberExpression() ? callee.get('object') : undefined;
  if (inner?.isCallExpression()) return firstCall(inner);
  const name = callee.isMemberExpression() ? callee.node.property : callee.node;
  return t.isIdentifier(name) ? (importOf(callee)?.name ?? name.name) : undefined;
}

function knows(path: NodePath, field: string): boolean {
  if (!path.isCallExpression()) return false;
  const callee = path.get('callee') as NodePath;
  const inner = callee.isMemberExpression() ? callee.get('object') : undefined;
  if (inner?.isCallExpression()) return knows(inner, field);
  const [shape] = path.get('arguments') as (NodePath | undefined)[];
  return shape !== undefined && memberNamed(shape, field) !== undefined;
}

function readSchema(reading: Reading, { path, script }: Placed): void {
  if (reading.seen.has(path.node)) return;
  reading.seen.add(path.node);
  const visit = (inner: NodePath): void => {
    if (inner.isFunction()) readFunction(reading, { path: inner, script }, 0);
    else if (inner.isCallExpression()) readWord(reading, { path: inner, script });
    else if (inner.isIdentifier() && inner.isReferencedIdentifier()) readName(reading, { path: inner, script });
    else if (inner.isMemberExpression() && t.isIdentifier(inner.node.property, { name: 'coerce' }))
      reading.words.add('coerce');
  };
  visit(path);
  walk(path, {
    enter(inner) {
      visit(inner);
      if (inner.isFunction()) inner.skip();
    },
  });
}

/** A word of the package: `z.string()`, `.min(1)`, `object({…})`. */
function readWord(reading: Reading, { path, script }: Placed): void {
  const { library, leaving } = reading;
  if (!path.isCallExpression()) return;
  const root = rootOf(path);
  const callee = path.get('callee') as NodePath;
  const isOwn = libraryOf(path) === library;
  const isSchema = isOwn || libraryOf(behindName({ path: root, script }, leaving.site.load).path) === library;
  if (!isSchema) {
    readCalled(reading, { path: callee, script });
    return;
  }
  const called = callee.isMemberExpression()
    ? callee.node.computed
      ? undefined
      : callee.node.property
    : isOwn && callee.isIdentifier()
      ? t.identifier(importOf(callee)?.name ?? '')
      : undefined;
  const word = t.isIdentifier(called) ? called.name : undefined;
  if (word === undefined || !vocabulary[library].has(word)) {
    reading.odd ??= `${word ?? 'a part'} of the schema is not asked by code here yet`;
    return;
  }
  reading.words.add(word);
  if (/^(?:array|of)$/.test(word) && !reading.rows && asksElements(path))
    reading.odd ??= 'what the schema asks of each value of a list has no place here yet';
  if (/^(?:\w*[oO]bject|shape|extend|merge)$/.test(word)) reading.objects += 1;
  const isOfAll = callee.isMemberExpression() && (!isOwn || firstCall(callee.get('object')) === 'object');
  if (word === 'test' && isOfAll && !/\bpath\b/.test(path.toString())) reading.asksAll = true;
  if (!/^(?:refine|superRefine|check|test|transform|preprocess)$/.test(word)) return;
  for (const given of path.get('arguments') as NodePath[]) {
    if (!given.isIdentifier()) continue;
    const behind = behindName({ path: given, script }, leaving.site.load);
    if (behind.path.isFunction()) readFunction(reading, behind, 0);
    else if (!t.isStringLiteral(behind.path.node) && !t.isObjectExpression(behind.path.node))
      reading.odd ??= `whether ${given.node.name} of the schema takes time is not told`;
  }
}

/** What a function of the project gives is a part of the schema: `town: requiredText('Which town?')`. */
function readCalled(reading: Reading, callee: Placed): void {
  const { path: fn, script } = behindName(callee, reading.leaving.site.load);
  if (fn.isFunction() && !fn.node.async)
    for (const given of returnedBy(fn as NodePath<t.Function>)) readSchema(reading, { path: given, script });
  else if (!isPlain(callee, reading)) reading.odd ??= `${callee.path.toString()} in the schema could not be followed`;
}

/** Whether a list’s values are asked for more than their type: `z.array(z.string().min(1))`. */
function asksElements(list: NodePath<t.CallExpression>): boolean {
  const [given] = list.get('arguments') as (NodePath | undefined)[];
  const callee = list.get('callee') as NodePath;
  const before = callee.isMemberExpression() ? callee.get('object') : undefined;
  const element = given ?? before;
  // yup’s `array()` alone asks nothing
  if (!element?.isCallExpression()) return given !== undefined;
  const inner = element.get('callee') as NodePath;
  const isPlainType = !inner.isMemberExpression() || !inner.get('object').isCallExpression();
  return !isPlainType || /^(?:\w*[oO]bject|shape)$/.test(firstCall(element) ?? '');
}

/** A name that may stand for a schema, or for a part of one. */
function readName(reading: Reading, at: Placed): void {
  const behind = behindName(at, reading.leaving.site.load);
  if (behind.path.node === at.path.node) return;
  if (behind.path.isCallExpression() || behind.path.isObjectExpression()) readSchema(reading, behind);
}

/** A function of the author’s that checks or makes a value has to be done at once. */
function readFunction(reading: Reading, { path, script }: Placed, depth: number): void {
  if (!path.isFunction() || reading.odd !== undefined || reading.seen.has(path.node)) return;
  reading.seen.add(path.node);
  const { load } = reading.leaving.site;
  const late = 'a rule of the schema takes time';
  if (path.node.async || path.node.generator || depth > 4) reading.odd = late;
  const answers = new Set(returnedBy(path as NodePath<t.Function>).map(({ node }) => node));
  walk(path, {
    AwaitExpression: () => void (reading.odd ??= late),
    Identifier(inner) {
      if (/^(?:Promise|fetch|setTimeout)$/.test(inner.node.name) && inner.isReferencedIdentifier())
        reading.odd ??= late;
    },
    CallExpression(call) {
      const callee = call.get('callee') as NodePath;
      const behind = callee.isIdentifier() ? behindName({ path: callee, script }, load) : undefined;
      const fn = behind?.path.isFunction() ? behind : undefined;
      if (fn) readFunction(reading, fn, depth + 1);
      else if (answers.has(call.node) && !isPlain({ path: callee, script }, reading, path))
        reading.odd ??= `whether ${callee.toString()} in the schema takes time is not told`;
    },
  });
}

/**
 * Whether a call is one of the language’s own, of a value that is written out, or of a schema.
 * @param within a function whose own names stand for values
 */
function isPlain({ path: callee, script }: Placed, { library, leaving }: Reading, within?: NodePath): boolean {
  const root = callee.isOptionalMemberExpression() ? rootOf(callee.get('object')) : rootOf(callee);
  const binding = root.isIdentifier() ? root.scope.getBinding(root.node.name) : undefined;
  if (root.isIdentifier() && !binding) return true;
  if (!callee.isMemberExpression() && !callee.isOptionalMemberExpression()) return false;
  const { property } = callee.node;
  if (!t.isIdentifier(property) || !(ofValues.test(property.name) || vocabulary[library].has(property.name)))
    return false;
  const around = binding?.scope.path;
  if (!binding || around === within || around?.findParent((parent) => parent === within)) return true;
  const { path: behind } = behindName({ path: root, script }, leaving.site.load);
  return behind.isLiteral() || behind.isArrayExpression() || behind.isNewExpression() || libraryOf(behind) === library;
}

/** Methods of texts, lists, numbers and days. */
const ofValues =
  /^(?:test|match|includes|indexOf|startsWith|endsWith|some|every|has|find|filter|map|at|slice|split|join|trim|replace(?:All)?|to(?:String|Fixed|LowerCase|UpperCase|ISOString)|get(?:Time|Day|Date|Month|FullYear|Hours|Minutes)|addIssue|createError|resolve)$/;

/** The name of the type of values that a schema takes: one that the file declares, or one put above the component. */
export function schemaType(leaving: Leaving, { library, name }: SchemaRules): string | undefined {
  const { script, site } = leaving;
  const asked = new RegExp(`^(?:\\w+\\.)?(?:infer|input|InferType)<typeof ${name.replaceAll(/[.$]/g, '\\$&')}>$`);
  for (const node of script.ast.program.body) {
    const declared = t.isExportNamedDeclaration(node) ? node.declaration : node;
    if (!t.isTSTypeAliasDeclaration(declared)) continue;
    const { start, end } = declared.typeAnnotation;
    if (asked.test(script.text.slice(start ?? 0, end ?? 0))) return declared.id.name;
  }
  const word = library === 'zod' ? 'input' : 'InferType';
  for (const node of script.ast.program.body) {
    if (!t.isImportDeclaration(node) || moduleOf(node.source.value) !== library) continue;
    const whole = node.specifiers.find(
      (one) => !t.isImportSpecifier(one) || t.isIdentifier(one.imported, { name: 'z' }),
    );
    if (whole)
      return typeAbove(leaving, `${pascal(site.component.name)}Values`, `${whole.local.name}.${word}<typeof ${name}>`);
  }
  return undefined;
}

/** What a schema makes of values that it finds right, as an expression. */
export function madeBy({ library, name }: SchemaRules, values: string): string {
  return library === 'zod' ? `${name}.parse(${values})` : `${name}.cast(${values})`;
}
