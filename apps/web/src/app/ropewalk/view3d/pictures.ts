import { Vector3 } from 'three';
import { type DrawPicture, type Stage } from './stage';
import { plainOptions } from './stage-options';

/** Largest side of a picture, pixels, and of a part that is drawn at once. */
export const largestPicture = 8192;
const largestPart = 1024;

/** Numbers that a picture's side may be, and how many may be taken all round. */
const accepted = { Width: [16, largestPicture], Height: [16, largestPicture], 'All round': [1, 360] } as const;

/** What is wrong with what was asked for; null: nothing. */
export function shotFault(asked: Readonly<Record<keyof typeof accepted, number>>): string | null {
  for (const [name, [low, high]] of Object.entries(accepted) as [keyof typeof accepted, readonly [number, number]][])
    if (!Number.isInteger(asked[name]) || asked[name] < low || asked[name] > high)
      return `${name} is ${asked[name]}; it accepts whole numbers from ${low} to ${high}.`;
  return null;
}

/** How one picture is taken. */
export interface Shot {
  readonly width: number;
  readonly height: number;
  /** Without ground, floor and shadow on it: to be laid over something. */
  readonly transparent: boolean;
}

/** Parts that make up a picture, none larger than can be drawn at once. */
export function partsOf(width: number, height: number): { x: number; y: number; width: number; height: number }[] {
  const starts = (length: number): number[] => Array.from({ length: Math.ceil(length / largestPart) }, (_, i) => i * largestPart);
  return starts(height).flatMap((y) =>
    starts(width).map((x) => ({ x, y, width: Math.min(largestPart, width - x), height: Math.min(largestPart, height - y) })),
  );
}

/** A picture of a size, put together from parts; `ground`: colours from top to bottom that it stands on. */
function take({ width, height }: Shot, draw: DrawPicture, ground: readonly string[] | null): HTMLCanvasElement {
  const whole = Object.assign(document.createElement('canvas'), { width, height });
  const brush = whole.getContext('2d')!;
  if (ground) {
    const fill = brush.createLinearGradient(0, 0, 0, height);
    ground.forEach((colour, i) => fill.addColorStop(i / (ground.length - 1), colour));
    brush.fillStyle = fill;
    brush.fillRect(0, 0, width, height);
  }
  for (const part of partsOf(width, height)) brush.drawImage(draw(width, height, part), part.x, part.y, part.width, part.height);
  return whole;
}

const pngOf = (canvas: HTMLCanvasElement | null): Promise<Blob | null> => new Promise((done) => (canvas ? canvas.toBlob(done, 'image/png') : done(null)));

/** The document's picture for the Library: everything, in the same light as in the view. */
export const thumbnail = (stage: Stage): Promise<Blob | null> =>
  pngOf(
    stage.aside({ ...plainOptions, backs: 'fronts', floor: false }, (draw) => {
      draw(480, 300);
      stage.frameBox(stage.bounds.min, stage.bounds.max);
      return take({ width: 480, height: 300, transparent: true }, draw, null);
    }),
  );

/**
 * Takes pictures of what the view shows, all round it where more than one is asked for. `taken` is told how many are done, and stops it by false.
 * @throws Error when the graphics are away, or the browser gives no picture of the size.
 */
export async function takeRound(stage: Stage, shot: Shot, count: number, ground: readonly string[], taken: (done: number) => boolean): Promise<Uint8Array[]> {
  const { state } = stage.orbit;
  const target = new Vector3().fromArray(state.target);
  const from = new Vector3().fromArray(state.position).sub(target);
  const list: Uint8Array[] = [];
  for (let i = 0; i < count && taken(i); i++) {
    const position = from
      .clone()
      .applyAxisAngle(new Vector3(0, 1, 0), (i / count) * 2 * Math.PI)
      .add(target)
      .toArray();
    const drawn = stage.aside(shot.transparent ? { floor: false } : {}, (draw) => {
      stage.orbit.state = { ...state, position };
      return take(shot, draw, shot.transparent ? null : ground);
    });
    if (!drawn) throw new Error('The graphics are away for the moment; try again when the view is back.');
    const png = await pngOf(drawn);
    if (!png) throw new Error(`The browser gives no picture of ${shot.width} × ${shot.height} pixels.`);
    list.push(new Uint8Array(await png.arrayBuffer()));
    // The page is drawn, and Stop heard, between two pictures.
    await new Promise((go) => setTimeout(go));
  }
  return list;
}
