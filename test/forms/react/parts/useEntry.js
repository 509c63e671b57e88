import { useState } from 'react';

// one entry: its text, and whether it complains
export const useEntry = (first, isFine) => {
  const [text, setText] = useState(first);
  const [left, setLeft] = useState(false);

  const fine = isFine(text);
  const complains = !fine && left;

  const write = (event) => {
    setText(event.target.value);
  };

  const leave = () => {
    setLeft(true);
  };

  const clear = () => {
    setText(first);
    setLeft(false);
  };

  return { text, fine, complains, write, leave, clear };
};
