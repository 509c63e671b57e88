import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, behindName, memberNamed, objectBehind, returnedValue, type Placed } from '../source/behind-names.js';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import type { VueFile } from './vue-file.js';

/** Functions that hold the object which they are given. */
export const reactiveCopies = /^(?:reactive|shallowReactive|ref|shallowRef|markRaw|readonly|toRaw)$/;

/** Where values live that a name of the template leads to. */
export interface Holder {
  /**
   * `ref`: one value, or an object, behind `.value`; `object`: a reactive object; `data`: a key of `data()`;
   * `composable`: what a function of the project gives; `library`: what a package gives; `alias`: another expression.
   */
  kind: 'ref' | 'object' | 'data' | 'composable' | 'library' | 'alias';
  name: string;
  /** What it begins as; undefined where the script does not say it. */
  start: Placed | undefined;
  /** The call of a composable or of a package's function. */
  call?: Placed;
  /** Members that were taken out of what a call gives. */
  taken?: string;
  /** The package. */
  from?: string;
  /** What an alias stands for, as source text. */
  of?: string;
  span: { start: number; end: number };
}

/** What the script of a component declares for its template. */
export interface ComponentScript {
  script: Script;
  holders: Map<string, Holder>;
  /** A function or method by its name. */
  functionNamed(name: string): NodePath | undefined;
  /** Callbacks that run when something changes by itself. */
  watchers: NodePath[];
  /** Where the component's parts stand. */
  scope: NodePath;
}

/** Reads what the names of a template stand for in the script: `<script setup>`, `setup()`, and options. */
export function componentScript({ script, setup }: VueFile, load: LoadScript): ComponentScript | undefined {
  if (!script) return undefined;
  const holders = new Map<string, Holder>();
  const options = optionsOf(script);
  const setupFunction = options && memberNamed(options, 'setup');
  const scope = setup ? script.program : (setupFunction ?? script.program);
  const methods = options && memberNamed(options, 'methods');
  const addAll = (path: NodePath): void => {
    for (const statement of statementsOf(path))
      if (statement.isVariableDeclaration())
        for (const declarator of statement.get('declarations'))
          for (const holder of holdersIn(declarator, script, load)) holders.set(holder.name, holder);
  };
  if (setup) {
    addAll(script.program);
    addImported(script, load, holders);
  }
  if (setupFunction) {
    addAll(setupFunction);
    addGiven(setupFunction, load, holders);
  }
  const data = options && memberNamed(options, 'data');
  const values = data && (data.isFunction() ? returnedValue(data) : bare(data));
  if (values?.isObjectExpression())
    for (const property of values.get('properties')) {
      if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) continue;
      const { name } = property.node.key;
      const start = { path: property.get('value') as NodePath, script };
      holders.set(name, { kind: 'data', name, start, ...placeOf(property.node) });
    }
  addComputed(options, holders);
  return {
    script,
    holders,
    scope,
    watchers: watchersIn(scope, options),
    functionNamed(name) {
      const method = methods && memberNamed(methods, name);
      if (method) return method;
      const declared = scope.isProgram() ? scope.scope.getBinding(name) : scope.scope.getOwnBinding(name);
      const path = declared?.path;
      if (path?.isFunctionDeclaration()) return path;
      const init = path?.isVariableDeclarator() ? (path.get('init') as NodePath) : undefined;
      return init?.node && bare(init).isFunction() ? bare(init) : undefined;
    },
  };
}

/** The object of a component's options. */
function optionsOf(script: Script): NodePath | undefined {
  for (const statement of script.program.get('body')) {
    if (!statement.isExportDefaultDeclaration()) continue;
    const given = bare(statement.get('declaration') as NodePath);
    if (given.isObjectExpression()) return given;
    if (given.isCallExpression()) {
      const [first] = given.get('arguments') as (NodePath | undefined)[];
      if (first && bare(first).isObjectExpression()) return bare(first);
    }
  }
  return undefined;
}

function statementsOf(path: NodePath): NodePath[] {
  if (path.isProgram()) return path.get('body');
  const body = path.isFunction() ? (path.get('body') as NodePath) : path;
  return body.isBlockStatement() ? body.get('body') : [];
}

function placeOf(node: t.Node): Pick<Holder, 'span'> {
  return { span: { start: node.start ?? 0, end: node.end ?? 0 } };
}

function holdersIn(declarator: NodePath<t.VariableDeclarator>, script: Script, load: LoadScript): Holder[] {
  const init = declarator.get('init') as NodePath;
  if (!init.node) return [];
  const made = bare(init);
  if (!made.isCallExpression()) return [];
  const { id } = declarator.node;
  const place = placeOf(declarator.node);
  const called = t.isIdentifier(made.node.callee) ? made.node.callee.name : '';
  const [first] = made.get('arguments') as (NodePath | undefined)[];
  const start = first && { path: first, script };
  if (t.isIdentifier(id)) {
    const { name } = id;
    if (/^(?:shallowRef|ref|customRef)$/.test(called)) return [{ kind: 'ref', name, start, ...place }];
    if (/^(?:reactive|shallowReactive)$/.test(called)) return [{ kind: 'object', name, start, ...place }];
    if (called === 'computed') return aliasOf(name, made, place);
    if (called === 'toRef' && first?.isIdentifier()) {
      const [, key] = made.node.arguments;
      return t.isStringLiteral(key)
        ? [{ kind: 'alias', name, start: undefined, of: `${first.node.name}.${key.value}`, ...place }]
        : [];
    }
    return givenBy(made, name, undefined, script, load, place);
  }
  if (!t.isObjectPattern(id)) return [];
  return id.properties.flatMap((property): Holder[] => {
    if (!t.isObjectProperty(property) || !t.isIdentifier(property.key)) return [];
    const local = t.isAssignmentPattern(property.value) ? property.value.left : property.value;
    if (!t.isIdentifier(local)) return [];
    if (called === 'toRefs' && first?.isIdentifier())
      return [
        { kind: 'alias', name: local.name, start: undefined, of: `${first.node.name}.${property.key.name}`, ...place },
      ];
    return givenBy(made, local.name, property.key.name, script, load, place);
  });
}

/** What a writable computed value stands for: the expression that its getter gives. */
function aliasOf(name: string, call: NodePath<t.CallExpression>, place: Pick<Holder, 'span'>): Holder[] {
  const [first] = call.get('arguments') as (NodePath | undefined)[];
  const getter = first && memberNamed(bare(first), 'get');
  const value = getter?.isFunction() ? returnedValue(getter) : undefined;
  if (!value || !first || !memberNamed(bare(first), 'set')) return [];
  return [{ kind: 'alias', name, start: undefined, of: value.toString(), ...place }];
}

/** What a function gives whose name begins with `use`: one of the project, or of a package. */
function givenBy(
  call: NodePath<t.CallExpression>,
  name: string,
  taken: string | undefined,
  script: Script,
  load: LoadScript,
  place: Pick<Holder, 'span'>,
): Holder[] {
  const { callee } = call.node;
  if (!t.isIdentifier(callee) || !/^(?:use[A-Z]|create[A-Z]\w*Form)/.test(callee.name)) return [];
  const from = moduleOf(call.get('callee') as NodePath);
  const own = from === undefined || /^[./~#]|^@\//.test(from) || load(script.file, from) !== undefined;
  const base = {
    name,
    start: undefined,
    call: { path: call, script },
    ...(taken === undefined ? {} : { taken }),
    ...place,
  };
  return own || from === undefined
    ? [{ kind: 'composable', ...base }]
    : [{ kind: 'library', from: packageOf(from), ...base }];
}

function moduleOf(callee: NodePath): string | undefined {
  if (!callee.isIdentifier()) return undefined;
  const declared = callee.scope.getBinding(callee.node.name)?.path;
  return declared && t.isImportDeclaration(declared.parent) ? declared.parent.source.value : undefined;
}

function packageOf(specifier: string): string {
  return specifier
    .split('/')
    .slice(0, specifier.startsWith('@') ? 2 : 1)
    .join('/');
}

/** Reactive values that stand in another file of the project. */
function addImported(script: Script, load: LoadScript, holders: Map<string, Holder>): void {
  for (const [name, binding] of Object.entries(script.program.scope.bindings)) {
    if (!binding.path.isImportSpecifier() && !binding.path.isImportDefaultSpecifier()) continue;
    if (holders.has(name)) continue;
    const local = binding.path.get('local') as NodePath;
    const { path, script: other } = behindName({ path: local, script }, load);
    if (!path.isCallExpression() || !t.isIdentifier(path.node.callee)) continue;
    const [first] = path.get('arguments') as (NodePath | undefined)[];
    const kind = { reactive: 'object', ref: 'ref' }[path.node.callee.name] as 'object' | 'ref' | undefined;
    if (kind)
      holders.set(name, {
        kind,
        name,
        start: first && { path: first, script: other },
        ...placeOf(binding.path.node),
      });
  }
}

/** What `setup()` gives under another name, or makes where it gives it. */
function addGiven(setup: NodePath, load: LoadScript, holders: Map<string, Holder>): void {
  const given = returnedValue(setup);
  if (!given?.isObjectExpression()) return;
  for (const property of given.get('properties')) {
    if (property.isSpreadElement()) {
      const argument = bare(property.get('argument') as NodePath);
      if (!argument.isCallExpression() || !t.isIdentifier(argument.node.callee, { name: 'toRefs' })) continue;
      const [object] = argument.get('arguments') as (NodePath | undefined)[];
      const known = object?.isIdentifier() ? holders.get(object.node.name) : undefined;
      const values = known?.start && objectBehind(known.start, load, reactiveCopies);
      for (const one of values?.path.isObjectExpression() ? values.path.node.properties : [])
        if (t.isObjectProperty(one) && t.isIdentifier(one.key) && known)
          holders.set(one.key.name, {
            ...known,
            kind: 'alias',
            name: one.key.name,
            of: `${known.name}.${one.key.name}`,
          });
      continue;
    }
    if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) continue;
    const { name } = property.node.key;
    const value = bare(property.get('value') as NodePath);
    const known = value.isIdentifier() ? holders.get(value.node.name) : undefined;
    if (known) holders.set(name, { ...known, name });
  }
}

/** Computed options with a setter. */
function addComputed(options: NodePath | undefined, holders: Map<string, Holder>): void {
  const computed = options && memberNamed(options, 'computed');
  if (!computed?.isObjectExpression()) return;
  for (const property of computed.get('properties')) {
    if (!property.isObjectProperty() || !t.isIdentifier(property.node.key)) continue;
    const { name } = property.node.key;
    const value = bare(property.get('value') as NodePath);
    const getter = memberNamed(value, 'get');
    const given = getter?.isFunction() && memberNamed(value, 'set') ? returnedValue(getter) : undefined;
    if (given)
      holders.set(name, {
        kind: 'alias',
        name,
        start: undefined,
        of: given.toString().replace(/^this\./, ''),
        ...placeOf(property.node),
      });
  }
}

function watchersIn(scope: NodePath, options: NodePath | undefined): NodePath[] {
  const found: NodePath[] = [];
  for (const statement of statementsOf(scope)) {
    const call = statement.isExpressionStatement() ? statement.get('expression') : undefined;
    if (!call?.isCallExpression() || !t.isIdentifier(call.node.callee)) continue;
    if (!/^(?:watch|watchEffect|watchDebounced|debouncedWatch)$/.test(call.node.callee.name)) continue;
    const callback = (call.get('arguments') as NodePath[]).findLast((one) => one.isFunction());
    if (callback) found.push(callback);
  }
  const watch = options && memberNamed(options, 'watch');
  if (watch?.isObjectExpression()) found.push(watch);
  return found;
}

/** What a member of an object begins as, also where the object spreads another one. */
export function startOfMember(at: Placed, parts: readonly string[], load: LoadScript): Placed | undefined {
  const [part, ...rest] = parts;
  if (part === undefined) return at;
  if (part === '[]') {
    const { path, script } = behindName(at, load);
    const [first] = path.isArrayExpression() ? (path.get('elements') as NodePath[]) : [];
    return first?.node ? startOfMember({ path: first, script }, rest, load) : undefined;
  }
  const object = objectBehind(at, load, reactiveCopies);
  if (!object?.path.isObjectExpression()) return undefined;
  const own = memberNamed(object.path, part);
  if (own) return startOfMember({ path: own, script: object.script }, rest, load);
  for (const property of [...object.path.get('properties')].reverse()) {
    if (!property.isSpreadElement()) continue;
    const found = startOfMember({ path: property.get('argument') as NodePath, script: object.script }, parts, load);
    if (found) return found;
  }
  return undefined;
}
