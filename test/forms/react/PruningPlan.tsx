import { useReducer } from 'react';

type Plan = { block: string; tool: string; trees: number; hours: number };
type PlanAction = { kind: 'edit'; patch: Partial<Plan> } | { kind: 'restore' };

function plan(state: Plan, action: PlanAction): Plan {
  if (action.kind === 'restore') return { block: '', tool: 'saw', trees: 0, hours: 0 };
  return { ...state, ...action.patch };
}

export function PruningPlan({ start, onPlan }: { start: Plan; onPlan: (plan: Plan) => void }) {
  const [state, dispatch] = useReducer(plan, start);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onPlan(state);
      }}
    >
      <input aria-label="Block" value={state.block} onChange={(e) => dispatch({ kind: 'edit', patch: { block: e.target.value } })} />
      <input aria-label="Tool" value={state.tool} onChange={(e) => dispatch({ kind: 'edit', patch: { tool: e.target.value } })} />
      <button>Plan</button>
    </form>
  );
}
