import { indentAt } from '../../source/style.js';
import type { Link } from '../chains.js';
import { hiddenAt, holdsHidden, isShown, sayCounting, sayHidden } from './hidden-fields.js';
import { leaveLate } from './late-changes.js';
import type { ListOfRows } from './leaving.js';
import { type Place, kindAt, replace, unclear, pathText } from './places.js';

/** A place that asks the state of a field. */
export function sayState(place: Place, at: number, asked: Link): void {
  const { base, chain, leaving } = place;
  const kind = kindAt(base.plain, leaving);
  const inTemplate = chain.inTemplate;
  const own = inTemplate ? '' : 'this.';
  const errors = `${own}${leaving.names.errorsOf}(${pathText(place)})`;
  const quiet = asked.call !== undefined && asked.call.arguments.length === 0;
  const put = (text: string): void => replace(place, chain.start, asked.end, text);
  switch (asked.key) {
    case 'touched':
    case 'dirty':
      if (!quiet) break;
      if (base.byPath) return put(grouped(place, asked, `${base.control}?.${asked.key} === true`));
      // the form was changed where the field was on which another depends
      if ((asked.key === 'touched' || base.plain !== '') && kind !== 'field' && holdsHidden(base.plain, leaving)) break;
      if (hiddenAt(base.plain, asked.key, leaving) && !isShown(place)) return sayCounting(place, asked);
      return put(`${base.control}.${asked.key}`);
    case 'errors':
      if (!quiet) break;
      leaving.needs.add('errorsOf');
      return put(errors);
    case 'invalid':
    case 'valid':
      if (!quiet) break;
      if (base.plain === '' && !base.byPath) return put(`${base.control}.${asked.key}`);
      if (kind !== 'field' && !base.byPath) break;
      leaving.needs.add('errorsOf');
      return put(grouped(place, asked, `${errors}.length ${asked.key === 'invalid' ? '> 0' : '=== 0'}`));
    case 'submitting':
      if (!quiet || base.plain !== '' || base.byPath) break;
      leaving.needs.add('submit');
      return put(`${own}${leaving.names.sender}.submitting()`);
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
      return put(`${base.control}.${asked.key}()`);
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
  if (saySingleRow(place, list, change)) return undefined;
  const text = leaving.component.script.text.slice(given.start, given.end);
  const { form, model } = leaving.found;
  if (change.key === 'set' && new RegExp(`this\\.(${form.name}|${model.name})\\b`).test(text))
    return unclear(place, chain.links.length, 'new rows are made of those before, not by a function of them');
  if (changesRows(text)) return unclear(place, chain.links.length, 'rows are changed, which would begin anew');
  replace(place, chain.start, given.start, `this.${list.change}(${change.key === 'set' ? '() => ' : ''}`);
}

/** One row that is added or goes is said by the array itself. */
function saySingleRow(place: Place, list: ListOfRows, { end }: Link): boolean {
  const { base, chain, leaving } = place;
  const { text, file } = leaving.component.script;
  const use = leaving.model.uses.find(
    ({ kind, span }) => kind === 'change-rows' && span.file === file && span.start === chain.start,
  );
  if (use?.kind !== 'change-rows') return false;
  const { change } = use;
  if (change.kind === 'add') {
    const [value, ...more] = change.values;
    const at = change.at && (change.at.holes.length ? '0' : text.slice(change.at.start, change.at.end));
    if (!value || more.length || (at !== undefined && !/^[\w$.]+$/.test(at))) return false;
    const call = at === undefined ? 'push(' : `insert(${at}, `;
    replace(place, chain.start, value.start, `${base.control}.${call}${list.make}(`);
    replace(place, value.end, end, '))');
    return true;
  }
  if (change.kind === 'clear') {
    replace(place, chain.start, end, `${base.control}.clear()`);
    return true;
  }
  if (change.kind !== 'remove') return false;
  if (change.at === 'last') replace(place, chain.start, end, `${base.control}.removeAt(${base.control}.length - 1)`);
  else {
    replace(place, chain.start, change.at.start, `${base.control}.removeAt(`);
    replace(place, change.at.end, end, ')');
  }
  return true;
}

/** Whether new rows are made of old ones, rather than added, left out or put elsewhere. */
export function changesRows(text: string): boolean {
  return /\.(?:map|with|fill)\(/.test(text);
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
