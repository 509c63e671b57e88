import { typedAs, type Apart } from './apart.js';
import { quoted } from '../../source/style.js';
import { addFunction, importedFor, type Block, type Lines } from './block.js';
import type { SchemaRules } from './schemas.js';
import type { StartedAs } from './starts.js';

/**
 * Adds the function that asks a schema for the first message of each field.
 * @param filled what the schema is given, where that is not the values themselves: further lines, and its name
 */
export function addSchemaCheck(
  { names, leaving, rows }: Apart,
  schema: SchemaRules,
  stated: Pick<StartedAs, 'type' | 'errors'>,
  block: Block,
  filled: { lines: Lines; name: string; options: string } = { lines: [], name: names.values, options: '' },
): void {
  const texts = leaving.script.typescript ? 'Record<string, string>' : undefined;
  const mistake = schema.library === 'yup' ? importedFor(block, leaving, 'yup', 'ValidationError') : '';
  const { style } = leaving.context;
  addFunction(
    block,
    `function ${names.check}(${typedAs(names.values, stated.type)})${stated.errors === undefined ? '' : `: ${stated.errors}`}`,
    [
      `const ${typedAs('errors', texts)} = {};`,
      ...filled.lines,
      ...(schema.library === 'zod'
        ? [
            `const parsed = ${schema.name}.safeParse(${filled.name});`,
            'if (!parsed.success) {',
            `  for (const { path, message } of parsed.error.issues) errors[path.join(${quoted('.', style)})] ??= message;`,
            '}',
          ]
        : [
            'try {',
            `  ${schema.name}.validateSync(${filled.name}, { abortEarly: false${filled.options} });`,
            '} catch (error) {',
            `  if (!(error instanceof ${mistake})) throw error;`,
            rows.size
              ? `  for (const { path, message } of error.inner) errors[(path ?? ${quoted('', style)}).replace(/\\[(\\d+)\\]/g, ${quoted('.$1', style)})] ??= message;`
              : `  for (const { path, message } of error.inner) errors[path ?? ${quoted('', style)}] ??= message;`,
            '}',
          ]),
      'return errors;',
    ],
  );
}
