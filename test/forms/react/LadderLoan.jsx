import { useState } from 'react';
import LoanLine from './parts/LoanLine';

// one line of the slip for each value; the shed prints them in this order
const LadderLoan = ({ lend }) => {
  const [slip, setSlip] = useState({ borrower: '', mail: '', back: '', shed: '', shedAgain: '' });

  const lines = [
    { key: 1, name: 'borrower', label: 'Who borrows', help: 'Letters and figures, three at least', pattern: '[A-Za-z0-9]{3,}', required: true },
    { key: 2, name: 'mail', type: 'email', label: 'Mail', help: 'We write when the ladder is due', required: true },
    { key: 3, name: 'back', type: 'date', label: 'Back on' },
    { key: 4, name: 'shed', label: 'Shed key', help: 'Four figures', pattern: '[0-9]{4}', required: true },
    { key: 5, name: 'shedAgain', label: 'Shed key again', help: 'The same four figures', pattern: slip.shed, required: true },
  ];

  const write = (e) => {
    setSlip({ ...slip, [e.target.name]: e.target.value });
  };

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        lend(slip);
      }}
    >
      {lines.map(({ key, ...line }) => (
        <LoanLine key={key} {...line} value={slip[line.name]} onChange={write} />
      ))}
      <button>Lend</button>
    </form>
  );
};

export default LadderLoan;
