import catmullClark from 'gl-catmull-clark';
import manifoldModule from 'manifold-3d';
import { gatherFaces, icosphere, placesOfMesh, refine, section, triangulate, unbounded, Evaluator, Plan, requireDocument, type Mesh } from '../packages/core/src/index.js'; // prettier-ignore
import { faster, fastest, ms, rows } from './timing.js';

/** The mesh as one that nothing is known of yet. */
const anew = (mesh: Mesh): Mesh => ({ ...mesh });

const levels = (count: number): { origin: [number, number, number]; normal: [number, number, number] }[] =>
  Array.from({ length: count }, (_, i) => ({ origin: [0, ((i + 0.5) / count) * 1.8 - 0.9, 0], normal: [0, 1, 0] }));

/** Sections of a ball of half a million triangles: by one plane with all that must be found out first, and by a hundred. */
async function sections(): Promise<void> {
  const manifold = await manifoldModule();
  manifold.setup();
  const { Manifold, Mesh: Triangles } = manifold;
  const ball = icosphere(1, 158, unbounded);
  const { pointOf, count } = placesOfMesh(ball);
  const places = new Float32Array(count * 3);
  // Its slices are square to z.
  for (let v = 0; v < pointOf.length; v++) places.set([ball.positions[v * 3], -ball.positions[v * 3 + 2], ball.positions[v * 3 + 1]], pointOf[v] * 3);
  const triVerts = triangulate(ball).indices.map((v) => pointOf[v]);
  const solid = (): InstanceType<typeof Manifold> => new Manifold(new Triangles({ numProp: 3, vertProperties: places, triVerts }));
  const ready = solid();
  const sliceAt = (body: InstanceType<typeof Manifold>, height: number): void => {
    const cut = body.slice(height);
    cut.toPolygons();
    cut.delete();
  };
  const [one, many] = [levels(1), levels(100)];
  const times = fastest({
    one: () => section(anew(ball), one, unbounded),
    theirs: () => {
      const body = solid();
      sliceAt(body, one[0].origin[1]);
      body.delete();
    },
    many: () => section(ball, many, unbounded),
    theirMany: () => many.forEach(({ origin }) => sliceAt(ready, origin[1])),
  });
  const triangles = triVerts.length / 3;
  faster(`a section of ${triangles.toLocaleString('en-GB')} triangles`, times.one, 'manifold-3d', times.theirs, '≥ 2.5×');
  faster('a hundred of them, its tree made before', times.many, 'manifold-3d', times.theirMany, 'for information');
}

/** Catmull–Clark, from 1,500 quads to 98,304. */
function rounding(): void {
  const given = gatherFaces(refine(icosphere(1, 5, unbounded), null, { times: 1, scheme: 'catmullClark', keepCorners: true }), Array.from({ length: 1500 }, (_, f) => f)); // prettier-ignore
  const { pointOf, count } = placesOfMesh(given);
  const places = Array.from({ length: count }, (): number[] => []);
  for (let v = 0; v < pointOf.length; v++) places[pointOf[v]] = [...given.positions.subarray(v * 3, v * 3 + 3)];
  const faces = Array.from({ length: given.corners.length / 4 }, (_, f) => Array.from(given.corners.subarray(f * 4, f * 4 + 4), (v) => pointOf[v]));
  const bare: Mesh = { ...given, attributes: new Map() };
  const times = fastest({
    ours: () => refine(anew(bare), null, { times: 3, scheme: 'catmullClark', keepCorners: true }),
    theirs: () => catmullClark(places, faces, 3, false),
  });
  faster(`Catmull–Clark, ${faces.length.toLocaleString('en-GB')} quads three times, normals with it`, times.ours, 'gl-catmull-clark', times.theirs, '≥ 15×');
}

/** A scan of half a million triangles from the device to what is worked on. */
async function scanned(): Promise<void> {
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Scan',
    nodes: [
      { id: 'scan', type: 'lay.scan', settings: { triangles: 500_000 } },
      { id: 'parts', type: 'mesh.parts', settings: { keep: 'largest', count: 1 } },
      { id: 'keep', type: 'mesh.keep', settings: { by: 'condition', condition: { formula: 'y > -100' } } },
      { id: 'ground', type: 'mesh.ground', settings: {} },
      { id: 'reduce', type: 'mesh.reduce', settings: { triangles: 50_000 } },
    ],
    wires: [
      { from: ['scan', 'mesh'], to: ['parts', 'mesh'] },
      { from: ['parts', 'mesh'], to: ['keep', 'any'] },
      { from: ['keep', 'kept'], to: ['ground', 'mesh'] },
      { from: ['ground', 'mesh'], to: ['reduce', 'mesh'] },
    ],
  });
  const run = await new Evaluator().run(new Plan(document));
  const times = document.nodes.slice(1).map(({ id }) => run.nodes.get(id)!.ms ?? NaN);
  const { faces = 0 } = run.nodes.get('scan')!.out;
  const left = run.nodes.get('reduce')!.out.faces ?? 0;
  rows.push({
    what: `a scan of ${faces.toLocaleString('en-GB')} triangles through Parts, Keep, Centre and stand and Reduce to ${left.toLocaleString('en-GB')}`,
    ours: ms(times.reduce((sum, time) => sum + time)),
    against: times.map((time) => ms(time)).join(', '),
    result: '',
    reach: '< 3,000 ms',
  });
}

export async function meshes(): Promise<void> {
  await sections();
  rounding();
  await scanned();
}
