import React, { useState, useEffect } from "react";

function PestAlarm({ report }) {
  const nothing = { pest: "", row: "", caller: "" };
  const [alarm, setAlarm] = useState(nothing);
  const [troubles, setTroubles] = useState({});
  const [asked, setAsked] = useState(false);

  const type = (e) => {
    const { name, value } = e.target;
    setAlarm({ ...alarm, [name]: value });
  };

  const raise = (e) => {
    e.preventDefault();
    setTroubles(look(alarm));
    setAsked(true);
  };

  useEffect(() => {
    if (Object.keys(troubles).length === 0 && asked) {
      report(alarm);
    }
  }, [troubles]);

  const look = (alarm) => {
    const found = {};
    const rowMark = /^[A-Z]\d+$/;
    if (!alarm.pest) {
      found.pest = "What was seen?";
    }
    if (!alarm.row) {
      found.row = "In which row?";
    } else if (!rowMark.test(alarm.row)) {
      found.row = "Rows are marked like C4";
    }
    if (!alarm.caller) {
      found.caller = "Who calls?";
    } else if (alarm.caller.length < 4) {
      found.caller = "Four letters at least";
    } else if (alarm.caller.length > 10) {
      found.caller = "Ten letters at most";
    }
    return found;
  };

  return (
    <section>
      {Object.keys(troubles).length === 0 && asked ? <b>The alarm is out</b> : <pre>{JSON.stringify(alarm)}</pre>}

      <form onSubmit={raise}>
        <label>Pest</label>
        <input type="text" name="pest" placeholder="Pest" value={alarm.pest} onChange={type} />
        <p>{troubles.pest}</p>
        <label>Row</label>
        <input type="text" name="row" placeholder="Row" value={alarm.row} onChange={type} />
        <p>{troubles.row}</p>
        <label>Caller</label>
        <input type="text" name="caller" placeholder="Caller" value={alarm.caller} onChange={type} />
        <p>{troubles.caller}</p>
        <button className="alarm">Raise the alarm</button>
      </form>
    </section>
  );
}

export default PestAlarm;
