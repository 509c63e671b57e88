/** One rule as people write it in a function, with values to judge. `v` stands for all values. */
export interface RuleRow {
  /** Name of its field. */
  field: string;
  type: string;
  initial: string;
  /** The condition under which it is broken. */
  broken: string;
  /** Values as source text, the odd ones included. */
  inputs: string[];
  /** Other fields with their values while it is judged. */
  beside?: Record<string, unknown>;
  /** It stays code: what a schema cannot say. */
  code?: true;
}

const texts = [
  "''",
  "' '",
  "'a'",
  "'ab'",
  "'abc'",
  "'abcd'",
  "'12'",
  "'AB-1'",
  "' ab '",
  "'\\u{1F34E}a'",
  'null',
  'undefined',
];
const numbers = ['0', '1', '-1', '5', '5.5', '6', '40', '41', 'NaN', 'undefined'];
const nullable = [...numbers, 'null'];
const flags = ['true', 'false', 'undefined'];
const lists = ['[]', "['a']", "['a', 'b']", "['a', 'b', 'c']", "['a', 'b', 'c', 'd']"];

const text = (field: string, broken: string, inputs = texts): RuleRow => ({
  field,
  type: 'string',
  initial: "''",
  broken,
  inputs,
});
const number = (field: string, broken: string, inputs = numbers): RuleRow => ({
  field,
  type: 'number',
  initial: '0',
  broken,
  inputs,
});
const maybe = (field: string, broken: string): RuleRow => ({
  field,
  type: 'number | null',
  initial: 'null',
  broken,
  inputs: nullable,
});
const yesNo = (field: string, broken: string): RuleRow => ({
  field,
  type: 'boolean',
  initial: 'false',
  broken,
  inputs: flags,
});
const list = (field: string, broken: string): RuleRow => ({
  field,
  type: 'string[]',
  initial: '[]',
  broken,
  inputs: lists,
});
/** Texts that a condition on their members can be asked about. */
const real = texts.filter((one) => one !== 'null' && one !== 'undefined');

/** Rules of every standard kind, in the spellings people use. */
export const ruleTable: readonly RuleRow[] = [
  text('bareText', '!v.bareText'),
  text('emptyText', "v.emptyText === ''", real),
  text('emptyLoose', "v.emptyLoose == ''", real),
  text('noLength', '!v.noLength.length', real),
  text('zeroLength', 'v.zeroLength.length === 0', real),
  text('belowOne', 'v.belowOne.length < 1', real),
  text('notBoolean', '!Boolean(v.notBoolean)'),
  text('blank', '!v.blank.trim()', real),
  text('blankText', "v.blankText.trim() === ''", real),
  text('blankLength', 'v.blankLength.trim().length === 0', real),
  text('helped', 'isBlank(v.helped)', real),
  text('shortText', 'v.shortText.length < 3', real),
  text('shortOrSame', 'v.shortOrSame.length <= 2', real),
  text('notLong', '!(v.notLong.length >= 2)', real),
  text('longText', 'v.longText.length > 3', real),
  text('longOrSame', 'v.longOrSame.length >= 4', real),
  text('exactLength', 'v.exactLength.length !== 2', real),
  text('shortTrimmed', 'v.shortTrimmed.trim().length < 2', real),
  text('longTrimmed', 'v.longTrimmed.trim().length > 2', real),
  text('patternTest', '!/^[A-Z]{2}-\\d+$/.test(v.patternTest)'),
  text('patternMatch', '!v.patternMatch.match(/^\\d+$/)', real),
  text('patternNamed', '!MARK.test(v.patternNamed)'),
  text('patternCase', '!/^ab?c$/i.test(v.patternCase)'),
  text('patternDot', '!/^..$/.test(v.patternDot)'),
  text('forbidden', '/[<>]|b/.test(v.forbidden)'),
  text('contains', "!v.contains.includes('b')", real),
  text('startsWith', "!v.startsWith.startsWith('a')", real),
  text('endsWith', "!v.endsWith.endsWith('-1')", real),
  text('oneOf', "!['a', 'ab'].includes(v.oneOf)"),
  text('oneOfNamed', '!KINDS.includes(v.oneOfNamed)'),
  text('onlyA', "v.onlyA !== 'a'"),
  text('optionalPattern', 'v.optionalPattern && !/^\\d+$/.test(v.optionalPattern)'),
  text('optionalLength', "v.optionalLength !== '' && v.optionalLength.length < 3", real),
  text('eitherWay', '!v.eitherWay || v.eitherWay.length > 3', real),
  number('least', 'v.least < 5'),
  number('above', 'v.above <= 5'),
  number('most', 'v.most > 5'),
  number('below', 'v.below >= 5'),
  number('flipped', '5 > v.flipped'),
  number('negative', 'v.negative < -0.5'),
  number('notLeast', '!(v.notLeast >= 5)'),
  number('between', 'v.between < 1 || v.between > 40'),
  number('limitNamed', 'v.limitNamed > MOST'),
  number('nought', '!v.nought'),
  number('whole', '!Number.isInteger(v.whole)'),
  maybe('given', 'v.given === null'),
  { ...maybe('givenLoose', 'v.givenLoose == null'), code: true },
  { field: 'markLoose', type: 'string | null', initial: 'null', broken: 'v.markLoose == null', inputs: texts },
  { field: 'markGiven', type: 'string | null', initial: 'null', broken: '!v.markGiven', inputs: texts },
  maybe('nullLeast', 'v.nullLeast < 5'),
  maybe('nullMost', 'v.nullMost > 5'),
  yesNo('ticked', '!v.ticked'),
  yesNo('tickedTrue', 'v.tickedTrue !== true'),
  list('someOf', '!v.someOf.length'),
  list('twoOf', 'v.twoOf.length < 2'),
  list('atMost', 'v.atMost.length > 3'),
  { ...text('where', 'v.cracks && !v.where', real), beside: { cracks: true } },
  { ...text('whereNot', 'v.cracks && !v.whereNot', real), beside: { cracks: false } },
  { ...text('stock', "v.kind === 'graft' && !v.stock.trim()", real), beside: { kind: 'graft' } },
  { ...number('litres', "v.kind !== 'graft' && v.litres > 5"), beside: { kind: 'cut' } },
  { ...text('sameAs', 'v.sameAs !== v.kind', real), code: true, beside: { kind: 'ab' } },
  { ...text('late', "v.late > '2026-01-01'", real), code: true },
  { ...text('counted', 'Number(v.counted) < 3', real), code: true },
];

/** Fields that no rule is about and that others depend on. */
export const freeFields = [
  { field: 'cracks', type: 'boolean', initial: 'false' },
  { field: 'kind', type: "'cut' | 'graft'", initial: "'cut'" },
];

/** The text of a rule's message. */
export function messageOf(row: RuleRow): string {
  return `Mend ${row.field}`;
}

const fields = (): { field: string; type: string; initial: string }[] => [...freeFields, ...ruleTable];

const head = (): string => `import { useState } from 'react';

const MARK = /^[A-Z]{2}-\\d+$/;
const MOST = 5;
const KINDS = ['a', 'ab'];
const isBlank = (value: string) => value.trim() === '';

interface Slip {
${fields()
  .map(({ field, type }) => `  ${field}: ${type};`)
  .join('\n')}
}

type Errors = Partial<Record<keyof Slip, string>>;

const begin: Slip = {
${fields()
  .map(({ field, initial }) => `  ${field}: ${initial},`)
  .join('\n')}
};
`;

const foot = (check: string): string => `
export function OrchardSlip({ send }: { send(slip: Slip): void }) {
  const [slip, setSlip] = useState<Slip>(begin);
  const [errors, setErrors] = useState<Errors>({});
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        ${check}
        send(slip);
      }}
    >
      {Object.values(errors).map((message) => <em key={message}>{message}</em>)}
${fields()
  .map(({ field, type }) =>
    type === 'boolean'
      ? `      <input type="checkbox" checked={slip.${field}} onChange={(event) => setSlip({ ...slip, ${field}: event.target.checked })} />`
      : type.startsWith('number')
        ? `      <input type="number" value={slip.${field} ?? ''} onChange={(event) => setSlip({ ...slip, ${field}: event.target.valueAsNumber })} />`
        : type === 'string[]'
          ? `      <button type="button" onClick={() => setSlip({ ...slip, ${field}: [] })}>{slip.${field}.length}</button>`
          : type.startsWith('string')
            ? `      <input value={slip.${field} ?? ''} onChange={(event) => setSlip({ ...slip, ${field}: event.target.value })} />`
            : `      <input value={slip.${field}} onChange={(event) => setSlip({ ...slip, ${field}: event.target.value === 'cut' ? 'cut' : 'graft' })} />`,
  )
  .join('\n')}
      <button>Send</button>
    </form>
  );
}
`;

/** The same rules in the spellings of a function; each exports `judge(slip, names)`, which gives the messages by field. */
export const spellings: Record<string, () => string> = {
  'an object that is filled': () =>
    `${head()}
export function judge(v: Slip): Errors {
  const errors: Errors = {};
${ruleTable.map((row) => `  if (${row.broken}) errors.${row.field} = '${messageOf(row)}';`).join('\n')}
  return errors;
}
${foot('const found = judge(slip);\n        setErrors(found);\n        if (Object.keys(found).length) return;')}`,
  'an object that is returned': () =>
    `${head()}
export const judge = (v: Slip) => ({
${ruleTable.map((row) => `  ${row.field}: ${row.broken.includes('||') || row.broken.includes('&&') ? `(${row.broken})` : row.broken} ? '${messageOf(row)}' : undefined,`).join('\n')}
});
${foot('const found = judge(slip);\n        setErrors(found);\n        if (Object.values(found).some(Boolean)) return;')}`,
  'a switch over names': () =>
    `${head()}
function judgeOne(name: keyof Slip, v: Slip): string | undefined {
  switch (name) {
${ruleTable.map((row) => `    case '${row.field}':\n      if (${row.broken}) return '${messageOf(row)}';\n      return undefined;`).join('\n')}
    default:
      return undefined;
  }
}
export function judge(slip: Slip, names: string[]): Errors {
  const found: Errors = {};
  for (const name of names) {
    const message = judgeOne(name as keyof Slip, slip);
    if (message) found[name as keyof Slip] = message;
  }
  return found;
}
${foot(`const found: Errors = {};
        for (const name of Object.keys(slip)) {
          const message = judgeOne(name as keyof Slip, slip);
          if (message) found[name as keyof Slip] = message;
        }
        setErrors(found);
        if (Object.keys(found).length) return;`)}`,
};
