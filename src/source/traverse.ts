import traverseModule from '@babel/traverse';

type Traverse = typeof traverseModule;

/**
 * The walker. The package is CommonJS: under ESM its function stands one level deeper than its types say.
 */
export const traverse: Traverse =
  typeof traverseModule === 'function' ? traverseModule : (traverseModule as { default: Traverse }).default;
