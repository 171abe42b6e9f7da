import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A lean-to against the ice-house on legs of unequal length: a hollow roof from three purlins, clad in scales (or hexagons, by choice). */
export function scaleLeanTo(): FilaxisDocument {
  const eave = [[-2.5, 1.45, 1.7], [-0.6, 1.62, 1.85], [2.3, 1.9, 1.5]]; // prettier-ignore
  const purlin = [[-2.6, 1.95, 0.35], [-0.4, 2.05, 0.4], [2.2, 2.3, 0.2]]; // prettier-ignore
  const ridge = [[-2.7, 2.95, -1.05], [-0.3, 3, -1.1], [2.1, 3.1, -1.1]]; // prettier-ignore
  const legs = [
    { points: [[-2.35, -0.35, 1.55], [-2.35, 1.5, 1.55]] },
    { points: [[-0.5, 0.15, 1.68], [-0.5, 1.65, 1.68]] },
    { points: [[2.12, -0.1, 1.36], [2.12, 1.9, 1.36]] },
  ]; // prettier-ignore
  const wood = (name: string, colour: string): Record<string, unknown> => ({ name, colour, roughness: 0.88 });
  const laid = { shape: { dial: 'cladding' }, around: { dial: 'across' }, along: { dial: 'rows' }, border: 'cut', lift: { dial: 'lift' }, gap: 0.012 };
  return new DocumentBuilder('Scale lean-to', [
    { id: 'cladding', label: 'Cladding', kind: 'choice', value: 'scale', choices: ['scale', 'hexagon'] },
    { id: 'across', label: 'Scales across', kind: 'integer', value: 26, min: 6, max: 60, step: 1 },
    { id: 'rows', label: 'Rows', kind: 'integer', value: 15, min: 4, max: 40, step: 1 },
    { id: 'lift', label: 'Lift', kind: 'number', value: 0.035, min: 0, max: 0.12, step: 0.001, unit: 'm' },
    { id: 'rafters', label: 'Rafters', kind: 'integer', value: 7, min: 2, max: 20, step: 1 },
    { id: 'reach', label: 'Eave moves', kind: 'vector', value: [0, 0, 0], unit: 'm' },
  ])
    .add('low', 'lay.drawn', [0, 0], { kind: 'through', curves: [{ points: eave }] })
    .add('eave', 'shape.transform', [1, 0], { move: { dial: 'reach' } }, ['low', 'curves', 'any'])
    .add('purlin', 'lay.drawn', [0, 1], { kind: 'through', curves: [{ points: purlin }] })
    .add('ridge', 'lay.drawn', [0, 2], { kind: 'through', curves: [{ points: ridge }] })
    .add('lines', 'flow.join', [2, 0.6], {}, ['eave', 'any', 'any'], ['purlin', 'curves', 'any'], ['ridge', 'curves', 'any'])
    .add('roof', 'skin.loft', [3, 0], { columns: 33, across: 7, smooth: 'through' }, ['lines', 'any', 'curves'])
    .add('scales', 'skin.tiles', [4, 0], laid, ['roof', 'mesh', 'mesh'])
    .add('thick', 'skin.extrude', [5, 0], { distance: 0.014 }, ['scales', 'mesh', 'mesh'])
    .add('cedar', 'mesh.material', [6, 0], wood('weathered cedar', '#9a8f7d'), ['thick', 'mesh', 'any'])
    .add('spaced', 'pace.resample', [3, 1.2], { count: { dial: 'rafters' } }, ['lines', 'any', 'curves'])
    .add('across', 'mesh.edges', [5, 1.2], { which: 'all', chain: 'each' }, ['rungs', 'mesh', 'mesh'])
    .add('rungs', 'skin.loft', [4, 1.2], { across: 0 }, ['spaced', 'curves', 'curves'])
    .add('below', 'shape.transform', [6, 1.2], { move: [0, -0.09, 0] }, ['across', 'curves', 'any'])
    .add('bars', 'skin.tube', [7, 1.2], { radius: 0.035, sides: 8, caps: 'flat', uvScale: 0.3 }, ['below', 'any', 'curves'])
    .add('stands', 'lay.drawn', [3, 2.4], { kind: 'straight', curves: legs.map((leg) => ({ ...leg, closed: false })) })
    .add('square', 'lay.rectangle', [3, 3.4], { width: 0.13, height: 0.16 })
    .add('legs', 'skin.sweep', [5, 2.4], { caps: 'flat', uvScale: 0.3 }, ['stands', 'curves', 'curves'], ['square', 'curves', 'profile'])
    .add('timber', 'flow.join', [8, 1.8], {}, ['bars', 'mesh', 'any'], ['legs', 'mesh', 'any'])
    .add('larch', 'mesh.material', [9, 1.8], wood('tarred larch', '#4a3f36'), ['timber', 'any', 'any'])
    .add('foot', 'shape.transform', [1, 4.4], { move: [0, -3.1, 0] }, ['ridge', 'curves', 'any'])
    .add('both', 'flow.join', [2, 4.4], {}, ['foot', 'any', 'any'], ['ridge', 'curves', 'any'])
    .add('wall', 'skin.loft', [3, 4.4], { columns: 24, across: 6 }, ['both', 'any', 'curves'])
    .add('boards', 'skin.tiles', [4, 4.4], { shape: 'brick', around: 5, along: 13, gap: 0.014 }, ['wall', 'mesh', 'mesh'])
    .add('laid', 'skin.extrude', [5, 4.4], { distance: 0.03 }, ['boards', 'mesh', 'mesh'])
    .add('stone', 'mesh.material', [9, 4.4], { name: 'ice-house stone', colour: '#b9ad98', roughness: 1 }, ['laid', 'mesh', 'any'])
    .add('out', 'flow.output', [10, 1.6], { name: 'lean-to', budget: 90000 }, ['cedar', 'any', 'any'], ['larch', 'any', 'any'], ['stone', 'any', 'any'])
    .build();
}
