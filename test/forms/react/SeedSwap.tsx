import { useState } from 'react'

type Row = { id: number; seed: string; packets: number }

let nextId = 1

export function SeedSwap({ onOffer, step = 1 }: { onOffer: (offer: { member: string; rows: Row[]; swap: boolean }) => void; step?: number }) {
  const [member, setMember] = useState('')
  const [rows, setRows] = useState<Row[]>([{ id: 0, seed: '', packets: 1 }])
  const [swap, setSwap] = useState(true)

  const add = () => setRows((prev) => [...prev, { id: nextId++, seed: '', packets: 1 }])
  const remove = (id: number) => setRows((prev) => prev.filter((row) => row.id !== id))
  const change = (id: number, seed: string) => {
    setRows((prev) => prev.map((row) => (row.id === id ? { ...row, seed } : row)))
  }
  const more = (index: number) => {
    const copy = [...rows]
    copy[index] = { ...rows[index]!, packets: rows[index]!.packets + step }
    setRows(copy)
  }
  const fewer = (index: number) =>
    setRows((prev) => {
      const copy = prev.slice()
      const row = copy[index]
      if (!row || row.packets <= step) return prev
      copy[index] = { ...row, packets: row.packets - step }
      return copy
    })

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        onOffer({ member, rows, swap })
        setRows([])
      }}
    >
      <label>
        Member <input value={member} onChange={(e) => setMember(e.target.value)} />
      </label>
      {rows.map((row, index) => (
        <div key={row.id}>
          <input aria-label={`Seed ${index + 1}`} value={row.seed} onChange={(e) => change(row.id, e.target.value)} />
          <span>{row.packets}</span>
          <button type="button" onClick={() => more(index)}>
            More of {index + 1}
          </button>
          <button type="button" onClick={() => fewer(index)}>
            Fewer of {index + 1}
          </button>
          <button type="button" onClick={() => remove(row.id)}>
            Drop {index + 1}
          </button>
        </div>
      ))}
      <button type="button" onClick={add}>
        Another seed
      </button>
      <label>
        <input type="checkbox" checked={swap} onChange={(e) => setSwap(e.target.checked)} /> Swap only
      </label>
      <button>Offer</button>
    </form>
  )
}
