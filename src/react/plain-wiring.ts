import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { PlainWiring } from '../form/model.js';
import type { Script } from '../source/script.js';
import { spanOf } from './code.js';
import { attribute, type JsxControl } from './jsx-controls.js';
import type { Lens } from './value-tracing.js';

/** Attributes beside which a control is more than plain. */
const further = /^(?:ref|onBlur|onInput|onFocus|defaultValue|defaultChecked|multiple|disabled|form)$/;

/**
 * The attributes that tie a control of the page to its field, where it shows the value as it is and its handler makes
 * one call with what was typed. Undefined where anything else has a say: a helper, another event, options that may come
 * later, values of its own.
 */
export function plainWiring(control: JsxControl, field: string, lens: Lens, { file }: Script): PlainWiring | undefined {
  const { tag, type, attributes } = control;
  const isBox = type === 'checkbox';
  if (!/^(?:input|textarea|select)$/.test(tag) || control.spread || /^(?:radio|file)$/.test(type ?? ''))
    return undefined;
  if (attributes.some(({ name }) => further.test(name))) return undefined;
  if (isBox && attribute(control, 'value')) return undefined;
  if (tag === 'select' && !hasFixedOptions(control.element)) return undefined;
  const shows = attribute(control, isBox ? 'checked' : 'value');
  const changes = attribute(control, 'onChange');
  const name = attribute(control, 'name');
  if (!shows?.value || !changes?.value || lens.fieldOf(shows.value) !== field) return undefined;
  if (name && name.text !== field) return undefined;
  // a handler that is made or shared is told control by control, by the model
  const isMade = changes.value.isCallExpression() || changes.value.isIdentifier();
  const call = isMade ? changes.value : onlyCallOf(changes.value, isBox ? 'checked' : 'value');
  if (!call) return undefined;
  return {
    shows: spanOf(file, shows.path),
    changes: spanOf(file, changes.path),
    name: name && spanOf(file, name.path),
    call: spanOf(file, call),
  };
}

/** Whether all options of a select are written out. */
function hasFixedOptions({ node }: NodePath<t.JSXElement>): boolean {
  return node.children.every(
    (child) => t.isJSXText(child) || (t.isJSXElement(child) && child.children.every((one) => t.isJSXText(one))),
  );
}

/** The call that is all a handler does, where it looks at nothing of its event but what was typed. */
function onlyCallOf(handler: NodePath, member: string): NodePath | undefined {
  if (!handler.isArrowFunctionExpression() || handler.node.params.length !== 1) return undefined;
  const body = handler.get('body') as NodePath;
  const [only, ...more] = body.isBlockStatement() ? body.get('body') : [];
  if (more.length) return undefined;
  const call = only?.isExpressionStatement() ? (only.get('expression') as NodePath) : body;
  if (!call.isCallExpression()) return undefined;
  const [event] = handler.node.params;
  const names = event ? Object.keys(t.getBindingIdentifiers(event)) : [];
  const looks = names.flatMap((name) => handler.scope.getOwnBinding(name)?.referencePaths ?? []);
  const [look, ...others] = looks;
  return look && !others.length && isTyped(look, member) ? call : undefined;
}

/** `event.target.value`, `target.value` or `value`, by what the handler's parameter names. */
function isTyped(look: NodePath, member: string): boolean {
  let path = look;
  const asked: string[] = [];
  while (
    path.parentPath?.isMemberExpression() &&
    path.key === 'object' &&
    t.isIdentifier(path.parentPath.node.property)
  ) {
    path = path.parentPath;
    if (t.isMemberExpression(path.node) && t.isIdentifier(path.node.property)) asked.push(path.node.property.name);
  }
  return new RegExp(`^(?:(?:current)?[tT]arget\\.)?${member}$`).test(asked.join('.')) && asked.length > 0;
}
