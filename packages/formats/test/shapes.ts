import { Evaluator, Plan, requireDocument, resultOf, type GeometrySet } from '@filaxis/core';

/** A small result with a capped, coloured tube. */
export async function colouredTube(): Promise<GeometrySet> {
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Bollard',
    nodes: [
      { id: 'a', type: 'lay.line', settings: { to: [0, 2, 0], points: 4 } },
      { id: 'b', type: 'skin.tube', settings: { radius: 0.5, sides: 8, caps: 'flat', uvScale: 0.5 } },
      { id: 'c', type: 'mesh.material', settings: { name: 'iron', colour: '#808080', roughness: 0.25, metalness: 1, opacity: 0.5 } },
    ],
    wires: [
      { from: ['a', 'curves'], to: ['b', 'curves'] },
      { from: ['b', 'mesh'], to: ['c', 'mesh'] },
    ],
  });
  return resultOf((await new Evaluator().run(new Plan(document))).nodes.get('c'));
}
