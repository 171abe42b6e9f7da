import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** Salt that creeps over an iron sluice gate: the shortest ways from where the water stands to everywhere, thick where many of them meet, with crystals that grow behind the front. */
export function saltCreep(): FilaxisDocument {
  return new DocumentBuilder('Salt creep on the sluice gate', [
    { id: 'reach', label: 'Gaps', kind: 'number', value: 0.42, min: -0.2, max: 0.9, step: 0.01, group: 'Growth' },
    { id: 'grain', label: 'Mesh size', kind: 'number', value: 0.05, min: 0.035, max: 0.09, step: 0.001, unit: 'm', group: 'Growth' },
    { id: 'tips', label: 'Tips', kind: 'integer', value: 420, min: 20, max: 3000, step: 10, group: 'Growth' },
    { id: 'seed', label: 'Another growth', kind: 'seed', value: 3, min: 0, max: 999, group: 'Growth' },
    { id: 'thick', label: 'Veins', kind: 'number', value: 0.0022, min: 0.0005, max: 0.006, step: 0.0001, unit: 'm', group: 'Looks' },
    { id: 'crystal', label: 'Crystals', kind: 'number', value: 0.016, min: 0.004, max: 0.04, step: 0.001, unit: 'm', group: 'Looks' },
  ])
    .add('plate', 'lay.box', [0, 0], { size: [1.5, 1.7, 0.1], divisions: 3 })
    .add('lift', 'lay.box', [0, 1], { size: [0.18, 1.95, 0.2], divisions: 1 })
    .add('bar', 'lay.box', [0, 2], { size: [1.62, 0.16, 0.18], divisions: 1 })
    .add('low', 'shape.transform', [1, 2], { move: [0, -0.5, 0] }, ['bar', 'mesh', 'any'])
    .add('high', 'shape.transform', [1, 3], { move: [0, 0.5, 0] }, ['bar', 'mesh', 'any'])
    .add('gate', 'mesh.solid', [2, 1], {}, ['plate', 'mesh', 'mesh'], ['lift', 'mesh', 'others'], ['low', 'any', 'others'], ['high', 'any', 'others'])
    .add('stood', 'shape.transform', [3, 1], { move: [0, 0.98, 0] }, ['gate', 'mesh', 'any'])
    .add('iron', 'mesh.material', [4, 0], { name: 'iron', colour: '#4d5456', roughness: 0.75, metalness: 0.5 }, ['stood', 'any', 'any'])
    .add('even', 'mesh.even', [4, 1], { edge: { dial: 'grain' }, times: 2 }, ['stood', 'any', 'mesh'])
    .add('sound', 'mesh.weld', [5, 0], { distance: 0 }, ['even', 'mesh', 'any'])
    .add('dry', 'mesh.mark', [5, 1], { by: 'noise', size: 0.5, level: { dial: 'reach' }, seed: { dial: 'seed' } }, ['sound', 'any', 'any'])
    .add('wet', 'mesh.keep', [6, 1], {}, ['dry', 'any', 'any'])
    .add('largest', 'mesh.parts', [7, 1], { keep: 'largest', count: 1 }, ['wet', 'rest', 'mesh'])
    .add('tips', 'place.scatter', [7, 2], { by: 'count', count: { dial: 'tips' }, seed: { dial: 'seed' } }, ['largest', 'mesh', 'mesh'])
    .add('ways', 'grow.routes', [8, 1], { begin: { formula: 'y < 0.06' }, harder: { formula: '1.5 + 1.5 * noise(x * 6, y * 6, z * 6)' }, pace: 0.45 }, ['largest', 'mesh', 'mesh'], ['tips', 'points', 'ends'])
    .add('soft', 'shape.smooth', [9, 1], { times: 4 }, ['ways', 'curves', 'any'])
    .add('grown', 'grow.reveal', [10, 1], { soft: 1.6 }, ['soft', 'any', 'any'])
    .add('veins', 'skin.tube', [11, 1], { radius: { formula: 'thick * grown * (0.5 + 0.3 * min(traffic, 300) ^ 0.33)' }, sides: 5, caps: 'flat', relaxPinch: true }, ['grown', 'any', 'curves'])
    .add('salt', 'mesh.material', [12, 1], { name: 'salt', colour: '#e7e1d2', roughness: 0.55 }, ['veins', 'mesh', 'any'])
    .add('spots', 'pace.scatter', [9, 2], { count: 900, seed: { dial: 'seed' } }, ['ways', 'curves', 'curves'])
    .add('grain1', 'lay.box', [8, 3], { size: [1, 1, 1] })
    .add('white', 'mesh.material', [9, 3], { name: 'crystal', colour: '#f4f1ea', roughness: 0.25 }, ['grain1', 'mesh', 'any'])
    .add('crystals', 'place.copies', [10, 2], { size: { formula: 'crystal * (0.35 + 0.9 * random(1))' }, turn: { random: [0, 90], seed: 2, per: 'point' } }, ['spots', 'points', 'points'], ['white', 'any', 'objects'])
    .add('growing', 'grow.reveal', [11, 2], { soft: 1.4, delay: 0.3 }, ['crystals', 'copies', 'any'])
    .add('out', 'flow.output', [13, 1], { name: 'gate', budget: 400000 }, ['iron', 'any', 'any'], ['salt', 'any', 'any'], ['growing', 'any', 'any'])
    .build({ timeline: { from: 0, to: 150, at: 150, rate: 24, loop: true } });
} // prettier-ignore
