import path from 'node:path';
import { nearestWith, type Workspace } from './workspace.js';

/** What a project's settings file says. Everything may be left out. */
export interface Settings {
  include?: string[];
  exclude?: string[];
  components?: Record<string, { value: string; change: string }>;
  prefer?: { approach?: string; rules?: string };
  /** Hooks that are generated into the project: their name, and the folder they stand in, seen from the settings file. */
  hook?: { name?: string; folder?: string };
  findings?: Record<string, 'off' | 'note' | 'warning' | 'error'>;
}

/** Settings with the folder they hold for; absolute paths. */
export interface LoadedSettings {
  settings: Settings;
  folder: string;
  file: string | undefined;
}

export const settingsFileName = 'lively-graft.config.json';

export type SettingsResult = { ok: true; loaded: LoadedSettings } | { ok: false; message: string; next: string };

/**
 * Reads the settings for a place.
 * @param from absolute folder whose settings are asked for; the nearest file at or above it counts
 * @param named absolute path of a settings file that was asked for by name
 */
export async function loadSettings(workspace: Workspace, from: string, named?: string): Promise<SettingsResult> {
  const folder = named === undefined ? nearestWith(workspace, from, [settingsFileName]) : path.dirname(named);
  if (folder === undefined) return { ok: true, loaded: { settings: {}, folder: from, file: undefined } };
  const file = named ?? path.join(folder, settingsFileName);
  const read = workspace.read(file);
  if (!read.ok)
    return {
      ok: false,
      message: `cannot read the settings ${file}: ${read.reason}`,
      next: 'check the path given with --config',
    };
  let value: unknown;
  try {
    value = JSON.parse(read.text);
  } catch (error) {
    return {
      ok: false,
      message: `the settings ${file} are no JSON: ${error instanceof Error ? error.message : String(error)}`,
      next: 'mend the file',
    };
  }
  // only projects with a settings file pay for the checker
  const { Ajv2020 } = await import('ajv/dist/2020.js');
  const { default: schema } = await import('../../schemas/settings.schema.json', { with: { type: 'json' } });
  const ajv = new Ajv2020({ allErrors: true });
  const check = ajv.compile<Settings>(schema);
  if (check(value)) return { ok: true, loaded: { settings: value, folder, file } };
  const problems = (check.errors ?? []).map((error) => {
    const unknown: unknown = error.params['additionalProperty'];
    const key = [error.instancePath.slice(1).replace(/\//g, '.'), typeof unknown === 'string' ? unknown : '']
      .filter(Boolean)
      .join('.');
    const expected =
      typeof unknown === 'string' ? 'is no known key' : expectation(error.message, error.params['allowedValues']);
    return `${key || 'the whole file'} ${expected}`;
  });
  return {
    ok: false,
    message: `the settings ${file} are not right: ${problems.join('; ')}`,
    next: 'mend the named keys',
  };
}

function expectation(message: string | undefined, allowed: unknown): string {
  return Array.isArray(allowed) ? `must be one of ${allowed.join(', ')}` : (message ?? 'is not right');
}
