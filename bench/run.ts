/**
 * `npm run bench [-- tube formulas …]`: speed as ratios against a named reference measured in the same run, both bundled as they are shipped. Not a test: figures depend on
 * the machine, ratios less so.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { compile } from 'mathjs';
import { CatmullRomCurve3, TubeGeometry, Vector3, type Curve } from 'three';
import {
  constantField,
  curvesFromLists,
  Evaluator,
  Plan,
  Pool,
  requireDocument,
  resample,
  resolveVarying,
  resultOf,
  spanPoint,
  spansOf,
  tube,
  unbounded,
  type FilaxisDocument,
  type Mesh,
} from '../packages/core/src/index.js';
import { heldBy, makePicture, type Sent } from '../apps/web/src/workers/picture.js';
import { files, largeFiles } from './files.js';
import { bodies } from './bodies.js';
import { meshes } from './meshes.js';
import { forks, growth, scrub } from './growth.js';
import { searches } from './searches.js';
import { faster, fastest, longer, millisecondsOf, ms, printTable, rows } from './timing.js';

/** Memory as a session of work has it: what the last run made and nobody uses any more serves the next one. */
const pool = new Pool(1024 ** 3);
const work = { ...unbounded, memory: pool };
const nothing: ReadonlySet<ArrayBufferLike> = new Set();
/** Work whose result is dropped, its memory with it. */
const dropped = (make: () => unknown) => (): void => {
  make();
  pool.reclaim(nothing);
};

/** A path that three.js samples as we do: points on a wavy line. */
class Wave {
  readonly arcLengthDivisions = 200;
  constructor(private readonly phase: number) {}
  place(u: number): [number, number, number] {
    const t = u * 60;
    return [t, Math.sin(t + this.phase) * 1.5, Math.cos(t * 0.7) * 1.2];
  }
}

/** A path as three.js users have it: a curve through the same points, its length table made beforehand. */
function throughPoints(points: readonly (readonly number[])[]): CatmullRomCurve3 {
  const curve = new CatmullRomCurve3(points.map(([x, y, z]) => new Vector3(x, y, z)));
  curve.getLengths();
  return curve;
}

/** What three.js needs of a curve, giving our places without its own arc-length search, so that only tubes are compared. */
function curveFor(wave: Wave): Curve<Vector3> {
  const curve = new CatmullRomCurve3([new Vector3(), new Vector3(1, 0, 0)]);
  curve.getPointAt = (u: number, target = new Vector3()) => target.set(...wave.place(u));
  curve.getTangentAt = (u: number, target = new Vector3()) => {
    const [a, b] = [wave.place(Math.max(0, u - 1e-5)), wave.place(Math.min(1, u + 1e-5))];
    return target.set(b[0] - a[0], b[1] - a[1], b[2] - a[2]).normalize();
  };
  return curve;
}

const options = { radius: constantField(0.02), caps: 'open', corners: 'asIs', uvScale: 0, ringStep: 1 } as const;

/** Bytes of what a tube is drawn with. */
const buffersOf = (mesh: Mesh): ArrayBufferView[] => [
  mesh.positions,
  mesh.corners,
  ...(mesh.pointOf ? [mesh.pointOf] : []),
  ...[...mesh.attributes.values()].map(({ data }) => data),
];

/** Writing as many bytes again: the floor. */
const copying = (mesh: Mesh) => (): unknown => buffersOf(mesh).map((buffer) => new Uint8Array(buffer.buffer.slice(0)));

function longTube(): void {
  const [points, sides] = [62_500, 16];
  const waves = [new Wave(0), new Wave(1)];
  const lists = waves.map((wave) => Array.from({ length: points }, (_, i) => wave.place(i / (points - 1))));
  const paths = lists.map((list) => curvesFromLists([list]));
  const theirPaths = lists.map(throughPoints);
  let turn = 0;
  const times = fastest({
    ours: dropped(() => tube({ ...paths[turn++ % 2] }, { ...options, sides }, work)),
    theirs: () => new TubeGeometry(theirPaths[turn++ % 2], points - 1, 0.02, sides, false),
    bare: () => new TubeGeometry(curveFor(waves[turn++ % 2]), points - 1, 0.02, sides, false),
    copy: copying(tube(paths[0], { ...options, sides }).mesh),
  });
  faster('62,500 points × 16 sides', times.ours, 'three.js TubeGeometry', times.theirs, '≥ 15×');
  faster('the same', times.ours, 'TubeGeometry, its path handed to it', times.bare, 'for information');
  longer('the same', times.ours, 'copying its bytes', times.copy, '≤ 6×');
}

function manyStrands(): void {
  const [strands, points, sides] = [100_000, 8, 4];
  const list = Array.from({ length: strands }, (_, c) => Array.from({ length: points }, (_, i) => [c * 0.01, i * 0.1, Math.sin(i + c)]));
  const curves = curvesFromLists(list);
  const theirPaths = list.slice(0, 3000).map(throughPoints);
  const times = fastest({
    ours: dropped(() => tube({ ...curves }, { ...options, sides }, work)),
    theirs: () => theirPaths.map((path) => new TubeGeometry(path, points - 1, 0.02, sides, false)),
    copy: copying(tube(curves, { ...options, sides }).mesh),
  });
  faster('100,000 strands × 8 points × 4 sides', times.ours, 'TubeGeometry each, scaled from 3,000,', times.theirs * (strands / 3000), '≥ 12×');
  longer('the same', times.ours, 'copying its bytes', times.copy, '≤ 7×');
}

function evenResampling(): void {
  const lists = Array.from({ length: 10_000 }, (_, c) => Array.from({ length: 10 }, (_, i) => [i, Math.sin(i + c), Math.cos(i * 0.7 + c)] as const));
  const curves = curvesFromLists(lists, { kind: 'through' });
  const how = { by: 'count', count: constantField(100), spacing: constantField(1), deviation: 1, fit: 'even', spread: 'even' } as const;
  const { ours, theirs } = fastest({
    ours: dropped(() => resample(curves, how, work)),
    theirs: () => lists.map((list) => new CatmullRomCurve3(list.map(([x, y, z]) => new Vector3(x, y, z))).getSpacedPoints(99)),
  });
  faster('even resampling, 10,000 curves × 100 points', ours, 'three.js getSpacedPoints (errors 1e-4)', theirs, '≥ 10×');
}

/** The formula of the design's table over the points of one curve, t and i with it. */
function formulas(): void {
  const count = 1_000_000;
  const text = '0.02*(1-t)+0.005*sin(40*t+i)';
  const curves = curvesFromLists([Array.from({ length: count }, (_, i) => [i * 0.001, 0, 0])]);
  const compiled = compile(text);
  const scope = { t: 0, i: 0 };
  const values = new Float64Array(count);
  const { ours, theirs } = fastest({
    ours: dropped(() => resolveVarying({ formula: text }, curves, 'point', { work })),
    theirs: () => {
      for (let i = 0; i < count; i++) {
        scope.t = i / (count - 1);
        scope.i = i;
        values[i] = compiled.evaluate(scope) as number;
      }
    },
  });
  faster(`formula ${text}, ${count.toLocaleString('en-GB')} points`, ours, 'mathjs, compiled', theirs, '≥ 35×');
}

/** A key of a radius ramp dragged: from the new value to the buffers that draw a tube of 100,000 faces, as the worker hands them to the page. */
async function rampDrag(): Promise<void> {
  const pool = new Pool();
  const evaluator = new Evaluator({ pool });
  let turn = 0;
  let sent: Sent | undefined;
  const drag = async (): Promise<void> => {
    const radius = { ramp: [[0, 0.05], [0.5, 0.02 + 0.0001 * (++turn % 50)], [1, 0.05]] }; // prettier-ignore
    const document = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Ramp',
      nodes: [
        { id: 'a', type: 'lay.helix', settings: { turns: 60, pointsPerTurn: 104 } },
        { id: 'b', type: 'skin.tube', settings: { radius, sides: 16 } },
      ],
      wires: [{ from: ['a', 'curves'], to: ['b', 'curves'] }],
    });
    const run = await evaluator.run(new Plan(document));
    const content = { sets: [resultOf(run.nodes.get('b'))], paths: [resultOf(run.nodes.get('a')).curves!], budget: 0, colour: null, ghost: [] };
    const made = makePicture(content, sent, pool);
    sent = made.sent;
    evaluator.reclaim(run, heldBy(sent));
  };
  const times = await millisecondsOf(drag, 61);
  rows.push({
    what: 'a ramp’s key dragged, to the picture of a tube of 100,000 faces',
    ours: ms(times[30]),
    against: '',
    result: `p95 ${ms(times[57])}`,
    reach: '< 50 ms',
  });
}

/** Catmull–Rom curves at 100 even parameters each. */
function evaluation(): void {
  const lists = Array.from({ length: 10_000 }, (_, c) => Array.from({ length: 10 }, (_, i) => [i, Math.sin(i + c), Math.cos(i * 0.7 + c)] as const));
  const curves = curvesFromLists(lists, { kind: 'through' });
  const out = new Float32Array(10_000 * 100 * 3);
  const { ours, theirs } = fastest({
    ours: () => {
      for (let c = 0; c < 10_000; c++) {
        const spans = spansOf(curves, c);
        for (let i = 0; i < 100; i++) {
          const at = (spans.count * i) / 99;
          const span = Math.min(spans.count - 1, Math.floor(at));
          spanPoint(spans, span, at - span, out, (c * 100 + i) * 3);
        }
      }
    },
    theirs: () => lists.map((list) => new CatmullRomCurve3(list.map(([x, y, z]) => new Vector3(x, y, z))).getPoints(99)),
  });
  faster('Catmull–Rom evaluation, 10,000 curves × 100 points', ours, 'three.js getPoints', theirs, '≥ 20×');
}

async function evaluatorOverhead(): Promise<void> {
  const count = 300;
  const nodes = [
    { id: 'n0', type: 'lay.line', settings: { to: [1, 0, 0] } },
    ...Array.from({ length: count - 1 }, (_, i) => ({ id: `n${i + 1}`, type: 'shape.transform', settings: {} })),
  ];
  const wires = nodes.slice(1).map((_, i) => ({ from: [`n${i}`, i ? 'any' : 'curves'], to: [`n${i + 1}`, 'any'] }));
  const changed = (index: number, value: number): FilaxisDocument => {
    const settings = index ? { move: [value, 0, 0] } : { to: [value, 0, 0] };
    return requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Chain',
      nodes: nodes.map((node, i) => (i === index ? { ...node, settings } : node)),
      wires,
    });
  };
  const evaluator = new Evaluator();
  let value = 1;
  for (const [where, index, reach] of [
    ['start', 0, '< 20 ms'],
    ['end', count - 1, '< 2 ms'],
  ] as const) {
    const times: number[] = [];
    for (let i = 0; i < 25; i++) {
      const plan = new Plan(changed(index, ++value));
      const start = performance.now();
      await evaluator.run(plan);
      times.push(performance.now() - start);
    }
    times.sort((a, b) => a - b);
    rows.push({ what: `300 trivial nodes after a change at the ${where}`, ours: ms(times[12]), against: '', result: `p95 ${ms(times[23])}`, reach });
  }
}

const folder = resolve('demo/documents');

/** Dragging every dial of every demo over its range: the slowest dial of each. */
async function demoDials(): Promise<void> {
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.json'))) {
    const dragged = await dragDials(file);
    const slowest = dragged.reduce<Dragged | null>((most, each) => (!most || each.times[19] > most.times[19] ? each : most), null);
    if (slowest) tellDragged(`demo ${file.replace('.json', '')}, slowest dial ${slowest.dial}`, slowest, '< 50 ms at 100,000 faces');
  }
}

/** What is dragged most in the fender rack, each by itself. */
async function rack(): Promise<void> {
  for (const each of await dragDials('fender-rack.json', ['sag', 'spacing'])) tellDragged(`fender rack, ${each.dial} dragged`, each, '< 50 ms');
}

interface Dragged {
  readonly dial: string;
  /** Milliseconds of each step, the shortest first. */
  readonly times: readonly number[];
  readonly faces: number;
}

const tellDragged = (what: string, { times, faces }: Dragged, reach: string): void =>
  void rows.push({
    what: `${what}, ${faces.toLocaleString('en-GB')} faces or copies`,
    ours: ms(times[10]),
    against: '',
    result: `p95 ${ms(times[19])}`,
    reach,
  });

/** Drags dials of a demo (all by default): the worker's time from a new value to the geometry. */
async function dragDials(file: string, which?: readonly string[]): Promise<Dragged[]> {
  const document = requireDocument(JSON.parse(readFileSync(resolve(folder, file), 'utf8')));
  const plan = new Plan(document);
  const evaluator = new Evaluator({ pool: new Pool() });
  const dragged: Dragged[] = [];
  for (const dial of document.dials ?? []) {
    if (which && !which.includes(dial.id)) continue;
    const { min = 0, max = 1 } = dial;
    let turn = 0;
    let faces = 0;
    const drag = async (): Promise<void> => {
      // Values all over the dial's range near the one it has, none twice.
      const share = 0.5 + 0.4 * Math.sin(++turn * 2.4);
      const middle = typeof dial.value === 'number' ? dial.value : 0;
      const number = middle + (share - 0.5) * 0.5 * (max - min) + turn * 1e-9;
      const value = Array.isArray(dial.value)
        ? dial.value.map((each) => each * (1 + share * 0.1))
        : Math.min(max, Math.max(min, dial.kind === 'number' ? number : Math.round(number)));
      const run = await evaluator.run(plan, { dials: { [dial.id]: value as number } });
      evaluator.reclaim(run);
      const { faces: made = 0, copies = 0 } = run.nodes.get('out')!.out;
      faces = made + copies;
    };
    dragged.push({ dial: dial.id, times: await millisecondsOf(drag, 21), faces });
  }
  return dragged;
}

/** Ten times the points should take hardly more than ten times as long, up to ten million vertices. */
function tenfold(): void {
  const making = (points: number): (() => void) => {
    const wave = new Wave(0);
    const path = curvesFromLists([Array.from({ length: points }, (_, i) => wave.place(i / (points - 1)))]);
    return dropped(() => tube({ ...path }, { ...options, sides: 16 }, work));
  };
  const { small, large } = fastest({ small: making(62_500), large: making(625_000) });
  longer('625,000 points × 16 sides, 10 million vertices', large, '62,500 points × 16 sides', small, '≤ 11×');
}

const all: Readonly<Record<string, () => void | Promise<void>>> = {
  tube: longTube,
  tenfold,
  strands: manyStrands,
  resampling: evenResampling,
  evaluation,
  formulas,
  searches,
  bodies,
  meshes,
  growth,
  forks,
  scrub,
  ramp: rampDrag,
  graph: evaluatorOverhead,
  demos: demoDials,
  rack,
  files,
};
/** Measured only when asked for: they take minutes and gigabytes. */
const rare: typeof all = { large: largeFiles };
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !(name in all) && !(name in rare));
if (unknown !== undefined) throw new Error(`There is no measurement "${unknown}"; there are ${Object.keys({ ...all, ...rare }).join(', ')}.`);
for (const [name, measure] of Object.entries(all)) if (!asked.length || asked.includes(name)) await measure();
for (const [name, measure] of Object.entries(rare)) if (asked.includes(name)) await measure();
printTable();
