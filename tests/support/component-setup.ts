/** What components use of a browser and jsdom has not. */
import { TextDecoder, TextEncoder } from 'node:util';

Object.assign(globalThis, {
  TextEncoder,
  TextDecoder,
  structuredClone: globalThis.structuredClone ?? ((data: unknown) => JSON.parse(JSON.stringify(data)) as unknown),
});

class NoObserver {
  observe(): void {
    // Nothing has a size here.
  }
  unobserve(): void {
    // Nothing has a size here.
  }
  disconnect(): void {
    // Nothing has a size here.
  }
}
/** Nothing is told by a server, or by other tabs. */
class NoChannel extends EventTarget {
  postMessage(): void {
    // Nobody listens.
  }
  close(): void {
    // There is nothing to close.
  }
}
// Ids of records are letters and digits.
Object.assign(globalThis, { BroadcastChannel: NoChannel, ResizeObserver: NoObserver, CSS: { escape: (text: string) => text } });
// Another tab listens to the server.
Object.defineProperty(navigator, 'locks', { value: { request: () => new Promise(() => undefined) } });
Element.prototype.scrollIntoView = () => undefined;
// The editor asks where its letters are.
Range.prototype.getClientRects = () => Object.assign([], { item: () => null });
Range.prototype.getBoundingClientRect = () => new DOMRect();
globalThis.DOMRect ??= class {
  x = 0;
  y = 0;
  width = 0;
  height = 0;
  top = 0;
  right = 0;
  bottom = 0;
  left = 0;
  toJSON = () => ({});
  static fromRect = () => new DOMRect();
};
