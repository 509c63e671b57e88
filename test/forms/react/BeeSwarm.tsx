import * as React from 'react';

type Elements = HTMLFormControlsCollection & { tree: HTMLInputElement; height: HTMLInputElement; alone: HTMLInputElement };

export const BeeSwarm: React.FC<{ report(swarm: { tree: string; height: number; alone: boolean; seen: string }): void }> = ({ report }) => {
  const [count, setCount] = React.useState(0);
  const send: React.FormEventHandler<HTMLFormElement> = (event) => {
    event.preventDefault();
    const form = event.currentTarget;
    const { tree, height, alone } = form.elements as Elements;
    if (!height.value) return;
    report({
      tree: tree.value,
      height: Number(height.value),
      alone: alone.checked,
      seen: (form.elements.namedItem('seen') as HTMLInputElement).value,
    });
    setCount((n) => n + 1);
    form.reset();
  };
  return (
    <form onSubmit={send}>
      <input name="tree" aria-label="Tree" defaultValue="Old pear" />
      <input name="height" type="number" aria-label="Height" />
      <label>
        <input name="alone" type="checkbox" defaultChecked /> I am alone
      </label>
      <input name="seen" type="time" aria-label="Seen at" />
      {count > 0 && <p>{count} reported</p>}
      <button>Report</button>
    </form>
  );
};
