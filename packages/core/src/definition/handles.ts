import { applies, withPart, type NumberSetting, type Setting, type Settings, type VectorSetting } from './settings.js';

export type Triple = readonly [number, number, number];

/** A direction of a handle: fixed, a vector setting, square to one (on the side of x), or as a choice says. */
export type Way = Triple | { readonly of: string } | { readonly across: string } | { readonly by: string; readonly ways: Readonly<Record<string, Triple>> };

/**
 * Settings of a node that can be taken hold of in the 3D view. `at` names vector settings whose sum is where the handle is rooted; `middle` among them is the middle of what is
 * shown; without any it is the origin.
 */
export type Handle =
  /** Three numbers that are a place, or with `at` a way from where it is rooted, metres. `beside`: arms on the other side, and no knob in the middle, where another place begins. */
  | { readonly kind: 'place'; readonly setting: string; readonly at?: readonly string[]; readonly beside?: boolean }
  /** A direction of any length; `with`: only while that setting is a number of its own. */
  | { readonly kind: 'direction'; readonly setting: string; readonly at?: readonly string[]; readonly with?: string }
  /** A length along a way, metres; the knob stands at `share` of it (default 1). `without`: only while that setting is nothing. */
  | {
      readonly kind: 'length';
      readonly setting: string;
      readonly at?: readonly string[];
      readonly along: Way;
      readonly share?: number;
      readonly without?: string;
      /** Where it is rooted besides: at a share of another length, along a way. */
      readonly from?: { readonly setting: string; readonly along: Triple; readonly share: number };
    }
  /** A plane, while there is one: a point on it, metres, and its normal. */
  | { readonly kind: 'plane'; readonly setting: string; readonly at?: readonly string[] }
  /** Lengths along several axes, one a component, from side to side: each knob stands at half of its own. */
  | { readonly kind: 'extent'; readonly setting: string; readonly at?: readonly string[]; readonly axes: readonly Triple[] }
  /** Factors along x, y and z. */
  | { readonly kind: 'factors'; readonly setting: string; readonly at?: readonly string[] }
  /** Degrees about a way; `ring`: how large its ring is beside others about the same way (default 1). */
  | { readonly kind: 'angle'; readonly setting: string; readonly at?: readonly string[]; readonly about: Way; readonly ring?: number }
  /** Degrees about x, then y, then z. */
  | { readonly kind: 'turn'; readonly setting: string; readonly at?: readonly string[] };

/** Something to take hold of: where it is, how it moves, and what it makes of its setting. */
export interface Knob {
  readonly id: string;
  readonly label: string;
  readonly setting: string;
  readonly unit: string;
  /** How it moves: anywhere, along a line, round its root in any direction, or on a ring about an axis. */
  readonly moves: 'free' | 'along' | 'aim' | 'ring';
  readonly root: Triple;
  readonly at: Triple;
  /** The line that it moves along, or the axis that it goes round; unit. */
  readonly axis: Triple;
  /** The numbers that it stands for. */
  readonly values: readonly number[];
  /** How far a step of it goes. */
  readonly step: number;
  /** What the setting is when the knob is taken to a place. */
  to(place: Triple): unknown;
  /** What the setting is with a number typed for the knob; null: it stands for more than one. */
  readonly typed: ((value: number) => unknown) | null;
}

/** The scene that handles stand in, metres. */
export interface HandleScene {
  readonly middle: Triple;
  /** How long arms are that stand for no length of their own. */
  readonly arm: number;
}

const axes: readonly Triple[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore
const axisNames = ['x', 'y', 'z'] as const;

const added = (a: Triple, b: Triple, factor = 1): Triple => [a[0] + b[0] * factor, a[1] + b[1] * factor, a[2] + b[2] * factor];
const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Triple, b: Triple): Triple => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const unit = (v: Triple): Triple => {
  const size = Math.hypot(...v) || 1;
  return [v[0] / size, v[1] / size, v[2] / size];
};
const isTriple = (value: unknown): value is Triple => Array.isArray(value) && value.length === 3 && value.every((n) => typeof n === 'number');
/** Six digits, and a ten thousandth of a millimetre, are more than a hand can set. */
const tidy = (value: number): number => (Math.abs(value) < 1e-7 ? 0 : Number(value.toPrecision(6)));

/** A unit direction square to another, on the side of x, or of z where that is along x. */
export function squareTo(axis: Triple): Triple {
  const n = unit(axis);
  const seed: Triple = Math.abs(n[0]) < 0.99 ? [1, 0, 0] : [0, 0, 1];
  return unit(added(seed, n, -dot(seed, n)));
}

/** The knobs of a node with the settings that it has in the document: those whose settings are plain numbers now, and apply. */
export function knobsOf(handles: readonly Handle[], settings: Settings, values: Readonly<Record<string, unknown>>, scene: HandleScene): Knob[] {
  return handles.flatMap((handle) => {
    const setting = settings[handle.setting];
    const rooted = rootOf(handle.at ?? [], values, scene);
    const needed = [handle.setting, ...('with' in handle && handle.with ? [handle.with] : [])];
    if (!setting || !rooted || !applies(setting, (name) => values[name]) || needed.some((name) => standsForElse(settings[name], values[name]))) return [];
    const make = makers[handle.kind] as (handle: Handle, given: Given) => Knob[];
    return make(handle, { setting: setting as NumberSetting | VectorSetting, values, scene, root: rooted });
  });
}

/** Whether a number stands for something else than a number. */
const standsForElse = (setting: Setting, value: unknown): boolean =>
  (setting.kind === 'number' || setting.kind === 'integer') && !!setting.special && value === setting.default;

interface Given {
  readonly setting: NumberSetting | VectorSetting;
  readonly values: Readonly<Record<string, unknown>>;
  readonly scene: HandleScene;
  readonly root: Triple;
}

function rootOf(names: readonly string[], values: Readonly<Record<string, unknown>>, { middle }: HandleScene): Triple | null {
  let sum: Triple = [0, 0, 0];
  for (const name of names) {
    const value = name === 'middle' ? middle : values[name];
    if (!isTriple(value)) return null;
    sum = added(sum, value);
  }
  return sum;
}

function wayOf(way: Way, values: Readonly<Record<string, unknown>>): Triple | null {
  if (isTriple(way)) return unit(way);
  if ('by' in way) return way.ways[values[way.by] as string] ?? null;
  const named = values['of' in way ? way.of : way.across];
  if (!isTriple(named)) return null;
  return 'of' in way ? unit(named) : squareTo(named);
}

const stepOf = ({ step = 0.01 }: NumberSetting | VectorSetting): number => step;

/** A number within the range of its setting. */
function within({ kind, min, max, above }: NumberSetting, value: number): number {
  const least = min === undefined ? -Infinity : above ? min + 1e-4 : min;
  const kept = Math.min(max ?? Infinity, Math.max(least, value));
  return tidy(kind === 'integer' ? Math.round(kept) : kept);
}

/** A knob on a line: `share` of the value away from its root. */
function onLine(
  { setting, root }: Given,
  axis: Triple,
  value: number,
  share: number,
  part: { readonly k: number; readonly whole: readonly number[] } | null,
  name: string,
): Knob {
  const set = (number: number): unknown => (part ? withPart(part.whole, part.k, tidy(number)) : within(setting as NumberSetting, number));
  return {
    id: name,
    label: part ? `${setting.label} ${axisNames[part.k]}` : setting.label,
    setting: name.split('.')[0],
    unit: setting.unit ?? '',
    moves: 'along',
    root,
    at: added(root, axis, value * share),
    axis,
    values: [value],
    step: stepOf(setting),
    to: (place) => set(dot(added(place, root, -1), axis) / share),
    typed: set,
  };
}

/** Where rings have their knob at 0°, and how large they are, in arms: off the arms of places. */
const [ringStart, ringSize] = [45, 1.25];

/** A knob on a ring about an axis, as far round as its degrees say. */
function onRing({ setting, root, scene }: Given, axis: Triple, value: number, set: (degrees: number) => unknown, id: string, label: string, ring = 1): Knob {
  const u = squareTo(axis);
  const w = cross(axis, u);
  const angle = ((value + ringStart) * Math.PI) / 180;
  const radius = scene.arm * ringSize * ring;
  const at = added(added(root, u, Math.cos(angle) * radius), w, Math.sin(angle) * radius);
  return {
    id,
    label,
    setting: id.split('.')[0],
    unit: setting.unit ?? '°',
    moves: 'ring',
    root,
    at,
    axis,
    values: [value],
    step: stepOf(setting),
    to: (place) => {
      const out = added(place, root, -1);
      const now = (Math.atan2(dot(out, w), dot(out, u)) * 180) / Math.PI - ringStart;
      // The nearer of the turns that look the same.
      return set(tidy(value + ((((now - value + 180) % 360) + 360) % 360) - 180));
    },
    typed: set,
  };
}

type Of<K extends Handle['kind']> = Extract<Handle, { readonly kind: K }>;

const makers: { readonly [K in Handle['kind']]: (handle: Of<K>, given: Given) => Knob[] } = {
  place: ({ setting: name, at: rooted, beside = false }, given) => {
    const value = given.values[name];
    if (!isTriple(value)) return [];
    const { root, setting, scene } = given;
    const at = added(root, value);
    const set = (place: Triple): Triple => added(place, root, -1).map(tidy) as unknown as Triple;
    const whole: Knob = { id: name, label: setting.label, setting: name, unit: setting.unit ?? '', moves: 'free', root: rooted ? root : at, at, axis: [0, 1, 0], values: value, step: stepOf(setting), to: set, typed: null }; // prettier-ignore
    const arms = axes.map((axis, k): Knob => {
      const knob = onLine({ ...given, root: added(at, axis, -value[k]) }, axis, value[k], 1, { k, whole: value }, `${name}.${axisNames[k]}`);
      // It stands off its place by an arm, and moves that.
      const arm = beside ? -0.6 * scene.arm : scene.arm;
      return { ...knob, root: at, at: added(at, axis, arm), to: (place) => knob.to(added(place, axis, -arm)) };
    });
    return beside ? arms : [...arms, whole];
  },
  direction: ({ setting: name }, { values, setting, root, scene }) => {
    const value = values[name];
    if (!isTriple(value) || value.every((n) => n === 0)) return [];
    const to = (place: Triple): Triple => unit(added(place, root, -1)).map(tidy) as unknown as Triple;
    return [{ id: name, label: setting.label, setting: name, unit: '', moves: 'aim', root, at: added(root, unit(value), scene.arm * 1.6), axis: unit(value), values: value, step: stepOf(setting), to, typed: null }]; // prettier-ignore
  },
  length: ({ setting: name, along, share = 1, without, from }, given) => {
    const value = without && given.values[without] ? null : given.values[name];
    const way = wayOf(along, given.values);
    const base = from ? given.values[from.setting] : 0;
    if (typeof value !== 'number' || typeof base !== 'number' || !way) return [];
    const root = from ? added(given.root, from.along, base * from.share) : given.root;
    return [onLine({ ...given, root }, way, value, share, null, name)];
  },
  plane: ({ setting: name }, { values, setting, root, scene }) => {
    const { point, normal } = (values[name] ?? {}) as { readonly point?: unknown; readonly normal?: unknown };
    if (!isTriple(point) || !isTriple(normal)) return [];
    const at = added(root, point);
    const common = { setting: name, unit: '', step: 0.01, root: at, axis: unit(normal), typed: null };
    const [moved, aimed] = [(place: Triple) => added(place, root, -1), (place: Triple) => unit(added(place, at, -1))];
    return [
      { ...common, id: name, label: setting.label, moves: 'free', at, values: point, to: (place) => ({ point: moved(place).map(tidy), normal }) },
      { ...common, id: `${name}.normal`, label: `${setting.label}, its normal`, moves: 'aim', at: added(at, unit(normal), scene.arm * 1.6), values: normal, to: (place) => ({ point, normal: aimed(place).map(tidy) }) }, // prettier-ignore
    ];
  },
  extent: ({ setting: name, axes: ways }, given) => {
    const value = given.values[name];
    if (!Array.isArray(value) || !value.every((n) => typeof n === 'number')) return [];
    const whole = value as readonly number[];
    return whole.map((size, k) => {
      const knob = onLine(given, ways[k], size, 0.5, { k, whole }, `${name}.${axisNames[k]}`);
      const names = (given.setting as VectorSetting).axes;
      const set = (number: number): unknown => withPart(whole, k, tidy(Math.max(1e-4, number)));
      return { ...knob, label: `${given.setting.label} ${names?.[k] ?? axisNames[k]}`, to: (place) => set((knob.to(place) as number[])[k]), typed: set };
    });
  },
  factors: ({ setting: name }, given) => {
    const value = given.values[name];
    if (!isTriple(value)) return [];
    return axes.map((axis, k) => onLine(given, axis, value[k], given.scene.arm * 1.5, { k, whole: value }, `${name}.${axisNames[k]}`));
  },
  angle: ({ setting: name, about, ring }, given) => {
    const value = given.values[name];
    const way = wayOf(about, given.values);
    if (typeof value !== 'number' || !way) return [];
    return [onRing(given, way, value, (degrees) => within(given.setting as NumberSetting, degrees), name, given.setting.label, ring)];
  },
  turn: ({ setting: name }, given) => {
    const value = given.values[name];
    if (!isTriple(value)) return [];
    return axes.map((axis, k) => onRing(given, axis, value[k], (degrees) => withPart(value, k, degrees), `${name}.${axisNames[k]}`, `${given.setting.label} ${axisNames[k]}`)); // prettier-ignore
  },
};
