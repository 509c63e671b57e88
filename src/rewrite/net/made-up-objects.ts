import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import type { FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { parseScript, type Script } from '../../source/script.js';
import type { Caught, PlannedStep } from './caught.js';

/** Objects of some of the fields that nothing takes together. */
export function madeUpObjects(step: PlannedStep): Caught[] {
  const { model, files, sources } = step;
  // the page gathers its values by itself
  if (model.approach === 'dom-values') return [];
  const names = fieldNames(model);
  const known = new Set<string>();
  // what is put over a constant or another object
  const spreads = new Set<string>();
  const stated: string[][] = [];
  const changed = changeSets(model);
  for (const set of changed) {
    known.add(keyOf(set));
    if (set.length > 1) spreads.add(keyOf(set));
  }
  for (const set of groupSets(model)) known.add(keyOf(set));
  // what is null until it is filled may get a start of its own
  if (model.holder?.start?.empty)
    known.add(keyOf(model.fields.filter(({ absent }) => !absent).map(({ name }) => name)));
  for (const file of new Set([
    ...model.files,
    ...files.flatMap(({ file, before }) => (before === null ? [] : [file])),
  ])) {
    if (!/\.[cm]?[jt]sx?$/.test(file)) continue;
    for (const set of settledInTurn(sources.script(file), names)) {
      known.add(keyOf(set));
      spreads.add(keyOf(set));
    }
    for (const { keys, start } of objectsOf(sources.script(file), names)) {
      const over = model.rules.some(
        ({ statedIn }) => statedIn?.fn.file === file && statedIn.fn.start <= start && statedIn.fn.end > start,
      );
      known.add(keyOf(keys));
      spreads.add(keyOf(keys));
      // messages of rules: those that data can say leave the code
      if (step.to === 'declared-schema' && over) stated.push(keys);
    }
  }
  const found: Caught[] = [];
  for (const { file, before, after } of files) {
    if (before === null || after === null || !/\.[cm]?[jt]sx?$/.test(file)) continue;
    const parsed = parseScript(file, after);
    if (!parsed.ok) continue;
    for (const { keys, action, handed, over, text } of objectsOf(parsed.script, names)) {
      const told = over ? spreads.has(keyOf(keys)) : keys.length < 2 || known.has(keyOf(keys));
      if (told) continue;
      const part = changed.some((set) => keys.every((key) => set.includes(key)));
      if (action && part) continue;
      // a schema holds the starts that are constants; a form says only the others
      if (step.to === 'declared-schema' && (handed || stated.some((set) => keys.every((key) => set.includes(key)))))
        continue;
      found.push({
        check: 'conservation',
        span: placeOf(model, keys),
        what: keys.join(', '),
        why: `the result would set or send ${keys.join(', ')} together, as nothing does now: ${text}`,
      });
    }
  }
  return found;
}

function keyOf(keys: readonly string[]): string {
  return [...keys].sort().join();
}

/** The names by which fields are called in objects: each part of their paths. */
function fieldNames(model: FormModel): Set<string> {
  return new Set(model.fields.flatMap(({ name }) => name.replaceAll('[]', '').split('.')));
}

/** The fields that one change gives a value together. */
function changeSets(model: FormModel): string[][] {
  const all = model.fields.map(({ name }) => name);
  const values = model.fields.filter(({ role }) => role === 'field').map(({ name }) => name);
  const of = (use: Use): string[] => {
    if (use.kind === 'set' || use.kind === 'made-handler') return use.assignments.map(({ field }) => field);
    if (use.kind === 'set-named') return [...use.choices, ...use.rest].map(({ field }) => field);
    return [];
  };
  const named = model.uses.flatMap((use) =>
    use.kind === 'set-named' ? use.choices.map(({ field }) => [field, ...use.rest.map((one) => one.field)]) : [],
  );
  // what is worked out from the value before may be a change of its own
  const told = model.uses.flatMap((use) =>
    use.kind === 'set'
      ? [use.assignments.filter(({ value }) => value.kind !== 'from-previous').map(({ field }) => field)]
      : [],
  );
  const last = (name: string): string => name.split('.').at(-1) ?? name;
  return [all, values, ...named, ...told, ...runsOf(model.uses, of)].map((set) => [...new Set(set.map(last))]);
}

/** How many changes in a row are taken for one at most. */
const longestRun = 40;

/** What changes give a value that stand one behind the other: they may become one change. */
function runsOf(uses: readonly Use[], of: (use: Use) => string[]): string[][] {
  const changes = uses.filter((use) => of(use).length > 0);
  return changes.flatMap((_, from) => {
    const run: string[] = [];
    const file = changes[from]?.span.file;
    return changes
      .slice(from, from + longestRun)
      .filter(({ span }) => span.file === file)
      .map((use) => {
        run.push(...of(use));
        return [...run];
      });
  });
}

/** Fields that a package is told one statement after the other: `setValue('row', 'B'); setValue('crates', 0)`. */
function settledInTurn(script: Script, names: ReadonlySet<string>): string[][] {
  const found: string[][] = [];
  const fieldSet = (statement: t.Statement): string | undefined => {
    const call = t.isExpressionStatement(statement) ? statement.expression : undefined;
    if (!t.isCallExpression(call)) return undefined;
    const called = t.isMemberExpression(call.callee) ? call.callee.property : call.callee;
    const [name] = call.arguments;
    if (!t.isIdentifier(called) || !/^set(?:Field)?Value$/.test(called.name) || !t.isStringLiteral(name))
      return undefined;
    return names.has(name.value) ? name.value : undefined;
  };
  t.traverseFast(script.ast, (node) => {
    // what else a field of a package sets when it changes
    if (t.isJSXElement(node)) {
      const own = node.openingElement.attributes.find((one) => t.isJSXAttribute(one) && one.name.name === 'name');
      const name = t.isJSXAttribute(own) && t.isStringLiteral(own.value) ? own.value.value : undefined;
      const heard = node.openingElement.attributes.find(
        (one) => t.isJSXAttribute(one) && one.name.name === 'listeners',
      );
      if (name === undefined || !heard || !names.has(name)) return;
      t.traverseFast(heard, (inner) => {
        const field = t.isStatement(inner) ? fieldSet(inner) : undefined;
        if (field !== undefined) found.push([name, field]);
      });
      return;
    }
    if (!t.isBlockStatement(node)) return;
    let run: string[] = [];
    for (const statement of node.body) {
      const field = fieldSet(statement);
      run = field === undefined ? [] : [...run, field];
      if (run.length > 1) found.push(run);
    }
  });
  return found;
}

/** The members of each group, and of the rows of each list. */
function groupSets(model: FormModel): string[][] {
  const groups = new Map<string, Set<string>>();
  for (const { name } of model.fields) {
    const parts = name.split('.');
    parts.forEach((part, depth) => {
      const group = parts.slice(0, depth).join('.');
      groups.set(group, (groups.get(group) ?? new Set()).add(part.replace('[]', '')));
    });
  }
  return [...groups.values()].map((set) => [...set]);
}

interface Fields {
  keys: string[];
  /** It is what a reducer is told. */
  action: boolean;
  /** It is put over an object that holds other values than the ones before. */
  over: boolean;
  start: number;
  /** It is handed to a hook. */
  handed: boolean;
  text: string;
}

/** The objects of a script, each with those of its keys that are fields. */
function objectsOf(script: Script, names: ReadonlySet<string>): Fields[] {
  const found: Fields[] = [];
  const handed = new Set<t.Node>();
  t.traverseFast(script.ast, (node) => {
    if (t.isCallExpression(node) && t.isIdentifier(node.callee) && /^use[A-Z]/.test(node.callee.name))
      for (const one of node.arguments) {
        handed.add(one);
        if (t.isArrowFunctionExpression(one)) handed.add(one.body);
        if (t.isObjectExpression(one))
          for (const property of one.properties) if (t.isObjectProperty(property)) handed.add(property.value);
      }
    if (!t.isObjectExpression(node) || copies(node)) return;
    const keys = node.properties.flatMap((one) =>
      !t.isSpreadElement(one) && t.isIdentifier(one.key) && !one.computed ? [one.key.name] : [],
    );
    found.push({
      keys: keys.filter((key) => names.has(key)),
      action: keys.includes('type') && !names.has('type'),
      handed: handed.has(node),
      over: isOver(node),
      start: node.start ?? 0,
      text: script.text
        .slice(node.start ?? 0, node.end ?? 0)
        .replace(/\s+/g, ' ')
        .slice(0, 60),
    });
  });
  return found;
}

/** Whether an object is put over a constant: `{ ...empty, row: 'B' }`, and not over the values before. */
function isOver({ properties }: t.ObjectExpression): boolean {
  const [first] = properties;
  return (
    t.isSpreadElement(first) &&
    t.isIdentifier(first.argument) &&
    /^(empty|initial|blank|start|fresh|default|nothing|new)/i.test(first.argument.name)
  );
}

/** Whether an object only copies groups and rows: `{ ...entry, place: { ...entry.place } }`. */
function copies({ properties }: t.ObjectExpression): boolean {
  return properties.every(
    (one) => t.isSpreadElement(one) || (t.isObjectProperty(one) && (isCopyOfOne(one.value) || isCopyOfRows(one.value))),
  );
}

function isCopyOfOne(node: t.Node): boolean {
  return t.isObjectExpression(node) && t.isSpreadElement(node.properties[0]);
}

/** `entry.lines.map((line) => ({ ...line }))` */
function isCopyOfRows(node: t.Node): boolean {
  const [fn] = t.isCallExpression(node) ? node.arguments : [];
  return (
    t.isCallExpression(node) &&
    t.isMemberExpression(node.callee) &&
    t.isIdentifier(node.callee.property, { name: 'map' }) &&
    t.isArrowFunctionExpression(fn) &&
    t.isObjectExpression(fn.body) &&
    fn.body.properties.length === 1 &&
    isCopyOfOne(fn.body)
  );
}

function placeOf(model: FormModel, keys: readonly string[]): Span {
  const use = model.uses.find((one) => one.kind === 'set' && one.assignments.some(({ field }) => keys.includes(field)));
  return use?.span ?? { ...model.span, end: model.span.start };
}
