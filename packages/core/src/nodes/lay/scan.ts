import { meshOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { smoothNormals } from '../../mesh/change/normals.js';
import { scanOf, subjects } from '../../mesh/make/scan.js';
import { seedSetting } from '../settings/common.js';

export default defineNode({
  type: 'lay.scan',
  label: 'Simulated scan',
  family: families.lay,
  summary: 'A stand-in for what a hand scanner gives: a noisy body with scraps, a piece of floor, leaning and off the middle.',
  help: 'For trying a chain before the real scan is there. The subjects are our own: a carved seal, a bollard, a gable wall. Clean it as you would a real one: Parts keeps the largest piece, Centre and stand sets it straight, Reduce makes it light.',
  attributes: { writes: ['normal'] },
  keywords: ['scanner', 'photogrammetry', 'laser', 'test', 'raw', 'seal', 'wall', 'statue'],
  asks: {
    'a scan to try things on': {},
    'a scanned wall': { subject: 'gable' },
    'a scanned statue': { subject: 'seal' },
  },
  telling: ['subject', 'triangles'],
  outputs: [meshOut],
  settings: {
    subject: {
      kind: 'choice',
      label: 'Subject',
      help: 'What was scanned.',
      default: 'seal',
      choices: { seal: subjects.seal.label, bollard: subjects.bollard.label, gable: subjects.gable.label },
    },
    triangles: { kind: 'integer', label: 'Triangles', help: 'About how many.', default: 60_000, min: 200, max: 500_000 },
    noise: { kind: 'number', label: 'Noise', help: 'How far places are off, at most.', default: 0.001, min: 0, max: 1, unit: 'm', step: 0.0005 },
    scraps: { kind: 'integer', label: 'Scraps', help: 'Pieces that float about.', default: 14, min: 0, max: 10_000 },
    floor: { kind: 'boolean', label: 'Floor', help: 'A piece of the floor is in it.', default: true },
    tilt: { kind: 'number', label: 'Tilt', help: 'How far it leans, at most.', default: 12, min: 0, max: 180, unit: '°', step: 1 },
    shift: { kind: 'number', label: 'Shift', help: 'How far it is off the middle, at most.', default: 0.4, min: 0, max: 1000, unit: 'm', step: 0.05 },
    seed: { ...seedSetting, help: 'Another seed, another scan.' },
  },
  run: (context) => {
    const { settings } = context;
    context.claim({ faces: settings.triangles, vertices: settings.triangles / 2 });
    return { mesh: smoothNormals(scanOf(settings, context), context) };
  },
});
