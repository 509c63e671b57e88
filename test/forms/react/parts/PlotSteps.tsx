import type { Plot } from '../PlotWizard';

type PlotStepProps = Pick<Plot, 'holder' | 'size'> & {
  updateFields: (fields: Partial<Plot>) => void;
};

export function PlotStep({ holder, size, updateFields }: PlotStepProps) {
  return (
    <>
      <label>
        Holder
        <input autoFocus required type="text" value={holder} onChange={(e) => updateFields({ holder: e.target.value })} />
      </label>
      <label>
        Size
        <select value={size} onChange={(e) => updateFields({ size: e.target.value })}>
          <option value="small">Small</option>
          <option value="large">Large</option>
        </select>
      </label>
    </>
  );
}

export function WaterStep({ water, onWater }: { water: Plot['water']; onWater: (w: Plot['water']) => void }) {
  return (
    <fieldset>
      <label>
        Meter
        <input value={water.meter} onChange={(e) => onWater({ ...water, meter: e.target.value })} />
      </label>
      <label>
        <input type="checkbox" checked={water.shared} onChange={(e) => onWater({ ...water, shared: e.target.checked })} />
        shared
      </label>
    </fieldset>
  );
}
