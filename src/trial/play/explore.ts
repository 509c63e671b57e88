import type { DOMWindow } from 'jsdom';
import type { Step } from '../steps.js';
import type { Hints } from '../trace.js';
import { buttonsOf, captionOf, controlsOf, isDisabled, labelOf, tidy } from './page.js';

/** Decides step by step what a careful person would try on a page. */
export type Explorer = Generator<Step, void, void>;

/** How a control is called in a step: by its label where that is its own, by its place otherwise. */
function callOf(window: DOMWindow, control: HTMLInputElement): string {
  const controls = controlsOf(window);
  const label = labelOf(control);
  const same = controls.filter((other) => labelOf(other) === label);
  return same.length === 1 && label !== '' ? label : `#${controls.indexOf(control)}`;
}

function buttonCall(window: DOMWindow, button: HTMLElement): string {
  const buttons = buttonsOf(window);
  const caption = captionOf(button);
  const same = buttons.filter((other) => captionOf(other) === caption);
  return same.length === 1 && caption !== '' ? caption : `button #${buttons.indexOf(button as HTMLButtonElement)}`;
}

function hinted(hints: Record<string, string[]>, control: HTMLInputElement): string[] {
  for (const key of [labelOf(control), control.name, control.id]) {
    const found = key ? hints[key] : undefined;
    if (found) return found;
  }
  return [];
}

function wrongValues(control: HTMLInputElement, hints: Hints): string[] {
  const own = hinted(hints.wrong, control);
  switch (control.type) {
    case 'number':
      return [...own, '-1', '0', '99999'].slice(0, 4);
    case 'email':
      return [...own, 'grove'];
    case 'text':
    case 'search':
    case 'tel':
    case 'url':
    case 'password':
    case 'textarea':
      return [...own, '?', ' '].slice(0, 3);
    default:
      return own;
  }
}

function rightValue(control: HTMLInputElement, hints: Hints): string {
  const own = hinted(hints.right, control)[0];
  if (own !== undefined) return own;
  const number = (name: string): number | undefined =>
    control.getAttribute(name) ? Number(control.getAttribute(name)) : undefined;
  const words = `${labelOf(control)} ${control.name} ${control.id}`;
  switch (control.type) {
    case 'number':
    case 'range': {
      const least = number('min') ?? 0;
      const most = number('max') ?? least + 10;
      return String(Math.min(most, Math.max(least, 3)));
    }
    case 'date':
      return control.min || '2026-09-12';
    case 'time':
      return '07:30';
    case 'datetime-local':
      return '2026-09-12T07:30';
    case 'month':
      return '2026-09';
    case 'week':
      return '2026-W37';
    case 'color':
      return '#6b8e23';
    case 'email':
      return 'grove@orchard.example';
    case 'url':
      return 'https://orchard.example/plots';
    default:
      if (/mail/i.test(words)) return 'grove@orchard.example';
      if (/phone|tel/i.test(words)) return '0555 010 020';
      if (/date|day/i.test(words) && control.placeholder) return '2026-09-12';
      return 'Northern row';
  }
}

/** Capital and small letters the other way round here and there. */
function mixedCase(text: string): string {
  return text.replace(/[a-z](?=[a-z])/gi, (letter, at: number) =>
    at % 2 ? letter.toUpperCase() : letter.toLowerCase(),
  );
}

function isText(control: HTMLInputElement): boolean {
  return (
    !/^(checkbox|radio|file|range|color|date|time|datetime-local|month|week)$/.test(control.type) &&
    control.tagName !== 'SELECT'
  );
}

/** Gives a control a value it should accept. */
function* fill(window: DOMWindow, control: HTMLInputElement, hints: Hints): Explorer {
  const name = callOf(window, control);
  if (isDisabled(control) || control.readOnly) return;
  if (control.tagName === 'SELECT') {
    const select = control as unknown as HTMLSelectElement;
    const options = [...select.options].filter((option) => !option.disabled && option.value !== '');
    const other = options.find((option) => !option.selected) ?? options[0];
    if (other) yield { choose: [name, tidy(other.textContent)] };
    if (select.multiple && options[1] && options[1] !== other) yield { choose: [name, tidy(options[1].textContent)] };
    return;
  }
  if (control.type === 'checkbox' || control.type === 'radio') {
    if (!control.checked) yield { check: name };
    return;
  }
  if (control.type === 'file') yield { file: [name, 'rows.csv'] };
  else yield { type: [name, rightValue(control, hints)] };
}

function submitButtons(window: DOMWindow, hints: Hints): HTMLButtonElement[] {
  const buttons = buttonsOf(window);
  const native = buttons.filter((button) => button.type === 'submit' && button.form);
  if (native.length) return native;
  const hinted = buttons.filter((button) => hints.submit.includes(captionOf(button)));
  return hinted.length ? hinted : buttons.filter((button) => button.tagName !== 'A').slice(-1);
}

function* send(window: DOMWindow, hints: Hints, wait = 1500): Explorer {
  for (const button of submitButtons(window, hints).slice(0, 2)) {
    if (!button.isConnected) continue;
    yield { click: buttonCall(window, button) };
    // while an answer is awaited, after it came, and after the time that messages stay
    yield { wait: 100 };
    yield { wait };
  }
}

/** Fills what is empty, or everything; a control may come into view because another one was filled. */
function* fillAll(window: DOMWindow, hints: Hints, manner: { onlyEmpty?: boolean; padded?: boolean } = {}): Explorer {
  const done = new Set<Element>();
  for (let round = 0; round < 60; round++) {
    const next = controlsOf(window).find(
      (control) => !done.has(control) && !(control.type === 'radio' && hasPickedTwin(window, control, done)),
    );
    if (!next) return;
    done.add(next);
    if (manner.onlyEmpty === true && (next.value !== '' || next.type === 'checkbox' || next.type === 'radio')) continue;
    const padded = manner.padded === true && /^(text|search|textarea)$/.test(next.type) && !next.readOnly;
    if (padded && !isDisabled(next)) yield { type: [callOf(window, next), ` ${mixedCase(rightValue(next, hints))} `] };
    else yield* fill(window, next, hints);
  }
}

/** With everything else right, breaks one control after the other and sends. */
function* breakOneByOne(window: DOMWindow, hints: Hints): Explorer {
  const tried = controlsOf(window).filter((control) => isText(control) && !control.readOnly);
  for (const control of tried.slice(0, 10)) {
    for (const value of [...wrongValues(control, hints), '']) {
      if (!control.isConnected || isDisabled(control)) break;
      yield* fillAll(window, hints, { onlyEmpty: true });
      if (!control.isConnected || isDisabled(control)) break;
      yield { type: [callOf(window, control), value] };
      yield* send(window, hints, 700);
    }
    if (control.isConnected) yield* fill(window, control, hints);
  }
}

function hasPickedTwin(window: DOMWindow, control: HTMLInputElement, done: ReadonlySet<Element>): boolean {
  return controlsOf(window).some(
    (other) => other !== control && other.type === 'radio' && other.name === control.name && done.has(other),
  );
}

/** The steps of a careful person, found on the page while they are played. */
export function* explore(window: DOMWindow, hints: Hints): Explorer {
  yield { look: 'the first view' };
  const first = controlsOf(window);
  for (const control of first) if (!isDisabled(control)) yield { blur: callOf(window, control) };
  yield* send(window, hints);
  for (const control of controlsOf(window)) {
    if (!control.isConnected || isDisabled(control) || control.readOnly) continue;
    const name = callOf(window, control);
    if (control.type === 'radio') {
      yield { check: name };
      continue;
    }
    if (control.type === 'checkbox') {
      yield { check: name };
      yield { blur: name };
      yield { check: name };
      continue;
    }
    for (const value of wrongValues(control, hints)) {
      yield { type: [name, value] };
      yield { blur: name };
    }
    if (isText(control)) yield { type: [name, ''] };
    yield { blur: name };
  }
  yield* send(window, hints);
  const others = buttonsOf(window).filter(
    (button) => button.tagName !== 'A' && !submitButtons(window, hints).includes(button),
  );
  for (const button of others.slice(0, 14)) {
    if (!button.isConnected || isDisabled(button)) continue;
    const before = controlsOf(window).length;
    yield { click: buttonCall(window, button) };
    const now = controlsOf(window);
    if (now.length > before) yield* fillAll(window, hints);
    else if (button.isConnected && !isDisabled(button)) yield { click: buttonCall(window, button) };
  }
  yield* fillAll(window, hints);
  yield* breakOneByOne(window, hints);
  yield* fillAll(window, hints);
  const text = controlsOf(window).find((control) => isText(control) && !isDisabled(control));
  if (text) yield { keys: [callOf(window, text), 'x'] };
  yield* send(window, hints);
  yield* fillAll(window, hints);
  const button = submitButtons(window, hints)[0];
  if (button) yield { twice: buttonCall(window, button) };
  yield { wait: 1500 };
  yield* fillAll(window, hints, { padded: true });
  for (const control of controlsOf(window).filter(isText).slice(0, 12))
    if (control.isConnected && !isDisabled(control)) yield { blur: callOf(window, control) };
  const last = controlsOf(window).find(
    (control) => isText(control) && control.tagName !== 'TEXTAREA' && !isDisabled(control),
  );
  if (last) yield { enter: callOf(window, last) };
  yield { wait: 1500 };
  // messages that go away by themselves
  yield { wait: 6000 };
}
