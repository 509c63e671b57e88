import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bare } from '../source/behind-names.js';
import type { ComponentScript } from './holders.js';
import { walk } from '../source/traverse.js';

/** Calls that hand values to nobody outside of the component. */
const within =
  /^(?:console\.|Object\.|JSON\.|Array\.|Math\.|Number|String|Boolean|parseInt|parseFloat|isNaN|Date|toRaw|ref|reactive|computed|watch|nextTick|structuredClone|clearTimeout|setTimeout|alert$|confirm$|useField)|(?:^|\.)(?:includes|push|splice|indexOf|find|filter|map|some|every|trim|test|match|replace|has|set|get|join|split|concat|startsWith|forEach|focus)$|(?:^|\.)(?:validate|check|is|has|to|format|parse|compute|calc)[A-Z]?\w*$/;

/** Calls that send, whatever they are given. */
const sending = /(?:^|\.)(?:emit|\$emit|fetch|axios|mutate|mutateAsync|post|put|patch)$/;

/**
 * Whether the handler of an event hands what a person entered to something outside of the component.
 * @param handler source text of the template
 */
export function sendsFrom(handler: string, script: ComponentScript | undefined): boolean {
  if (/\$?emit\(\s*['"](?!update:|close|cancel|back|input)[\w:-]+['"]\s*,/.test(handler)) return true;
  const called = [...handler.matchAll(/(?<![\w$.])([A-Za-z_$][\w$]*)(?=\s*(?:\(|$|;|\)))/g)].map(
    ([, name = '']) => name,
  );
  return called.some((name) => {
    const fn = script?.functionNamed(name);
    return fn !== undefined && script !== undefined && sendsIn(fn, script);
  });
}

/** Whether a function hands values of the component on, itself or through functions that it calls. */
export function sendsIn(fn: NodePath, script: ComponentScript, depth = 0): boolean {
  if (depth > 3) return false;
  let sends = false;
  walk(fn, {
    CallExpression(path) {
      if (sends) return;
      const callee = bare(path.get('callee') as NodePath);
      const text = callee.toString().replace(/\bthis\./g, '');
      const given = path.get('arguments') as NodePath[];
      if (sending.test(text)) {
        const [event] = path.node.arguments;
        const closes = t.isStringLiteral(event) && /^(?:update:|close|cancel|back|input$)/.test(event.value);
        sends = !closes && given.length > (/emit$/.test(text) ? 1 : 0);
      } else if (!within.test(text)) sends = given.some((one) => mentionsValues(one, script));
      const own = /^[\w$]+$/.test(text) ? script.functionNamed(text) : undefined;
      if (!sends && own && own !== fn) sends = sendsIn(own, script, depth + 1);
    },
  });
  return sends;
}

function mentionsValues(path: NodePath, script: ComponentScript): boolean {
  if (path.isFunction()) return false;
  return [...path.toString().matchAll(/(?<![\w$'"`])(?:this\.)?([A-Za-z_$][\w$]*)/g)].some(([, name = '']) => {
    if (script.holders.has(name)) return true;
    // what is sent may be put together in a constant first
    const declared = path.scope.getBinding(name)?.path;
    const init =
      declared?.isVariableDeclarator() && declared.scope !== script.scope.scope ? declared.get('init') : undefined;
    const value = init && !Array.isArray(init) && init.node ? init.toString() : '';
    return [...value.matchAll(/(?<![\w$'"`])(?:this\.)?([A-Za-z_$][\w$]*)/g)].some(([, inner = '']) =>
      script.holders.has(inner),
    );
  });
}
