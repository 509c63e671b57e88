import * as t from '@babel/types';
import { indentAt } from '../../source/style.js';
import type { Link } from '../chains.js';
import { shortened } from './hidden-fields.js';
import { leaveLate } from './late-changes.js';
import { textAt } from './leaving.js';
import { controlAt, kindAt, replace, unclear, type Place } from './places.js';
import { nameOf } from './rule-texts.js';
import { changesRows } from './state-uses.js';

/** A place that reads the model’s signal or gives it a new value. */
export function sayModel(place: Place): void {
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
    const end = links[at - 1]?.end ?? chain.start;
    return replace(place, chain.start, end, `${controlAt(form, plain)}${whole ? '.getRawValue()' : '.value'}`);
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
    laid.every((one) => t.isObjectProperty(one) && !one.computed);
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
    if (changesRows(text)) return unclear(place, 2, 'rows are changed, which would begin anew');
    return replace(place, chain.start, change.end, `this.${list.change}((${rows}) => ${text})`);
  }
  const keyOf = (one: t.Node): string => (t.isObjectProperty(one) ? (nameOf(one.key) ?? '') : '');
  if (laid.some((one) => kindAt(keyOf(one), leaving) !== 'field'))
    return unclear(place, 2, 'the model is updated by a function');
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
