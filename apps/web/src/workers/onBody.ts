import { asStroke, firstHit, newRayHit, placeStrokes, settingsOf, surfaceOf, unbounded, type GivenStroke, type Surface } from '@filaxis/core';
import type { Answers, Questions } from '@filaxis/protocol';
import type { Newest } from './newest';

/** The mesh that comes in at a node, as a body; null: none does. */
function bodyOf({ plan, run }: Newest, node: string): Surface | null {
  const wire = plan.document.wires.find(({ to }) => to[0] === node && to[1] === 'mesh');
  const value = wire && run.nodes.get(wire.from[0])?.outputs[wire.from[1]];
  const mesh = value?.type === 'set' ? value.set.mesh : value;
  return mesh?.type === 'mesh' && mesh.corners.length ? surfaceOf(mesh) : null;
}

const tidy = (value: number): number => Number(value.toPrecision(7));

/** Where lines of sight meet the body that a node draws on. */
export function onBody(newest: Newest, { node, rays }: Questions['onBody']): Answers['onBody'] {
  const body = bodyOf(newest, node);
  if (!body) return { triangles: 0, hits: rays.map(() => null) };
  const hit = newRayHit();
  const hits = rays.map(({ from, along }) => {
    firstHit(body.nearest.tree, from, along, hit);
    if (hit.piece < 0) return null;
    const place = [0, 1, 2].map((k) => tidy(from[k] + hit.t * along[k])) as unknown as readonly [number, number, number];
    return { place, on: [hit.piece, tidy(Math.max(0, hit.weights[1])), tidy(Math.max(0, hit.weights[2]))] as const };
  });
  return { triangles: body.nearest.pieces.element.length, hits };
}

/** Where the points of a node's strokes lie on the body as it is now. */
export function strokePoints(newest: Newest, { node }: Questions['strokePoints']): Answers['strokePoints'] {
  const body = bodyOf(newest, node);
  const own = newest.plan.document.nodes.find(({ id }) => id === node);
  if (!body || !own) return [];
  const strokes = (settingsOf(newest.plan.document, own)['strokes'] as readonly GivenStroke[]).map(asStroke);
  const { curves } = placeStrokes(strokes, body, unbounded);
  return strokes.map(({ points }, i) => points.map((_, k) => [...curves.positions.subarray((curves.starts[i] + k) * 3, (curves.starts[i] + k) * 3 + 3)]));
}
