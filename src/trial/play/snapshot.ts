import type { DOMWindow } from 'jsdom';
import type { Seen, SeenCall } from '../trace.js';
import { buttonsOf, captionOf, controlsOf, isVisible, labelOf, seenControl, tidy } from './page.js';

const blocks =
  /^(ADDRESS|ARTICLE|ASIDE|BLOCKQUOTE|BODY|BUTTON|CAPTION|DD|DETAILS|DIV|DL|DT|FIELDSET|FIGURE|FOOTER|FORM|H[1-6]|HEADER|HR|LABEL|LEGEND|LI|MAIN|NAV|OL|OPTION|P|PRE|SECTION|SELECT|SUMMARY|TABLE|TBODY|TD|TFOOT|TH|THEAD|TR|UL|TEXTAREA)$/;
const silent = /^(SCRIPT|STYLE|TEMPLATE|NOSCRIPT|OPTION|TEXTAREA)$/;

/** The visible text, a line for each block. */
function visibleLines(root: Element): string[] {
  const lines: string[] = [];
  let line = '';
  const end = (): void => {
    if (tidy(line)) lines.push(tidy(line));
    line = '';
  };
  const visit = (node: Node): void => {
    if (node.nodeType === 3) {
      line += node.nodeValue ?? '';
      return;
    }
    if (node.nodeType !== 1) return;
    const element = node as Element;
    if (silent.test(element.tagName) || !isVisible(element)) return;
    // Angular and Vue wrap components in elements of their own; those are no lines
    const breaks = blocks.test(element.tagName) || element.tagName === 'BR';
    if (breaks) end();
    for (const child of element.childNodes) visit(child);
    if (breaks) end();
  };
  visit(root);
  end();
  return lines;
}

const statusClasses = /^(ng-|_ng|v-|data-v-)/;

function classesOf(root: Element): string[] {
  const found: string[] = [];
  for (const element of root.querySelectorAll('[class]')) {
    if (!isVisible(element)) continue;
    const own = [...element.classList].filter((name) => !statusClasses.test(name)).sort();
    if (own.length) found.push(`${element.tagName.toLowerCase()}.${own.join('.')}`);
  }
  return found;
}

function ariaOf(root: Element): string[] {
  const found: string[] = [];
  for (const element of root.querySelectorAll('*')) {
    const marks = [...element.attributes].filter(
      ({ name, value }) =>
        (name === 'role' || name.startsWith('aria-')) && !(name === 'aria-invalid' && value === 'false'),
    );
    if (marks.length && isVisible(element))
      found.push(
        `${element.tagName.toLowerCase()} ${marks
          .map(({ name, value }) => `${name}="${value}"`)
          .sort()
          .join(' ')}`,
      );
  }
  return found;
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
  return {
    controls: controlsOf(window).map(seenControl),
    buttons: buttonsOf(window).map((button) => ({ label: captionOf(button), disabled: button.matches(':disabled') })),
    text: visibleLines(body),
    classes: classesOf(body),
    aria: ariaOf(body),
    focus:
      activeElement && activeElement !== body
        ? activeElement.matches('button, a')
          ? captionOf(activeElement)
          : labelOf(activeElement)
        : '',
    calls: gathered.calls,
    leftPage: gathered.leftPage,
    complaints: gathered.complaints,
    trouble,
  };
}
