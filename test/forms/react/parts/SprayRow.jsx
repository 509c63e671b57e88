/** The spray, and the trees it went on. */
export function SprayRow({ options, spray, setSpray, trees, setTrees }) {
  return (
    <div>
      <select aria-label="Spray" value={spray} onChange={(e) => setSpray(e.target.value)}>
        {options.map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
      {trees.map((tree, index) => (
        <input
          key={index}
          aria-label={`Tree ${index + 1}`}
          value={tree}
          onChange={(e) => setTrees((old) => old.map((one, at) => (at === index ? e.target.value : one)))}
        />
      ))}
      <button type="button" onClick={() => setTrees((old) => [...old, ''])}>
        Another tree
      </button>
    </div>
  );
}
