import React, { Component } from 'react';

const RX = /^[A-Z]\d{1,3}$/;

class MouseTraps extends Component {
  static defaultProps = { limit: 12 };

  constructor(props) {
    super(props);
    this.state = this.blank();
    this.submit = this.submit.bind(this);
    this.onCount = this.onCount.bind(this);
  }

  blank() {
    return { tree: '', count: 0, bait: 'nut', poisoned: false, err: {}, sent: 0 };
  }

  componentDidUpdate(prevProps, prevState) {
    if (prevState.bait !== this.state.bait && this.state.bait === 'none') this.setState({ count: 0 });
  }

  set = (key) => (ev) => this.setState({ [key]: ev.target.value, err: { ...this.state.err, [key]: undefined } });

  onCount(ev) {
    const n = parseInt(ev.target.value, 10);
    this.setState({ count: Number.isNaN(n) ? 0 : Math.min(n, this.props.limit) });
  }

  check() {
    const { tree, count, bait } = this.state;
    const err = {};
    if (!RX.test(tree)) err.tree = 'A letter and digits';
    if (bait !== 'none' && count === 0) err.count = 'How many?';
    return err;
  }

  submit(ev) {
    ev.preventDefault();
    const err = this.check();
    if (Object.keys(err).length) return this.setState({ err });
    const { tree, count, bait, poisoned } = this.state;
    this.props.onSet({ tree, count, bait, poisoned });
    this.setState((s) => ({ ...this.blank(), bait: s.bait, sent: s.sent + 1 }));
  }

  render() {
    const { tree, count, bait, poisoned, err, sent } = this.state;
    return (
      <form onSubmit={this.submit}>
        <input placeholder="Tree" value={tree} onChange={this.set('tree')} />
        {err.tree ? <b>{err.tree}</b> : null}
        <select aria-label="Bait" value={bait} onChange={this.set('bait')}>
          <option value="nut">Nut</option>
          <option value="cheese">Cheese</option>
          <option value="none">None</option>
        </select>
        <input aria-label="Count" value={count} onChange={this.onCount} disabled={bait === 'none'} />
        {err.count ? <b>{err.count}</b> : null}
        <label>
          <input type="checkbox" checked={poisoned} onChange={() => this.setState(({ poisoned }) => ({ poisoned: !poisoned }))} />
          Poisoned
        </label>
        <button>Set traps</button>
        <button type="button" onClick={() => this.setState(this.blank())}>Start over</button>
        {sent > 0 && <p>{sent} reports sent</p>}
      </form>
    );
  }
}

export default MouseTraps;
