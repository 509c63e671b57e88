import { PureComponent } from 'react'

const fresh = { meadow: 'south', start: '06:00', helpers: [] , steep: 'no' }

export default class MowPlan extends PureComponent {
  static days = ['Mon', 'Tue']
  state = { ...fresh, sent: false }

  set = (name) => (e) => this.setState({ [name]: e.target.value, sent: false })

  toggle(helper) {
    this.setState(({ helpers }) => ({
      helpers: helpers.includes(helper) ? helpers.filter((h) => h !== helper) : [...helpers, helper],
    }))
  }

  reset = () => this.setState(fresh)

  send = () => {
    const { sent, ...plan } = this.state
    this.props.plan(plan)
    this.setState({ sent: true })
  }

  render() {
    const { crew = ['Ada', 'Ben'] } = this.props
    return (
      <div className="mow">
        <label>Meadow
          <select value={this.state.meadow} onChange={this.set('meadow')}>
            <option>south</option>
            <option>north</option>
          </select>
        </label>
        <label>Start <input type="time" value={this.state.start} onChange={this.set('start')} /></label>
        {['yes', 'no'].map((answer) => (
          <label key={answer}>
            <input type="radio" name="steep" value={answer} checked={this.state.steep === answer} onChange={this.set('steep')} /> {answer}
          </label>
        ))}
        {crew.map((one) => (
          <label key={one}>
            <input type="checkbox" checked={this.state.helpers.includes(one)} onChange={() => this.toggle(one)} /> {one}
          </label>
        ))}
        <p>{this.state.helpers.length} helpers {MowPlan.days.join()}</p>
        <button onClick={this.send}>Plan it</button>
        <button onClick={this.reset}>Clear</button>
        {this.state.sent && <p>Planned</p>}
      </div>
    )
  }
}
