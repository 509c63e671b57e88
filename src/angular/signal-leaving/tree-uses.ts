import { Call, PropertyRead } from '@angular/compiler';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { indentAt, styleOf } from '../../source/style.js';
import { initialNode } from '../class-reading.js';
import { classChain, templateChain, type Chain, type Link } from '../chains.js';
import { isBinding } from '../signal-model/found-form.js';
import type { TemplateName, TemplateView } from '../template-model.js';
import { accessText } from '../writing.js';
import { leave, textAt, type Leaving } from './leaving.js';
import { nameOf } from './rule-texts.js';

/** What a name of the class or the template stands for: a field of the form, or its state. */
interface Base {
  /** The control's expression. */
  control: string;
  /** Its path as the text of an expression, and without indices: `party[].nick`. */
  path: string;
  plain: string;
  /** The state of the field rather than the field itself. */
  state: boolean;
  /** Where the name stands for a field by its path: the parameter of a method. */
  byPath?: boolean;
}

/** A place of the class or the template, with what stands for the form there. */
interface Place {
  leaving: Leaving;
  base: Base;
  chain: Chain;
  /** The path of the name, where it stands in the class. */
  path: NodePath | undefined;
  name: TemplateName | undefined;
}

/** Finds every place that asks the form or its model, and says it with controls. */
export function sayUses(leaving: Leaving): void {
  const { found, component } = leaving;
  const { script, template } = component;
  const owned = [found.form.node, found.model.node].map((node) => spanOfNode(script.file, node));
  const outside = ({ start }: { start?: number | null }): boolean =>
    !owned.some((span) => (start ?? 0) >= span.start && (start ?? 0) < span.end) || isInSubmission(start ?? 0, leaving);
  for (const member of [found.form, found.model]) {
    for (const path of member.references)
      if (outside(path.node)) inClass(path, member.name, rootOf(leaving, member === found.model), leaving);
    for (const alias of member.aliases)
      leave(leaving, spanOfNode(script.file, alias.node), `${member.name} is taken out of the component`);
    for (const name of template.names) {
      if (name.name !== member.name || name.variable || isBinding(name) || name.attribute?.name === 'formRoot')
        continue;
      const chain = templateChain(name, template.place);
      const base = { ...rootOf(leaving, member === found.model), control: member === found.form ? member.name : '' };
      say({ leaving, base, chain, path: undefined, name }, member === found.model);
    }
  }
  for (const name of template.names) {
    const list = name.variable && listOfRow(name.variable.view, leaving);
    if (!list || name.variable?.kind !== 'loop' || isBinding(name) || isTracked(name, leaving)) continue;
    const path = rowPath(list, name.view, leaving);
    const chain = templateChain(name, template.place);
    if (path === undefined) {
      leave(leaving, { file: chain.file, start: name.start, end: name.end }, 'its row’s index is not known there');
      continue;
    }
    const base: Base = { control: name.name, path, plain: `${list}[]`, state: false };
    say({ leaving, base, chain, path: undefined, name });
  }
  sayMethods(leaving);
  // what stands around a place that is said otherwise goes along with it
  for (const { span, kind } of leaving.model.uses) {
    const inside = leaving.edits.some(
      ({ file, start, end }) => file === span.file && start >= span.start && end <= span.end,
    );
    const known = leaving.ledger.some(
      (one) => one.span.file === span.file && one.span.start <= span.start && one.span.end >= span.end,
    );
    if (inside && !known)
      leaving.ledger.push({ entry: 'carried', span, what: `use (${kind})`, why: 'it is said with controls' });
  }
}

/** Whether a loop only tells its rows apart by a name. */
function isTracked({ start }: TemplateName, { component }: Leaving): boolean {
  const { text, base } = component.template.place;
  return /\btrack\s+$/.test(text.slice(0, start - base));
}

function rootOf({ found }: Leaving, state: boolean): Base {
  return { control: `this.${found.form.name}`, path: '', plain: '', state };
}

function isInSubmission(at: number, { found }: Leaving): boolean {
  const call = initialNode(found.form);
  const options = t.isCallExpression(call) ? call.arguments[2] : undefined;
  return options !== undefined && at >= (options.start ?? 0) && at < (options.end ?? 0);
}

function inClass(path: NodePath, key: string, base: Base, leaving: Leaving): void {
  const { script } = leaving.component;
  const { found } = leaving;
  say(
    { leaving, base, chain: classChain(script.file, path, key), path, name: undefined },
    key === found.model.name && base.state && base.plain === '',
  );
}

/** The list whose rows a view of the template repeats; undefined where it repeats something else. */
export function listOfRow(view: TemplateView, { component, found, lists }: Leaving): string | undefined {
  const over = component.template.names.find(
    (name) => name.name === found.form.name && !name.variable && isListOf(view, name),
  );
  if (view.kind !== 'row' || !over) return undefined;
  const [, ...links] = templateChain(over, component.template.place).links;
  const path = links.map(({ key }) => key).join('.');
  return lists.find((list) => list.path === path)?.path;
}

/** Whether a name stands in the expression of the list that a view repeats. */
function isListOf({ expression, variables }: TemplateView, { around }: TemplateName): boolean {
  return around.some((node) => node === expression || variables.some(({ over }) => over === node));
}

/** The path of a row as the template says it; undefined where another loop stands between. */
export function rowPath(list: string, at: TemplateView, leaving: Leaving): string | undefined {
  let view: TemplateView | undefined = at;
  while (view && view.kind !== 'row') view = view.parent;
  if (!view || listOfRow(view, leaving) !== list) return undefined;
  return `'${list}.' + ${view.index ?? '$index'}`;
}

/** A path of a row's field, which begins with an expression. */
function deeperPath(path: string, key: string): string {
  if (path === '') return `'${key}'`;
  if (/^'[^']*'$/.test(path)) return `${path.slice(0, -1)}.${key}'`;
  return /'$/.test(path) ? `${path.slice(0, -1)}.${key}'` : `${path} + '.${key}'`;
}

function deeper(base: Base, key: string, leaving: Leaving): Base | undefined {
  const plain = base.plain === '' ? key : `${base.plain}.${key}`;
  if (!kindAt(plain, leaving)) return undefined;
  return { ...base, control: `${base.control}.controls${accessText(key)}`, path: deeperPath(base.path, key), plain };
}

/** What stands at a path: a field, a group of fields, or a list of rows. */
export function kindAt(plain: string, { leaves, lists }: Leaving): 'field' | 'group' | 'list' | undefined {
  if (plain === '') return 'group';
  const [list, key] = plain.split('[]');
  if (key !== undefined) {
    const rows = lists.find(({ path }) => path === list);
    if (key === '') return rows && 'group';
    return rows?.keys.some((one) => `.${one.key}` === key) ? 'field' : undefined;
  }
  if (lists.some(({ path }) => path === plain)) return 'list';
  if (leaves.some(({ path }) => path === plain)) return 'field';
  return leaves.some(({ path }) => path.startsWith(`${plain}.`)) ? 'group' : undefined;
}

function replace({ leaving, chain }: Place, start: number, end: number, text: string): void {
  leaving.edits.push({ file: chain.file, start, end, text });
  const { component, ledger } = leaving;
  const { place } = component.template;
  const [source, base] = chain.inTemplate ? [place.text, place.base] : [component.script.text, 0];
  const why = `${text.split('\n')[0] ?? ''} takes its place`;
  const whole = chain.links.find((link) => link.end >= end)?.end ?? end;
  const whatAt = (to: number): string => source.slice(start - base, to - base).split('\n')[0] ?? '';
  const entry = (to: number): LedgerEntry => ({
    entry: 'carried',
    span: { file: chain.file, start, end: to },
    what: whatAt(to),
    why,
  });
  if (whole !== end) ledger.push(entry(whole));
  ledger.push({ ...entry(end), takenOver: true });
}

function unclear({ leaving, chain }: Place, count: number, why: string): void {
  const end = chain.links[Math.max(count - 1, 0)]?.end ?? chain.start;
  leave(leaving, { file: chain.file, start: chain.start, end }, why);
}

/** Says one chain that begins with a name of the form. */
function say(place: Place, model = false): void {
  const { chain, leaving } = place;
  const { links } = chain;
  if (model) return sayModel(place);
  let { base } = place;
  let at = 1;
  if (!base.state) {
    if (links[0]?.call) base = { ...base, state: true };
    while (!base.state) {
      const link = links[at];
      if (!link || link.computed) break;
      const next = link.key === 'length' && !link.call ? undefined : deeper(base, link.key, leaving);
      if (!next) break;
      base = { ...next, state: link.call !== undefined };
      at += 1;
    }
  }
  const asked = links[at];
  if (base.state && asked) return sayState({ ...place, base }, at, asked);
  sayTree({ ...place, base }, at, asked);
}

/** A place that asks the state of a field. */
function sayState(place: Place, at: number, asked: Link): void {
  const { base, chain, leaving } = place;
  const kind = kindAt(base.plain, leaving);
  const inTemplate = chain.inTemplate;
  const own = inTemplate ? '' : 'this.';
  const errors = `${own}${leaving.names.errorsOf}(${pathText(place)})`;
  const quiet = asked.call !== undefined && asked.call.arguments.length === 0;
  const control = (text: string): void => {
    replace(place, chain.start, asked.end, text);
  };
  switch (asked.key) {
    case 'touched':
    case 'dirty':
      if (!quiet) break;
      if (base.byPath) return control(grouped(place, asked, `${base.control}?.${asked.key} === true`));
      if (hiddenAt(base.plain, leaving) && !isShown(place)) return sayCounting(place, asked);
      return control(`${base.control}.${asked.key}`);
    case 'pending':
      break;
    case 'errors':
      if (!quiet) break;
      leaving.needs.add('errorsOf');
      return replace(place, chain.start, asked.end, errors);
    case 'invalid':
    case 'valid':
      if (!quiet) break;
      if (base.plain === '' && !base.byPath) return control(`${base.control}.${asked.key}`);
      if (kind !== 'field' && !base.byPath) break;
      leaving.needs.add('errorsOf');
      return replace(
        place,
        chain.start,
        asked.end,
        grouped(place, asked, `${errors}.length ${asked.key === 'invalid' ? '> 0' : '=== 0'}`),
      );
    case 'submitting':
      if (!quiet || base.plain !== '' || base.byPath) break;
      leaving.needs.add('submit');
      return replace(place, chain.start, asked.end, `${own}${leaving.names.sender}.submitting()`);
    case 'hidden':
    case 'disabled':
      if (base.byPath) break;
      return sayHidden(place, asked);
    case 'value':
      if (base.byPath) break;
      return sayValue(place, at, asked);
    case 'markAsTouched':
    case 'markAsDirty':
      if (!quiet || base.byPath) break;
      return control(`${base.control}.${asked.key}()`);
    case 'reset':
      if (base.byPath) break;
      return sayReset(place, asked);
    default:
  }
  unclear(place, at + 1, `controls of a class are not asked for ${asked.key} like this`);
}

/** A comparison, in parentheses where it is turned round or asked for more. */
function grouped({ chain, leaving }: Place, asked: Link, text: string): string {
  const { component } = leaving;
  const [source, base] = chain.inTemplate
    ? [component.template.place.text, component.template.place.base]
    : [component.script.text, 0];
  const turned = /!\s*$/.test(source.slice(0, chain.start - base));
  return chain.links.at(-1) === asked && !turned ? text : `(${text})`;
}

/** What is asked of a field that does not always count, where it may not count. */
function sayCounting(place: Place, asked: Link): void {
  const { base, chain, leaving } = place;
  const form = `${chain.inTemplate ? '' : 'this.'}${leaving.found.form.name}`;
  const parts = [leaving.hidden, leaving.disabled].flatMap((kept) =>
    [...kept].flatMap(([path, text]) => {
      const under = base.plain === path || base.plain.startsWith(`${path}.`);
      return under ? [text(`${form}.getRawValue()`)] : [];
    }),
  );
  const conditions = parts.map((text) => {
    const said = shortened(text ?? '', form, leaving);
    return /^![\w$.]+$/.test(said) ? said.slice(1) : `!(${said})`;
  });
  if (parts.some((text) => text === undefined || (chain.inTemplate && !isPlainExpression(text))))
    return unclear(place, chain.links.length, 'whether it counts is not told by its values alone');
  replace(place, chain.start, asked.end, `(${[...conditions, `${base.control}.${asked.key}`].join(' && ')})`);
}

/** Whether a template can say an expression as well. */
function isPlainExpression(text: string): boolean {
  return !/=>|\bnew\b|[^\w$.'"()!=<>&|+\-*/?:\s,]/.test(text);
}

/** Whether a place stands in a part of the template that is shown only where its field is not hidden. */
function isShown({ name, base, leaving }: Place): boolean {
  const { component } = leaving;
  const { text } = component.template.place;
  for (let view = name?.view; view; view = view.parent) {
    if (view.kind !== 'condition' || !view.expression) continue;
    const { start, end } = view.expression.sourceSpan;
    const asked = text.slice(start, end);
    if (asked.includes(`${base.plain}().hidden()`)) return true;
  }
  return false;
}

function hiddenAt(plain: string, { hidden, disabled }: Leaving): boolean {
  return [...hidden.keys(), ...disabled.keys()].some((path) => plain === path || plain.startsWith(`${path}.`));
}

function sayHidden(place: Place, asked: Link): void {
  const { base, chain, leaving } = place;
  const of = (asked.key === 'hidden' ? leaving.hidden : leaving.disabled).get(base.plain);
  const form = `${chain.inTemplate ? '' : 'this.'}${leaving.found.form.name}`;
  const text = of?.(`${form}.getRawValue()`);
  if (text === undefined || (chain.inTemplate && !isPlainExpression(text)))
    return unclear(place, chain.links.length, `whether it is ${asked.key} is not told by its values alone`);
  const said = shortened(text, form, leaving);
  const alone = /^!?[\w$.]+(\(\))?[\w$.]*$/.test(said);
  const { text: source, base: offset } = leaving.component.template.place;
  const before = chain.inTemplate
    ? source.slice(0, chain.start - offset)
    : leaving.component.script.text.slice(0, chain.start);
  if (/!$/.test(before) && /^![\w$.]+$/.test(said)) return replace(place, chain.start - 1, asked.end, said.slice(1));
  replace(place, chain.start, asked.end, alone ? said : `(${said})`);
}

/** Values of single fields are asked of their controls. */
export function shortened(text: string, form: string, leaving: Leaving): string {
  const paths = [...leaving.leaves].sort((a, b) => b.path.length - a.path.length);
  let said = text;
  for (const { path } of paths) {
    if (kindAt(path, leaving) !== 'field') continue;
    const access = path.split('.').map(accessText).join('');
    const control =
      form +
      path
        .split('.')
        .map((key) => `.controls${accessText(key)}`)
        .join('');
    said = said.split(`${form}.getRawValue()${access}`).join(`${control}.value`);
  }
  return said;
}

function sayValue(place: Place, at: number, asked: Link): void {
  const { base, chain, leaving } = place;
  const kind = kindAt(base.plain, leaving);
  const change = chain.links[at + 1];
  const [given, ...more] = change?.call?.arguments ?? [];
  if (asked.call) {
    return replace(place, chain.start, asked.end, `${base.control}${kind === 'field' ? '.value' : '.getRawValue()'}`);
  }
  if (!change || !given || more.length || !/^(set|update)$/.test(change.key))
    return unclear(place, at + 1, 'the value’s signal is handed on');
  if (kind === 'list') return sayRows(place, change, given);
  if (kind !== 'field') return unclear(place, at + 2, 'a group of values is changed as a whole');
  if (change.key === 'update') return unclear(place, at + 2, 'the value is updated by a function');
  leaveLate(place);
  replace(place, chain.start, given.start, `${base.control}.setValue(`);
}

/** New rows of a list: by a function of those before, or at once. */
function sayRows(place: Place, change: Link, given: { start: number; end: number }): void {
  const { base, chain, leaving } = place;
  const list = leaving.lists.find(({ path }) => path === base.plain);
  if (!list || chain.inTemplate) return unclear(place, chain.links.length, 'rows are changed in the template');
  leaveLate(place);
  const text = leaving.component.script.text.slice(given.start, given.end);
  const { form, model } = leaving.found;
  if (change.key === 'set' && new RegExp(`this\\.(${form.name}|${model.name})\\b`).test(text))
    return unclear(place, chain.links.length, 'new rows are made of those before, not by a function of them');
  replace(place, chain.start, given.start, `this.${list.change}(${change.key === 'set' ? '() => ' : ''}`);
}

/** A reset to given values, or of the status alone. */
function sayReset(place: Place, asked: Link): void {
  const { base, chain, leaving } = place;
  const [given, ...more] = asked.call?.arguments ?? [];
  const kind = kindAt(base.plain, leaving);
  if (more.length || (kind !== 'field' && base.plain !== ''))
    return unclear(place, chain.links.length, 'a part of the form is reset');
  leaveLate(place);
  if (given) {
    const rows = base.plain === '' && leaving.lists.length > 0;
    if (rows && chain.inTemplate) return unclear(place, chain.links.length, 'rows are reset in the template');
    if (rows) leaving.needs.add('restart');
    return replace(place, chain.start, given.start, rows ? `this.${leaving.names.restart}(` : `${base.control}.reset(`);
  }
  if (chain.ending.kind !== 'statement')
    return unclear(place, chain.links.length, 'the values stay, and what was touched is forgotten');
  const indent = indentAt(leaving.component.script.text, chain.start);
  const { semicolon, newline } = leaving.context.style;
  const twice = `${base.control}.markAsUntouched()${semicolon}${newline}${indent}${base.control}.markAsPristine()`;
  replace(place, chain.start, asked.end, twice);
}

/** A change that comes after an answer, where nothing tells the template of it. */
function leaveLate({ path, leaving, chain }: Place): void {
  const { script } = leaving.component;
  const fn = path?.findParent((one) => one.isFunction());
  if (!path || !fn) return;
  const late = isLate(fn, chain.start);
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
function isLate(fn: NodePath, at: number): boolean {
  let late = false;
  fn.traverse({
    Function: (inner) => inner.skip(),
    AwaitExpression({ node }) {
      const call = node.argument;
      const sends = t.isCallExpression(call) && t.isIdentifier(call.callee, { name: 'submit' });
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
  if (call?.isCallExpression() && t.isIdentifier(call.node.callee, { name: 'submit' })) return true;
  return isInSubmission(fn.node.start ?? 0, leaving);
}

/** A place where a field itself is spoken of. */
function sayTree(place: Place, at: number, asked: Link | undefined): void {
  const { base, chain, leaving, path, name } = place;
  const kind = kindAt(base.plain, leaving);
  const end = chain.links[at - 1]?.end ?? chain.start;
  if (kind === 'list' && asked?.key === 'length' && !asked.call)
    return replace(place, chain.start, asked.end, `${base.control}.length`);
  if (kind === 'list' && name && !asked && isLoop(name, leaving))
    return replace(place, chain.start, end, `${base.control}.controls`);
  if (path && !asked) {
    const top = topOf(path, end);
    if (saysWhere(top)) return replace(place, chain.start, end, pathText(place));
    if (isSubmitted(top, base)) return undefined;
    const declarator = top.parentPath;
    if (declarator?.isVariableDeclarator() && top.key === 'init' && t.isIdentifier(declarator.node.id))
      return sayAlias(place, declarator);
    if (declarator?.isVariableDeclarator() && top.key === 'init' && base.state && t.isObjectPattern(declarator.node.id))
      return sayTaken(place, declarator);
    const loop = top.parentPath;
    if (loop?.isForOfStatement() && top.key === 'right' && kind === 'group' && !base.state)
      return sayEach(place, loop, end);
    if (top.parentPath?.isCallExpression() && top.listKey === 'arguments' && !base.byPath)
      return sayGiven(place, end, ownMethod(top.parentPath.node.callee), Number(top.key));
  }
  if (name && !asked && kind === 'field') {
    const given = givenIn(name, leaving);
    if (given) return sayGiven(place, end, given.method, given.index);
  }
  unclear(place, at, base.state ? 'the state of a field is handed on' : 'the field itself is handed on');
}

/** The outermost path of a chain that ends at an offset. */
function topOf(path: NodePath, end: number): NodePath {
  const { start } = path.node;
  let top = path;
  while (top.parentPath && top.parentPath.node.start === start && (top.parentPath.node.end ?? 0) <= end)
    top = top.parentPath;
  return top;
}

/** Whether a field is named as the one that an error is about. */
function saysWhere(top: NodePath): boolean {
  let at: NodePath | null = top;
  while (at?.parentPath?.isConditionalExpression() && at.key !== 'test') at = at.parentPath;
  const property = at?.parentPath;
  return property?.isObjectProperty() === true && t.isIdentifier(property.node.key, { name: 'fieldTree' });
}

/** Whether the form is what `submit` is given. */
function isSubmitted(top: NodePath, { plain }: Base): boolean {
  const call = top.parentPath;
  return (
    plain === '' &&
    top.listKey === 'arguments' &&
    top.key === 0 &&
    call?.isCallExpression() === true &&
    t.isIdentifier(call.node.callee, { name: 'submit' })
  );
}

/** A constant that stands for a field or its state. */
function sayAlias(place: Place, declarator: NodePath<t.VariableDeclarator>): void {
  const { base, chain, leaving } = place;
  const { id } = declarator.node;
  const alias = t.isIdentifier(id) ? declarator.scope.getBinding(id.name) : undefined;
  if (!alias?.constant || !t.isIdentifier(id))
    return unclear(place, chain.links.length, 'the field is taken by a name');
  for (const reference of alias.referencePaths) inClass(reference, id.name, base, leaving);
  const declaration = declarator.parentPath;
  if (!declaration.isVariableDeclaration() || declaration.node.declarations.length > 1)
    return unclear(place, chain.links.length, 'the field is taken by a name beside others');
  const { script } = leaving.component;
  const span: Span = spanOfNode(script.file, declaration.node);
  const lineEnd = /^[ \t]*\r?\n[ \t]*/.exec(script.text.slice(span.end))?.[0].length ?? 0;
  replace(place, span.start, span.end + lineEnd, '');
}

/** A loop that touches every field of a group: `for (const [, field] of this.entry) field().markAsTouched()`. */
function sayEach(place: Place, loop: NodePath<t.ForOfStatement>, end: number): void {
  const { base, chain, leaving } = place;
  const { left, body } = loop.node;
  const pattern = t.isVariableDeclaration(left) ? left.declarations[0]?.id : undefined;
  const [key, field] = t.isArrayPattern(pattern) ? pattern.elements : [];
  const { script } = leaving.component;
  const name = nameOf(field);
  const said = textAt(script, body)
    .replace(/^\{\s*|\s*\}$/g, '')
    .replace(/;$/, '');
  if (!pattern || key || name === undefined || !new RegExp(`^${name}\\(\\)\\.markAs(Touched|Dirty)\\(\\)$`).test(said))
    return unclear(place, chain.links.length, 'its fields are looked through');
  const at = script.text.indexOf(`${name}()`, body.start ?? 0) + name.length;
  leaving.edits.push({ file: script.file, start: pattern.start ?? 0, end: pattern.end ?? 0, text: name });
  leaving.edits.push({ file: script.file, start: at, end: at + 2, text: '' });
  replace(place, chain.start, end, `Object.values(${base.control}.controls)`);
}

/** Members of a field's state that are taken out of it: `const { touched, invalid } = this.entry.town()`. */
function sayTaken(place: Place, declarator: NodePath<t.VariableDeclarator>): void {
  const { base, leaving, chain } = place;
  const { script } = leaving.component;
  const { id } = declarator.node;
  const declaration = declarator.parentPath;
  const properties = t.isObjectPattern(id) ? id.properties : [];
  const plain = properties.every((one) => t.isObjectProperty(one) && nameOf(one.key) && nameOf(one.value));
  if (!plain || !declaration.isVariableDeclaration() || declaration.node.declarations.length > 1)
    return unclear(place, chain.links.length, 'the state of a field is taken apart');
  for (const property of properties) {
    if (!t.isObjectProperty(property)) continue;
    const local = nameOf(property.value) ?? '';
    for (const path of declarator.scope.getBinding(local)?.referencePaths ?? []) {
      const own = classChain(script.file, path, local);
      const [first, ...rest] = own.links;
      if (!first) continue;
      const state: Link = { key: '', end: own.start, call: undefined, computed: undefined };
      const links = [state, { ...first, key: nameOf(property.key) ?? '' }, ...rest];
      say({ leaving, base, chain: { ...own, links }, path, name: undefined });
    }
  }
  const span = spanOfNode(script.file, declaration.node);
  const lineEnd = /^[ \t]*\r?\n[ \t]*/.exec(script.text.slice(span.end))?.[0].length ?? 0;
  replace(place, span.start, span.end + lineEnd, '');
}

/** The method of the class that is called. */
function ownMethod(callee: t.Node): string | undefined {
  return t.isMemberExpression(callee) && t.isThisExpression(callee.object) ? nameOf(callee.property) : undefined;
}

/** The method that a field is given to in the template, and as which argument. */
function givenIn(
  { around, start }: TemplateName,
  { component }: Leaving,
): { method: string; index: number } | undefined {
  const { base } = component.template.place;
  for (const node of around) {
    if (!(node instanceof Call) || !(node.receiver instanceof PropertyRead)) continue;
    const index = node.args.findIndex(
      ({ sourceSpan }) => sourceSpan.start + base <= start && sourceSpan.end + base > start,
    );
    if (index >= 0 && component.members.has(node.receiver.name)) return { method: node.receiver.name, index };
  }
  return undefined;
}

const givenMethods = new WeakMap<Leaving, Map<string, { index: number; state: boolean; count: number }>>();

/** A field that a method is given: it knows it by its path. */
function sayGiven(place: Place, end: number, method: string | undefined, index: number): void {
  const { base, chain, leaving } = place;
  const known = givenMethods.get(leaving) ?? new Map<string, { index: number; state: boolean; count: number }>();
  givenMethods.set(leaving, known);
  const before = method === undefined ? undefined : known.get(method);
  const other = before && (before.index !== index || before.state !== base.state);
  if (method === undefined || other || !leaving.component.members.get(method)?.path.isClassMethod())
    return unclear(place, chain.links.length, 'the field itself is handed on');
  known.set(method, { index, state: base.state, count: (before?.count ?? 0) + 1 });
  replace(place, chain.start, end, pathText(place));
}

/** Methods that are given fields take their paths. */
function sayMethods(leaving: Leaving): void {
  const { component, found } = leaving;
  const { script, members, template } = component;
  for (const [name, { index, state, count }] of givenMethods.get(leaving) ?? []) {
    const member = members.get(name);
    const parameter = member?.path.isClassMethod() ? member.path.get('params')[index] : undefined;
    if (!member || !parameter) continue;
    const span = spanOfNode(script.file, parameter.node);
    const calls = member.references.length + template.names.filter((one) => one.name === name && !one.variable).length;
    if (!parameter.isIdentifier() || calls !== count) {
      leave(leaving, span, 'it is given something else than fields as well');
      continue;
    }
    const own = parameter.node.name;
    const annotation = parameter.node.typeAnnotation;
    const to = annotation?.end ?? span.end;
    leaving.edits.push({ file: script.file, start: span.start, end: to, text: `${own}: string` });
    leaving.ledger.push({
      entry: 'carried',
      span: { ...span, end: to },
      what: script.text.slice(span.start, to),
      why: 'it takes the path of a field',
      takenOver: true,
    });
    const base: Base = { control: `this.${found.form.name}.get(${own})`, path: own, plain: '?', state, byPath: true };
    for (const reference of member.path.scope.getOwnBinding(own)?.referencePaths ?? [])
      inClass(reference, own, base, leaving);
  }
}

function isLoop(name: TemplateName, leaving: Leaving): boolean {
  const { views } = leaving.component.template;
  return views.some((view) => view.kind === 'row' && isListOf(view, name));
}

/** A place that reads the model’s signal or gives it a new value. */
function sayModel(place: Place): void {
  const { chain, leaving } = place;
  const { links } = chain;
  const [first, change] = links;
  const form = `${chain.inTemplate ? '' : 'this.'}${leaving.found.form.name}`;
  if (first?.call) {
    let plain = '';
    let at = 1;
    for (let link = links[at]; link && !link.call && !link.computed; link = links[at]) {
      const next = plain === '' ? link.key : `${plain}.${link.key}`;
      const kind = kindAt(next, leaving);
      if (!kind || kind === 'list') break;
      plain = next;
      at += 1;
    }
    const whole = plain === '' || kindAt(plain, leaving) !== 'field';
    const control =
      form +
      plain
        .split('.')
        .filter(Boolean)
        .map((key) => `.controls${accessText(key)}`)
        .join('');
    const end = links[at - 1]?.end ?? chain.start;
    return replace(place, chain.start, end, `${control}${whole ? '.getRawValue()' : '.value'}`);
  }
  const [given, ...more] = change?.call?.arguments ?? [];
  if (!change || !given || more.length || links.length > 2 || !/^(set|update)$/.test(change.key))
    return unclear(place, 1, 'the model’s signal is handed on');
  leaveLate(place);
  if (change.key === 'set') {
    if (leaving.lists.length) return unclear(place, 2, 'all values are set, rows among them');
    return replace(place, chain.start, given.start, `${form}.setValue(`);
  }
  return sayUpdate(place, change, form);
}

/** `update((values) => ({ ...values, town: … }))`: what is laid over the values before. */
function sayUpdate(place: Place, change: Link, form: string): void {
  const { path, chain, leaving } = place;
  const call = path?.findParent((one) => one.isCallExpression() && (one.node.end ?? 0) === change.end);
  const fn = call?.isCallExpression() ? call.node.arguments[0] : undefined;
  const [parameter] = t.isArrowFunctionExpression(fn) ? fn.params : [];
  const body = t.isArrowFunctionExpression(fn) ? fn.body : undefined;
  const [spread, ...laid] = t.isObjectExpression(body) ? body.properties : [];
  const plain =
    t.isSpreadElement(spread) &&
    t.isIdentifier(parameter) &&
    t.isIdentifier(spread.argument, { name: parameter.name }) &&
    laid.every((one): one is t.ObjectProperty => t.isObjectProperty(one) && !one.computed);
  if (!plain || !body || !t.isIdentifier(parameter)) return unclear(place, 2, 'the model is updated by a function');
  const { script } = leaving.component;
  const [only] = laid;
  const list = leaving.lists.find(({ path }) => t.isObjectProperty(only) && path === nameOf(only.key));
  const value = t.isObjectProperty(only) ? textAt(script, only.value) : '';
  if (list && laid.length === 1) {
    const rows = list.path.split('.').at(-1) ?? 'rows';
    const text = value.replace(new RegExp(`\\b${parameter.name}\\.${rows}\\b`, 'g'), rows);
    if (new RegExp(`(?<![\\w$.])${parameter.name}\\b`).test(text))
      return unclear(place, 2, 'new rows look at other values');
    return replace(place, chain.start, change.end, `this.${list.change}((${rows}) => ${text})`);
  }
  const groups = laid.some((one) => kindAt(nameOf((one as t.ObjectProperty).key) ?? '', leaving) !== 'field');
  if (groups) return unclear(place, 2, 'the model is updated by a function');
  const before = new RegExp(`(?<![\\w$.])${parameter.name}(?=\\.)`, 'g');
  const first = laid[0];
  const inner = script.text.slice(first?.start ?? 0, laid.at(-1)?.end ?? 0);
  const said = shortened(inner.replace(before, `${form}.getRawValue()`), form, leaving);
  if (new RegExp(`(?<![\\w$.])${parameter.name}\\b`).test(said))
    return unclear(place, 2, 'the model is updated by a function');
  const { newline } = leaving.context.style;
  const many = inner.includes('\n');
  const indent = indentAt(script.text, first?.start ?? 0);
  const outer = indentAt(script.text, chain.start);
  replace(
    place,
    chain.start,
    change.end,
    many ? `${form}.patchValue({${newline}${indent}${said},${newline}${outer}})` : `${form}.patchValue({ ${said} })`,
  );
}

/** The path of a field as an expression of the place that asks for it. */
function pathText({ base, chain, leaving }: Place): string {
  const path = base.path === '' ? "''" : base.path;
  return chain.inTemplate ? path : path.replace(/'/g, styleOf(leaving.component.script.text).quote);
}

/** What stands for the form inside of a function that a submit does: its parameter. */
export function sayParameter(fn: NodePath, leaving: Leaving): void {
  if (!fn.isFunction()) return;
  const [parameter] = fn.get('params');
  if (!parameter) return;
  if (!parameter.isIdentifier())
    return void leave(
      leaving,
      spanOfNode(leaving.component.script.file, parameter.node),
      'what it is given is not clear',
    );
  const { name } = parameter.node;
  for (const reference of fn.scope.getOwnBinding(name)?.referencePaths ?? [])
    inClass(
      reference,
      name,
      { control: `this.${leaving.found.form.name}`, path: '', plain: '', state: false },
      leaving,
    );
}
