import type { Asked, AskUse, NewValue, ReadAllUse, ResetUse, SetAllUse, Surrounding, Use } from '../form/uses.js';
import type { Code } from '../form/code.js';
import type { Chain, Link } from './chains.js';
import { codeOf } from './class-reading.js';

/** What a chain's reader knows of its surroundings. */
export interface Reading {
  chain: Chain;
  where: Surrounding;
  /** Text of the chain's file. */
  text: string;
  /** Values of controls may be typed as missing; a `!` behind them says that they are not. */
  valuesMayMiss?: boolean;
}

function lastEnd(chain: Chain, count: number): number {
  return chain.links[count - 1]?.end ?? chain.start;
}

/** The whole of an update with everything around it that goes with it. */
function updated({
  chain,
}: Reading):
  | { value: NewValue; span: { start: number; end: number }; statement: { start: number; end: number } | undefined }
  | undefined {
  const { ending } = chain;
  if (ending.kind === 'stepped') {
    const code = codeOf(chain.file, { start: ending.whole.end, end: ending.whole.end });
    return {
      value: { kind: 'value', code: { ...code, holes: [] }, operator: ending.operator === '++' ? '+ 1' : '- 1' },
      span: ending.whole,
      statement: ending.statement,
    };
  }
  if (ending.kind !== 'assigned') return undefined;
  const operator = ending.operator === '=' ? undefined : ending.operator.slice(0, -1);
  return {
    value: { kind: 'value', code: codeOf(chain.file, ending.value), ...(operator === undefined ? {} : { operator }) },
    span: ending.whole,
    statement: ending.statement,
  };
}

/**
 * A read or an update of one field: the first `count` links of the chain spell it.
 */
export function fieldUse(reading: Reading, field: string, count: number): Use {
  const { chain, where } = reading;
  const whole = count === chain.links.length;
  const update = whole ? updated(reading) : undefined;
  if (update) return setUse(reading, field, update.value, update.span, update.statement);
  const { ending } = chain;
  return {
    kind: 'read',
    field,
    key: whole && ending.kind === 'shorthand' ? ending.key : undefined,
    where,
    span: { file: chain.file, start: chain.start, end: behindBang(reading, lastEnd(chain, count)) },
  };
}

function behindBang({ text, valuesMayMiss }: Reading, end: number): number {
  return valuesMayMiss === true && /^!(?!=)/.test(text.slice(end, end + 2)) ? end + 1 : end;
}

/** A change of one field. */
export function setUse(
  { chain, where }: Reading,
  field: string,
  value: NewValue,
  span: { start: number; end: number },
  statement: { start: number; end: number } | undefined,
): Use {
  return {
    kind: 'set',
    assignments: [{ field, value }],
    resetsAll: false,
    statement: statement && { file: chain.file, ...statement },
    arrowBody: false,
    fresh: true,
    repeats: false,
    called: undefined,
    where,
    span: { file: chain.file, start: span.start, end: span.end },
  };
}

/** A read or a replacement of all values: the first `count` links of the chain stand for them. */
export function allUse(reading: Reading, count: number, what: 'held' | 'shown'): ReadAllUse | SetAllUse {
  const { chain, where } = reading;
  const whole = count === chain.links.length;
  const { ending } = chain;
  if (whole && ending.kind === 'assigned' && ending.operator === '=')
    return {
      kind: 'set-all',
      code: codeOf(chain.file, ending.value),
      merge: false,
      where,
      span: { file: chain.file, ...ending.whole },
    };
  const spread = whole && ending.kind === 'spread';
  const place = spread && ending.object ? ending.object : { start: chain.start, end: lastEnd(chain, count) };
  return {
    kind: 'read-all',
    what,
    ...(spread && !ending.object ? { spread: true } : {}),
    ...(whole && ending.kind === 'shorthand' ? { key: ending.key } : {}),
    where,
    span: { file: chain.file, start: place.start, end: place.end },
  };
}

/** A call of the form or of a field that gives it values: its last link is the call. */
export function callUse(
  { chain, where }: Reading,
  link: Link,
  make: (
    values: Code | undefined,
  ) => { kind: 'reset'; of: string | undefined; clearsSubmitted: boolean } | { kind: 'set-all'; merge: boolean },
): ResetUse | SetAllUse {
  const first = link.call?.arguments[0];
  const last = link.call?.arguments.at(-1);
  const values = first && last ? codeOf(chain.file, first) : undefined;
  const made = make(values);
  const span = { file: chain.file, start: chain.start, end: link.end };
  if (made.kind === 'reset') return { ...made, values, where, span };
  return { ...made, code: values ?? codeOf(chain.file, { start: link.end, end: link.end }), where, span };
}

/** Asks the object that the first `count` links stand for. */
export function askUse({ chain, where, text }: Reading, count: number, of: string | undefined): AskUse {
  const end = lastEnd(chain, count);
  const next = chain.links[count];
  const between = next
    ? (/^\s*!?\s*(\?\.|\.)?/.exec(text.slice(end))?.[0] ?? '')
    : (/^!/.exec(text.slice(end))?.[0] ?? '');
  return {
    kind: 'ask',
    of,
    member: next?.key,
    named: count === 1 && chain.links[0]?.call === undefined ? chain.links[0]?.key : undefined,
    joint: !next ? '' : between.includes('?.') ? '?.' : between.includes('.') ? '.' : '',
    inTemplate: chain.inTemplate,
    asks: askedInFull(chain, count),
    where,
    span: { file: chain.file, start: chain.start, end: end + between.length },
  };
}

/** What is asked behind the first `count` links of a chain. */
function askedInFull({ file, start, links, ending }: Chain, count: number): Asked | undefined {
  const [next, second, third] = links.slice(count);
  if (!next || next.computed) return undefined;
  const plain = (link: Link | undefined): Link | undefined => (link?.call || link?.computed ? undefined : link);
  const made = (last: Link, parts: Omit<Asked, 'span' | 'statement'>): Asked => ({
    span: { file, start, end: last.end },
    statement: ending.kind === 'statement' && last === links.at(-1),
    ...parts,
  });
  if (next.key === 'errors' && !next.call) {
    const key = plain(second);
    const detail = key && plain(third);
    return made(detail ?? key ?? next, {
      ...(key ? { error: key.key } : {}),
      ...(detail ? { detail: detail.key } : {}),
    });
  }
  const [named] = next.call?.texts ?? [];
  if (/^(hasError|getError)$/.test(next.key) && named !== undefined && next.call?.arguments.length === 1) {
    const detail = next.key === 'getError' ? plain(second) : undefined;
    return made(detail ?? next, { error: named, ...(detail ? { detail: detail.key } : {}) });
  }
  return made(next, next.call ? { given: next.call.arguments.map((one) => codeOf(file, one)) } : {});
}

/** Code that follows changes of a form or a field: the chain goes on with `.valueChanges.subscribe(…)`. */
function watchUse({ chain, where, text }: Reading, count: number, of: string | undefined): Use | undefined {
  const changes = chain.links[count];
  const piped = chain.links[count + 1];
  // operators that only end the subscription say nothing of the values
  const ends =
    piped?.key === 'pipe' &&
    piped.call?.arguments.every(({ start, end }) => /^takeUntil(Destroyed)?\(/.test(text.slice(start, end)));
  const at = ends ? count + 2 : count + 1;
  const subscribe = chain.links[at];
  const [callback, ...more] = subscribe?.call?.arguments ?? [];
  if (changes?.key !== 'valueChanges' || subscribe?.key !== 'subscribe' || !callback || more.length) return undefined;
  if (chain.ending.kind !== 'statement' || chain.links.length !== at + 1) return undefined;
  const statement = { file: chain.file, ...chain.ending.statement };
  return { kind: 'watch', of, code: codeOf(chain.file, callback), statement, where, span: statement };
}

/** Whether the options of a change keep it from those who follow the field: `{ emitEvent: false }`. */
function isQuiet(option: { start: number; end: number } | undefined, { text }: Reading): boolean {
  return option !== undefined && /^\{\s*emitEvent:\s*false,?\s*\}$/.test(text.slice(option.start, option.end));
}

/**
 * What is asked of a control's object: its value is read or set, it is reset, or it tells its status.
 * @param count how many links stand for the object
 */
export function controlUse(reading: Reading, count: number, field: string): Use {
  const { chain } = reading;
  const next = chain.links[count];
  const last = count + 1 === chain.links.length;
  const name = next?.key;
  if (next && !next.call && /^(value|viewModel)$/.test(name ?? '')) return fieldUse(reading, field, count + 1);
  if (next?.call && name === 'getRawValue') return fieldUse(reading, field, count + 1);
  const [only, ...more] = next?.call?.arguments ?? [];
  const quiet = isQuiet(more[0], reading);
  if (
    next?.call &&
    /^(setValue|patchValue)$/.test(name ?? '') &&
    only &&
    (!more.length || (quiet && more.length === 1))
  ) {
    const statement = last && chain.ending.kind === 'statement' ? chain.ending.statement : undefined;
    const span = { start: chain.start, end: next.end };
    const set = setUse(reading, field, { kind: 'value', code: codeOf(chain.file, only) }, span, statement);
    return quiet && set.kind === 'set' ? { ...set, quiet } : set;
  }
  if (next?.call && name === 'reset' && !more.length)
    return callUse(reading, next, () => ({ kind: 'reset', of: field, clearsSubmitted: false }));
  return watchUse(reading, count, field) ?? askUse(reading, count, field);
}

/**
 * What is asked of the form's object: values, one of its fields, a reset, or its status.
 * @param count how many links stand for the object
 * @param fieldAt the field or group of fields under some names, one after the other
 */
export function formUse(
  reading: Reading,
  count: number,
  fieldAt: (names: readonly string[]) => { name: string; group: boolean } | undefined,
): Use {
  const { chain } = reading;
  let at = count;
  let path: string[] = [];
  let found: { name: string; group: boolean } | undefined;
  for (;;) {
    const link = chain.links[at];
    if (!link) break;
    if (
      !found &&
      !link.call &&
      /^(form|control|formDirective)$/.test(link.key) &&
      !fieldAt([link.key]) &&
      path.length === 0
    ) {
      at += 1;
      continue;
    }
    const name =
      link.call && link.key === 'get'
        ? link.call.texts[0]
        : !link.call && link.key === 'controls'
          ? chain.links[at + 1]?.key
          : undefined;
    if (name === undefined || name === '') break;
    const names = [...path, ...name.split('.')];
    const inner = fieldAt(names);
    if (!inner) break;
    found = inner;
    path = names;
    at += link.key === 'controls' ? 2 : 1;
    if (!found.group) return controlUse(reading, at, found.name);
  }
  const next = chain.links[at];
  const valued = next && (next.key === 'value' ? !next.call : next.key === 'getRawValue' && next.call !== undefined);
  if (valued) {
    const rest = chain.links.slice(at + 1);
    for (let length = rest.length; length > 0; length--) {
      const names = rest.slice(0, length).map(({ key }) => key);
      const field = rest.slice(0, length).every(({ computed }) => !computed) ? fieldAt([...path, ...names]) : undefined;
      if (field && !field.group && !rest.slice(0, length - 1).some(({ call }) => call) && !rest[length - 1]?.call)
        return fieldUse(reading, field.name, at + 1 + length);
    }
    if (found) return { ...fieldUse(reading, found.name, at + 1), field: found.name } as Use;
    return allUse(reading, at + 1, next.key === 'value' ? 'shown' : 'held');
  }
  const isSet = next?.key === 'setValue' || next?.key === 'patchValue';
  const quiet = next?.call?.arguments.length === 2 && isQuiet(next.call.arguments[1], reading);
  if (!found && next?.call && isSet && (quiet || next.call.arguments.length <= 1)) {
    const set = callUse(reading, next, () => ({ kind: 'set-all', merge: next.key === 'patchValue' }));
    return quiet && set.kind === 'set-all' ? { ...set, quiet } : set;
  }
  if (!found && next?.call && next.call.arguments.length <= 1) {
    if (next.key === 'reset' || next.key === 'resetForm')
      return callUse(reading, next, () => ({
        kind: 'reset',
        of: undefined,
        clearsSubmitted: next.key === 'resetForm',
      }));
  }
  return watchUse(reading, at, found?.name) ?? askUse(reading, at, found?.name);
}
