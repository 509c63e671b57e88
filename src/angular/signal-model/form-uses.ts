import type { NodePath } from '@babel/traverse';
import { spanOfNode, type Span } from '../../form/code.js';
import type { Asked, Use } from '../../form/uses.js';
import { classChain, templateChain } from '../chains.js';
import { classSurrounding, codeOf } from '../class-reading.js';
import type { Member } from '../component.js';
import { signalChange } from '../signal-changes.js';
import { allUse, callUse, fieldUse, setUse, type Reading } from '../uses.js';
import { isBinding } from './found-form.js';
import { notUnderstood, type Gathering } from './gathering.js';
import { listUse, rowNameUses } from './row-uses.js';
import { treePlace, type TreeList, type TreePlace } from './rows.js';

/** Every place that asks the form, or reads or changes its model. */
export function formUses(gathering: Gathering): void {
  const { form, model } = gathering.found;
  eachPlace(form, gathering, (here, path) => stateUse(here, gathering, path));
  eachPlace(model, gathering, (here, path) => modelUse(here, gathering, path));
  rowNameUses(gathering, (here, list, path) => stateUse(here, gathering, path, list));
}

function eachPlace(member: Member, gathering: Gathering, use: (here: Reading, path?: NodePath) => void): void {
  const { site, found, references, unclear } = gathering;
  const { script, template } = site.component;
  const spans: Span[] = [];
  const declares = ({ start, end }: Span): boolean =>
    [found.form, found.model].some(({ node }) => (node.start ?? 0) <= start && (node.end ?? 0) >= end);
  for (const path of member.references) {
    const span = spanOfNode(script.file, path.node);
    spans.push(span);
    if (declares(span)) continue;
    const chain = classChain(script.file, path, member.name);
    use({ chain, where: classSurrounding(path, gathering.submits), text: script.text }, path);
  }
  for (const path of member.aliases)
    unclear.push({
      span: spanOfNode(script.file, path.node),
      what: `const { ${member.name} } = this`,
      why: `${member.name} is taken out of the component`,
    });
  for (const name of template.names) {
    if (name.name !== member.name || name.variable) continue;
    const { file } = template.place;
    spans.push({ file, start: name.start, end: name.end });
    if (isBinding(name)) continue;
    const chain = templateChain(name, template.place);
    use({ chain, where: chain.inEvent ? 'event' : 'render', text: template.place.text });
  }
  references.set(member.name, spans);
}

/**
 * A place that asks the form's fields: their values, their status, or the fields themselves.
 * @param from the list that the name stands for a row of
 */
function stateUse(here: Reading, gathering: Gathering, path?: NodePath, from?: TreeList): void {
  const { chain } = here;
  const at = treePlace(chain, gathering.lists, here.text, from);
  const { path: name, count, state, row } = at;
  const leaf = gathering.leaves.some((one) => one.path === name) || isFieldOfRow(name, gathering);
  const group = name === '' || hasInside(name, gathering);
  if (!leaf && !group) return notUnderstood(here, count, 'it is no field of the model', gathering);
  const list = gathering.lists.find((one) => one.path === name);
  if (list && listUse(here, list, at, gathering, path)) return undefined;
  const put = (use: Use): void => void gathering.uses.push(row ? { ...use, row } : use);
  const of = name === '' ? undefined : name;
  const span = { file: chain.file, start: chain.start, end: chain.links[count - 1]?.end ?? chain.start };
  const next = chain.links[count];
  if (!state || !next) {
    const asked = count === chain.links.length && !state ? errorAsked(here, span, gathering) : undefined;
    put({
      kind: 'ask',
      of,
      member: asked ? 'errors' : undefined,
      named: undefined,
      joint: '',
      inTemplate: chain.inTemplate,
      ...(asked ? { asks: asked } : {}),
      where: here.where,
      span: asked?.span ?? span,
    });
    return undefined;
  }
  if (/^(value|controlValue)$/.test(next.key)) return valueUse(here, gathering, { at, leaf, path, put });
  if (next.key === 'reset' && next.call?.arguments.length)
    return put(callUse(here, next, () => ({ kind: 'reset', of, clearsSubmitted: false })));
  const end = next.end;
  return put({
    kind: 'ask',
    of,
    member: next.key,
    named: undefined,
    joint: '',
    inTemplate: chain.inTemplate,
    asks: {
      span: { ...span, end },
      ...(next.call ? { given: next.call.arguments.map((one) => codeOf(chain.file, one)) } : {}),
      statement: chain.ending.kind === 'statement' && chain.links.length === count + 1,
    },
    where: here.where,
    span: { ...span, end },
  });
}

function isFieldOfRow(name: string, { lists }: Gathering): boolean {
  return lists.some(({ path, keys }) => [...keys.keys()].some((key) => name === `${path}[].${key}`));
}

/** Whether fields stand inside of a name. */
function hasInside(name: string, { leaves, lists }: Gathering): boolean {
  return leaves.some(({ path }) => path.startsWith(`${name}.`)) || lists.some(({ path }) => name === `${path}[]`);
}

/** The error that a method of the class is asked for: `hasError(form.town, 'required')`. */
function errorAsked({ chain }: Reading, span: Span, { site }: Gathering): Asked | undefined {
  const { script, template, members } = site.component;
  const [text, base] = chain.inTemplate ? [template.place.text, template.place.base] : [script.text, 0];
  const before = /(?:\bthis\.)?(\w+)\(\s*$/.exec(text.slice(0, span.start - base));
  const behind = /^\s*,\s*(['"])(\w+)\1\s*\)/.exec(text.slice(span.end - base));
  const asking = members.get(before?.[1] ?? '')?.node;
  if (!before || !behind?.[2] || !asking) return undefined;
  const body = script.text.slice(asking.start ?? 0, asking.end ?? 0).replace(/\s+/g, ' ');
  if (!/\{ return (\w+)\(\)\.errors\(\)\.some\(\(?(\w+)\)? => \2\.kind === (\w+)\);? \}$/.test(body)) return undefined;
  const whole = { ...span, start: span.start - before[0].length, end: span.end + behind[0].length };
  return { span: whole, error: behind[2], statement: false };
}

/** What is done with the value of the field, group or form that stands at a place. */
function valueUse(
  here: Reading,
  gathering: Gathering,
  given: { at: TreePlace; leaf: boolean; path: NodePath | undefined; put: (use: Use) => void },
): void {
  const { at, leaf, path, put } = given;
  const { chain } = here;
  const value = chain.links[at.count];
  if (value?.call) return readUse(here, gathering, at.path, at.count + 1, put);
  const change = chain.links[at.count + 1];
  const [first] = change?.call?.arguments ?? [];
  if (change?.key === 'set' && first && leaf) {
    const span = { start: chain.start, end: change.end };
    const statement = chain.ending.kind === 'statement' ? chain.ending.statement : undefined;
    return put(setUse(here, at.path, { kind: 'value', code: codeOf(chain.file, first) }, span, statement));
  }
  if (change && first && at.path === '') return changeUse(here, gathering, at.count + 1, path);
  return notUnderstood(here, at.count + 1, 'the value’s signal is handed on or updated by a function', gathering);
}

/** A read of a field, of a group, or of all: the first `count` links stand for the value of `name`. */
function readUse(
  here: Reading,
  gathering: Gathering,
  name: string,
  count: number,
  put: (use: Use) => void = (use) => void gathering.uses.push(use),
): void {
  const { links } = here.chain;
  let path = name;
  let at = count;
  const isKnown = (one: string): boolean =>
    gathering.leaves.some((leaf) => leaf.path === one) || isFieldOfRow(one, gathering) || hasInside(one, gathering);
  for (let link = links[at]; link && !link.call && !link.computed; link = links[at]) {
    const deeper = path === '' ? link.key : `${path}.${link.key}`;
    if (!isKnown(deeper)) break;
    path = deeper;
    at += 1;
  }
  if (path === '') put(allUse(here, count, 'held'));
  else put({ ...fieldUse(here, path, at), field: path } as Use);
}

/** A place that reads the model's signal or gives it a new value. */
function modelUse(here: Reading, gathering: Gathering, path?: NodePath): void {
  const [first, change] = here.chain.links;
  if (first?.call) return readUse(here, gathering, '', 1);
  if (change?.call?.arguments.length === 1) return changeUse(here, gathering, 1, path);
  return notUnderstood(here, 1, 'the model’s signal is handed on', gathering);
}

/** `set` and `update` of all values: the change is the link behind the first `count` ones. */
function changeUse(here: Reading, gathering: Gathering, count: number, path?: NodePath): void {
  const change = signalChange(here, count, path);
  if (change) gathering.uses.push(change);
  else notUnderstood(here, count + 1, 'the model is updated by a function', gathering);
}
