import { webcrypto } from 'node:crypto';
import { TextDecoder, TextEncoder } from 'node:util';

// What this application and Vuetify ask of a browser and jsdom lacks. Nothing here lays anything out: what depends on layout is tested in the browser.
Object.assign(globalThis, { TextDecoder, TextEncoder });
globalThis.crypto.randomUUID ??= () => webcrypto.randomUUID();
class NothingObserved {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.CSS ??= { supports: () => false, escape: (text) => text };
globalThis.ResizeObserver ??= NothingObserved;
globalThis.IntersectionObserver ??= NothingObserved;
globalThis.visualViewport ??= new EventTarget();
globalThis.matchMedia ??= () => ({ matches: false, addEventListener() {}, removeEventListener() {} });

// Workers answer nothing here: tests that need what they compute run it in their own thread.
globalThis.Worker ??= class {
  addEventListener() {}
  removeEventListener() {}
  postMessage() {}
  terminate() {}
};

// One window, which keeps nothing and hears nothing: tests of saving bring what they need (stores/testing/browser.ts).
globalThis.EventSource ??= class {
  addEventListener() {}
  close() {}
};
globalThis.navigator ??= {};
globalThis.navigator.locks ??= { request: async (name, options, act) => act?.({}) };
