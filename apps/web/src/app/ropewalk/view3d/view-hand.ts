import type { Vector3 } from 'three';
import type { LightHand } from './light-hand';
import { gripOf, type DragUse, type Habits } from './mouse-habits';
import type { Stage } from './stage';

/** A point of the view, −1…1 both ways. */
export interface ViewPoint {
  readonly x: number;
  readonly y: number;
}

export interface ViewHandParts {
  readonly stage: () => Pick<Stage, 'orbit' | 'sight' | 'placeAt'> | null;
  readonly pane: () => HTMLElement;
  readonly light: LightHand;
  /** What buttons and wheel do. */
  readonly habits: () => Habits;
  /** The pointer is over a point, or has left. */
  readonly hover: (at: ViewPoint | null) => void;
  /** A press without a drag. */
  readonly click: (at: ViewPoint, event: PointerEvent) => void;
  /** The camera was moved, and rests. */
  readonly moved: () => void;
}

/** How far the pointer goes before it is a drag, pixels. */
const dragFrom = 3;
/** How much nearer a pixel of a drag goes, as an exponent. */
const nearPerPixel = 0.006;
/** How far an arrow key goes, pixels of a drag. */
const keyStep = 24;

/** Pointer, wheel and keys over the 3D view: they move the camera, or turn the light while its key is held. */
export class ViewHand {
  private drag: { readonly x: number; readonly y: number; readonly use: DragUse; readonly about: Vector3 | null; readonly moved: boolean } | null = null;

  constructor(private readonly parts: ViewHandParts) {}

  private at(event: MouseEvent): ViewPoint {
    const { left, top, width, height } = this.parts.pane().getBoundingClientRect();
    return { x: ((event.clientX - left) / width) * 2 - 1, y: 1 - ((event.clientY - top) / height) * 2 };
  }

  down(event: PointerEvent): void {
    const { stage, light, hover, habits } = this.parts;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const use = habits()[gripOf(event)];
    hover(null);
    const { x, y } = this.at(event);
    const now = stage();
    const needed = now && !light.held() && (use === 'zoom' || (use === 'turn' && habits().about === 'pointer'));
    const about = needed ? now.placeAt(x, y) : null;
    if (use === 'turn') now?.orbit.turnAbout(about);
    this.drag = { x: event.clientX, y: event.clientY, use, about, moved: false };
  }

  move(event: PointerEvent): void {
    const { drag } = this;
    const { stage, light, hover, pane } = this.parts;
    if (!drag) return hover(this.at(event));
    const [dx, dy] = [event.clientX - drag.x, event.clientY - drag.y];
    if (!drag.moved && Math.hypot(dx, dy) < dragFrom) return;
    const orbit = stage()?.orbit;
    const { clientHeight } = pane();
    if (light.held()) light.turn(dx);
    else if (drag.use === 'slide') orbit?.slide(dx, dy, clientHeight);
    else if (drag.use === 'turn') orbit?.turn(dx, dy, clientHeight);
    else if (drag.use === 'zoom') orbit?.zoom(Math.exp(dy * nearPerPixel), drag.about ?? orbit.target.clone());
    this.drag = { ...drag, x: event.clientX, y: event.clientY, moved: true };
  }

  up(event: PointerEvent): void {
    const { drag } = this;
    this.drag = null;
    if (drag?.moved) this.parts.moved();
    else if (drag) this.parts.click(this.at(event), event);
  }

  wheel(event: WheelEvent): void {
    event.preventDefault();
    const stage = this.parts.stage();
    if (!stage) return;
    const { x, y } = this.at(event);
    const sign = this.parts.habits().wheel === 'nearer' ? 1 : -1;
    stage.orbit.zoom(Math.exp(sign * event.deltaY * (event.deltaMode ? 0.05 : 0.0012)), stage.placeAt(x, y) ?? stage.sight.atDepthOf(stage.orbit.target, x, y));
    this.parts.moved();
  }

  key(event: KeyboardEvent): void {
    const orbit = this.parts.stage()?.orbit;
    if (!orbit) return;
    const moves: Record<string, readonly [number, number]> = {
      ArrowLeft: [keyStep, 0],
      ArrowRight: [-keyStep, 0],
      ArrowUp: [0, keyStep],
      ArrowDown: [0, -keyStep],
    };
    const move = moves[event.key];
    const { clientHeight } = this.parts.pane();
    if (move) {
      event.preventDefault();
      orbit.turnAbout(null);
      if (event.shiftKey) orbit.slide(...move, clientHeight);
      else orbit.turn(...move, clientHeight);
    } else if (event.key === '+' || event.key === '-') orbit.zoom(event.key === '+' ? 0.85 : 1.18, orbit.target.clone());
    else return;
    event.stopPropagation();
  }
}
