import { useState } from 'react';

export default ({ onOrder }) => {
    const initial = { sort: '', trees: 1, stakes: true, colour: 'red' };
    const [values, setValues] = useState(initial);
    const [errors, setErrors] = useState({});

    const handle = (name) => (event) => {
        setValues({ ...values, [name]: event.target.value });
        setErrors({ ...errors, [name]: null });
    };

    const toggle = () => setValues(prev => ({ ...prev, stakes: !prev.stakes }));

    return (
        <div className="order">
            <input aria-label="Sort" value={values.sort} onChange={handle('sort')} />
            {errors.sort && <span className="err">{errors.sort}</span>}
            <input aria-label="Trees" type="number" value={values.trees} onChange={handle('trees')} />
            <input aria-label="Colour" type="color" value={values.colour === 'red' ? '#ff0000' : values.colour} onChange={handle('colour')} />
            <button type="button" aria-pressed={values.stakes} onClick={toggle}>Stakes</button>
            <button
                type="button"
                onClick={() => {
                    if (!values.sort) { setErrors({ sort: 'Which sort?' }); return; }
                    onOrder(values);
                    setValues(initial);
                }}
            >
                Order
            </button>
        </div>
    );
};
