import type { NodePath } from '@babel/traverse';
import { spanOfNode, type Span } from '../../form/code.js';
import type { Unclear } from '../../form/model.js';
import type { Asked, Use } from '../../form/uses.js';
import { classChain, templateChain } from '../chains.js';
import { classSurrounding, codeOf } from '../class-reading.js';
import type { Member } from '../component.js';
import type { AngularSite } from '../form-site.js';
import { signalChange } from '../signal-changes.js';
import { allUse, callUse, fieldUse, setUse, type Reading } from '../uses.js';
import { fieldChain, isBinding, type FoundForm, type Leaf } from './found-form.js';

/** What following a form through its class and template gathers. */
export interface Gathering {
  site: AngularSite;
  found: FoundForm;
  leaves: readonly Leaf[];
  submits: ReadonlySet<string>;
  uses: Use[];
  unclear: Unclear[];
  references: Map<string, Span[]>;
}

/** Every place that asks the form, or reads or changes its model. */
export function formUses(gathering: Gathering): void {
  const { form, model } = gathering.found;
  eachPlace(form, gathering, (here, path) => stateUse(here, gathering, path));
  eachPlace(model, gathering, (here, path) => modelUse(here, gathering, path));
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

function notUnderstood({ chain }: Reading, count: number, why: string, { unclear }: Gathering): void {
  const { file, start, links } = chain;
  const end = links[count - 1]?.end ?? start;
  unclear.push({ span: { file, start, end }, what: links.map(({ key }) => key).join('.'), why });
}

/** A place that asks the form's fields: their values, their status, or the fields themselves. */
function stateUse(here: Reading, gathering: Gathering, path?: NodePath): void {
  const { chain } = here;
  const { path: keys, count, state } = fieldChain(chain);
  const name = keys.join('.');
  const leaf = gathering.leaves.some((one) => one.path === name);
  const group = name === '' || gathering.leaves.some((one) => one.path.startsWith(`${name}.`));
  const of = name === '' ? undefined : name;
  if (!leaf && !group) return notUnderstood(here, count, 'it is no field of the model', gathering);
  const span = { file: chain.file, start: chain.start, end: chain.links[count - 1]?.end ?? chain.start };
  const next = chain.links[count];
  if (!state || !next) {
    const asked = count === chain.links.length && !state ? errorAsked(here, span, gathering) : undefined;
    gathering.uses.push({
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
  if (/^(value|controlValue)$/.test(next.key)) return valueUse(here, gathering, { name, leaf, count, path });
  if (next.key === 'reset' && next.call?.arguments.length) {
    gathering.uses.push(callUse(here, next, () => ({ kind: 'reset', of, clearsSubmitted: false })));
    return undefined;
  }
  const end = next.end;
  gathering.uses.push({
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
  return undefined;
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

function valueUse(
  here: Reading,
  gathering: Gathering,
  { name, leaf, count, path }: { name: string; leaf: boolean; count: number; path: NodePath | undefined },
): void {
  const { chain } = here;
  const value = chain.links[count];
  if (value?.call) return readUse(here, gathering, name, count + 1);
  const change = chain.links[count + 1];
  const [given] = change?.call?.arguments ?? [];
  if (change?.key === 'set' && given && leaf) {
    const span = { start: chain.start, end: change.end };
    const statement = chain.ending.kind === 'statement' ? chain.ending.statement : undefined;
    gathering.uses.push(setUse(here, name, { kind: 'value', code: codeOf(chain.file, given) }, span, statement));
    return undefined;
  }
  if (change && given && name === '') return changeUse(here, gathering, count + 1, path);
  return notUnderstood(here, count + 1, 'the value’s signal is handed on or updated by a function', gathering);
}

/** A read of a field, of a group, or of all: the first `count` links stand for the value of `name`. */
function readUse(here: Reading, { leaves, uses }: Gathering, name: string, count: number): void {
  const { links } = here.chain;
  let path = name;
  let at = count;
  const isKnown = (one: string): boolean => leaves.some((leaf) => leaf.path === one || leaf.path.startsWith(`${one}.`));
  for (let link = links[at]; link && !link.call && !link.computed; link = links[at]) {
    const deeper = path === '' ? link.key : `${path}.${link.key}`;
    if (!isKnown(deeper)) break;
    path = deeper;
    at += 1;
  }
  if (path === '') uses.push(allUse(here, count, 'held'));
  else uses.push({ ...fieldUse(here, path, at), field: path } as Use);
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
