import { expect, test } from 'vitest';
import { deliveredPieces, deliveryName, emptyDocument, faultBefore, Evaluator, Plan, type FilaxisDocument } from '../../src/index.js';

const tube = (id: string, name?: string): FilaxisDocument['nodes'] => [
  { id: `${id}-line`, type: 'lay.line' },
  { id, type: 'skin.tube', ...(name && { name }) },
];
const wire = (from: string, to: string): FilaxisDocument['wires'][number] => ({ from: [from, 'mesh'], to: [to, 'any'] });

/** Two outputs: `rails` takes two tubes of one name, the other one. */
const document = (settings?: object): FilaxisDocument => ({
  ...emptyDocument,
  title: 'Landing',
  nodes: [
    ...tube('a', 'Rail'),
    ...tube('b', 'Rail'),
    ...tube('c'),
    { id: 'rails', type: 'flow.output', settings: { name: 'rails' } },
    { id: 'rest', type: 'flow.output', ...(settings && { settings: { ...settings } }) },
  ],
  wires: [
    ...['a', 'b', 'c'].map((id) => ({ from: [`${id}-line`, 'curves'], to: [id, 'curves'] }) as const),
    wire('a', 'rails'),
    wire('b', 'rails'),
    wire('c', 'rest'),
  ],
});

test('pieces are named after outputs and nodes, the whole after what is asked for', async () => {
  const names = async (wanted: readonly string[], settings?: object): Promise<string[]> => {
    const plan = new Plan(document(settings));
    const run = await new Evaluator().run(plan, { targets: wanted });
    return [deliveryName(plan, wanted), ...deliveredPieces(plan, run, wanted).map(({ name }) => name)];
  };
  expect(await names(['rest'])).toEqual(['Tube', 'Tube']);
  expect(await names(['rest'], { name: 'hose' })).toEqual(['hose', 'hose']);
  expect(await names(['rails'])).toEqual(['rails', 'Rail', 'Rail 2']);
  expect(await names(['rails', 'rest'])).toEqual(['Landing', 'rails Rail', 'rails Rail 2', 'Tube']);
  expect(await names(['c', 'a'])).toEqual(['Landing', 'Tube', 'Rail']);
  // Through what only changes it to what made it, unless that has a name.
  const painted = (name?: string): object => ({ ...document(), nodes: [...document().nodes, { id: 'paint', type: 'mesh.material', ...(name && { name }) }] });
  for (const [given, called] of [
    [undefined, 'Rail'],
    ['Tarred', 'Tarred'],
  ] as const) {
    // prettier-ignore
    const plan = new Plan({ ...(painted(given) as FilaxisDocument), wires: [...document().wires, { from: ['a', 'mesh'], to: ['paint', 'any'] }] });
    expect(deliveryName(plan, ['paint'])).toBe(called);
  }
  expect(await names(['c', 'gone'])).toEqual(['Tube', 'Tube']);
});

test('what keeps a node from a result is found before it, not elsewhere in the document', async () => {
  const { nodes, ...rest } = document();
  const broken = nodes.map((node) => (node.id === 'b' || node.id === 'c' ? { ...node, settings: { sides: 1 } } : node));
  const plan = new Plan({ ...rest, nodes: broken });
  const run = await new Evaluator().run(plan);
  expect(['rails', 'rest', 'a', 'b'].map((id) => faultBefore(plan, run, [id])?.node ?? null)).toEqual(['b', 'c', null, 'b']);
});

test('the pieces of an output are all that it gives; what is empty is left out', async () => {
  const { nodes, wires, ...rest } = document();
  const plan = new Plan({ ...rest, nodes: [...nodes, { id: 'none', type: 'lay.imported' }], wires });
  const run = await new Evaluator().run(plan);
  const whole = run.nodes.get('rails')!.outputs['result'];
  const faces = deliveredPieces(plan, run, ['rails']).map(({ set }) => set.mesh!.corners.length);
  expect(whole.type === 'set' && whole.set.mesh!.corners.length).toBe(faces[0] + faces[1]);
  expect(deliveredPieces(plan, run, ['none', 'c']).map(({ name }) => name)).toEqual(['Tube']);
});
