import React from 'react';

interface Props {
  stations: string[];
  onWatch(watch: { station: string; from: string; limit: number; siren: boolean }): Promise<void>;
}

interface State {
  station: string;
  from: string;
  limit: number;
  siren: boolean;
  problem: string | null;
  waiting: boolean;
  seconds: number;
}

export default class NightWatch extends React.Component<Props, State> {
  private timer: number | undefined;
  private first = React.createRef<HTMLSelectElement>();

  constructor(props: Props) {
    super(props);
    this.state = {
      station: props.stations[0] ?? '',
      from: '22:00',
      limit: -2,
      siren: true,
      problem: null,
      waiting: false,
      seconds: 0,
    };
    this.submit = this.submit.bind(this);
  }

  componentDidMount() {
    this.timer = window.setInterval(() => this.tick(), 1000);
    this.first.current?.focus();
  }

  componentWillUnmount() {
    window.clearInterval(this.timer);
  }

  tick() {
    if (this.state.waiting) this.setState({ seconds: this.state.seconds + 1 });
  }

  set<K extends keyof State>(key: K, value: State[K]) {
    this.setState({ [key]: value } as Pick<State, K>, () => {
      if (this.state.problem) this.setState({ problem: this.check() });
    });
  }

  check(): string | null {
    const { from, limit } = this.state;
    if (!from) return 'From when?';
    if (limit > 4) return 'That is no frost';
    return null;
  }

  async submit(e: React.FormEvent) {
    e.preventDefault();
    const problem = this.check();
    this.setState({ problem });
    if (problem) return;
    this.setState({ waiting: true, seconds: 0 });
    const { station, from, limit, siren } = this.state;
    try {
      await this.props.onWatch({ station, from, limit, siren });
      this.setState({ from: '22:00', limit: -2 }, () => this.first.current?.focus());
    } catch (error) {
      this.setState({ problem: String(error) });
    } finally {
      this.setState({ waiting: false });
    }
  }

  render() {
    const { station, from, limit, siren, problem, waiting, seconds } = this.state;
    return (
      <form onSubmit={this.submit}>
        <select ref={this.first} value={station} onChange={(e) => this.set('station', e.target.value)}>
          {this.props.stations.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        <input type="time" aria-label="From" value={from} onChange={(e) => this.set('from', e.target.value)} />
        <input
          type="number"
          aria-label="Limit"
          value={limit}
          onChange={(e) => this.set('limit', e.target.valueAsNumber)}
        />
        <label>
          <input type="checkbox" checked={siren} onChange={(e) => this.set('siren', e.target.checked)} />
          Siren
        </label>
        {problem && <p role="alert">{problem}</p>}
        <button disabled={waiting}>{waiting ? `Setting (${seconds} s)` : 'Set watch'}</button>
      </form>
    );
  }
}
