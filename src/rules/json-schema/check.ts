import { Ajv2020 } from 'ajv/dist/2020.js';
import { isSchema, type Json, type Schema } from './schema.js';

/** What is wrong with a schema, and where: a JSON pointer, empty for the whole. */
export interface SchemaProblem {
  pointer: string;
  message: string;
  remedy: string;
}

const keywords = new Set(
  [
    '$schema $id $ref $anchor $dynamicRef $dynamicAnchor $vocabulary $comment $defs definitions',
    'type enum const multipleOf maximum exclusiveMaximum minimum exclusiveMinimum maxLength minLength pattern',
    'maxItems minItems uniqueItems maxContains minContains maxProperties minProperties required dependentRequired',
    'allOf anyOf oneOf not if then else dependentSchemas prefixItems items contains properties patternProperties',
    'additionalProperties propertyNames unevaluatedItems unevaluatedProperties',
    'title description default deprecated readOnly writeOnly examples format',
    'contentEncoding contentMediaType contentSchema errorMessage',
  ]
    .join(' ')
    .split(' '),
);
/** Keywords whose members are schemas by name, a list of schemas, and one schema. */
const byName = new Set(['$defs', 'definitions', 'properties', 'patternProperties', 'dependentSchemas']);
const lists = new Set(['allOf', 'anyOf', 'oneOf', 'prefixItems']);
const single = new Set(
  'not if then else items contains additionalProperties propertyNames unevaluatedItems unevaluatedProperties contentSchema'.split(
    ' ',
  ),
);

function escaped(name: string): string {
  return name.replace(/~/g, '~0').replace(/\//g, '~1');
}

/** Every schema inside of a schema with its pointer, itself first. */
function schemasIn(schema: Json | undefined, pointer: string, visit: (schema: Schema, pointer: string) => void): void {
  if (!isSchema(schema)) return;
  visit(schema, pointer);
  for (const [keyword, value] of Object.entries(schema)) {
    const at = `${pointer}/${escaped(keyword)}`;
    if (byName.has(keyword) && isSchema(value))
      for (const [name, inner] of Object.entries(value)) schemasIn(inner, `${at}/${escaped(name)}`, visit);
    else if (lists.has(keyword) && Array.isArray(value))
      value.forEach((inner, index) => schemasIn(inner, `${at}/${index}`, visit));
    else if (single.has(keyword)) schemasIn(value, at, visit);
  }
}

/** What a JSON pointer leads to. */
function pointedAt(root: Json, pointer: string): Json | undefined {
  let at: Json | undefined = root;
  for (const part of pointer.split('/').slice(1)) {
    const name = decodeURIComponent(part).replace(/~1/g, '/').replace(/~0/g, '~');
    if (Array.isArray(at)) at = at[Number(name)];
    else if (isSchema(at)) at = at[name];
    else return undefined;
  }
  return at;
}

function nearestKeyword(name: string): string | undefined {
  const lower = name.toLowerCase();
  return [...keywords].find(
    (known) => known.toLowerCase() === lower || (known.length > 3 && known.toLowerCase().startsWith(lower.slice(0, 5))),
  );
}

/**
 * What keeps a JSON value from being the schema of a form: it is no JSON Schema 2020-12, it has keywords that no
 * dialect knows, a reference that leads nowhere, or no fields.
 */
export function schemaProblems(value: Json): SchemaProblem[] {
  if (!isSchema(value))
    return [{ pointer: '', message: 'it is no object', remedy: 'state the fields in an object with `properties`' }];
  const problems: SchemaProblem[] = [];
  const anchors = new Set<string>();
  schemasIn(value, '', (schema) => {
    const anchor = schema['$anchor'];
    if (typeof anchor === 'string') anchors.add(anchor);
  });
  schemasIn(value, '', (schema, pointer) => {
    for (const keyword of Object.keys(schema)) {
      if (keywords.has(keyword)) continue;
      const near = nearestKeyword(keyword);
      problems.push({
        pointer: `${pointer}/${escaped(keyword)}`,
        message: `JSON Schema has no keyword ${keyword}`,
        remedy: near === undefined ? 'take it out' : `say ${near}, if that is what is meant`,
      });
    }
    const reference = schema['$ref'];
    if (typeof reference !== 'string') return;
    const inside = reference.startsWith('#');
    const found =
      inside &&
      (reference === '#' ||
        (reference.startsWith('#/')
          ? pointedAt(value, reference.slice(1)) !== undefined
          : anchors.has(reference.slice(1))));
    if (!found)
      problems.push({
        pointer: `${pointer}/$ref`,
        message: `the reference ${reference} leads nowhere`,
        remedy: inside ? 'point to a schema below $defs' : 'state the schema in this file, below $defs',
      });
  });
  const ajv = new Ajv2020({ allErrors: true, strict: false, logger: false });
  if (!ajv.validateSchema(value))
    for (const error of ajv.errors ?? [])
      if (!problems.some(({ pointer }) => pointer === error.instancePath))
        problems.push({
          pointer: error.instancePath,
          message: error.message ?? 'it is not right',
          remedy: 'mend this place',
        });
  if (problems.length) return problems;
  if (!isSchema(value['properties']))
    return [{ pointer: '', message: 'it declares no fields', remedy: 'state the fields in `properties`' }];
  return compiled(value);
}

/** What the checker itself says of a schema that looks right, such as of its patterns. */
function compiled(schema: Schema): SchemaProblem[] {
  const ajv = new Ajv2020({
    allErrors: true,
    strict: false,
    unicodeRegExp: false,
    validateFormats: false,
    logger: false,
  });
  ajv.addKeyword('errorMessage');
  try {
    ajv.compile(schema);
    return [];
  } catch (error) {
    return [
      { pointer: '', message: error instanceof Error ? error.message : String(error), remedy: 'mend the schema' },
    ];
  }
}

/**
 * Reads a schema's text.
 * @returns the schema, or the first thing that is wrong with it in words: place, what, next step
 */
export function readableSchema(
  file: string,
  text: string,
): { ok: true; schema: Schema } | { ok: false; message: string; next: string } {
  let value: Json;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return {
      ok: false,
      message: `${file} is no JSON: ${error instanceof Error ? error.message : String(error)}`,
      next: 'mend the file',
    };
  }
  const [first, ...more] = schemaProblems(value);
  if (!first && isSchema(value)) return { ok: true, schema: value };
  const others = more.length ? ` (and ${more.length} more)` : '';
  const place = first && first.pointer !== '' ? ` at ${first.pointer}` : '';
  return {
    ok: false,
    message: `${file}${place}: ${first?.message ?? 'it is no schema'}${others}`,
    next: first?.remedy ?? 'mend the file',
  };
}
