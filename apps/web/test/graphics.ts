/** Graphics for a test to play: three.js as it is, but for what asks the graphics card (`vi.mock('three', …)` with `fakeGraphics`). */
import type * as Three from 'three';
import type { Camera, Mesh, Object3D, Scene, Texture } from 'three';
import { vi } from 'vitest';

/** What was drawn, as it was then. */
export interface DrawnFrame {
  readonly seen: readonly Object3D[];
  readonly camera: Camera;
  readonly view: { readonly fullWidth: number; readonly offsetX: number; readonly offsetY: number; readonly width: number; readonly height: number } | null;
  readonly position: readonly number[];
  readonly size: readonly [width: number, height: number, ratio: number];
}

/** The renderer, which remembers what it was asked to draw. */
export class FakeRenderer {
  static newest: FakeRenderer;
  readonly frames: DrawnFrame[] = [];
  readonly shadowMap = { enabled: false };
  localClippingEnabled = false;
  toneMapping = 0;
  readonly properties = { get: (): object => ({}) };
  readonly domElement: unknown;
  size: [number, number, number] = [0, 0, 1];
  disposed = false;

  constructor(readonly given: { readonly canvas: unknown; readonly antialias?: boolean }) {
    this.domElement = given.canvas;
    FakeRenderer.newest = this;
  }

  getContext(): object {
    return { fenceSync: () => null };
  }
  setPixelRatio(ratio: number): void {
    this.size = [this.size[0], this.size[1], ratio];
  }
  setSize(width: number, height: number): void {
    this.size = [width, height, this.size[2]];
  }
  setRenderTarget(): void {}
  render(scene: Scene, camera: Camera): void {
    const seen: Object3D[] = [];
    scene.traverseVisible((each) => void ((each as Mesh).geometry && seen.push(each)));
    const { view } = camera as unknown as { view: (DrawnFrame['view'] & { enabled: boolean }) | null };
    this.frames.push({ seen, camera, view: view?.enabled ? { ...view } : null, position: camera.position.toArray(), size: [...this.size] });
  }
  dispose(): void {
    this.disposed = true;
  }
}

/** Maps of surroundings that were made. */
export const surroundingsMade: Texture[] = [];

/** What stands in for the graphics card in three.js (which is given, since this must not wait for what it is part of). */
export const fakeGraphics = (three: typeof Three): object => ({
  WebGLRenderer: FakeRenderer,
  PMREMGenerator: class {
    fromEquirectangular(): { texture: Texture } {
      const texture = new three.Texture();
      surroundingsMade.push(texture);
      return { texture };
    }
    dispose(): void {}
  },
});

/** A canvas that takes everything. */
export class FakeCanvas extends EventTarget {
  width = 0;
  height = 0;
  readonly style: Record<string, string> = {};
  /** What was drawn onto it: whose picture, from where. */
  readonly pasted: unknown[][] = [];
  /** Private, so that nothing prints it: it has every property. */
  readonly #brush = new Proxy({} as Record<string, unknown>, {
    get: (own, name: string) => {
      if (name in own) return own[name];
      return (...given: unknown[]) => {
        if (name === 'drawImage') this.pasted.push(given);
        if (name === 'fillRect') this.pasted.push(['fill', ...given]);
        return name === 'measureText' ? { width: 40 } : { addColorStop: () => undefined };
      };
    },
  });
  getContext(kind: string): unknown {
    return kind === '2d' ? this.#brush : null;
  }
  toBlob(done: (blob: Blob | null) => void): void {
    done(new Blob([`${this.width} × ${this.height}`], { type: 'image/png' }));
  }
}

/** What the page has that Node has not. `frame` draws what waits for the next frame. */
export function stubPage({ smooth = true, still = true, ratio = 1 } = {}): { canvases: FakeCanvas[]; frame: () => void } {
  const canvases: FakeCanvas[] = [];
  let waiting: { id: number; call: (now: number) => void }[] = [];
  let last = 0;
  vi.stubGlobal('document', {
    hidden: false,
    createElement: () => {
      const made = new FakeCanvas();
      canvases.push(made);
      return made;
    },
  });
  vi.stubGlobal('localStorage', { getItem: (key: string) => (key === 'filaxis-still' ? (still ? null : 'off') : smooth ? 'on' : 'off') });
  vi.stubGlobal('devicePixelRatio', ratio);
  vi.stubGlobal('requestAnimationFrame', (call: (now: number) => void) => (waiting.push({ id: ++last, call }), last));
  vi.stubGlobal('cancelAnimationFrame', (id: number) => void (waiting = waiting.filter((each) => each.id !== id)));
  const frame = (): void => {
    const now = waiting;
    waiting = [];
    for (const { call } of now) call(performance.now());
  };
  return { canvases, frame };
}
