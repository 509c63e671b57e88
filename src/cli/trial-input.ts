import path from 'node:path';
import type { AnySchemaObject } from 'ajv/dist/2020.js';
import stepsSchema from '../../schemas/trial-steps.schema.json' with { type: 'json' };
import withSchema from '../../schemas/trial-with.schema.json' with { type: 'json' };
import { diskWorkspace } from '../source/workspace.js';
import type { Step } from '../trial/steps.js';
import type { Given } from '../trial/trial.js';
import { UsageTrouble } from './output.js';

async function readJson<Value>(name: string, schema: AnySchemaObject, what: string): Promise<Value> {
  const read = diskWorkspace.read(path.resolve(name));
  if (!read.ok) throw new UsageTrouble(`cannot read ${name}: ${read.reason}`, `check the path of the ${what}`);
  let value: unknown;
  try {
    value = JSON.parse(read.text);
  } catch (error) {
    throw new UsageTrouble(
      `${name} is no JSON: ${error instanceof Error ? error.message : String(error)}`,
      'mend the file',
    );
  }
  const { Ajv2020 } = await import('ajv/dist/2020.js');
  const check = new Ajv2020({ allErrors: true }).compile<Value>(schema);
  if (check(value)) return value as Value;
  const [first] = check.errors ?? [];
  throw new UsageTrouble(
    `${name}: ${first?.instancePath || 'the whole file'} ${first?.message ?? 'is not right'}`,
    `the schema of the ${what} is in schemas/ of the package`,
  );
}

/** Steps from a file. */
export function stepsFrom(name: string): Promise<Step[]> {
  return readJson<Step[]>(name, stepsSchema, 'steps');
}

/** What a form is given, from JSON files and a mount module. */
export async function givenFrom(names: readonly string[]): Promise<{ given: Given; mount: string | undefined }> {
  const mount = names.find((name) => !/\.json$/.test(name));
  const given: Given = {};
  for (const name of names.filter((one) => /\.json$/.test(one)))
    Object.assign(given, await readJson<Given>(name, withSchema, 'props and answers'));
  return { given, mount: mount === undefined ? undefined : path.resolve(mount) };
}
