import type { PortKind } from '@filaxis/core';
import { wirePoint, type Place } from './tag-geometry';
import type { WirePath } from './wire-route';

/** Colours of the wires, read from the theme. */
export interface WireInks {
  readonly walnut: string;
  readonly hemp: string;
  readonly band: string;
  readonly chevron: string;
  readonly verdigris: string;
  readonly madder: string;
  readonly indigo: string;
  readonly linen: string;
  readonly dot: string;
  readonly woad: string;
}

export function readInks(element: Element): WireInks {
  const style = getComputedStyle(element);
  const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    walnut: ink('walnut'),
    hemp: ink('hemp'),
    band: ink('band'),
    chevron: ink('chevron'),
    verdigris: ink('verdigris'),
    madder: ink('madder'),
    indigo: ink('indigo'),
    linen: ink('linen'),
    dot: ink('dot'),
    woad: ink('woad'),
  };
}

type Brush = CanvasRenderingContext2D;

/** Zoom below which wires lose their texture and carry a glyph instead. */
export const textureZoom = 0.6;

function trace(brush: Brush, path: WirePath): void {
  brush.beginPath();
  brush.moveTo(path[0][0].x, path[0][0].y);
  for (const [, b, c, d] of path) brush.bezierCurveTo(b.x, b.y, c.x, c.y, d.x, d.y);
}

/** Visits places along a wire, `gap` graph pixels apart, with the direction there. */
function along(path: WirePath, gap: number, visit: (place: Place, angle: number, index: number) => void): void {
  const steps = 96;
  let before = path[0][0];
  let left = gap / 2;
  let index = 0;
  for (let i = 1; i <= steps * path.length; i++) {
    const here = wirePoint(path[Math.floor((i - 1) / steps)], (((i - 1) % steps) + 1) / steps);
    const length = Math.hypot(here.x - before.x, here.y - before.y);
    const angle = Math.atan2(here.y - before.y, here.x - before.x);
    for (; left <= length && length > 0; left += gap) {
      const f = left / length;
      visit({ x: before.x + (here.x - before.x) * f, y: before.y + (here.y - before.y) * f }, angle, index++);
    }
    left -= length;
    before = here;
  }
}

/** How each kind of wire looks: told apart by form. */
const textures: Partial<Record<PortKind, (brush: Brush, path: WirePath, inks: WireInks) => void>> = {
  // A twisted cord.
  curves: (brush, path, inks) => {
    brush.strokeStyle = inks.walnut;
    brush.lineWidth = 5.5;
    trace(brush, path);
    brush.stroke();
    brush.strokeStyle = inks.hemp;
    brush.lineWidth = 1.9;
    brush.beginPath();
    // Strands that cross the cord aslant, as they lie in a rope.
    along(path, 4.4, ({ x, y }, angle) => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      brush.moveTo(x - 2.3 * c - 2.1 * s, y - 2.3 * s + 2.1 * c);
      brush.lineTo(x + 2.3 * c + 2.1 * s, y + 2.3 * s - 2.1 * c);
    });
    brush.stroke();
  },
  // A flat band with a herringbone.
  mesh: (brush, path, inks) => {
    brush.strokeStyle = inks.band;
    brush.lineWidth = 9;
    trace(brush, path);
    brush.stroke();
    brush.strokeStyle = inks.chevron;
    brush.lineWidth = 1.3;
    brush.beginPath();
    along(path, 6, ({ x, y }, angle) => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      brush.moveTo(x - 2 * c + 3.2 * s, y - 2 * s - 3.2 * c);
      brush.lineTo(x + 1.4 * c, y + 1.4 * s);
      brush.lineTo(x - 2 * c - 3.2 * s, y - 2 * s + 3.2 * c);
    });
    brush.stroke();
  },
  // A string of beads.
  points: (brush, path, inks) => {
    brush.strokeStyle = inks.verdigris;
    brush.lineWidth = 1;
    trace(brush, path);
    brush.stroke();
    brush.fillStyle = inks.verdigris;
    along(path, 8, ({ x, y }) => {
      brush.beginPath();
      brush.arc(x, y, 2.5, 0, 2 * Math.PI);
      brush.fill();
    });
  },
  // A chain of oval links.
  copies: (brush, path, inks) => {
    brush.strokeStyle = inks.indigo;
    brush.lineWidth = 1.5;
    along(path, 8, ({ x, y }, angle, index) => {
      brush.beginPath();
      brush.ellipse(x, y, 5.4, index % 2 ? 1.2 : 3, angle, 0, 2 * Math.PI);
      brush.stroke();
    });
  },
};

/** A thin thread: numbers and vectors, and wires whose kind is not known yet. */
function thread(brush: Brush, path: WirePath, inks: WireInks): void {
  brush.strokeStyle = inks.madder;
  brush.lineWidth = 1.4;
  trace(brush, path);
  brush.stroke();
}

/** Small signs in the middle of a wire, when it is too small for its texture. */
const glyphs: Partial<Record<PortKind, (brush: Brush) => void>> = {
  curves: (brush) => {
    brush.moveTo(-5, 3);
    brush.bezierCurveTo(-2, -6, 2, 6, 5, -3);
  },
  mesh: (brush) => {
    brush.moveTo(-3, -4);
    brush.lineTo(2, 0);
    brush.lineTo(-3, 4);
  },
  points: (brush) => brush.arc(0, 0, 2.4, 0, 2 * Math.PI),
  copies: (brush) => brush.ellipse(0, 0, 4.5, 2.4, 0, 0, 2 * Math.PI),
};

export function paintWire(brush: Brush, kind: PortKind, path: WirePath, inks: WireInks, zoom: number, chosen: boolean): void {
  brush.lineCap = 'butt';
  if (chosen) {
    brush.strokeStyle = inks.woad;
    brush.lineWidth = 13;
    brush.globalAlpha = 0.35;
    trace(brush, path);
    brush.stroke();
    brush.globalAlpha = 1;
  }
  if (zoom >= textureZoom) {
    (textures[kind] ?? thread)(brush, path, inks);
    return;
  }
  const plain = { curves: inks.walnut, mesh: inks.band, points: inks.verdigris, copies: inks.indigo } as Partial<Record<PortKind, string>>;
  brush.strokeStyle = plain[kind] ?? inks.madder;
  brush.lineWidth = (kind === 'mesh' ? 3 : 1.8) / Math.max(zoom, 0.3);
  trace(brush, path);
  brush.stroke();
  const glyph = glyphs[kind];
  if (!glyph || zoom < 0.28) return;
  const { x, y } = wirePoint(path[Math.floor(path.length / 2)], 0.5);
  brush.save();
  brush.translate(x, y);
  brush.scale(1 / zoom, 1 / zoom);
  brush.fillStyle = inks.linen;
  brush.beginPath();
  brush.arc(0, 0, 8, 0, 2 * Math.PI);
  brush.fill();
  brush.lineWidth = 1.7;
  brush.beginPath();
  glyph(brush);
  brush.stroke();
  brush.restore();
}

/** Dots of the ground, farther apart when zoomed out. */
export function paintGround(brush: Brush, width: number, height: number, pan: Place, zoom: number, inks: WireInks): void {
  let gap = 22 * zoom;
  while (gap < 14) gap *= 2;
  brush.fillStyle = inks.dot;
  const [startX, startY] = [((pan.x % gap) + gap) % gap, ((pan.y % gap) + gap) % gap];
  for (let y = startY; y < height; y += gap) for (let x = startX; x < width; x += gap) brush.fillRect(x - 0.9, y - 0.9, 1.8, 1.8);
}
