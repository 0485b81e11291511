/** What jsdom lacks: text coders, sizes for the virtual list, media queries, and a way to watch sizes. */
import { TextDecoder, TextEncoder } from 'node:util';
import { configure } from '@testing-library/dom';

// what is waited for comes later on a machine that does other work beside
configure({ asyncUtilTimeout: 10_000 });

class NoResize {
  observe() {}
  unobserve() {}
  disconnect() {}
}

Object.assign(globalThis, { TextDecoder, TextEncoder, ResizeObserver: NoResize });
Object.defineProperties(HTMLElement.prototype, {
  clientHeight: { get: () => 700, configurable: true },
  clientWidth: { get: () => 800, configurable: true },
});
Element.prototype.scrollIntoView = () => undefined;
Element.prototype.scrollTo = () => undefined;
window.matchMedia = (media: string) =>
  ({ matches: false, media, addEventListener() {}, removeEventListener() {} }) as unknown as MediaQueryList;
