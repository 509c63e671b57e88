import React from 'react'

export default class RowCheck extends React.Component {
  state = { tree: '', row: '', step: 0, errors: {}, sent: false }

  change = (e) => {
    this.setState({ [e.target.name]: e.target.value }, () => console.log('changed'))
  }

  next = () => {
    this.setState({ step: 1, sent: false }, () => {
      // says it once
      this.props.onStep(this.state.step, this.state.tree)
    })
  }

  submit = (e) => {
    e.preventDefault()
    const errors = this.check()
    if (Object.keys(errors).length) {
      this.setState({ errors }, this.tell)
      return
    }
    this.setState({ errors, sent: true }, () => this.props.save(this.state))
  }

  tell = () => {
    this.props.onTrouble(this.state.tree)
  }

  check() {
    const found = {}
    if (!this.state.tree) found.tree = 'Which tree?'
    if (!this.state.row) found.row = 'Which row?'
    return found
  }

  render() {
    const { errors } = this.state
    return (
      <form onSubmit={this.submit}>
        <input name="tree" placeholder="Tree" value={this.state.tree} onChange={this.change} />
        {errors.tree && <b>{errors.tree}</b>}
        <input name="row" placeholder="Row" value={this.state.row} onChange={this.change} />
        {errors.row && <b>{errors.row}</b>}
        <button type="button" onClick={this.next}>Next</button>
        <button>Save</button>
        {this.state.sent && <p>sent at {this.state.step}</p>}
      </form>
    )
  }
}
