import React from 'react';

/** The slip a carter gets at the scales. */
export class WeighingSlip extends React.Component {
  state = { carter: '', gross: '', tare: '' };

  change = (event) => {
    this.setState({ [event.target.name]: event.target.value });
  };

  send = (event) => {
    event.preventDefault();
    this.props.onWeighed(this.state);
  };

  render() {
    const { carter, gross, tare } = this.state;
    return (
      <form onSubmit={this.send}>
        <label>Carter <input name="carter" value={carter} onChange={this.change} /></label>
        <label>Gross <input name="gross" type="number" value={gross} onChange={this.change} /></label>
        <label>Tare <input name="tare" type="number" value={tare} onChange={this.change} /></label>
        <p>Net {Number(gross) - Number(tare)} kg</p>
        <button>Print slip</button>
      </form>
    );
  }
}
