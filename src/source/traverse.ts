import traverseModule from '@babel/traverse';

/** Walks a tree and builds its scopes on the way. The package is CommonJS, so its default stands one level deeper. */
export const traverse = traverseModule.default;
