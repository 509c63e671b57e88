import { readFileSync } from 'node:fs';
import { JSDOM, VirtualConsole, type DOMWindow } from 'jsdom';
import { clockOf, Endless } from './play/clock.js';
import { explore } from './play/explore.js';
import { personAt } from './play/person.js';
import { renderCounter } from './play/renders.js';
import { look, type Gathered } from './play/snapshot.js';
import { stubsIn } from './play/stubs.js';
import type { Step } from './steps.js';
import type { PlayReply, PlayRequest, Trace } from './trace.js';

// The process that plays forms. It reads one request from standard input and writes one reply to standard output.

/** Steps beyond this are not played: a page that keeps growing would never end. */
const mostSteps = 400;

function complaintText(values: readonly unknown[]): string {
  const [first, ...rest] = values;
  let text =
    typeof first === 'string'
      ? first
      : first instanceof Error || (typeof first === 'object' && first !== null && 'message' in first)
        ? String((first as Error).message)
        : String(first);
  for (const value of rest) {
    const given =
      typeof value === 'object' && value !== null && 'message' in value ? String(value.message) : String(value);
    text = /%[sdoOc]/.test(text) ? text.replace(/%[sdoOc]/, () => given) : text;
  }
  return text.split('\n')[0]?.trim() ?? '';
}

interface Page {
  window: DOMWindow;
  gathered: Gathered;
  complain(text: string): void;
}

function openPage(): Page {
  const gathered: Gathered = { calls: [], leftPage: false, complaints: [] };
  const complain = (text: string): void => {
    if (text && !/Download the React DevTools|development mode/.test(text)) gathered.complaints.push(text);
  };
  const virtualConsole = new VirtualConsole();
  virtualConsole.on('error', (...values: unknown[]) => complain(complaintText(values)));
  virtualConsole.on('warn', (...values: unknown[]) => complain(complaintText(values)));
  virtualConsole.on('jsdomError', (error: Error & { type?: string }) => {
    if (/Not implemented/.test(error.message)) return;
    complain(`uncaught: ${error.message.replace(/^Uncaught \[?|\]$/g, '').split('\n')[0] ?? ''}`);
  });
  const dom = new JSDOM('<!doctype html><html><body><div id="root"></div><app-root></app-root></body></html>', {
    runScripts: 'outside-only',
    pretendToBeVisual: true,
    url: 'http://form.example/',
    virtualConsole,
  });
  return { window: dom.window, gathered, complain };
}

async function play(bundle: string, request: PlayRequest, steps: Step[] | undefined): Promise<Trace> {
  const { window, gathered, complain } = openPage();
  const clock = clockOf(window, (error) =>
    complain(`uncaught: ${error instanceof Error ? error.message : complaintText([error])}`),
  );
  const stubs = stubsIn(window, request.answers, request.requests);
  const renders = renderCounter(window);
  window.addEventListener('submit', (event) => {
    if (event.defaultPrevented) return;
    gathered.leftPage = true;
    event.preventDefault();
  });
  window.addEventListener('unhandledrejection', (event) =>
    complain(`uncaught: ${complaintText([(event as PromiseRejectionEvent).reason])}`),
  );
  rejections.now = (reason) => complain(`uncaught: ${complaintText([reason])}`);
  window.eval(bundle);
  await clock.pass(50);
  const person = personAt(window, clock, request.hints.clicksApart);
  const trace: Trace = { steps: [], renders: null };
  let typedRenders = 0;
  let typedLetters = 0;
  const perform = async (step: Step): Promise<void> => {
    const [rendersBefore, lettersBefore] = [renders.count(), person.letters()];
    const trouble = await person.do(step);
    await clock.pass(10);
    if ('type' in step || 'keys' in step) {
      typedLetters += person.letters() - lettersBefore;
      typedRenders += renders.count() - rendersBefore;
    }
    gathered.calls = stubs.take();
    trace.steps.push({ step, seen: look(window, { ...gathered }, trouble) });
    gathered.leftPage = false;
    gathered.complaints = [];
  };
  if (steps) {
    await perform({ look: 'the first view' });
    for (const step of steps) await perform(step);
  } else {
    for (const step of explore(window, request.hints)) {
      await perform(step);
      if (trace.steps.length >= mostSteps) break;
    }
  }
  if (renders.count() > 0 && typedLetters > 0) trace.renders = Math.round((typedRenders / typedLetters) * 100) / 100;
  window.close();
  return trace;
}

const rejections: { now: (reason: unknown) => void } = { now: () => undefined };
process.on('unhandledRejection', (reason) => rejections.now(reason));
process.on('uncaughtException', (error) => rejections.now(error));

async function playAll(request: PlayRequest): Promise<PlayReply> {
  const traces: Extract<PlayReply, { ok: true }>['traces'] = [];
  let { steps } = request;
  for (const { name, bundle } of request.versions) {
    process.stderr.write(`playing ${name}\n`);
    try {
      const trace = await play(bundle, request, steps);
      const failed = trace.steps[0]?.seen;
      if (failed && !failed.controls.length && !failed.buttons.length) {
        const why = failed.complaints[0] ?? 'it shows no control and no button';
        return { ok: false, version: name, reason: `it cannot be shown: ${why}` };
      }
      traces.push({ name, trace });
      steps ??= trace.steps.slice(1).map(({ step }) => step);
    } catch (error) {
      const reason =
        error instanceof Endless
          ? error.message
          : `it cannot be shown: ${error instanceof Error ? error.message : String(error)}`;
      return { ok: false, version: name, reason };
    }
  }
  return { ok: true, traces };
}

/** Takes away what could reach out of this process. */
async function closeDoors(): Promise<void> {
  const net = await import('node:net');
  net.Socket.prototype.connect = function connect(): never {
    throw new Error('a trial has no network');
  };
}

const request = JSON.parse(readFileSync(0, 'utf8')) as PlayRequest;
await closeDoors();
const reply = await playAll(request);
process.stdout.write(JSON.stringify(reply), () => process.exit(0));
