import * as React from "react";

type Props = {
    // called once for each box
    onFound: (box: { number: number; bird: string; eggs: number }) => void;
    birds?: string[];
    first: number;
};

interface State {
    number: number;
    bird: string;
    eggs: string;
    errors: { bird?: string; eggs?: string };
    count: number;
}

export class NestBox extends React.Component<Props, State> {
    static defaultProps = { first: 7 };

    state: State = {
        number: this.props.first,
        bird: "",
        eggs: "",
        errors: {},
        count: 0,
    };

    private input = React.createRef<HTMLInputElement>();
    private timer?: ReturnType<typeof setTimeout>;

    componentDidUpdate(prevProps: Props, prevState: State) {
        if (prevState.number !== this.state.number) {
            this.setState({ bird: "", eggs: "" });
        }
    }

    componentWillUnmount() {
        clearTimeout(this.timer);
    }

    // both rules at once
    check(): State["errors"] {
        const errors: State["errors"] = {};
        if (!this.state.bird) errors.bird = "Which bird nests there?";
        if (!/^\d+$/.test(this.state.eggs)) errors.eggs = "Count the eggs";
        return errors;
    }

    handleSubmit = (e: React.FormEvent) => {
        e.preventDefault();
        const errors = this.check();
        this.setState({ errors });
        if (Object.keys(errors).length > 0) {
            this.input.current?.focus();
            return;
        }
        this.props.onFound({ number: this.state.number, bird: this.state.bird, eggs: Number(this.state.eggs) });
        this.setState((prev, props) => ({ ...prev, number: prev.number + 1, count: prev.count + (props.birds ? 1 : 2) }));
        this.timer = setTimeout(() => this.setState({ count: 0 }), 60000);
    };

    get title() {
        return `Box ${this.state.number}`;
    }

    render() {
        const { errors } = this.state;
        return (
            <form onSubmit={this.handleSubmit} noValidate>
                <h4>{this.title}</h4>
                <label htmlFor="number">Number</label>
                <input
                    id="number"
                    type="number"
                    value={this.state.number}
                    onChange={(e) => this.setState({ number: Number(e.target.value) })}
                />
                <label htmlFor="bird">Bird</label>
                <input ref={this.input} id="bird" list="birds" value={this.state.bird} onChange={(e) => this.setState({ bird: e.target.value })} />
                <datalist id="birds">{this.props.birds?.map((bird) => <option key={bird} value={bird} />)}</datalist>
                {errors.bird && <em>{errors.bird}</em>}
                <label htmlFor="eggs">Eggs</label>
                <input id="eggs" value={this.state.eggs} className={errors.eggs ? "wrong" : undefined} onChange={(e) => this.setState({ eggs: e.target.value.replace(/\D/g, "") })} />
                {errors.eggs && <em>{errors.eggs}</em>}
                <button type="submit">Found it</button>
                <button type="button" onClick={() => this.setState({ bird: "", eggs: "", errors: {} })}>Empty</button>
                <small>{this.state.count} found</small>
            </form>
        );
    }
}
