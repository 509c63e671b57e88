import type { DOMWindow } from 'jsdom';
import type { SeenControl } from '../trace.js';

/** Text with its white space as a person sees it. */
export function tidy(text: string | null | undefined): string {
  return (text ?? '').replace(/\s+/g, ' ').trim();
}

/** Whether an element hides itself, and what is inside of it. */
function hides(element: Element): boolean {
  if (element.hasAttribute('hidden') || element.tagName === 'TEMPLATE') return true;
  if (element.tagName === 'DIALOG' && !element.hasAttribute('open')) return true;
  const style = element.hasAttribute('style') ? (element as HTMLElement).style : undefined;
  return style !== undefined && (style.display === 'none' || style.visibility === 'hidden');
}

/**
 * Calls back for an element and every element inside of it that a person can see, in order.
 * @param visit is given a function that goes on to what is inside
 * @param read is given each text
 */
export function visitVisible(
  element: Element,
  visit: (one: Element, inside: () => void) => void,
  read?: (text: string) => void,
): void {
  if (hides(element)) return;
  const isClosed = element.tagName === 'DETAILS' && !element.hasAttribute('open');
  visit(element, () => {
    for (let child = element.firstChild; child; child = child.nextSibling) {
      if (child.nodeType === 3) {
        if (!isClosed) read?.(child.nodeValue ?? '');
      } else if (child.nodeType === 1 && (!isClosed || (child as Element).tagName === 'SUMMARY'))
        visitVisible(child as Element, visit, read);
    }
  });
}

/** The elements of a page that a person can see, in order. */
function visibleElements({ document }: DOMWindow): Element[] {
  const found: Element[] = [];
  visitVisible(document.body, (element, inside) => {
    found.push(element);
    inside();
  });
  return found;
}

const pressed = /^(submit|button|reset|image)$/i;

/** Whether an element holds a value. */
export function isControl(element: Element): element is HTMLInputElement {
  const { tagName } = element;
  if (tagName === 'INPUT') {
    const type = element.getAttribute('type') ?? '';
    return !pressed.test(type) && !/^hidden$/i.test(type);
  }
  if (tagName === 'SELECT' || tagName === 'TEXTAREA' || element.getAttribute('contenteditable') === 'true') return true;
  return /^(spinbutton|switch|slider)$/.test(element.getAttribute('role') ?? '');
}

/** Whether an element does something when it is pressed. */
export function isButton(element: Element): element is HTMLButtonElement {
  const { tagName } = element;
  if (tagName === 'BUTTON' || tagName === 'SUMMARY') return true;
  if (tagName === 'INPUT' && pressed.test(element.getAttribute('type') ?? '')) return true;
  return (tagName === 'A' && element.hasAttribute('href')) || element.getAttribute('role') === 'button';
}

/** Whether a control or a button takes nothing: by itself, or because its group does not. */
export function isDisabled(element: Element): boolean {
  if (!/^(BUTTON|INPUT|SELECT|TEXTAREA|FIELDSET)$/.test(element.tagName)) return false;
  if (element.hasAttribute('disabled')) return true;
  for (let node = element.parentElement, child: Element = element; node; child = node, node = node.parentElement) {
    if (node.tagName !== 'FIELDSET' || !node.hasAttribute('disabled')) continue;
    // the first legend of a group stays as it is
    const isLegend = child.tagName === 'LEGEND' && [...node.children].find((one) => one.tagName === 'LEGEND') === child;
    if (!isLegend) return true;
  }
  return false;
}

/** The controls of a page that a person can see, in order. */
export function controlsOf(window: DOMWindow): HTMLInputElement[] {
  return visibleElements(window).filter(isControl);
}

/** The buttons of a page that a person can see, in order. */
export function buttonsOf(window: DOMWindow): HTMLButtonElement[] {
  return visibleElements(window).filter(isButton);
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
    ownName(control) ||
    control.id ||
    control.tagName.toLowerCase()
  );
}

/** The name that the author gave a control; a form over a signal writes it with a number of its own in front. */
function ownName(control: Element): string | null {
  return control.getAttribute('name')?.replace(/^ng\.form\d+\./, '') ?? null;
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
      [control.getAttribute('aria-label'), control.getAttribute('placeholder'), ownName(control)].some(
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
    visibleElements(window)
      .slice(1)
      .findLast((element): element is HTMLElement => sameWords(tidy(element.textContent), wanted));
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
    disabled: isDisabled(control),
  };
}
