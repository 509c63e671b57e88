import { useEntry } from './parts/useEntry';

const isWritten = (text) => text.trim() !== '';

const ScionOffer = (props) => {
  const {
    text: variety,
    fine: varietyFine,
    complains: varietyComplains,
    write: writeVariety,
    leave: leaveVariety,
    clear: clearVariety,
  } = useEntry('', isWritten);
  const {
    text: tree,
    fine: treeFine,
    complains: treeComplains,
    write: writeTree,
    leave: leaveTree,
    clear: clearTree,
  } = useEntry('', (text) => text.includes('-'));

  let ready = false;

  if (varietyFine && treeFine) {
    ready = true;
  }

  const offer = (event) => {
    event.preventDefault();
    if (!ready) {
      return;
    }
    props.onOffer(variety, tree);
    clearVariety();
    clearTree();
  };

  const varietyClass = varietyComplains ? 'entry entry-bad' : 'entry';

  return (
    <form onSubmit={offer}>
      <div className={varietyClass}>
        <label htmlFor="variety">Variety</label>
        <input type="text" id="variety" value={variety} onChange={writeVariety} onBlur={leaveVariety} />
        {varietyComplains && <p>Scions of what?</p>}
      </div>
      <div className={treeComplains ? 'entry entry-bad' : 'entry'}>
        <label htmlFor="tree">Tree</label>
        <input type="text" id="tree" value={tree} onChange={writeTree} onBlur={leaveTree} />
        {treeComplains && <p>Row and number, like B-12.</p>}
      </div>
      <button disabled={!ready}>Offer</button>
    </form>
  );
};

export default ScionOffer;
