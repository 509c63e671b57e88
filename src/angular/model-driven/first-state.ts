import { parseExpression } from '@babel/parser';
import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import { fieldNamed, type Control } from '../../form/model.js';
import { disablingPlace } from '../disabled.js';
import { initialNode, signalArgument } from '../class-reading.js';
import type { Place } from '../template-model.js';
import type { ModelDraft } from './draft.js';

type Drawn = Pick<ModelDraft, 'model' | 'context' | 'component'>;

/** Whether a control may be disabled from the first view on: the directive of its form would enable it as it is set up. */
export function isUnusable(control: Control, drawn: Drawn): boolean {
  const { binding } = control;
  const place = binding?.disabled && !binding.disabled.constant ? disablingPlace(control, drawn.component) : undefined;
  return place !== undefined && atFirst(place, drawn)?.value !== false;
}

type Literal = string | number | boolean | null | undefined;

/**
 * What a condition of the template is at the first view, as far as starts and members are written out.
 * @returns its value in a box; undefined where the code does not tell it
 */
function atFirst(place: Place, { model, context, component }: Drawn): { value: Literal } | undefined {
  const { file } = component.template.place;
  const text = codeText(
    { file, ...place, holes: [] },
    {
      textOf: (name) => context.text(name),
      uses: model.uses,
      use: (use) => (use.kind === 'read' ? `(${fieldNamed(model, use.field).initial.text})` : 'unknown()'),
      hole: () => undefined,
    },
  );
  try {
    const node = parseExpression(text, { plugins: ['typescript'] });
    return valueOf(node, (name) => {
      const member = component.members.get(name);
      return signalArgument(member)?.value ?? initialNode(member);
    });
  } catch {
    return undefined;
  }
}

function valueOf(
  node: t.Node,
  startOf: (name: string) => t.Expression | undefined,
  depth = 0,
): { value: Literal } | undefined {
  const down = (inner: t.Node): { value: Literal } | undefined => valueOf(inner, startOf, depth + 1);
  if (depth > 20) return undefined;
  if (t.isStringLiteral(node) || t.isNumericLiteral(node) || t.isBooleanLiteral(node)) return { value: node.value };
  if (t.isNullLiteral(node)) return { value: null };
  if (t.isParenthesizedExpression(node)) return down(node.expression);
  if (t.isIdentifier(node)) {
    if (node.name === 'undefined') return { value: undefined };
    const start = startOf(node.name);
    return start && !t.isFunction(start) ? down(start) : undefined;
  }
  // a signal of the class
  if (t.isCallExpression(node) && t.isIdentifier(node.callee) && !node.arguments.length) return down(node.callee);
  if (t.isUnaryExpression(node, { operator: '!' })) {
    const inner = down(node.argument);
    return inner && { value: !inner.value };
  }
  if (t.isLogicalExpression(node)) {
    const left = down(node.left);
    if (!left) return undefined;
    const stays = node.operator === '&&' ? !left.value : node.operator === '||' ? left.value : left.value != null;
    return stays ? left : down(node.right);
  }
  if (!t.isBinaryExpression(node)) return undefined;
  const [left, right] = [down(node.left), down(node.right)];
  if (!left || !right) return undefined;
  switch (node.operator) {
    case '===':
    case '==':
      return { value: left.value === right.value };
    case '!==':
    case '!=':
      return { value: left.value !== right.value };
    default:
      return undefined;
  }
}
