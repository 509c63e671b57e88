import { parseExpression } from '@babel/parser';
import * as t from '@babel/types';

/** The values that an object written in place says, by their whole paths. */
export function laidValues(text: string): { path: string; value: string }[] {
  const found: { path: string; value: string }[] = [];
  const walk = (node: t.ObjectExpression, path: string): void => {
    for (const one of node.properties) {
      const key = t.isObjectProperty(one) && !one.computed && t.isIdentifier(one.key) ? one.key.name : undefined;
      if (!t.isObjectProperty(one) || key === undefined) continue;
      const own = path === '' ? key : `${path}.${key}`;
      if (t.isObjectExpression(one.value)) walk(one.value, own);
      else found.push({ path: own, value: text.slice((one.value.start ?? 0) - 1, (one.value.end ?? 0) - 1) });
    }
  };
  const node = text.trimStart().startsWith('{') ? parsedExpression(`(${text})`) : undefined;
  if (t.isObjectExpression(node)) walk(node, '');
  return found;
}

function parsedExpression(text: string): t.Node | undefined {
  try {
    return parseExpression(text, { plugins: ['typescript'] });
  } catch {
    return undefined;
  }
}
