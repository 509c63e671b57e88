import { useState } from 'react';

const empty = { tool: 'ladder', member: '', days: '1' };

/** Lends a tool out of the co-operative's store. */
export function ToolLoan({ onLend }: { onLend: (loan: typeof empty) => void }) {
  const [loan, setLoan] = useState(empty);

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onLend(loan);
        setLoan(empty);
      }}
    >
      <label>
        Tool
        <select value={loan.tool} onChange={(e) => setLoan({ ...loan, tool: e.target.value })}>
          <option>ladder</option>
          <option>pruning saw</option>
          <option>sprayer</option>
        </select>
      </label>
      <label>
        Member
        <input value={loan.member} onChange={(e) => setLoan({ ...loan, member: e.target.value })} />
      </label>
      <label>
        Days
        <input type="number" value={loan.days} onChange={(e) => setLoan({ ...loan, days: e.target.value })} />
      </label>
      <button disabled={!loan.member}>Lend</button>
    </form>
  );
}
