import { describe, expect, it } from 'vitest';
import { Ajv2020 } from 'ajv/dist/2020.js';
import type { Constraint, Rule } from '../src/form/rules.js';
import type { Field } from '../src/form/model.js';
import { brokenText, guardText } from '../src/rules/code-text.js';
import { readableSchema, schemaProblems } from '../src/rules/json-schema/check.js';
import { heldAs, keywordsOf } from '../src/rules/json-schema/constraints.js';
import { schemaPattern, trimmedLength } from '../src/rules/json-schema/patterns.js';
import { readSchema } from '../src/rules/json-schema/read.js';
import { jsonOf } from '../src/rules/json-schema/schema.js';
import { schemaOf } from '../src/rules/json-schema/write.js';
import { isBroken } from '../src/rules/verdict.js';
import { jsonText } from '../src/source/json-text.js';
import { missingDependencies, withDependencies } from '../src/source/packages.js';
import { styleOf } from '../src/source/style.js';

const style = styleOf("const a = 'b';\n");
const field = (name: string, type: string, text: string, kind: Field['kind'] = 'text'): Field => ({
  name,
  kind,
  role: 'field',
  type,
  typeWritten: true,
  initial: { code: undefined, text, when: 'constant' },
  commentsBefore: [],
  commentBehind: undefined,
  names: {},
  declared: { file: '/orchard/Slip.tsx', start: 0, end: 0 },
});
const rule = (name: string, constraint: Constraint, message = `Mend ${name}`, more: Partial<Rule> = {}): Rule => ({
  fields: [name],
  kind: 'custom',
  condition: '',
  message,
  moment: 'submit',
  stated: 'code',
  span: { file: '/orchard/Slip.tsx', start: 0, end: 0 },
  constraint,
  ...more,
});
const form = (fields: Field[]) => ({ component: 'OrchardSlip', framework: 'react' as const, fields, controls: [] });

describe('a schema of a form', () => {
  const fields = [
    field('plot', 'string', "''"),
    field('hours', 'number | null', 'null', 'number'),
    field('tools', 'boolean', 'false', 'boolean'),
  ];

  it('is valid JSON Schema 2020-12, with titles, types and defaults', () => {
    const { schema } = schemaOf(form(fields), [
      rule('plot', { kind: 'required' }),
      rule('hours', { kind: 'min', value: '1' }),
    ]);
    expect(new Ajv2020({ strict: false }).validateSchema(schema)).toBe(true);
    expect(schema['properties']).toMatchObject({
      plot: { title: 'Plot', type: 'string', default: '', minLength: 1, errorMessage: { minLength: 'Mend plot' } },
      hours: { type: ['number', 'null'], default: null },
      tools: { type: 'boolean', default: false },
    });
    expect(schema['required']).toEqual(['plot']);
  });

  it('puts a rule that depends on another field under a condition, and reads it back', () => {
    const guarded = rule('plot', { kind: 'not-blank' }, 'Say which', { guards: [{ field: 'tools', is: 'true' }] });
    const { schema } = schemaOf(form(fields), [guarded]);
    expect(schema['allOf']).toMatchObject([{ if: { properties: { tools: { const: true } } } }]);
    expect(readSchema(schema).rules).toMatchObject([
      {
        field: 'plot',
        constraint: { kind: 'not-blank' },
        guards: [{ field: 'tools', is: 'true' }],
        message: 'Say which',
      },
    ]);
  });

  it('leaves beside it, with the reason, what data cannot say', () => {
    const left = (one: Rule): string | undefined => schemaOf(form(fields), [one]).unstated[0]?.why;
    expect(left(rule('plot', { kind: 'custom', code: 'odd(plot)', async: false }))).toBe('it is code of its own');
    expect(left(rule('plot', { kind: 'min', value: '3', of: 'Number' }))).toBe('it counts a text as a number');
    expect(left(rule('plot', { kind: 'pattern', form: 'expression', value: '/^a$/m' }))).toMatch(/pattern/);
    expect(left(rule('plot', { kind: 'required' }, 'At ${x}'))).toMatch(/fill in/);
    expect(left(rule('plot', { kind: 'required' }, 'No', { computed: true }))).toMatch(/computed/);
    expect(left(rule('plot', { kind: 'required' }, 'No', { key: 'form' }))).toBe('its message belongs to form');
    expect(left(rule('plot', { kind: 'equal', to: 'tools' }, 'No', { fields: ['plot', 'tools'] }))).toMatch(/compares/);
  });

  it('keeps comments of fields and rules', () => {
    const { schema } = schemaOf(form(fields), [rule('plot', { kind: 'required' })], {
      commentsOf: () => ['as painted on the post'],
      fieldComments: ({ name }) => (name === 'tools' ? ['from the shed'] : []),
    });
    expect(readSchema(schema).rules[0]?.comments).toEqual(['as painted on the post']);
    expect(readSchema(schema).fields.find(({ name }) => name === 'tools')?.comments).toEqual(['from the shed']);
  });
});

describe('keywords and verdicts', () => {
  const held = heldAs(field('plot', 'string', "''"));

  it('agree on every text', () => {
    const constraints: Constraint[] = [
      { kind: 'required' },
      { kind: 'not-blank' },
      { kind: 'min-length', value: '2' },
      { kind: 'max-length', value: '2', trimmed: true },
      { kind: 'min-length', value: '2', trimmed: true },
      { kind: 'pattern', form: 'expression', value: '/^a+$/i' },
      { kind: 'pattern', form: 'expression', value: '/b/', not: true },
      { kind: 'one-of', values: ['"a"', '"ab"'] },
    ];
    const ajv = new Ajv2020({ strict: false, unicodeRegExp: false });
    for (const constraint of constraints)
      for (const text of ['', ' ', 'a', 'A', 'ab', ' a ', 'aa ', '  ab  ', 'abc']) {
        const check = ajv.compile(keywordsOf(constraint, held) ?? {});
        expect({ constraint, text, broken: !check(text) }).toEqual({
          constraint,
          text,
          broken: isBroken(constraint, text),
        });
      }
  });

  it('know which patterns need no flags', () => {
    expect(schemaPattern('/^[A-Z]\\-\\d$/')).toBe('^[A-Z]\\-\\d$');
    expect(schemaPattern('/a\\/b\\@c/')).toBe('a/b@c');
    expect(schemaPattern('/^[a-f]x$/i')).toBe('^[a-fA-F][xX]$');
    expect(schemaPattern('/[A-z]/i')).toBeUndefined();
    expect(schemaPattern('/\\u00e4/i')).toBeUndefined();
    expect(schemaPattern('/a/m')).toBeUndefined();
    expect(new RegExp(trimmedLength('max-length', 3)).test('  abc ')).toBe(true);
    expect(new RegExp(trimmedLength('max-length', 3)).test(' abcd ')).toBe(false);
  });

  it('are written as code', () => {
    const maybe = heldAs(field('hours', 'number | null', 'null'));
    const said = (constraint: Constraint, of = held): string | undefined =>
      brokenText(constraint, { read: 'slip.plot', held: of }, style);
    expect(said({ kind: 'required' })).toBe('!slip.plot');
    expect(said({ kind: 'not-blank' })).toBe('!slip.plot.trim()');
    expect(said({ kind: 'one-of', values: ['"a"', '2'] })).toBe("!['a', 2].includes(slip.plot)");
    expect(said({ kind: 'min', value: '1' }, maybe)).toBe('slip.plot === null || slip.plot < 1');
    expect(said({ kind: 'max', value: '1' }, maybe)).toBe('slip.plot !== null && slip.plot > 1');
    expect(said({ kind: 'min', value: '1', nan: 'fails' }, heldAs(field('hours', 'number', '0')))).toBe(
      '!(slip.plot >= 1)',
    );
    expect(guardText({ field: 'kind', is: 'equals', literal: '"graft"' }, { read: 'slip.kind', held }, style)).toBe(
      "slip.kind === 'graft'",
    );
  });
});

describe('a schema that is wrong is told by its place', () => {
  const schema = (properties: object, more: object = {}) =>
    JSON.parse(JSON.stringify({ type: 'object', properties, ...more })) as Parameters<typeof schemaProblems>[0];

  it.each([
    [
      'a keyword that does not exist',
      schema({ plot: { minlength: 1 } }),
      '/properties/plot/minlength',
      'say minLength, if that is what is meant',
    ],
    [
      'a value of the wrong kind',
      schema({ plot: { minLength: 'two' } }),
      '/properties/plot/minLength',
      'mend this place',
    ],
    [
      'a reference that leads nowhere',
      schema({ plot: { $ref: '#/$defs/mark' } }),
      '/properties/plot/$ref',
      'point to a schema below $defs',
    ],
    [
      'a reference to another place',
      schema({ plot: { $ref: 'https://orchard.example/mark' } }),
      '/properties/plot/$ref',
      'state the schema in this file, below $defs',
    ],
    ['a name with a slash', schema({ 'a/b': { colour: 1 } }), '/properties/a~1b/colour', 'take it out'],
    ['a pattern that is none', schema({ plot: { pattern: '(' } }), '', 'mend the schema'],
    ['no fields', JSON.parse('{}') as Parameters<typeof schemaProblems>[0], '', 'state the fields in `properties`'],
  ])('%s', (_name, value, pointer, remedy) => {
    expect(schemaProblems(value)[0]).toMatchObject({ pointer, remedy });
  });

  it('and a right one is not', () => {
    expect(
      schemaProblems(
        schema({ plot: { $ref: '#/$defs/mark', errorMessage: 'No' } }, { $defs: { mark: { type: 'string' } } }),
      ),
    ).toEqual([]);
    expect(readableSchema('slip.json', '{ "properties": ')).toMatchObject({ ok: false, next: 'mend the file' });
    expect(readableSchema('slip.json', '[]')).toMatchObject({ ok: false, message: 'slip.json: it is no object' });
  });
});

describe('small parts', () => {
  it('read literals of source as JSON and nothing else', () => {
    expect(jsonOf("['a', { b: -1 }]")).toEqual(['a', { b: -1 }]);
    expect(jsonOf("'it\\'s'")).toBe("it's");
    for (const other of ['new Date()', 'today', 'undefined', '`a${b}`', '[today]', '{ [a]: 1 }'])
      expect(jsonOf(other)).toBeUndefined();
  });

  it('print JSON with what is short in one line', () => {
    expect(jsonText({ a: [1, 2], b: { c: 'd' }, e: [] })).toBe('{\n  "a": [1, 2],\n  "b": { "c": "d" },\n  "e": []\n}');
  });

  it('add packages to a package.json and leave every other byte', () => {
    const text =
      '{\n    "name": "orchard",\n    "dependencies": {\n        "react": "^19.0.0"\n    },\n    "private": true\n}\n';
    const added = withDependencies(text, [
      { name: 'ajv', range: '^8.0.0' },
      { name: 'zod', range: '^4.0.0' },
    ]);
    expect(added).toBe(
      text.replace('"react": "^19.0.0"', '"ajv": "^8.0.0",\n        "react": "^19.0.0",\n        "zod": "^4.0.0"'),
    );
    expect(JSON.parse(withDependencies('{}', [{ name: 'ajv', range: '1' }]) ?? '')).toEqual({
      dependencies: { ajv: '1' },
    });
    expect(JSON.parse(withDependencies('{ "dependencies": {} }', [{ name: 'ajv', range: '1' }]) ?? '')).toEqual({
      dependencies: { ajv: '1' },
    });
    expect(withDependencies('[]', [])).toBeUndefined();
  });

  it('know which packages a project lacks', () => {
    const files = new Map([['/orchard/package.json', '{ "devDependencies": { "ajv": "8" } }']]);
    const of = { exists: (file: string) => files.has(file), text: (file: string) => files.get(file) ?? '' };
    const wanted = [
      { name: 'ajv', range: '8' },
      { name: 'ajv-errors', range: '3' },
    ];
    expect(missingDependencies(wanted, '/orchard/src/Slip.tsx', of).map(({ name }) => name)).toEqual(['ajv-errors']);
    expect(missingDependencies(wanted, '/elsewhere/Slip.tsx', of)).toHaveLength(2);
  });
});
