import { useState, useEffect, useCallback } from 'react';
import { Slider } from './Slider';

/* Who stays up tonight? */
export const FrostWatch = ({ plots, onWatch, savedName }) => {
    const [watcher, setWatcher] = useState(savedName || ''),
          [plot, setPlot] = useState(plots[0]);
    const [from, setFrom] = useState('22:00');
    const [degrees, setDegrees] = useState(-2);
    const [fires, setFires] = useState(3);
    // shows for a moment, then goes
    const [thanks, setThanks] = useState(false);

    useEffect(() => {
        if (!thanks) return undefined;
        const timer = setTimeout(() => setThanks(false), 2000);
        return () => clearTimeout(timer);
    }, [thanks]);

    const lightAnother = useCallback(() => {
        setFires(prev => Math.min(prev + 1, 12));
    }, [setFires]);

    const start = () => {
        if (!watcher) return;
        onWatch({ watcher, plot, from, degrees, fires });
        setThanks(true);
        setFires(3);
    };

    return (
        <div className="watch">
            <input placeholder="Watcher" value={watcher} onChange={e => setWatcher(e.target.value)} />
            <select aria-label="Plot" value={plot} onChange={e => setPlot(e.target.value)}>
                {plots.map(p => <option key={p}>{p}</option>)}
            </select>
            <input aria-label="From" type="time" value={from} onChange={e => setFrom(e.target.value)} />
            <Slider label="Alarm at" value={degrees} onSlide={setDegrees} />
            <span>{fires} fires</span>
            <button type="button" onClick={lightAnother}>One more fire</button>
            <button type="button" disabled={!watcher} onClick={start}>Start the watch</button>
            {thanks && <strong>Thank you, {watcher}</strong>}
        </div>
    );
};
