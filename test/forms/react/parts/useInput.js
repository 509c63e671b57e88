import { useState } from 'react'

// one value, and what an input needs of it
export default function useInput(start, check) {
	const [value, setValue] = useState(start)
	const [left, setLeft] = useState(false)
	const problem = check ? check(value) : undefined
	return [
		value,
		{
			value,
			onChange: e => setValue(e.target.value),
			onBlur: () => setLeft(true),
		},
		left ? problem : undefined,
		() => {
			setValue(start)
			setLeft(false)
		},
	]
}
