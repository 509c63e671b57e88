import { useState } from 'react'
import { SprayRow } from './parts/SprayRow'

// which spray, how much of it, and on which trees
export function SprayDiary({ sprays, keep }) {
	const [spray, setSpray] = useState(sprays[0])
	const [litres, setLitres] = useState('')
	const [trees, setTrees] = useState(['Medlar'])
	const [wind, setWind] = useState('calm')
	const [open, setOpen] = useState(true)

	// a table drives the plain text fields
	const texts = [
		{ label: 'Litres', value: litres, set: setLitres },
		{ label: 'Wind', value: wind, set: setWind },
	]

	const handleSave = () => {
		if (!litres) return
		keep({ spray, litres: parseFloat(litres), trees, wind })
		setLitres('')
		setTrees([])
	}

	return (
		<section>
			<button onClick={() => setOpen(o => !o)}>Fold</button>
			{open && (
				<div>
					<SprayRow options={sprays} spray={spray} setSpray={setSpray} trees={trees} setTrees={setTrees} />
					{texts.map(({ label, value, set }) => (
						<label key={label}>
							{label} <input value={value} onChange={e => set(e.target.value)} />
						</label>
					))}
					<p>{trees.length} trees</p>
					<button onClick={handleSave}>Keep</button>
				</div>
			)}
		</section>
	)
}
