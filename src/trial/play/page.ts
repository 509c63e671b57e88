import type { DOMWindow } from 'jsdom';
import type { SeenControl } from '../trace.js';

const controlSelector =
  'input:not([type=submit]):not([type=button]):not([type=reset]):not([type=image]):not([type=hidden]), select, textarea, [contenteditable=true], [role=spinbutton], [role=switch], [role=slider]';
const buttonSelector =
  'button, input[type=submit], input[type=button], input[type=reset], input[type=image], [role=button], summary, a[href]';

/** Text with its white space as a person sees it. */
export function tidy(text: string | null | undefined): string {
  return (text ?? '').replace(/\s+/g, ' ').trim();
}

/** Whether an element is there to be seen: no ancestor is hidden. */
export function isVisible(element: Element): boolean {
  for (let node: Element | null = element; node; node = node.parentElement) {
    if (node.hasAttribute('hidden') || node.tagName === 'TEMPLATE') return false;
    const style = node.hasAttribute('style') ? (node as HTMLElement).style : undefined;
    if (style && (style.display === 'none' || style.visibility === 'hidden')) return false;
    if (node.tagName === 'DETAILS' && !node.hasAttribute('open') && node !== element && !element.closest('summary'))
      return false;
    if (node.tagName === 'DIALOG' && !node.hasAttribute('open')) return false;
  }
  return true;
}

/** The controls of a page that a person can see, in order. */
export function controlsOf(window: DOMWindow): HTMLInputElement[] {
  return [...window.document.querySelectorAll<HTMLInputElement>(controlSelector)].filter(isVisible);
}

/** The buttons of a page that a person can see, in order. */
export function buttonsOf(window: DOMWindow): HTMLButtonElement[] {
  return [...window.document.querySelectorAll<HTMLButtonElement>(buttonSelector)].filter(isVisible);
}

/** Words of an element without those of the controls inside it. */
function ownWords(element: Element): string {
  const words = (node: Node): string => {
    if (node.nodeType === 3) return node.nodeValue ?? '';
    if (/^(SELECT|TEXTAREA|INPUT|BUTTON)$/.test(node.nodeName)) return '';
    return [...node.childNodes].map(words).join('');
  };
  return tidy(words(element));
}

/** What a person calls a control. */
export function labelOf(control: Element): string {
  const page = control.ownerDocument;
  const named = control
    .getAttribute('aria-labelledby')
    ?.split(/\s+/)
    .map((id) => tidy(page.getElementById(id)?.textContent))
    .filter(Boolean)
    .join(' ');
  const labels = (control as HTMLInputElement).labels;
  const label = labels?.length ? [...labels].map(ownWords).filter(Boolean).join(' ') : '';
  return (
    named ||
    control.getAttribute('aria-label') ||
    label ||
    control.getAttribute('placeholder') ||
    control.getAttribute('name') ||
    control.id ||
    control.tagName.toLowerCase()
  );
}

/** The words on a button. */
export function captionOf(button: Element): string {
  return (
    button.getAttribute('aria-label') ||
    tidy(button.textContent) ||
    (button as HTMLInputElement).value ||
    button.getAttribute('title') ||
    button.id ||
    ''
  );
}

function sameWords(a: string, b: string): boolean {
  const bare = (text: string): string =>
    text
      .replace(/[\s:*]+/g, ' ')
      .trim()
      .toLowerCase();
  return bare(a) === bare(b);
}

/** Finds a control by label, aria-label, placeholder, name or id, or by its place `#0`. */
export function findControl(window: DOMWindow, wanted: string): HTMLInputElement | undefined {
  const controls = controlsOf(window);
  const place = /^#(\d+)$/.exec(wanted)?.[1];
  if (place !== undefined) return controls[Number(place)];
  const byId = window.document.getElementById(wanted);
  return (
    controls.find((control) => sameWords(labelOf(control), wanted)) ??
    controls.find((control) =>
      [...(control.labels ?? [])].some((label) => sameWords(tidy(label.textContent), wanted)),
    ) ??
    controls.find((control) =>
      [control.getAttribute('aria-label'), control.getAttribute('placeholder'), control.getAttribute('name')].some(
        (text) => text !== null && sameWords(text, wanted),
      ),
    ) ??
    controls.find((control) => control === byId) ??
    controls.find((control) => labelOf(control).toLowerCase().startsWith(wanted.toLowerCase()))
  );
}

/** Finds a button by its words or id. */
export function findButton(window: DOMWindow, wanted: string): HTMLElement | undefined {
  const buttons = buttonsOf(window);
  const place = /^button #(\d+)$/.exec(wanted)?.[1];
  if (place !== undefined) return buttons[Number(place)];
  const everything = (): HTMLElement | undefined =>
    [...window.document.querySelectorAll<HTMLElement>('body *')]
      .filter(isVisible)
      .reverse()
      .find((element) => sameWords(tidy(element.textContent), wanted));
  return (
    buttons.find((button) => sameWords(captionOf(button), wanted)) ??
    buttons.find((button) => button.id === wanted) ??
    buttons.find((button) => captionOf(button).toLowerCase().startsWith(wanted.toLowerCase())) ??
    everything()
  );
}

/** A control as a person meets it. */
export function seenControl(control: HTMLInputElement): SeenControl {
  const ticks = control.type === 'checkbox' || control.type === 'radio';
  const select = control.tagName === 'SELECT' ? (control as unknown as HTMLSelectElement) : undefined;
  const value = select
    ? [...select.options]
        .filter((option) => option.selected)
        .map((option) => tidy(option.textContent))
        .join(' | ')
    : control.type === 'file'
      ? [...(control.files ?? [])].map((file) => file.name).join(' | ')
      : ticks
        ? ''
        : (control.value ?? tidy(control.textContent));
  return {
    label: labelOf(control),
    tag: control.tagName.toLowerCase(),
    type: control.type ?? '',
    value,
    checked: ticks ? control.checked : null,
    disabled: control.matches(':disabled'),
  };
}
