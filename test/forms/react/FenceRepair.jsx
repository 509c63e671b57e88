import React, { useReducer } from 'react'

// the last action wins
const patch = (state, change) => ({ ...state, ...change })

const FenceRepair = ({ mend }) => {
  const [{ side, metres, posts, urgent }, set] = useReducer(patch, { side: 'north', metres: '', posts: 0, urgent: false })

  return (
    <form onSubmit={e => {
      e.preventDefault()
      mend({ side, metres: Number(metres), posts, urgent })
      set({ metres: '', posts: 0 })
    }}>
      <select aria-label="Side" value={side} onChange={e => set({ side: e.target.value })}>
        <option>north</option>
        <option>south</option>
      </select>
      <input aria-label="Metres" value={metres} onChange={e => set({ metres: e.target.value.replace(',', '.') })} />
      <button type="button" onClick={() => set({ posts: posts + 2 })}>Two posts more</button>
      <span>{posts}</span>
      <label><input type="checkbox" checked={urgent} onChange={e => set({ urgent: e.target.checked })} /> Urgent</label>
      <button disabled={!metres}>Mend</button>
    </form>
  )
}

export default FenceRepair
