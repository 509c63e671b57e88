import type { DOMWindow } from 'jsdom';
import type { Step } from '../steps.js';
import type { Clock } from './clock.js';
import { findButton, findControl, isDisabled, tidy } from './page.js';

/** Somebody who uses the page: fires the events a browser would, in their order, with a turn of the page between. */
export interface Person {
  /** Does one step. Gives what kept them from it, or null. */
  do(step: Step): Promise<string | null>;
  /** Letters typed so far. */
  letters(): number;
}

const atOnce = /^(date|time|datetime-local|month|week|range|color)$/;

/** @param settle lets the page answer between two events */
export function personAt(window: DOMWindow, clock: Clock, clicksApart = false): Person {
  const before = new WeakMap<Element, string>();
  const typed = new WeakMap<Element, string>();
  let letters = 0;
  const { settle } = clock;

  const fire = (
    element: Element,
    kind: 'Event' | 'InputEvent' | 'KeyboardEvent' | 'MouseEvent' | 'FocusEvent',
    type: string,
    init: object = {},
  ): boolean => {
    const Kind = window[kind] as unknown as new (type: string, init: object) => Event;
    return element.dispatchEvent(new Kind(type, { bubbles: true, cancelable: true, composed: true, ...init }));
  };
  const setValue = (element: HTMLInputElement, value: string): void => {
    const holder =
      element.tagName === 'TEXTAREA'
        ? window.HTMLTextAreaElement
        : element.tagName === 'SELECT'
          ? window.HTMLSelectElement
          : window.HTMLInputElement;
    Object.getOwnPropertyDescriptor(holder.prototype, 'value')?.set?.call(element, value);
  };
  const leave = async (): Promise<void> => {
    const active = window.document.activeElement as HTMLInputElement | null;
    if (!active || active === (window.document.body as HTMLElement)) return;
    const had = before.get(active);
    if (
      had !== undefined &&
      had !== active.value &&
      active.isConnected &&
      !/^(checkbox|radio|file)$/.test(active.type) &&
      active.tagName !== 'SELECT'
    ) {
      before.set(active, active.value);
      fire(active, 'Event', 'change', { cancelable: false });
      await settle();
    }
  };
  const goTo = async (element: HTMLElement): Promise<void> => {
    if (window.document.activeElement === element) return;
    await leave();
    element.focus();
    before.set(element, (element as HTMLInputElement).value ?? '');
    await settle();
  };
  const leaveTo = async (element: HTMLElement): Promise<void> => {
    await leave();
    if (window.document.activeElement === element) element.blur();
    await settle();
  };
  const mouse = async (element: HTMLElement): Promise<void> => {
    fire(element, 'MouseEvent', 'pointerdown');
    const goes = fire(element, 'MouseEvent', 'mousedown');
    const focusable = element.closest<HTMLElement>('button, input, select, textarea, a[href], [tabindex], summary');
    if (goes) {
      if (focusable && !isDisabled(focusable)) await goTo(focusable);
      else {
        await leave();
        (window.document.activeElement as HTMLElement | null)?.blur();
      }
    }
    await settle();
    fire(element, 'MouseEvent', 'pointerup');
    fire(element, 'MouseEvent', 'mouseup');
    await settle();
  };
  const letter = async (element: HTMLInputElement, character: string): Promise<void> => {
    letters += 1;
    const goes = fire(element, 'KeyboardEvent', 'keydown', { key: character });
    if (goes) fire(element, 'KeyboardEvent', 'keypress', { key: character });
    const raw = typed.get(element) ?? element.value;
    const longest = element.maxLength;
    const room = longest === undefined || longest < 0 || raw.length < longest;
    if (goes && room && fire(element, 'InputEvent', 'beforeinput', { data: character, inputType: 'insertText' })) {
      typed.set(element, raw + character);
      setValue(element, raw + character);
      fire(element, 'InputEvent', 'input', { data: character, inputType: 'insertText', cancelable: false });
      await settle();
      // what a handler made of the value is what the next letter comes behind, unless it is half a number
      if (element.type !== 'number' || element.value !== '') typed.set(element, element.value);
    }
    fire(element, 'KeyboardEvent', 'keyup', { key: character });
    await settle();
  };
  const write = async (element: HTMLInputElement, text: string, replace: boolean): Promise<string | null> => {
    if (isDisabled(element)) return 'it is disabled';
    if (element.readOnly) return 'it is read-only';
    await goTo(element);
    if (atOnce.test(element.type)) {
      setValue(element, text);
      letters += 1;
      fire(element, 'InputEvent', 'input', { cancelable: false });
      await settle();
      if (element.type !== 'range') {
        before.set(element, element.value);
        fire(element, 'Event', 'change', { cancelable: false });
      }
      await settle();
      return null;
    }
    typed.set(element, element.value);
    if (replace && element.value !== '') {
      typed.set(element, '');
      setValue(element, '');
      fire(element, 'InputEvent', 'input', { inputType: 'deleteContentBackward', cancelable: false });
      await settle();
      typed.set(element, element.value);
    }
    for (const character of text) await letter(element, character);
    return null;
  };
  const click = async (element: HTMLElement): Promise<string | null> => {
    if (isDisabled(element)) return 'it is disabled';
    await mouse(element);
    if (element.isConnected) element.click();
    await settle();
    return null;
  };
  const choose = async (element: HTMLElement, wanted: string): Promise<string | null> => {
    const select = element as HTMLSelectElement;
    if (select.tagName !== 'SELECT') return 'it has no options';
    if (select.disabled) return 'it is disabled';
    await goTo(select);
    const option =
      [...select.options].find((one) => tidy(one.textContent) === wanted) ??
      [...select.options].find((one) => one.value === wanted);
    if (!option) return `it has no option ${wanted}`;
    if (option.disabled) return `its option ${wanted} is disabled`;
    if (select.multiple) option.selected = !option.selected;
    else for (const one of select.options) one.selected = one === option;
    before.set(select, select.value);
    fire(select, 'InputEvent', 'input', { cancelable: false });
    await settle();
    fire(select, 'Event', 'change', { cancelable: false });
    await settle();
    return null;
  };
  const pick = async (element: HTMLInputElement, name: string): Promise<string | null> => {
    if (isDisabled(element)) return 'it is disabled';
    await goTo(element);
    const file = new window.File(['leaf,count\n7,3\n'], name, { type: 'text/csv', lastModified: 0 });
    const list = {
      0: file,
      length: 1,
      item: (index: number) => (index === 0 ? file : null),
      [Symbol.iterator]: () => [file][Symbol.iterator](),
    };
    Object.setPrototypeOf(list, window.FileList.prototype);
    Object.defineProperty(element, 'files', { value: list, configurable: true, writable: true });
    fire(element, 'InputEvent', 'input', { cancelable: false });
    await settle();
    fire(element, 'Event', 'change', { cancelable: false });
    await settle();
    return null;
  };
  const enter = async (element: HTMLInputElement): Promise<string | null> => {
    await goTo(element);
    const goes =
      fire(element, 'KeyboardEvent', 'keydown', { key: 'Enter' }) &&
      fire(element, 'KeyboardEvent', 'keypress', { key: 'Enter' });
    await settle();
    const { form } = element;
    if (goes && form && element.tagName !== 'TEXTAREA' && element.isConnected) {
      await leave();
      const button = [...form.elements].find((one) =>
        one.matches('button:not([type]), button[type=submit], input[type=submit], input[type=image]'),
      ) as HTMLButtonElement | undefined;
      if (button && !button.disabled) button.click();
      else if (!button && [...form.elements].filter((one) => one.tagName === 'INPUT').length === 1)
        form.requestSubmit();
    }
    await settle();
    if (element.isConnected) fire(element, 'KeyboardEvent', 'keyup', { key: 'Enter' });
    await settle();
    return null;
  };
  const withControl = async (
    name: string,
    act: (control: HTMLInputElement) => Promise<string | null>,
  ): Promise<string | null> => {
    const control = findControl(window, name);
    return control ? act(control) : `there is no control ${name}`;
  };
  const withButton = async (
    name: string,
    act: (button: HTMLElement) => Promise<string | null>,
  ): Promise<string | null> => {
    const button = findButton(window, name) ?? findControl(window, name);
    return button ? act(button) : `there is nothing called ${name}`;
  };

  return {
    letters: () => letters,
    do(step) {
      if ('click' in step) return withButton(step.click, click);
      if ('type' in step) return withControl(step.type[0], (control) => write(control, step.type[1], true));
      if ('keys' in step) return withControl(step.keys[0], (control) => write(control, step.keys[1], false));
      if ('focus' in step) return withControl(step.focus, async (control) => (await goTo(control), null));
      if ('blur' in step) {
        return withControl(step.blur, async (control) => {
          await goTo(control);
          await leaveTo(control);
          return null;
        });
      }
      if ('check' in step) return withControl(step.check, click);
      if ('choose' in step) return withControl(step.choose[0], (control) => choose(control, step.choose[1]));
      if ('file' in step) return withControl(step.file[0], (control) => pick(control, step.file[1]));
      if ('enter' in step) return withControl(step.enter, enter);
      if ('twice' in step) {
        return withButton(step.twice, async (button) => {
          if (isDisabled(button)) return 'it is disabled';
          await mouse(button);
          button.click();
          if (clicksApart) await settle();
          if (button.isConnected) button.click();
          await settle();
          return null;
        });
      }
      if ('wait' in step) return clock.pass(step.wait).then(() => null);
      return settle().then(() => null);
    },
  };
}
