import { useState } from "react"

export default function CrateInputs({ onSend }) {
  const [crate, setCrate] = useState({})

  const fill = (event) => {
    const key = event.target.name
    const given = event.target.type === "checkbox" ? event.target.checked : event.target.value
    setCrate(crate => ({...crate, [key]: given}))
  }

  return (
    <form onSubmit={(event) => { event.preventDefault(); onSend(crate) }}>
      <label>Variety:
      <input
        type="text"
        name="variety"
        value={crate.variety || ""}
        onChange={fill}
      />
      </label>
      <label>Crates:
        <input type="number" name="crates" value={crate.crates || ""} onChange={fill} />
      </label>
      <label>
        <input type="checkbox" name="washed" checked={crate.washed || false} onChange={fill} /> washed
      </label>
      <textarea name="remark" aria-label="Remark" value={crate.remark ?? ''} onChange={fill} />
      <input type="submit" value="Send" />
    </form>
  )
}
