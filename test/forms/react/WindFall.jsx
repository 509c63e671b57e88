import React, { Component } from 'react';

/* What lay under the trees after the night's wind. */
class WindFall extends Component {
  constructor(props) {
    super(props);
    this.state = {
      row: '', // as on the map
      buckets: 1,
      bruised: false,
      kind: 'apple',
      note: '',
      busy: false,
      problem: null,
    };
    this.handleChange = this.handleChange.bind(this);
    this.handleSubmit = this.handleSubmit.bind(this);
  }

  componentDidMount() {
    document.title = 'Windfall';
  }

  handleChange(event) {
    const { name, type, checked, value } = event.target;
    this.setState({ [name]: type === 'checkbox' ? checked : value });
  }

  async handleSubmit(event) {
    event.preventDefault();
    const { row, buckets, bruised, kind, note } = this.state;
    if (!row.trim()) {
      this.setState({ problem: 'Which row?' });
      return;
    }
    this.setState({ busy: true, problem: null });
    try {
      await this.props.onGather({ row, buckets: Number(buckets), bruised, kind, note });
      this.setState({ row: '', note: '', busy: false });
    } catch (error) {
      this.setState({ problem: error.message, busy: false });
    }
  }

  more = () => this.setState((old) => ({ buckets: Number(old.buckets) + 1 }));

  renderProblem() {
    return this.state.problem && <p role="alert">{this.state.problem}</p>;
  }

  render() {
    const { row, buckets, bruised, kind, note, busy } = this.state;
    return (
      <form onSubmit={this.handleSubmit}>
        <h3>{this.props.title}</h3>
        <input name="row" aria-label="Row" value={row} onChange={this.handleChange} />
        <input name="buckets" type="number" aria-label="Buckets" value={buckets} onChange={this.handleChange} />
        <button type="button" onClick={this.more}>
          One more
        </button>
        <label>
          <input name="bruised" type="checkbox" checked={bruised} onChange={this.handleChange} /> bruised
        </label>
        <select name="kind" aria-label="Kind" value={kind} onChange={this.handleChange}>
          <option value="apple">Apple</option>
          <option value="pear">Pear</option>
        </select>
        <textarea name="note" aria-label="Note" value={note} onChange={this.handleChange} />
        {this.renderProblem()}
        <button disabled={busy}>{busy ? 'Saving' : 'Save'}</button>
      </form>
    );
  }
}

export default WindFall;
