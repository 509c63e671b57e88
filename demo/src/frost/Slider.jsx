/** A range with its value beside it. */
export function Slider({ label, value, onSlide }) {
    return (
        <label>
            {label} <input type="range" min={-10} max={2} value={value} onChange={e => onSlide(Number(e.target.value))} /> {value} °C
        </label>
    );
}
