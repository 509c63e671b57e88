import React from 'react'

const blank = { row: '', size: 'pea', trees: '', insured: false }

export function HailReport(props) {
  const [form, setForm] = React.useState(blank)
  const [sent, setSent] = React.useState(null)

  const onChange = e => {
    const { name, value, type, checked } = e.target
    setForm({ ...form, [name]: type === 'checkbox' ? checked : value })
  }

  /* the insurance wants numbers */
  const submit = async e => {
    e.preventDefault()
    const trees = parseInt(form.trees, 10)
    if (!form.row || isNaN(trees)) return
    await props.onReport({ ...form, trees })
    setSent(form.row)
    setForm(blank)
  }

  return (
    <form onSubmit={submit} onReset={() => setForm(blank)}>
      <input name="row" placeholder="Row" value={form.row} onChange={onChange} />
      <select name="size" aria-label="Size" value={form.size} onChange={onChange}>
        <option value="pea">Like a pea</option>
        <option value="nut">Like a nut</option>
      </select>
      <input name="trees" placeholder="Trees" value={form.trees} onChange={onChange} />
      <label><input name="insured" type="checkbox" checked={form.insured} onChange={onChange} /> Insured</label>
      {form.insured && form.size === 'pea' ? <p>Peas are not insured</p> : null}
      <button type="submit">Report</button>
      <button type="reset">Clear</button>
      {sent && <p>{sent} was reported</p>}
    </form>
  )
}
