import type { DOMWindow } from 'jsdom';

/** Numbers that look random and are the same at every play. */
function sameNumbers(): () => number {
  let state = 0x2f6e2b1;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/**
 * Gives a page what browsers have and its imitation lacks, and takes chance out of it: random numbers and identifiers
 * are the same in both versions.
 */
export function browserIn(window: DOMWindow): void {
  const random = sameNumbers();
  window.Math.random = random;
  const chance = {
    getRandomValues(list: Uint8Array) {
      for (let index = 0; index < list.length; index++) list[index] = Math.floor(random() * 2 ** 32);
      return list;
    },
    randomUUID() {
      const digits = Array.from({ length: 32 }, () => Math.floor(random() * 16).toString(16)).join('');
      return `${digits.slice(0, 8)}-${digits.slice(8, 12)}-4${digits.slice(13, 16)}-a${digits.slice(17, 20)}-${digits.slice(20)}`;
    },
    subtle: {},
  };
  Object.defineProperty(window, 'crypto', { value: chance, configurable: true });
  // run in the page, so that what they make is the page's own
  window.eval(inPage);
}

const inPage = `
(() => {
  const give = (name, value) => { if (!(name in window)) window[name] = value; };
  const copied = (value, seen) => {
    if (typeof value === 'function' || typeof value === 'symbol')
      throw new DOMException(String(value) + ' could not be cloned.', 'DataCloneError');
    if (typeof value !== 'object' || value === null) return value;
    if (seen.has(value)) return seen.get(value);
    if (value instanceof Date) return new Date(value.getTime());
    if (value instanceof RegExp) return new RegExp(value.source, value.flags);
    if (value instanceof Blob) return value;
    if (ArrayBuffer.isView(value)) return value.slice ? value.slice() : value;
    if (value instanceof Map) {
      const map = new Map(); seen.set(value, map);
      for (const [key, one] of value) map.set(copied(key, seen), copied(one, seen));
      return map;
    }
    if (value instanceof Set) {
      const set = new Set(); seen.set(value, set);
      for (const one of value) set.add(copied(one, seen));
      return set;
    }
    if (value instanceof Error) return Object.assign(new value.constructor(value.message), value);
    const copy = Array.isArray(value) ? [] : {};
    seen.set(value, copy);
    for (const key of Object.keys(value)) copy[key] = copied(value[key], seen);
    return copy;
  };
  give('structuredClone', (value) => copied(value, new Map()));
  class Port extends EventTarget {
    postMessage(data) {
      setTimeout(() => {
        const event = new MessageEvent('message', { data });
        this.other.dispatchEvent(event);
        if (this.other.onmessage) this.other.onmessage(event);
      }, 0);
    }
    start() {}
    close() {}
  }
  give('MessageChannel', class MessageChannel {
    constructor() {
      this.port1 = new Port(); this.port2 = new Port();
      this.port1.other = this.port2; this.port2.other = this.port1;
    }
  });
  give('BroadcastChannel', class BroadcastChannel extends EventTarget { postMessage() {} close() {} });
  give('matchMedia', (media) => Object.assign(new EventTarget(), {
    media, matches: false, onchange: null, addListener() {}, removeListener() {},
  }));
  class Observer { observe() {} unobserve() {} disconnect() {} takeRecords() { return []; } }
  for (const name of ['ResizeObserver', 'IntersectionObserver', 'PerformanceObserver']) give(name, class extends Observer {});
  give('PointerEvent', class PointerEvent extends MouseEvent {});
  give('CSS', { escape: (text) => String(text).replace(/[^\\w-]/g, '\\\\$&'), supports: () => false });
  give('TextEncoder', class TextEncoder {
    encode(text = '') { return Uint8Array.from(unescape(encodeURIComponent(text)), (one) => one.charCodeAt(0)); }
  });
  give('TextDecoder', class TextDecoder {
    decode(bytes = []) { return decodeURIComponent(escape(String.fromCharCode(...bytes))); }
  });
  if (!URL.createObjectURL) { URL.createObjectURL = () => 'blob:form'; URL.revokeObjectURL = () => {}; }
  if (!window.HTMLDialogElement.prototype.showModal) {
    const dialog = window.HTMLDialogElement.prototype;
    dialog.show = dialog.showModal = function () { this.setAttribute('open', ''); };
    dialog.close = function () { this.removeAttribute('open'); this.dispatchEvent(new Event('close')); };
  }
  navigator.clipboard ??= { writeText: () => Promise.resolve(), readText: () => Promise.resolve('') };
  navigator.vibrate ??= () => true;
})();
`;
