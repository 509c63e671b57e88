import { useState } from 'react'

export function PlumSale({ sell }) {
    const [sold, setSold] = useState(null)

    return (
        <div>
            <form
                onSubmit={event => {
                    event.preventDefault()
                    const values = Object.fromEntries(new FormData(event.currentTarget))
                    sell(values)
                    setSold(values.buyer)
                }}
            >
                <input name="buyer" placeholder="Buyer" required />
                <input name="kilos" type="number" placeholder="Kilos" min="1" defaultValue="5" />
                <label>
                    <input name="bag" type="checkbox" value="paper" /> in a bag
                </label>
                <button>Sell</button>
            </form>
            {sold && <p>Sold to {sold}</p>}
        </div>
    )
}
