import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { isSeenAt, says } from '../package-leaving/leaving.js';
import type { TakenApart } from './form.js';

/** What a selector takes of the form’s state, in the component’s words, by place in its list or by key; one alone is the first. */
export function selectedBy(apart: TakenApart, selector: NodePath): Map<string | number, string> | undefined {
  if (!selector.isArrowFunctionExpression()) return undefined;
  const [state] = selector.get('params') as NodePath[];
  let body = selector.get('body') as NodePath;
  if (body.isTSAsExpression()) body = body.get('expression') as NodePath;
  if (!state?.isIdentifier()) return undefined;
  const asked: [string | number, NodePath][] = body.isArrayExpression()
    ? (body.get('elements') as NodePath[]).map((one, index) => [index, one])
    : body.isObjectExpression()
      ? body.get('properties').map((one) => {
          const key = one.isObjectProperty() && t.isIdentifier(one.node.key) ? one.node.key.name : '';
          return [key, one.isObjectProperty() ? (one.get('value') as NodePath) : one];
        })
      : [[0, body]];
  const texts = new Map<string | number, string>();
  for (const [key, path] of asked) {
    const text = stateText(apart, path, state.node.name);
    if (text === undefined) return undefined;
    texts.set(key, text);
  }
  return texts;
}

/** `state.values.town`, `state.canSubmit`: in the component’s words. */
function stateText(apart: TakenApart, path: NodePath, state: string): string | undefined {
  const { leaving, names, fields } = apart;
  const text = leaving.script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
  const [root, member, field, ...more] = text.split('.');
  if (root !== state || more.length) return undefined;
  if (member === 'values')
    return field === undefined ? names.values : fields.includes(field) ? `${names.values}.${field}` : undefined;
  return field === undefined && member !== undefined ? statusText(apart, member) : undefined;
}

/** Status of the form by its member; what it needs is noted. */
function statusText({ names, needs }: TakenApart, member: string): string | undefined {
  switch (member) {
    case 'canSubmit':
      needs.add('canSubmit').add('submitting');
      return names.canSubmit;
    case 'isSubmitting':
      needs.add('submitting');
      return names.submitting;
    case 'isDirty':
      needs.add('changed').add('change');
      return names.changed;
    case 'isPristine':
      needs.add('changed').add('change');
      return `!${names.changed}`;
    case 'isDefaultValue':
      needs.add('dirty');
      return `!${names.dirty}`;
    case 'isValid':
      needs.add('valid');
      return names.valid;
    case 'submissionAttempts':
      needs.add('attempts');
      return names.attempts;
    default:
      return undefined;
  }
}

/** Says a member of the form’s state: its values, or status. */
export function sayState(apart: TakenApart, member: NodePath, key: string): boolean {
  const text = key === 'values' ? apart.names.values : statusText(apart, key);
  if (text === undefined || !isSeenAt(apart.leaving, member, text.replace(/^!/, ''))) return false;
  says(apart.leaving, member, text);
  return true;
}
