import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare, memberNamed, returnedValue } from '../source/behind-names.js';
import { functionOf } from './components.js';
import { shownField, type Lens } from './value-tracing.js';

/** What an element shows by attributes that a helper of the component gives it: `<input {...field('town')} />`. */
export interface HelpedControl {
  field: string;
  shows: string;
  changes: string | undefined;
}

/** The field that a spread of an element shows, where an object of the component, or a function of it, names the attributes. */
export function helpedControl(element: NodePath<t.JSXElement>, lens: Lens): HelpedControl | undefined {
  for (const spread of element.get('openingElement').get('attributes')) {
    const found = spread.isJSXSpreadAttribute() ? givenBy(spread.get('argument'), lens) : undefined;
    if (found) return found;
  }
  return undefined;
}

function givenBy(argument: NodePath, lens: Lens): HelpedControl | undefined {
  const registered = lens.registered?.(argument);
  if (registered !== undefined) return { field: registered, shows: 'value', changes: 'onChange' };
  const { object, call } = objectOf(argument);
  if (!object?.isObjectExpression()) return undefined;
  let shown: { name: string; value: NodePath } | undefined;
  let changes: string | undefined;
  for (const property of object.get('properties')) {
    if (!property.isObjectProperty() && !property.isObjectMethod()) continue;
    if (!t.isIdentifier(property.node.key)) continue;
    const { name } = property.node.key;
    if (/^on(?:Change|Input|ValueChange|Select)$/.test(name)) changes = name;
    if (property.isObjectProperty() && /^(?:value|checked)$/.test(name))
      shown = { name, value: property.get('value') as NodePath };
  }
  const field = shown && (byKey(shown.value, call, lens) ?? shownField(shown.value, lens));
  return shown && field !== undefined ? { field, shows: shown.name, changes } : undefined;
}

/** The object behind a spread, with the call where a function gives it. */
function objectOf(argument: NodePath): {
  object: NodePath | undefined;
  call: NodePath<t.CallExpression> | undefined;
} {
  if (argument.isCallExpression()) {
    const fn = functionOf(argument.get('callee') as NodePath);
    return { object: fn && returnedValue(fn), call: argument };
  }
  const declared = argument.isIdentifier() ? argument.scope.getBinding(argument.node.name)?.path : undefined;
  const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  return { object: init?.node ? bare(init) : undefined, call: undefined };
}

/** `values[name]`, where the call hands over the name: the field of that name. */
function byKey(path: NodePath, call: NodePath<t.CallExpression> | undefined, lens: Lens): string | undefined {
  const value = bare(path.isLogicalExpression() ? path.get('left') : path);
  if (!call || !value.isMemberExpression() || !value.node.computed) return undefined;
  const key = value.get('property') as NodePath;
  const binding = key.isIdentifier() ? key.scope.getBinding(key.node.name) : undefined;
  const fn = binding?.kind === 'param' ? binding.scope.path : undefined;
  if (!fn?.isFunction() || !key.isIdentifier()) return undefined;
  const { name } = key.node;
  const index = fn.node.params.findIndex((one) => t.isIdentifier(one, { name }));
  const given = index < 0 ? undefined : (call.get('arguments')[index] as NodePath | undefined);
  if (!given?.isStringLiteral()) return undefined;
  const { value: asked } = given.node;
  return lens.fieldByKey?.(value.get('object'), asked) ?? ofMadeObject(value.get('object'), asked, lens);
}

/** The field that stands under a key of an object made of the fields: `const values = { town, street }`. */
function ofMadeObject(object: NodePath, key: string, lens: Lens): string | undefined {
  const declared = object.isIdentifier() ? object.scope.getBinding(object.node.name)?.path : undefined;
  const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  const member = init?.node && memberNamed(bare(init), key);
  return member ? shownField(member, lens) : undefined;
}
