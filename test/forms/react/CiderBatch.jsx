import React from 'react';

class CiderBatch extends React.Component {
  constructor(props) {
    super(props);
    this.state = { bottled: true, presses: 2, style: 'dry', troubles: {} };

    this.take = this.take.bind(this);
    this.press = this.press.bind(this);
  }

  look() {
    const troubles = {};
    if (!this.state.style) troubles.style = 'Dry or sweet?';
    if (this.state.presses < 1 || this.state.presses > 9) {
      troubles.presses = 'One to nine presses';
    }
    return troubles;
  }

  take({ target }) {
    const given = target.type === 'checkbox' ? target.checked : target.value;

    this.setState({
      [target.name]: given
    });
  }

  press(event) {
    event.preventDefault();
    const troubles = this.look();
    this.setState({ troubles }, () => {
      if (Object.keys(this.state.troubles).length === 0) {
        this.props.onPress(this.state.style, this.state.presses, this.state.bottled);
      }
    });
  }

  render() {
    return (
      <form onSubmit={this.press}>
        <label>
          Bottled at once
          <input
            name="bottled"
            type="checkbox"
            checked={this.state.bottled}
            onChange={this.take} />
        </label>
        <label>
          Presses
          <input name="presses" type="number" value={this.state.presses} onChange={this.take} />
        </label>
        {this.state.troubles.presses && <i>{this.state.troubles.presses}</i>}
        <select name="style" aria-label="Style" value={this.state.style} onChange={this.take}>
          <option value="">-</option>
          <option value="dry">Dry</option>
          <option value="sweet">Sweet</option>
        </select>
        {this.state.troubles.style && <i>{this.state.troubles.style}</i>}
        <input type="submit" value="Press" />
      </form>
    );
  }
}
export default CiderBatch;
