import { useState } from 'react';
import { useFormik } from 'formik';

interface Cutting {
  variety: string;
  rootstock: 'M9' | 'M26' | 'seedling';
  pieces: number | '';
  collect: boolean;
  note: string;
}

interface Props {
  onAsk: (cutting: Cutting) => Promise<void>;
}

/** Asks the nursery for cuttings. */
export const CuttingRequest = ({ onAsk }: Props) => {
  const [asked, setAsked] = useState(0);
  const { values, errors, touched, isSubmitting, handleChange, handleBlur, handleSubmit, resetForm, isValid } =
    useFormik<Cutting>({
      initialValues: { variety: '', rootstock: 'M26', pieces: '', collect: false, note: '' },
      validate(entry) {
        const wrong: Partial<Record<keyof Cutting, string>> = {};
        if (entry.variety.trim().length < 3) wrong.variety = 'Name the variety';
        // a bundle holds fifty
        if (entry.pieces === '' || entry.pieces > 50) wrong.pieces = 'Between one and fifty';
        return wrong;
      },
      onSubmit: async (cutting) => {
        await onAsk(cutting);
        setAsked((before) => before + 1);
        resetForm();
      },
    });

  return (
    <form onSubmit={handleSubmit} noValidate>
      <label htmlFor="variety">Variety</label>
      <input id="variety" name="variety" value={values.variety} onChange={handleChange} onBlur={handleBlur} />
      {touched.variety && errors.variety ? <em>{errors.variety}</em> : null}

      {(['M9', 'M26', 'seedling'] as const).map((stock) => (
        <label key={stock}>
          <input
            type="radio"
            name="rootstock"
            value={stock}
            checked={values.rootstock === stock}
            onChange={handleChange}
          />
          {stock}
        </label>
      ))}

      <label htmlFor="pieces">Pieces</label>
      <input
        id="pieces"
        name="pieces"
        type="number"
        value={values.pieces}
        onChange={handleChange}
        onBlur={handleBlur}
      />
      {errors.pieces && touched.pieces && <em>{errors.pieces}</em>}

      <label>
        <input type="checkbox" name="collect" checked={values.collect} onChange={handleChange} /> I collect them
      </label>
      <textarea name="note" value={values.note} onChange={handleChange} />

      <button type="submit" disabled={isSubmitting || !isValid}>
        Ask
      </button>
      <p>{asked} asked</p>
    </form>
  );
};
