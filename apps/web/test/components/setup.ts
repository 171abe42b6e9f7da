import { vi } from 'vitest';
import { FakeWorker } from '../services';

// What jsdom does not have.
globalThis.ResizeObserver ??= class {
  constructor(private readonly seen: ResizeObserverCallback) {}
  observe(target: Element): void {
    // Every pane is of one size.
    this.seen([{ contentRect: { width: 800, height: 600 }, target } as unknown as ResizeObserverEntry], this);
  }
  unobserve(): void {}
  disconnect(): void {}
};
Element.prototype.setPointerCapture = (): void => undefined;
Element.prototype.releasePointerCapture = (): void => undefined;
Element.prototype.scrollIntoView = (): void => undefined;
// A list that shows only what is in sight asks how high it is.
for (const [name, size] of [
  ['clientWidth', 800],
  ['clientHeight', 600],
] as const)
  Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => size });
HTMLCanvasElement.prototype.getContext = (): null => null;
vi.stubGlobal('Worker', FakeWorker);
vi.stubGlobal('crossOriginIsolated', false);
vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener: () => undefined, addListener: () => undefined, removeListener: () => undefined, removeEventListener: () => undefined })); // prettier-ignore
