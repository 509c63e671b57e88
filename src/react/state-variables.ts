import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { bodyOf, type FunctionPath } from './components.js';
import { isReactHook } from './hook-calls.js';

/** A pair that `useState` or `useReducer` gave: `const [value, change] = useState(initial)`. */
export interface StateVariable {
  hook: 'useState' | 'useReducer';
  /** The value's identifier; undefined where the place is left empty or the value is destructured. */
  value: NodePath<t.Identifier> | undefined;
  /** The value's place in the pair, whatever stands there. */
  valuePattern: NodePath | undefined;
  change: NodePath<t.Identifier> | undefined;
  /** Every function that changes it, where there are several. */
  changers?: NodePath<t.Identifier>[];
  /** What gives the attributes of a control, by the name of its field. */
  registers?: NodePath<t.Identifier> | undefined;
  /** A function of the component that only sets several values at once: what it calls is no change by itself. */
  settler?: NodePath | undefined;
  call: NodePath<t.CallExpression>;
  declarator: NodePath<t.VariableDeclarator>;
  declaration: NodePath<t.VariableDeclaration>;
}

/** The pairs a component declares in its own body, in order. */
export function stateVariablesOf(component: { path: FunctionPath }): StateVariable[] {
  const found: StateVariable[] = [];
  for (const statement of bodyOf(component)?.get('body') ?? []) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const call = declarator.get('init');
      const pattern = declarator.get('id');
      if (!call.node || !(call as NodePath).isCallExpression() || !pattern.isArrayPattern()) continue;
      const callPath = call as NodePath<t.CallExpression>;
      const hook = isReactHook(callPath, 'useState')
        ? 'useState'
        : isReactHook(callPath, 'useReducer')
          ? 'useReducer'
          : undefined;
      if (!hook) continue;
      const [first, second] = pattern.get('elements') as (NodePath | undefined)[];
      found.push({
        hook,
        value: first?.isIdentifier() ? first : undefined,
        valuePattern: first?.node ? first : undefined,
        change: second?.isIdentifier() ? second : undefined,
        call: callPath,
        declarator,
        declaration: statement,
      });
    }
  }
  return found;
}

/** Every place that refers to the variable an identifier declares, in order. */
export function referencesTo(declared: NodePath<t.Identifier> | undefined): NodePath[] {
  if (!declared) return [];
  const binding = declared.scope.getBinding(declared.node.name);
  return [...(binding?.referencePaths ?? [])].sort((a, b) => (a.node.start ?? 0) - (b.node.start ?? 0));
}

/** The functions that change a variable. */
export function changersOf({ change, changers }: StateVariable): NodePath<t.Identifier>[] {
  return changers ?? (change ? [change] : []);
}
