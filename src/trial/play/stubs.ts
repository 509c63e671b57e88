import type { DOMWindow } from 'jsdom';
import type { Answer, RequestAnswer, SeenCall } from '../trace.js';
import { valueText } from './values.js';

/** What a page is given in place of the world: functions that record and answer, and a network that is none. */
export interface Stubs {
  /** Calls since they were last taken. */
  take(): SeenCall[];
}

function errorFrom(window: DOMWindow, fails: NonNullable<Answer['fails']>): object {
  const PageError = window.eval('Error') as ErrorConstructor;
  return Object.assign(new PageError(fails.message), fails);
}

/** What a function answers that nobody spoke of: something after a while, so that waiting is seen; the second call fails. */
function unlisted(count: number): Answer {
  return count === 1 ? { fails: { message: 'the shed did not answer' }, after: 300 } : { after: 300 };
}

/** Puts the stubs into a window: `spy`, `answer`, `fetch`, `XMLHttpRequest`, `alert`, `confirm`, `prompt`. */
export function stubsIn(window: DOMWindow, answers: Record<string, Answer[]>, requests: RequestAnswer[]): Stubs {
  let calls: SeenCall[] = [];
  const record = (name: string, values: readonly unknown[]): void => {
    calls.push({ name, arguments: values.map((value) => valueText(value)) });
  };
  const page = window as unknown as Record<string, unknown>;
  const wait = (milliseconds: number): Promise<void> =>
    new Promise((resolve) => window.setTimeout(resolve, milliseconds));
  const counts = new Map<string, number>();
  const nextAnswer = (name: string): Answer => {
    const list = answers[name] ?? [];
    const count = counts.get(name) ?? 0;
    counts.set(name, count + 1);
    return list[Math.min(count, list.length - 1)] ?? {};
  };
  const PagePromise = window.eval('Promise') as PromiseConstructor;
  const answer = (name: string, fallback?: () => unknown): Promise<unknown> =>
    new PagePromise((resolve, reject) => {
      const listed = answers[name];
      // where nobody said what it answers, it takes a while, and fails once
      const count = counts.get(name) ?? 0;
      const given = listed ? nextAnswer(name) : unlisted(count);
      if (!listed) counts.set(name, count + 1);
      const finish = (): void => {
        if (given.fails) reject(errorFrom(window, given.fails));
        else
          resolve(
            given.gives === undefined ? fallback?.() : (window.JSON.parse(JSON.stringify(given.gives)) as unknown),
          );
      };
      if (given.after === undefined) finish();
      else window.setTimeout(finish, given.after);
    });
  page['spy'] =
    (name: string) =>
    (...values: unknown[]) => {
      record(name, values);
      return name in answers ? answer(name) : undefined;
    };
  page['answer'] = answer;

  const requestAnswer = (url: string): RequestAnswer => {
    const matching = requests.filter((one) => one.url === undefined || url.includes(one.url));
    const key = `request ${matching[0]?.url ?? ''}`;
    const count = counts.get(key) ?? 0;
    counts.set(key, count + 1);
    return matching[Math.min(count, matching.length - 1)] ?? { after: 300 };
  };
  page['fetch'] = async (input: unknown, init: { method?: string; body?: unknown } = {}) => {
    const url = typeof input === 'object' && input !== null && 'url' in input ? String(input.url) : String(input);
    record('fetch', [
      `${(init.method ?? 'GET').toUpperCase()} ${url}`,
      ...(init.body === undefined ? [] : [init.body]),
    ]);
    const given = requestAnswer(url);
    await wait(given.after ?? 20);
    if (given.fails !== undefined) throw errorFrom(window, { message: given.fails });
    const status = given.status ?? 200;
    const text = JSON.stringify(given.json ?? {});
    const body = {
      text: () => PagePromise.resolve(text),
      json: () => PagePromise.resolve(window.JSON.parse(text) as unknown),
    };
    return {
      ok: status >= 200 && status < 300,
      status,
      statusText: '',
      url,
      headers: new window.Headers({ 'content-type': 'application/json' }),
      ...body,
      clone: () => body,
    };
  };
  page['XMLHttpRequest'] = requestClass(window, record, requestAnswer);
  page['alert'] = (text: unknown) => record('alert', [text]);
  page['confirm'] = (text: unknown) => {
    record('confirm', [text]);
    return true;
  };
  page['prompt'] = (text: unknown) => {
    record('prompt', [text]);
    return null;
  };
  window.scrollTo = () => undefined;
  window.Element.prototype.scrollIntoView = () => undefined;
  return {
    take() {
      const taken = calls;
      calls = [];
      return taken;
    },
  };
}

/** A request that never leaves the page; enough of the interface for HTTP clients. */
function requestClass(
  window: DOMWindow,
  record: (name: string, values: unknown[]) => void,
  answerTo: (url: string) => RequestAnswer,
): unknown {
  return class extends window.EventTarget {
    readyState = 0;
    status = 0;
    statusText = '';
    response: unknown = null;
    responseText = '';
    responseType = '';
    responseURL = '';
    withCredentials = false;
    timeout = 0;
    upload = new window.EventTarget();
    onload: ((event: Event) => void) | null = null;
    onerror: ((event: Event) => void) | null = null;
    onreadystatechange: ((event: Event) => void) | null = null;
    private method = 'GET';
    private url = '';
    open(method: string, url: string): void {
      this.method = method;
      this.url = url;
      this.readyState = 1;
    }
    setRequestHeader(): void {
      // headers change no answer
    }
    getAllResponseHeaders(): string {
      return 'content-type: application/json\r\n';
    }
    getResponseHeader(): string {
      return 'application/json';
    }
    overrideMimeType(): void {
      // the answer is JSON
    }
    abort(): void {
      this.readyState = 0;
    }
    send(body?: unknown): void {
      record('request', [
        `${this.method.toUpperCase()} ${this.url}`,
        ...(body === undefined || body === null ? [] : [body]),
      ]);
      const given = answerTo(this.url);
      window.setTimeout(() => {
        this.readyState = 4;
        const failed = given.fails !== undefined;
        this.status = failed ? 0 : (given.status ?? 200);
        this.responseURL = this.url;
        this.responseText = failed ? '' : JSON.stringify(given.json ?? {});
        this.response =
          this.responseType === 'json' ? (JSON.parse(this.responseText || 'null') as unknown) : this.responseText;
        const event = new window.Event(failed ? 'error' : 'load');
        this.onreadystatechange?.(event);
        if (failed) this.onerror?.(event);
        else this.onload?.(event);
        this.dispatchEvent(event);
        this.dispatchEvent(new window.Event('loadend'));
      }, given.after ?? 20);
    }
  };
}
