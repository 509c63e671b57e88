export const StarRating = ({ stars, onPick }) => (
  <span>
    {[1, 2, 3].map((n) => (
      <button key={n} type="button" aria-pressed={n <= stars} onClick={() => onPick(n)}>
        {n}
      </button>
    ))}
  </span>
);
