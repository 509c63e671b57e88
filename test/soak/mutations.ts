import * as t from '@babel/types';
import { parseScript } from '../../src/source/script.js';

/** Numbers between 0 and 1, the same ones for the same seed. */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let value = Math.imul(state ^ (state >>> 15), 1 | state);
    value = (value + Math.imul(value ^ (value >>> 7), 61 | value)) ^ value;
    return ((value ^ (value >>> 14)) >>> 0) / 4_294_967_296;
  };
}

interface Place {
  start: number;
  end: number;
}

/** Statements of blocks, attributes of elements, and names, as places of a text. */
function placesOf(
  file: string,
  text: string,
): { statements: Place[]; attributes: Place[]; names: Place[] } | undefined {
  const parsed = parseScript(file, text);
  if (!parsed.ok) return undefined;
  const found = { statements: [] as Place[], attributes: [] as Place[], names: [] as Place[] };
  const place = (node: t.Node): Place => ({ start: node.start ?? 0, end: node.end ?? 0 });
  parsed.script.program.traverse({
    Statement(path) {
      if (path.parentPath?.isBlockStatement() || path.parentPath?.isProgram()) found.statements.push(place(path.node));
    },
    JSXAttribute(path) {
      found.attributes.push(place(path.node));
    },
    Identifier(path) {
      if (path.isReferencedIdentifier()) found.names.push(place(path.node));
    },
  });
  return found;
}

/** A form's text with one to three accidents: statements lost, doubled or moved, names exchanged, syntax of tomorrow. */
export function mutated(file: string, text: string, random: () => number): string {
  let result = text;
  const times = 1 + Math.floor(random() * 3);
  for (let time = 0; time < times; time++) {
    const places = placesOf(file, result);
    if (!places) return result;
    const pick = (list: readonly Place[]): Place | undefined => list[Math.floor(random() * list.length)];
    const cut = ({ start, end }: Place): string => result.slice(start, end);
    const replace = ({ start, end }: Place, by: string): void => {
      result = result.slice(0, start) + by + result.slice(end);
    };
    const kind = Math.floor(random() * 8);
    const statement = pick(places.statements);
    const other = pick(places.statements);
    const attribute = pick(places.attributes);
    const name = pick(places.names);
    const another = pick(places.names);
    if (kind === 0 && statement) replace(statement, '');
    else if (kind === 1 && statement) replace(statement, `${cut(statement)}\n${cut(statement)}`);
    else if (kind === 2 && statement && other && statement.end <= other.start) {
      const moved = cut(statement);
      replace(other, `${moved}\n${cut(other)}`);
      replace(statement, '');
    } else if (kind === 3 && attribute) replace(attribute, '');
    else if (kind === 4 && attribute) replace(attribute, `${cut(attribute)} ${cut(attribute)}`);
    else if (kind === 5 && name && another) replace(name, cut(another));
    else if (kind === 6 && statement)
      replace(statement, `{ const ${name ? cut(name) : 'shadow'} = 1; ${cut(statement)} }`);
    else if (kind === 7 && statement) replace(statement, `${cut(statement)}\nusing later = await (0 |> open(%));`);
  }
  return result;
}
