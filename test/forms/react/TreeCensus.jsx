import React from 'react';

const nothing = () => ({ tree: '', height: '', sick: false, note: '' });

/** Trees are counted row by row; what was typed is kept as a draft. */
export class TreeCensus extends React.Component {
  constructor(props) {
    super(props);
    this.state = { ...nothing(), wrong: {}, tried: false, kept: 0 };
    this.treeInput = React.createRef();
    this.change = this.change.bind(this);
    this.send = this.send.bind(this);
  }

  componentDidUpdate(before, old) {
    // another row: nothing of the old one stays
    if (before.row !== this.props.row) {
      this.setState({ ...nothing(), wrong: {}, tried: false });
      return;
    }
    const changed = Object.keys(nothing()).some((name) => old[name] !== this.state[name]);
    if (changed) {
      clearTimeout(this.timer);
      this.timer = setTimeout(() => this.keep(), 300);
    }
  }

  componentWillUnmount() {
    clearTimeout(this.timer);
  }

  values() {
    const { tree, height, sick, note } = this.state;
    return { tree, height, sick, note };
  }

  keep() {
    this.props.onDraft(this.values());
    this.setState((now) => ({ kept: now.kept + 1 }));
  }

  check() {
    const { tree, height, sick, note } = this.state;
    const wrong = {};
    if (!/^T\d+$/.test(tree)) wrong.tree = 'Trees look like T7';
    if (height !== '' && !(Number(height) > 0)) wrong.height = 'Taller than nothing';
    if (sick && note.trim() === '') wrong.note = 'What is it?';
    return wrong;
  }

  change(e) {
    const { name, type, checked, value } = e.target;
    this.setState({ [name]: type === 'checkbox' ? checked : value }, () => {
      if (this.state.tried) this.setState({ wrong: this.check() });
    });
  }

  send(e) {
    e.preventDefault();
    const wrong = this.check();
    this.setState({ wrong, tried: true });
    if (Object.keys(wrong).length) return;
    clearTimeout(this.timer);
    this.props.onTree({ row: this.props.row, ...this.values() });
    this.setState({ ...nothing(), wrong: {}, tried: false }, () => this.treeInput.current.focus());
  }

  render() {
    const { tree, height, sick, note, wrong, kept } = this.state;
    return (
      <form onSubmit={this.send}>
        <h3>Row {this.props.row}</h3>
        <input ref={this.treeInput} name="tree" placeholder="Tree" value={tree} onChange={this.change} />
        {wrong.tree && <em>{wrong.tree}</em>}
        <input name="height" placeholder="Height" value={height} onChange={this.change} />
        {wrong.height && <em>{wrong.height}</em>}
        <label>
          <input type="checkbox" name="sick" checked={sick} onChange={this.change} /> Sick
        </label>
        <textarea name="note" placeholder="Note" value={note} onChange={this.change} />
        {wrong.note && <em>{wrong.note}</em>}
        {kept > 0 && <small>Draft {kept}</small>}
        <button type="submit">Count it</button>
      </form>
    );
  }
}
