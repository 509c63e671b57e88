import { writeSync } from 'node:fs';
import { JSDOM, VirtualConsole, type DOMWindow } from 'jsdom';
import { clockOf, Endless } from './play/clock.js';
import { explore } from './play/explore.js';
import { buttonsOf, controlsOf } from './play/page.js';
import { personAt } from './play/person.js';
import { renderCounter } from './play/renders.js';
import { look, type Gathered } from './play/snapshot.js';
import { browserIn } from './play/browser.js';
import { stubsIn } from './play/stubs.js';
import type { Step } from './steps.js';
import type { PlayReply, PlayRequest, Trace } from './trace.js';

// The process that plays forms. It reads one request from standard input and writes one reply to a channel of its own.

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
  browserIn(window);
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
  // a form may wait for what it shows
  if (!controlsOf(window).length && !buttonsOf(window).length) await clock.pass(2000);
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
      const lost =
        steps && request.steps ? trace.steps.find(({ seen }) => /^there is /.test(seen.trouble ?? '')) : undefined;
      if (lost && name === 'before')
        return { ok: false, version: name, reason: `a step names nothing that is there: ${lost.seen.trouble ?? ''}` };
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

/** Takes away what could reach out of this process: every kind of socket, name look-ups, native modules. */
async function closeDoors(): Promise<void> {
  const refuse = (): never => {
    throw new Error('a trial has no network');
  };
  const [net, dgram, dns] = await Promise.all([import('node:net'), import('node:dgram'), import('node:dns')]);
  const close = (holder: object, ...names: string[]): void => {
    for (const name of names)
      Object.defineProperty(holder, name, { value: refuse, writable: false, configurable: false });
  };
  close(net.Socket.prototype, 'connect');
  close(net.Server.prototype, 'listen');
  close(dgram.Socket.prototype, 'bind', 'send', 'connect');
  close(dns.default, 'lookup', 'resolve', 'resolve4', 'resolve6', 'reverse', 'setServers');
  close(dns.promises, 'lookup', 'resolve', 'resolve4', 'resolve6', 'reverse');
  close(process, 'dlopen', 'binding', '_linkedBinding', 'getBuiltinModule');
}

/**
 * Keeps a page from making code of this process: functions that the page was handed lead to the constructor of all
 * functions, which would make one that sees everything here.
 */
function closeConstructors(): void {
  const refuse = function (): never {
    throw new Error('a trial makes no code outside of its page');
  };
  const kinds = [() => undefined, async () => undefined, function* () {}, async function* () {}];
  for (const kind of kinds)
    Object.defineProperty(Object.getPrototypeOf(kind), 'constructor', {
      value: refuse,
      writable: false,
      configurable: false,
    });
}

/** The request, the first line of standard input. When that closes before the answer is given, the tool is gone. */
function requested(): Promise<{ secret: string; request: PlayRequest }> {
  return new Promise((resolve) => {
    let text = '';
    process.stdin.setEncoding('utf8');
    process.stdin.on('data', (part: string) => {
      text += part;
      const end = text.indexOf('\n');
      if (end >= 0) resolve(JSON.parse(text.slice(0, end)) as { secret: string; request: PlayRequest });
    });
    process.stdin.on('end', () => process.exit(1));
    process.stdin.on('error', () => process.exit(1));
  });
}

const answerChannel = 3;
const { secret, request } = await requested();
await closeDoors();
closeConstructors();
const reply = await playAll(request);
const bytes = Buffer.from(JSON.stringify({ secret, reply }));
for (let sent = 0; sent < bytes.length;) {
  try {
    sent += writeSync(answerChannel, bytes, sent);
  } catch (error) {
    // the reader is slower than the writer
    if (!(error instanceof Error && 'code' in error && error.code === 'EAGAIN')) throw error;
  }
}
process.exit(0);
