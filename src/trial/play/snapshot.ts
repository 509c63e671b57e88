import type { DOMWindow } from 'jsdom';
import type { Seen, SeenCall } from '../trace.js';
import { captionOf, isButton, isControl, isDisabled, labelOf, seenControl, tidy, visitVisible } from './page.js';

const blocks =
  /^(ADDRESS|ARTICLE|ASIDE|BLOCKQUOTE|BODY|BUTTON|CAPTION|DD|DETAILS|DIV|DL|DT|FIELDSET|FIGURE|FOOTER|FORM|H[1-6]|HEADER|HR|LABEL|LEGEND|LI|MAIN|NAV|OL|OPTION|P|PRE|SECTION|SELECT|SUMMARY|TABLE|TBODY|TD|TFOOT|TH|THEAD|TR|UL|TEXTAREA)$/;
const silent = /^(SCRIPT|STYLE|TEMPLATE|NOSCRIPT|OPTION|TEXTAREA)$/;

const statusClasses = /^(ng-|_ng|v-|data-v-)/;

/** What there is to be seen of a page: its controls and buttons, its text in lines, its classes and marks. */
interface View {
  controls: HTMLInputElement[];
  buttons: HTMLButtonElement[];
  text: string[];
  classes: string[];
  aria: string[];
}

function viewOf(body: HTMLElement): View {
  const view: View = { controls: [], buttons: [], text: [], classes: [], aria: [] };
  let line = '';
  let silence = 0;
  const end = (): void => {
    if (tidy(line)) view.text.push(tidy(line));
    line = '';
  };
  visitVisible(
    body,
    (element, inside) => {
      if (isControl(element)) view.controls.push(element);
      if (isButton(element)) view.buttons.push(element);
      noteAttributes(element, view);
      const isSilent = silent.test(element.tagName);
      // Angular and Vue wrap components in elements of their own; those are no lines
      const breaks = !isSilent && silence === 0 && (blocks.test(element.tagName) || element.tagName === 'BR');
      if (breaks) end();
      if (isSilent) silence += 1;
      inside();
      if (isSilent) silence -= 1;
      if (breaks) end();
    },
    (text) => {
      if (silence === 0) line += text;
    },
  );
  end();
  return view;
}

/** Classes that are not those of a framework, roles and marks for assistive technology. */
function noteAttributes(element: Element, { classes, aria }: View): void {
  const names = element.getAttributeNames();
  if (!names.length) return;
  const tag = element.tagName.toLowerCase();
  if (names.includes('class')) {
    const own = [...element.classList].filter((name) => !statusClasses.test(name)).sort();
    if (own.length) classes.push(`${tag}.${own.join('.')}`);
  }
  const marks = names
    .filter((name) => name === 'role' || name.startsWith('aria-'))
    .map((name) => [name, element.getAttribute(name) ?? ''])
    .filter(([name, value]) => !(name === 'aria-invalid' && value === 'false'))
    .map(([name, value]) => `${name ?? ''}="${value ?? ''}"`);
  if (marks.length) aria.push(`${tag} ${marks.sort().join(' ')}`);
}

/** What a page gathers between two looks. */
export interface Gathered {
  calls: SeenCall[];
  leftPage: boolean;
  complaints: string[];
}

/** Looks at a page; what was gathered since the last look goes along. */
export function look(window: DOMWindow, gathered: Gathered, trouble: string | null): Seen {
  const { body, activeElement } = window.document;
  const { controls, buttons, ...words } = viewOf(body);
  return {
    controls: controls.map(seenControl),
    buttons: buttons.map((button) => ({ label: captionOf(button), disabled: isDisabled(button) })),
    ...words,
    focus:
      activeElement && activeElement !== body
        ? /^(BUTTON|A)$/.test(activeElement.tagName)
          ? captionOf(activeElement)
          : labelOf(activeElement)
        : '',
    calls: gathered.calls,
    leftPage: gathered.leftPage,
    complaints: gathered.complaints,
    trouble,
  };
}
