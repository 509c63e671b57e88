import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Field, RowList, RowPlace, Rule, Span, Use } from '../../form/model.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import type { LoadScript } from '../../source/project-files.js';
import { expandedType, typeMembers } from '../../source/type-members.js';
import { classChain, templateChain, type Chain, type Link } from '../chains.js';
import { codeOf, initialNode, spanOfNode, typeOfValue } from '../class-reading.js';
import { attributeOf, kindOfElement, plainText, type AngularSite } from '../form-site.js';
import { isIdentity, loopsOf, parameterAt, rowAt, rowParameter, trackMethods, type Loop } from '../rows.js';
import type { TemplateElement, TemplateName } from '../template.js';
import { controlUse, fieldUse, type Reading } from '../uses.js';
import { builtFrom, type BuiltArray, type BuiltControl, type BuiltGroup } from './structure.js';

/** An array of groups, with everything that builds one of its rows. */
export interface FoundArray {
  field: string;
  array: BuiltArray;
  loops: Loop[];
  /** Groups that are built for a row, with where that stands. */
  built: { group: BuiltGroup; span: Span; path: NodePath }[];
  /** Controls of a row, from the first group built. */
  controls: Map<string, BuiltControl>;
  typed: { start: number; end: number }[];
  attributes: Span[];
}

/** What the reader of rows needs of the form's reader. */
export interface ArraysReading {
  site: AngularSite;
  arrays: readonly FoundArray[];
  /** Name of the member that holds the group. */
  member: string;
  /** Members that give an array: name and the array's field. */
  aliases: ReadonlyMap<string, string>;
  reading(chain: Chain, path?: NodePath): Reading;
  add(use: Use): void;
  unclear(span: Span, what: string, why: string): void;
}

/** The arrays of groups below a group, by path. */
export function arraysIn(group: BuiltGroup, path = ''): { field: string; array: BuiltArray }[] {
  return group.children.flatMap((child) => {
    const field = path === '' ? child.name : `${path}.${child.name}`;
    if (child.kind === 'array') return [{ field, array: child }];
    return child.kind === 'group' ? arraysIn(child, field) : [];
  });
}

/** The list's own links at the start of a chain: `form.controls.lines`, `form.get('lines')`, `lines`. */
function listLinks(
  chain: Chain,
  { member, aliases, arrays }: Pick<ArraysReading, 'member' | 'aliases' | 'arrays'>,
): { field: string; count: number } | undefined {
  const [first] = chain.links;
  const own = first && !first.call ? aliases.get(first.key) : undefined;
  if (own !== undefined) return { field: own, count: 1 };
  if (first?.key !== member || first.call) return undefined;
  const path: string[] = [];
  for (let at = 1; at < chain.links.length;) {
    const link = chain.links[at];
    if (link?.key === 'get' && link.call?.texts[0] !== undefined) {
      path.push(...link.call.texts[0].split('.'));
      at += 1;
    } else if (link?.key === 'controls' && !link.call) {
      const key = chain.links[at + 1];
      if (!key || key.call || key.computed) return undefined;
      path.push(key.key);
      at += 2;
    } else return undefined;
    if (arrays.some(({ field }) => field === path.join('.'))) return { field: path.join('.'), count: at };
  }
  return undefined;
}

/** What the template and the class tell of the form's arrays: loops over them, and the groups built for their rows. */
export function foundArrays(
  group: BuiltGroup,
  site: AngularSite,
  member: string,
  aliases: ReadonlyMap<string, string>,
): FoundArray[] {
  const known = arraysIn(group).map(({ field, array }): FoundArray => ({
    field,
    array,
    loops: [],
    built: [],
    controls: new Map(),
    typed: [],
    attributes: [],
  }));
  if (!known.length) return known;
  for (const loop of loopsOf(site.component)) {
    const found = listLinks(loop.chain, { member, aliases, arrays: known });
    const rest = found && loop.chain.links.slice(found.count);
    if (rest?.length === 1 && rest[0]?.key === 'controls')
      known.find(({ field }) => field === found?.field)?.loops.push(loop);
  }
  const inside = (path: NodePath, node: t.Node): boolean =>
    (path.node.start ?? 0) > (node.start ?? 0) && (path.node.end ?? 0) <= (node.end ?? 0);
  const visit = (path: NodePath<t.NewExpression> | NodePath<t.CallExpression>): void => {
    const holder = known.find(({ array }) => inside(path, array.node));
    if (!holder && (path.node === group.node || inside(path, group.node))) return;
    const made = builtFrom('', path.node, site);
    if (made?.kind !== 'group') return;
    const keys = made.children.map(({ name }) => name);
    const target =
      holder ??
      (known.length === 1
        ? known[0]
        : known.find(({ loops }) => boundKeys(loops, site).every((key) => keys.includes(key))));
    if (!target || !boundKeys(target.loops, site).every((key) => keys.includes(key))) return;
    target.built.push({ group: made, span: spanOfNode(site.component.script.file, path.node), path });
    path.skip();
  };
  site.component.script.program.traverse({ NewExpression: visit, CallExpression: visit });
  for (const { built, controls } of known)
    for (const child of built[0]?.group.children ?? []) if (child.kind === 'control') controls.set(child.name, child);
  return known;
}

/** Names of the controls that a loop's rows bind. */
function boundKeys(loops: readonly Loop[], site: AngularSite): string[] {
  return site.elements
    .filter((element) => loops.some(({ variable }) => isWithin(element, variable.view)))
    .flatMap((element) => plainText(element, 'formControlName') ?? []);
}

function isWithin(element: TemplateElement, view: TemplateElement['view']): boolean {
  for (let at: TemplateElement['view'] | undefined = element.view; at; at = at.parent) if (at === view) return true;
  return false;
}

/** What is wrong with an array for the purposes of a rewrite; undefined where all of it is understood. */
export function arrayTrouble({ array, built, controls, loops }: FoundArray): string | undefined {
  if (array.rules) return 'the array has rules of its own';
  if (!loops.length) return 'no loop of the template repeats its rows';
  if (!built.length) return 'where its rows are built is not clear';
  const told = (group: BuiltGroup): string =>
    group.children
      .map((child) =>
        child.kind === 'control'
          ? `${child.name}:${child.nonNullable}:${child.rules.map(({ constraint }) => conditionOf(constraint)).join()}`
          : '?',
      )
      .join(';') + group.rules.length;
  const [first] = built;
  if (first?.group.rules.length) return 'its rows have rules of their own';
  if (controls.size !== first?.group.children.length) return 'its rows hold more than plain controls';
  return built.every(({ group }) => first && told(group) === told(first.group))
    ? undefined
    : 'its rows are built differently in different places';
}

/** The row that an element of the template stands in. */
export function rowOfElement(
  element: TemplateElement,
  arrays: readonly FoundArray[],
): { array: FoundArray; loop: Loop; row: RowPlace } | undefined {
  for (const array of arrays)
    for (const loop of array.loops)
      if (isWithin(element, loop.variable.view))
        return { array, loop, row: { kind: 'named', name: loop.variable.name } };
  return undefined;
}

/** Attributes that only place controls among rows. */
export function placingAttributes(array: FoundArray, site: AngularSite): Span[] {
  const { file } = site.component.template.place;
  return site.elements.flatMap((element) => {
    const around = element.attributes.filter(({ name, value, kind }) => {
      if (name === 'formArrayName') return value?.replace(/['"]/g, '').trim() === array.field.split('.').at(-1);
      if (kind !== 'property' || !/^(formGroupName|formGroup)$/.test(name)) return false;
      return array.loops.some(
        ({ variable, index }) => isWithin(element, variable.view) && (value === index || value === variable.name),
      );
    });
    return around.map(({ start, end }) => ({ file, start, end }));
  });
}

/** A use of an array or of one of its rows; undefined where the chain speaks of neither. */
export function arrayUses(chain: Chain, rows: ArraysReading, path?: NodePath): boolean {
  const found = listLinks(chain, rows);
  const array = rows.arrays.find(({ field }) => field === found?.field);
  if (!found || !array) return false;
  const here = rows.reading(chain, path);
  const { links, file, ending } = chain;
  const spanTo = (link: Link | undefined): Span => ({ file, start: chain.start, end: link?.end ?? chain.start });
  const unclear = (why: string): boolean => {
    rows.unclear(spanTo(links.at(-1)), here.text.slice(chain.start, links.at(-1)?.end), why);
    return true;
  };
  const base = { where: here.where, list: array.field };
  const list = links[found.count - 1];
  const next = links[found.count];
  const after = links[found.count + 1];
  const add = (use: Use): boolean => {
    rows.add(use);
    return true;
  };
  if (!next) return unclear('the array is handed on');
  const given = next.call?.arguments.map((place) => codeOf(file, place)) ?? [];
  const [first, second] = given;
  const unused =
    found.count + 1 === links.length && (ending.kind === 'statement' || (chain.inEvent && ending.kind === 'plain'));
  const change = (made: Extract<Use, { kind: 'change-rows' }>['change']): boolean =>
    unused ? add({ kind: 'change-rows', ...base, change: made, span: spanTo(next) }) : unclear('its result is used');
  switch (next.key) {
    case 'length':
      return add({ kind: 'rows', what: 'length', ...base, span: spanTo(list) });
    case 'controls': {
      if (!after || after.key === 'indexOf') return add({ kind: 'rows', what: 'items', ...base, span: spanTo(next) });
      if (after.key === 'length') return add({ kind: 'rows', what: 'length', ...base, span: spanTo(next) });
      if (!after.computed && !/^\d+$/.test(after.key)) return unclear('its groups are looked through here');
      const row = rowAt(chain, after, here.text);
      return groupUse(chain, found.count + 2, row, array, rows, path);
    }
    case 'at':
      return first
        ? groupUse(
            chain,
            found.count + 1,
            { kind: 'at', index: first, mayMiss: here.text.slice(next.end).startsWith('?.') },
            array,
            rows,
            path,
          )
        : unclear('which row is meant is not clear');
    case 'push':
      return first && isMade(first, here.text, array, rows)
        ? change({ kind: 'add', values: [first], at: undefined })
        : unclear('what builds the new row is not clear');
    case 'insert':
      return first && second && isMade(second, here.text, array, rows)
        ? change({ kind: 'add', values: [second], at: first })
        : unclear('what builds the new row is not clear');
    case 'removeAt':
      return first ? change({ kind: 'remove', at: first }) : unclear('which row goes is not clear');
    case 'clear':
      return change({ kind: 'clear' });
    case 'value':
    case 'getRawValue':
      return add(fieldUse(here, array.field, found.count + 1));
    default:
      return unclear('this is asked of the array itself, which a plain list does not tell');
  }
}

/** `form.setControl('lines', new FormArray(…))`: every row is exchanged. */
export function exchangeUse(chain: Chain, rows: ArraysReading, path?: NodePath): boolean {
  const [first, set, ...more] = chain.links;
  const array = rows.arrays.find(({ field }) => field === set?.call?.texts[0]);
  const value = set?.call?.arguments[1];
  if (first?.key !== rows.member || set?.key !== 'setControl' || more.length || !array || !value) return false;
  const here = rows.reading(chain, path);
  const text = here.text.slice(value.start, value.end);
  const inner =
    /^(?:new FormArray|(?:this\.)?#?\w+(?:\.nonNullable)?\.array)\s*(?:<[^(]*>)?\(\s*([\s\S]*?),?\s*\)$/.exec(
      text,
    )?.[1];
  if (inner === undefined || chain.ending.kind !== 'statement') return false;
  const start = value.start + text.indexOf(inner, text.indexOf('('));
  const made =
    array.built.some(({ span }) => span.start >= start && span.end <= start + inner.length) ||
    makersOf(array).some((name) => new RegExp(`\\b${name}\\b`).test(inner));
  if (!made) return false;
  rows.add({
    kind: 'change-rows',
    list: array.field,
    where: here.where,
    change: { kind: 'replace', values: codeOf(chain.file, { start, end: start + inner.length }) },
    span: { file: chain.file, start: chain.start, end: set.end },
  });
  return true;
}

/** Names of the functions and methods that build a row. */
function makersOf(array: FoundArray): string[] {
  return array.built.flatMap(({ path }) => {
    const around = path.findParent((one) => one.isFunction() || one.isClassMethod());
    const key = around?.isClassMethod()
      ? around.node.key
      : around?.isFunctionDeclaration()
        ? around.node.id
        : undefined;
    const declarator = around?.parentPath?.isVariableDeclarator() ? around.parentPath.node.id : undefined;
    const property = around?.parentPath?.isClassProperty() ? around.parentPath.node.key : undefined;
    return [key, declarator, property].flatMap((one) => (t.isIdentifier(one) ? [one.name] : []));
  });
}

/** Whether code gives a row that the class builds itself: a group, or a call of what returns one. */
function isMade(code: Code, text: string, array: FoundArray, { site }: ArraysReading): boolean {
  if (array.built.some(({ span }) => span.start === code.start && span.file === code.file)) return true;
  const called = /^(?:this\s*\.\s*)?#?(\w+)\s*\(/.exec(text.slice(code.start, code.end))?.[1] ?? '';
  const member = initialNode(site.component.members.get(called));
  const name = t.isIdentifier(member) ? member.name : called;
  return makersOf(array).includes(name);
}

/** What is asked of a row's group that the first `count` links stand for. */
function groupUse(
  chain: Chain,
  count: number,
  row: RowPlace,
  array: FoundArray,
  rows: ArraysReading,
  path?: NodePath,
): boolean {
  const here = rows.reading(chain, path);
  const { links } = chain;
  const next = links[count];
  const key =
    next?.key === 'get' && next.call
      ? next.call.texts[0]
      : next?.key === 'controls' && !next.call && !links[count + 1]?.computed
        ? links[count + 1]?.key
        : undefined;
  const put = (use: Use): boolean => {
    rows.add({ ...use, row });
    return true;
  };
  if (next && key !== undefined && array.controls.has(key))
    return put(controlUse(here, count + (next.call ? 1 : 2), `${array.field}[].${key}`));
  if (next?.key === 'value' || next?.key === 'getRawValue') {
    const inner = links[count + 1];
    if (inner && !inner.computed && array.controls.has(inner.key))
      return put(fieldUse(here, `${array.field}[].${inner.key}`, count + 2));
    return put(fieldUse(here, `${array.field}[]`, count + 1));
  }
  const end = links.at(-1)?.end ?? chain.start;
  rows.unclear(
    { file: chain.file, start: chain.start, end },
    here.text.slice(chain.start, end),
    'this is asked of the row’s group itself, which a plain row does not tell',
  );
  return true;
}

/** Every place that speaks of a row by a name: a loop's variable, or a parameter that is given one. */
export function rowGroupUses(rows: ArraysReading): void {
  const { component } = rows.site;
  const { names, place } = component.template;
  const followed = new Set<string>();
  for (const array of rows.arrays) {
    const follow = (given: ReturnType<typeof parameterAt>, tracks = false): boolean => {
      if (!given) return false;
      const id = `${given.member.name}:${given.name}`;
      if (followed.has(id)) return true;
      followed.add(id);
      if (given.type) array.typed.push(given.type);
      for (const path of given.references) {
        const chain = classChain(component.script.file, path, given.name);
        if (chain.links.length === 1 && isIdentity(path, tracks)) continue;
        groupUse(chain, 1, { kind: 'named', name: given.name }, array, rows, path);
      }
      return true;
    };
    for (const name of names) {
      if (!array.loops.some(({ variable }) => variable === name.variable)) continue;
      if (
        isPlacing(name) ||
        isTrackedAlone(place.text.slice(0, name.start - place.base), place.text.slice(name.end - place.base))
      )
        continue;
      const chain = templateChain(name, place);
      if (chain.links.length > 1) groupUse(chain, 1, { kind: 'named', name: name.name }, array, rows);
      else if (!follow(rowParameter(name, component)))
        rows.unclear(
          { file: place.file, start: name.start, end: name.end },
          name.name,
          'the row is handed on to code that cannot be followed',
        );
    }
    for (const { method } of trackMethods(component, array.loops)) follow(parameterAt(method, 1, component), true);
  }
}

function isTrackedAlone(before: string, behind: string): boolean {
  return /\btrack\s+$|\.indexOf\(\s*$/.test(before.slice(-40)) && !/^\s*[.?[]/.test(behind);
}

function isPlacing({ attribute }: TemplateName): boolean {
  return attribute !== undefined && /^(formGroup|formControl|formGroupName)$/.test(attribute.name);
}

/** The list's own field and the fields of its rows. */
export function arrayFields(
  found: FoundArray,
  elements: ReadonlyMap<string, TemplateElement>,
  load: LoadScript,
): Field[] {
  const { array, field, controls } = found;
  const declared = spanOfNode(array.script.file, array.node);
  const items = array.items && { ...spanOfNode(array.script.file, array.items), holes: [] };
  const common = { role: 'field' as const, commentsBefore: [], commentBehind: undefined };
  const list: Field = {
    ...common,
    name: field,
    kind: 'list of rows',
    type: undefined,
    typeWritten: false,
    initial: {
      code: items,
      text: items ? array.script.text.slice(items.start, items.end) : '[]',
      when: 'constant',
    },
    names: { value: field },
    declared,
    resets: 'initial',
  };
  const rows = [...controls].map(([key, control]): Field => {
    const element = elements.get(`${field}[].${key}`);
    const inferred =
      control.type ??
      typeOfValue(control.initial) ??
      parameterType(control, found, load) ??
      (element && (!control.initial || t.isNullLiteral(control.initial)) ? ofElement(element) : undefined);
    const { script } = control;
    return {
      ...common,
      name: `${field}[].${key}`,
      kind: (element && kindOfElement(element)) ?? 'other',
      type: inferred,
      typeWritten: control.type !== undefined,
      initial: {
        code: control.initial ? { ...spanOfNode(script.file, control.initial), holes: [] } : undefined,
        text: control.initial ? script.text.slice(control.initial.start ?? 0, control.initial.end ?? 0) : 'null',
        when: 'constant',
      },
      names: { value: key },
      declared: spanOfNode(script.file, control.node),
      resets: control.nonNullable ? 'initial' : 'null',
    };
  });
  return [list, ...rows];
}

/** The type of `post.id` where a row is built from a parameter `post` whose type is written. */
function parameterType({ initial, script }: BuiltControl, array: FoundArray, load: LoadScript): string | undefined {
  const member = t.isMemberExpression(initial) && !initial.computed ? initial : undefined;
  const name = t.isIdentifier(member?.object) ? member.object.name : t.isIdentifier(initial) ? initial.name : undefined;
  const around = array.built[0]?.path.findParent((one) => one.isFunction() || one.isClassMethod());
  const parameters = around?.isFunction() ? around.node.params : [];
  const found = parameters.find((one) =>
    t.isIdentifier(t.isAssignmentPattern(one) ? one.left : one, { name: name ?? '' }),
  );
  const parameter = t.isAssignmentPattern(found) ? found.left : found;
  const annotation = t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined;
  if (!t.isTSTypeAnnotation(annotation))
    return t.isAssignmentPattern(found) && !member ? typeOfValue(found.right) : undefined;
  const { typeAnnotation: type } = annotation;
  if (!member) return script.text.slice(type.start ?? 0, type.end ?? 0);
  const key = t.isIdentifier(member.property) ? member.property.name : '';
  return typeMembers({ node: type, script }, load).get(key)?.text;
}

function ofElement(element: TemplateElement): string | undefined {
  const kind = kindOfElement(element);
  if (kind === 'number' || kind === 'boolean') return kind;
  return kind === undefined || kind === 'file' || kind === 'many choices' ? undefined : 'string';
}

/** The groups built for rows, as uses: another approach needs their values alone. */
export function madeRows(found: FoundArray): Use[] {
  return found.built.map(({ group, span }) => ({
    kind: 'make-row' as const,
    list: found.field,
    where: 'callback' as const,
    span,
    values: group.children.flatMap((child) =>
      child.kind === 'control'
        ? [
            {
              key: child.name,
              code: child.initial
                ? codeOf(child.script.file, { start: child.initial.start ?? 0, end: child.initial.end ?? 0 })
                : undefined,
            },
          ]
        : [],
    ),
  }));
}

/** The rules of a row's controls. */
export function rowRules(found: FoundArray): Rule[] {
  return [...found.controls].flatMap(([key, control]) =>
    control.rules.map(({ constraint, start, end }) => ({
      fields: [`${found.field}[].${key}`],
      kind: ruleKindOf(constraint),
      condition: conditionOf(constraint),
      message: undefined,
      moment: control.updateOn ?? ('change' as const),
      stated: 'angular-validators' as const,
      span: { file: control.script.file, start, end },
      constraint,
    })),
  );
}

/** An array as the model says it; types of results that are a row's group are among its typed places. */
export function modelArray(found: FoundArray, site: AngularSite): RowList {
  const { script, template } = site.component;
  const results = found.built.flatMap(({ path }) => {
    const around = path.findParent((one) => one.isFunction() || one.isClassMethod());
    const node = around?.node;
    const annotation = node && 'returnType' in node ? node.returnType : undefined;
    return t.isTSTypeAnnotation(annotation) && speaksOfGroups(annotation.typeAnnotation, site)
      ? [spanOfNode(script.file, annotation.typeAnnotation)]
      : [];
  });
  const typed = [...found.typed.map((place) => ({ file: script.file, ...place })), ...results];
  return {
    field: found.field,
    item: found.loops[0]?.variable.name ?? 'row',
    type: undefined,
    typed: typed.filter((one, index) => typed.findIndex(({ start }) => start === one.start) === index),
    loops: found.loops.map(({ list, index, indexAt }) => ({
      list: { file: template.place.file, ...list },
      index,
      indexAt,
    })),
    attributes: placingAttributes(found, site),
  };
}

function speaksOfGroups(type: t.TSType, { component: { script }, load }: AngularSite): boolean {
  const words = /FormGroup|AbstractControl/;
  if (words.test(script.text.slice(type.start ?? 0, type.end ?? 0))) return true;
  const { node, script: from } = expandedType({ node: type, script }, load);
  return words.test(from.text.slice(node.start ?? 0, node.end ?? 0));
}

/** The key that an element of a row binds: `formControlName="kilos"` or `[formControl]="line.controls.kilos"`. */
export function keyOfElement(element: TemplateElement, loop: Loop): string | undefined {
  const named = plainText(element, 'formControlName');
  if (named !== undefined) return named;
  const direct = attributeOf(element, 'formControl', 'property')?.value ?? '';
  const found = new RegExp(
    `^\\s*${loop.variable.name}(?:\\.controls(?:\\.(\\w+)|\\[['"]([\\w-]+)['"]\\])|\\.get\\(['"]([\\w-]+)['"]\\)!?)\\s*$`,
  ).exec(direct);
  const indexed = /\.(?:at\(\s*(\$?\w+)\s*\)|controls\[\s*(\$?\w+)\s*\])\.controls\.(\w+)\s*$/.exec(direct);
  if (indexed && (indexed[1] ?? indexed[2]) === loop.index) return indexed[3];
  return found?.[1] ?? found?.[2] ?? found?.[3];
}
