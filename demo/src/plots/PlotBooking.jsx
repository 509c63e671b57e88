import React from 'react'

export default function PlotBooking({ plots, book }) {
  const [plot, setPlot] = React.useState('')
  const [season, setSeason] = React.useState('spring')
  const [helpers, setHelpers] = React.useState(1)
  const [days, setDays] = React.useState([])
  const [busy, setBusy] = React.useState(false)
  const [answer, setAnswer] = React.useState('')

  function toggleDay(day) {
    setDays(days => days.includes(day) ? days.filter(d => d !== day) : [...days, day])
  }

  async function handleSubmit(e) {
    e.preventDefault()
    if (!plot) {
      setAnswer('Choose a plot')
      return
    }
    setBusy(true)
    try {
      await book({ plot, season, helpers: Number(helpers), days })
      setAnswer(`Plot ${plot} is yours`)
      // the season stays: most people book several plots for it
      setPlot('')
      setHelpers(1)
      setDays([])
    } catch (error) {
      setAnswer(error.message)
    } finally {
      setBusy(false)
    }
  }

  return (
    <form onSubmit={handleSubmit}>
      <label>
        Plot
        <select value={plot} onChange={e => setPlot(e.target.value)}>
          <option value="">choose…</option>
          {plots.map(p => <option key={p} value={p}>{p}</option>)}
        </select>
      </label>

      <fieldset>
        <legend>Season</legend>
        {['spring', 'autumn'].map(s => (
          <label key={s}>
            <input type="radio" name="season" value={s} checked={season === s} onChange={() => setSeason(s)} /> {s}
          </label>
        ))}
      </fieldset>

      <label>
        Helpers
        <input type="number" min="1" value={helpers} onChange={e => setHelpers(e.target.value)} />
      </label>

      {['Monday', 'Thursday', 'Saturday'].map(day => (
        <label key={day}>
          <input type="checkbox" checked={days.includes(day)} onChange={() => toggleDay(day)} /> {day}
        </label>
      ))}

      <p aria-live="polite">{answer}</p>
      <button disabled={busy}>{busy ? 'Booking…' : 'Book plot'}</button>
    </form>
  )
}
