import { useRef, useState } from 'react';

export function GraftRequest({ varieties, ask }) {
  const formRef = useRef(null);
  const [problem, setProblem] = useState('');
  const [asked, setAsked] = useState(0);

  function handleSubmit(event) {
    event.preventDefault();
    const data = new FormData(event.currentTarget);
    const variety = data.get('variety');
    const amount = Number(data.get('amount'));
    const colours = data.getAll('graft');
    if (!variety) {
      setProblem('Choose a variety');
      return;
    }
    if (!(amount > 0)) {
      setProblem('How many?');
      event.currentTarget.elements.namedItem('amount').focus();
      return;
    }
    setProblem('');
    ask({ variety, amount, grafts: colours, remark: String(data.get('remark') ?? '').trim(), urgent: data.has('urgent') });
    setAsked(asked + 1);
    formRef.current?.reset();
  }

  return (
    <form ref={formRef} onSubmit={handleSubmit}>
      <select name="variety" defaultValue="">
        <option value="">Variety</option>
        {varieties.map((v) => (
          <option key={v}>{v}</option>
        ))}
      </select>
      <input name="amount" type="number" defaultValue={1} />
      {['whip', 'bark', 'bud'].map((g) => (
        <label key={g}>
          <input type="checkbox" name="graft" value={g} /> {g}
        </label>
      ))}
      <textarea name="remark" />
      <label>
        <input type="checkbox" name="urgent" /> Urgent
      </label>
      {problem && <p role="alert">{problem}</p>}
      <button type="submit">Ask</button>
      <p>{asked} asked</p>
    </form>
  );
}
