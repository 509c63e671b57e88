import type { WriteContext } from '../../form/writing.js';
import { generatedHook, memberLines, statusLines, type HookFile } from '../own-hook/hook-file.js';

export const schemaHookName = 'useSchemaForm';

/** Names that the generated file exports beside the hook. */
export const schemaExports = {
  check: 'schemaCheck',
  start: 'schemaStart',
  values: 'SchemaValues',
  errors: 'FormErrors',
} as const;

/** What tells the file from any other. */
export const schemaHookMark = 'export function schemaCheck';

/** The file that checks forms by their schema, for a component's file: the one that is there, or a new one. */
export function schemaHookFile(component: string, typescript: boolean, context: WriteContext): HookFile {
  // the settings' name is that of the hook for values alone
  return generatedHook(component, typescript, context, {
    name: schemaHookName,
    mark: schemaHookMark,
    lines: (name, typed) => (typed ? typedLines(name) : plainLines(name)),
  });
}

const checkerLines = [
  '// texts are as long as the form counts them: in UTF-16 units',
  'const ajv = new Ajv2020({',
  '  allErrors: true,',
  '  unicode: false,',
  '  unicodeRegExp: false,',
  '  strictNumbers: false,',
  '  logger: false,',
  '});',
  'addFormats(ajv);',
  'addErrors(ajv);',
];

const checkWords = [
  '/**',
  ' * Makes the check of a form out of its schema. Call it once, outside of components: the schema is compiled here.',
  ' *',
  ' * @param schema the fields and their rules, with messages in `errorMessage`',
  ' * @param rules what the schema cannot say; of two messages for one field, the schema’s is the one that counts',
  ' * @returns a function that gives the first message of each field whose rules are broken',
  ' */',
];

const startWords = [
  '/**',
  ' * The values a form begins with: the defaults of its schema, and those that only the page knows.',
  ' *',
  ' * @param given values that take the place of defaults',
  ' */',
];

const hookWords = [
  '/**',
  ' * Keeps the values and the status of a form whose fields and rules stand in a schema.',
  ' *',
  ' * `setValue` changes one value, by the value itself or by a function of the one before it. `setValues` changes several',
  ' * at once, `resetValues` brings back what the form began with. Errors, touched fields and the submitting flag are',
  ' * the form’s own to set, at the moments it chooses.',
  ' *',
  ' * @param schema the form’s schema',
  ' * @param given values that only the page knows; later ones are not looked at',
  ' */',
];

const bodyLines = (generic: string): string[] => [
  '    setValues((before) => {',
  `      const value = ${generic};`,
  '      return Object.is(value, before[name]) ? before : { ...before, [name]: value };',
  '    });',
  '  }, []);',
  '  const resetValues = useCallback(() => setValues(start), [start]);',
];

const dataLines = [
  '  const known = Object.entries(values).filter(([name, value]) => {',
  '    const type = properties[name]?.type;',
  "    const takesNull = type === undefined || (Array.isArray(type) && type.includes('null'));",
  '    return !Number.isNaN(value) && (value !== null || takesNull);',
  '  });',
  '  return Object.fromEntries(known);',
];

function typedLines(name: string): string[] {
  return [
    "import { useCallback, useState, type Dispatch, type SetStateAction } from 'react';",
    "import { Ajv2020 } from 'ajv/dist/2020.js';",
    "import addErrors from 'ajv-errors';",
    "import addFormats from 'ajv-formats';",
    '',
    '/** Fields and rules of a form as JSON Schema 2020-12. */',
    'export interface FormSchema {',
    '  properties: Record<string, { default?: unknown; type?: unknown; enum?: unknown; [keyword: string]: unknown }>;',
    '}',
    '',
    '/** The values of a form, by the defaults of its schema. */',
    'export type SchemaValues<Schema extends FormSchema> = {',
    "  [Name in keyof Schema['properties']]: Schema['properties'][Name]['default'];",
    '};',
    '',
    '/** The message of each field that has one. */',
    'export type FormErrors<Values> = { [Name in keyof Values]?: string };',
    '',
    '/** The fields that a person has left once. */',
    'export type FormTouched<Values> = { [Name in keyof Values]?: boolean };',
    '',
    '/** What a form is given by `' + name + '`. */',
    'export interface SchemaForm<Values> {',
    ...memberLines,
    '}',
    '',
    ...checkerLines,
    '',
    '/** Values as data: a number that is none is missing, as is null where the schema does not know it. */',
    'function dataOf(values: object, { properties }: FormSchema): object {',
    ...dataLines,
    '}',
    '',
    'function speaksOf<Values>(',
    '  messages: Record<string, string>,',
    '  schema: FormSchema,',
    '): messages is Record<string, string> & FormErrors<Values> {',
    '  return Object.keys(messages).every((name) => name in schema.properties);',
    '}',
    '',
    ...checkWords,
    'export function schemaCheck<Values extends object>(',
    '  schema: FormSchema,',
    '  rules?: (values: Values) => FormErrors<Values>,',
    '): (values: Values) => FormErrors<Values> {',
    '  const validate = ajv.compile(schema);',
    '  return (values) => {',
    '    validate(dataOf(values, schema));',
    '    const messages: Record<string, string> = {};',
    '    for (const { keyword, instancePath, message, params } of validate.errors ?? []) {',
    "      if (keyword !== 'errorMessage' || message === undefined) continue;",
    '      const missing: unknown = params.errors?.[0]?.params?.missingProperty;',
    "      const name = instancePath.split('/')[1] ?? String(missing);",
    '      messages[name] ??= message;',
    '    }',
    "    if (!speaksOf<Values>(messages, schema)) throw new Error(`the schema has no fields ${Object.keys(messages).join(', ')}`);",
    '    return { ...rules?.(values), ...messages };',
    '  };',
    '}',
    '',
    ...startWords,
    'export function schemaStart<Values extends object>(schema: FormSchema, given?: Partial<Values>): Values {',
    '  const fields = Object.entries(schema.properties);',
    "  const defaults = fields.flatMap(([name, field]) => ('default' in field ? [[name, field.default]] : []));",
    '  const types = fields.map(([name, { type, enum: choices }]) => [name, type ? { type, ...(choices ? { enum: choices } : {}) } : {}]);',
    "  const holdsValues = ajv.compile<Values>({ type: 'object', properties: Object.fromEntries(types) });",
    '  const values: unknown = { ...Object.fromEntries(defaults), ...given };',
    '  if (!holdsValues(values)) throw new Error(`the values do not fit the schema: ${ajv.errorsText(holdsValues.errors)}`);',
    '  return values;',
    '}',
    '',
    ...hookWords,
    `export function ${name}<Values extends object>(`,
    '  schema: FormSchema,',
    '  given?: Partial<Values> | (() => Partial<Values>),',
    '): SchemaForm<Values> {',
    '  const [start] = useState(() => schemaStart<Values>(schema, given instanceof Function ? given() : given));',
    '  const [values, setValues] = useState(start);',
    ...statusLines(true),
    '  const setValue = useCallback(<Name extends keyof Values>(name: Name, next: SetStateAction<Values[Name]>) => {',
    ...bodyLines('next instanceof Function ? next(before[name]) : next'),
    ...returnLines,
    '}',
    '',
  ];
}

const returnLines = [
  '  return {',
  '    values,',
  '    setValue,',
  '    setValues,',
  '    resetValues,',
  '    errors,',
  '    setErrors,',
  '    touched,',
  '    setTouched,',
  '    submitting,',
  '    setSubmitting,',
  '  };',
];

function plainLines(name: string): string[] {
  return [
    "import { useCallback, useState } from 'react';",
    "import { Ajv2020 } from 'ajv/dist/2020.js';",
    "import addErrors from 'ajv-errors';",
    "import addFormats from 'ajv-formats';",
    '',
    ...checkerLines,
    '',
    '/** Values as data: a number that is none is missing, as is null where the schema does not know it. */',
    'function dataOf(values, { properties }) {',
    ...dataLines,
    '}',
    '',
    ...checkWords,
    'export function schemaCheck(schema, rules) {',
    '  const validate = ajv.compile(schema);',
    '  return (values) => {',
    '    validate(dataOf(values, schema));',
    '    const messages = {};',
    '    for (const { keyword, instancePath, message, params } of validate.errors ?? []) {',
    "      if (keyword !== 'errorMessage') continue;",
    "      const name = instancePath.split('/')[1] ?? params.errors[0].params.missingProperty;",
    '      messages[name] ??= message;',
    '    }',
    '    return { ...rules?.(values), ...messages };',
    '  };',
    '}',
    '',
    ...startWords,
    'export function schemaStart(schema, given) {',
    '  const fields = Object.entries(schema.properties);',
    "  const defaults = fields.flatMap(([name, field]) => ('default' in field ? [[name, field.default]] : []));",
    '  return { ...Object.fromEntries(defaults), ...given };',
    '}',
    '',
    ...hookWords,
    `export function ${name}(schema, given) {`,
    "  const [start] = useState(() => schemaStart(schema, typeof given === 'function' ? given() : given));",
    '  const [values, setValues] = useState(start);',
    ...statusLines(false),
    '  const setValue = useCallback((name, next) => {',
    ...bodyLines("typeof next === 'function' ? next(before[name]) : next"),
    ...returnLines,
    '}',
    '',
  ];
}
