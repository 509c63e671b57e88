import manifest from '../../package.json' with { type: 'json' };

/** The program's version. */
export const version: string = manifest.version;
