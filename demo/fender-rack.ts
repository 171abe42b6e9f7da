import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** Leaning piles and rails with fenders hung between them: ropes from pile to pile, none through a third, with turns round the timber at both ends. */
export function fenderRack(): FilaxisDocument {
  const piles = [
    [[-2.4, -0.2, 0.1], [-2.2, 3.1, -0.25]],
    [[-1.25, -0.2, -0.3], [-1.5, 3.3, 0.2]],
    [[-0.1, -0.2, 0.25], [0.15, 3, -0.1]],
    [[1.2, -0.2, -0.2], [1.05, 3.25, 0.3]],
    [[2.3, -0.2, 0.2], [2.55, 3.1, -0.15]],
  ]; // prettier-ignore
  const rails = [
    [[-2.9, 0.55, -0.42], [2.95, 0.85, -0.38]],
    [[-2.8, 2.75, 0.42], [2.85, 2.5, 0.4]],
  ]; // prettier-ignore
  const drawn = (lines: number[][][]): Record<string, unknown> => ({ kind: 'straight', curves: lines.map((points) => ({ points })) });
  return new DocumentBuilder('Fender rack', [
    { id: 'ropes', label: 'Ropes', kind: 'integer', value: 9, min: 1, max: 24, step: 1 },
    { id: 'sag', label: 'Sag', kind: 'number', value: 0.45, min: 0.05, max: 1.2, step: 0.01, unit: 'm' },
    { id: 'seed', label: 'Arrangement', kind: 'seed', value: 4 },
    { id: 'turns', label: 'Turns', kind: 'integer', value: 4, min: 1, max: 8, step: 1 },
    { id: 'spacing', label: 'Spacing of turns', kind: 'number', value: 0.045, min: 0.03, max: 0.15, step: 0.001, unit: 'm' },
    { id: 'diameter', label: 'Rope diameter', kind: 'number', value: 0.034, min: 0.012, max: 0.06, step: 0.001, unit: 'm' },
  ])
    .add('piles', 'lay.drawn', [0, 0], drawn(piles))
    .add(
      'round',
      'skin.tube',
      [1, 0],
      {
        radius: {
          ramp: [
            [0, 0.15],
            [1, 0.12],
          ],
        },
        sides: 18,
        caps: 'flat',
      },
      ['piles', 'curves', 'curves'],
    ) // prettier-ignore
    .add('rails', 'lay.drawn', [0, 1], drawn(rails))
    .add('board', 'lay.rectangle', [0, 2], { width: 0.1, height: 0.2, corner: 0.015 })
    .add('sawn', 'skin.sweep', [1, 1], { caps: 'flat' }, ['rails', 'curves', 'curves'], ['board', 'curves', 'profile'])
    .add('timber', 'flow.join', [2, 0.5], {}, ['round', 'mesh', 'any'], ['sawn', 'mesh', 'any'])
    .add('parts', 'mesh.parts', [3, 0.5], {}, ['timber', 'any', 'mesh'])
    .add('outside', 'mesh.mark', [4, 0.5], { by: 'direction', direction: [0, 0, 1], angle: 50 }, ['parts', 'mesh', 'any'])
    .add('faces', 'mesh.keep', [5, 0.5], {}, ['outside', 'any', 'any'])
    .add('places', 'place.scatter', [6, 0.5], { count: 60, minGap: 0.16, where: { formula: 'y > 1.2' } }, ['faces', 'kept', 'mesh'])
    .add(
      'links',
      'place.links',
      [7, 0.5],
      { count: { dial: 'ropes' }, seed: { dial: 'seed' }, least: 0.7, greatest: 2.4 },
      ['places', 'points', 'points'],
      ['parts', 'mesh', 'clearOf'],
    ) // prettier-ignore
    .add('hang', 'shape.hang', [8, 0.5], { by: 'sag', value: { formula: 'sag * (0.5 + random(1))' }, points: 40 }, ['links', 'curves', 'curves'])
    .add('hung', 'skin.rope', [9, 0.2], { diameter: { dial: 'diameter' }, layLength: 0.16, sides: 6, ringsPerTurn: 7 }, ['hang', 'curves', 'curves'])
    .add('ends', 'pace.points', [8, 1.5], { which: 'ends' }, ['links', 'curves', 'curves'])
    .add('off', 'gauge.formula', [8, 2.4], { formula: 'diameter / 2' })
    .add(
      'loops',
      'place.loops',
      [9, 1.5],
      { count: { dial: 'turns' }, spacing: { dial: 'spacing' } },
      ['parts', 'mesh', 'mesh'],
      ['ends', 'points', 'points'],
      ['off', 'number', 'offset'],
    ) // prettier-ignore
    .add('even', 'pace.resample', [10, 1.5], { count: 48 }, ['loops', 'curves', 'curves'])
    .add('turned', 'skin.rope', [11, 1.5], { diameter: { dial: 'diameter' }, layLength: 0.16, sides: 6, ringsPerTurn: 7 }, ['even', 'curves', 'curves'])
    .add('hemp', 'mesh.material', [12, 0.8], { name: 'hemp', colour: '#c9a468', roughness: 0.85 }, ['hung', 'mesh', 'any'])
    .add('served', 'mesh.material', [12, 1.6], { name: 'served hemp', colour: '#b98f52', roughness: 0.85 }, ['turned', 'mesh', 'any'])
    .add('middles', 'mesh.keep', [9, 3], { of: 'points', by: 'condition', condition: { formula: 'i == 20' } }, ['hang', 'curves', 'any'])
    .add('ball', 'lay.sphere', [9, 4], { radius: 0.13, kind: 'rings', divisions: 8 })
    .add('fender', 'shape.transform', [10, 4], { size: [1, 2.1, 1], move: [0, -0.27, 0] }, ['ball', 'mesh', 'any'])
    .add('rubber', 'mesh.material', [11, 4], { name: 'rubber', colour: '#2c3a4c', roughness: 0.7 }, ['fender', 'any', 'any'])
    .add(
      'fenders',
      'place.copies',
      [12, 3],
      { align: 'none', size: { random: [0.8, 1.15], seed: 2, per: 'point' } },
      ['middles', 'kept', 'points'],
      ['rubber', 'any', 'objects'],
    ) // prettier-ignore
    .add('oak', 'mesh.material', [12, 0], { name: 'tarred oak', colour: '#5d4634', roughness: 0.9 }, ['parts', 'mesh', 'any'])
    .add(
      'out',
      'flow.output',
      [13, 1],
      { name: 'rack', budget: 200000 },
      ['oak', 'any', 'any'],
      ['hemp', 'any', 'any'],
      ['served', 'any', 'any'],
      ['fenders', 'copies', 'any'],
    ) // prettier-ignore
    .build();
}
