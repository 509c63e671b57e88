import path from 'node:path';
import { configAbove, configAt } from './tsconfig.js';

/**
 * Whether the nearest `tsconfig.json` of a file says that markup needs no import of its own.
 * @param file absolute path of a script
 * @returns false where nothing says so
 */
export function importsMarkupItself(file: string): boolean {
  const config = configAbove(path.dirname(file), 'tsconfig.json');
  return config !== undefined && /^react-jsx/.test(configAt(config)?.compilerOptions?.jsx ?? '');
}
