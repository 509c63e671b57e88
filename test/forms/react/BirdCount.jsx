import useInput from './parts/useInput'

const needed = value => (value ? undefined : 'Fill this in')

export function BirdCount({ onCounted, place }) {
	const [bird, birdInput, birdProblem, resetBird] = useInput('', needed)
	const [number, numberInput, numberProblem, resetNumber] = useInput('1', needed)
	const [hour, hourInput] = useInput('morning')

	const submit = event => {
		event.preventDefault()
		if (!bird || !number) return
		onCounted({ bird, number: Number(number), hour, place })
		resetBird()
		resetNumber()
	}

	return (
		<form onSubmit={submit}>
			<label>
				Bird <input {...birdInput} />
			</label>
			{birdProblem && <i>{birdProblem}</i>}
			<label>
				Number <input type="number" {...numberInput} />
			</label>
			{numberProblem && <i>{numberProblem}</i>}
			<label>
				Hour{' '}
				<select {...hourInput}>
					<option>morning</option>
					<option>evening</option>
				</select>
			</label>
			<button>Count</button>
		</form>
	)
}
