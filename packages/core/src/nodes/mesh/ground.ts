import { meshIn, meshOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { transformGeometry } from '../../geometry/transform.js';
import { partShapes } from '../../mesh/topology/principal.js';
import { faceCount, type Mesh } from '../../geometry/mesh.js';

type Row = [number, number, number];

/** Turns that bring an axis of space up, as rows of a matrix. */
const uprights: Readonly<Record<string, [Row, Row, Row]>> = {
  y: [[1, 0, 0], [0, 1, 0], [0, 0, 1]],
  negativeY: [[1, 0, 0], [0, -1, 0], [0, 0, -1]],
  z: [[1, 0, 0], [0, 0, 1], [0, -1, 0]],
  negativeZ: [[1, 0, 0], [0, 0, -1], [0, 1, 0]],
  x: [[0, -1, 0], [1, 0, 0], [0, 0, 1]],
  negativeX: [[0, 1, 0], [-1, 0, 0], [0, 0, 1]],
}; // prettier-ignore

export default defineNode({
  type: 'mesh.ground',
  label: 'Centre and stand',
  family: families.mesh,
  summary: 'Sets a mesh upright, in the middle and on the floor.',
  help: 'Says which way was up where the mesh comes from, or turns its long axis up or along the floor (found from the spread of its surface, so a scan that lies askew comes straight). Then its middle goes over the origin, and its lowest point onto the floor.',
  keywords: ['align', 'origin', 'pivot', 'floor', 'upright', 'level', 'scan', 'straighten', 'zero'],
  asks: {
    'put it on the floor': { stand: true },
    'centre at the origin': { centre: true },
    'straighten a tilted scan': { turn: 'longUp' },
    'z is up in my file': { turn: 'z' },
  },
  telling: ['turn'],
  inputs: [meshIn],
  outputs: [meshOut],
  passes: true,
  where: 'none',
  settings: {
    turn: {
      kind: 'choice',
      label: 'Up is',
      help: 'What of the mesh is to point up, or that its long axis is to stand or lie.',
      default: 'y',
      choices: {
        y: 'Y, as it is',
        negativeY: 'below Y',
        z: 'Z',
        negativeZ: 'below Z',
        x: 'X',
        negativeX: 'below X',
        longUp: 'its long axis',
        longAlong: 'not its long axis, which lies along X',
      },
    },
    centre: { kind: 'boolean', label: 'Centre', help: 'Its middle over the origin.', default: true },
    stand: { kind: 'boolean', label: 'Stand', help: 'Its lowest point on the floor.', default: true },
  },
  run: (context) => {
    const { settings } = context;
    const given = context.input('mesh');
    const rows = uprights[settings.turn] ?? turnOf(given, settings.turn === 'longUp');
    const turned = transformGeometry(given, [...rows[0], 0, ...rows[1], 0, ...rows[2], 0]);
    const low: Row = [Infinity, Infinity, Infinity];
    const high: Row = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < turned.positions.length; i++) {
      low[i % 3] = Math.min(low[i % 3], turned.positions[i]);
      high[i % 3] = Math.max(high[i % 3], turned.positions[i]);
    }
    if (!turned.positions.length) return { mesh: given };
    const [x, z] = settings.centre ? [-(low[0] + high[0]) / 2, -(low[2] + high[2]) / 2] : [0, 0];
    const y = settings.stand ? -low[1] : settings.centre ? -(low[1] + high[1]) / 2 : 0;
    return { mesh: transformGeometry(turned, [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z]) };
  },
});

/** Brings the long axis of all of it up, or along X with the shortest up. */
function turnOf(mesh: Mesh, up: boolean): [Row, Row, Row] {
  const [{ axes }] = partShapes(mesh, new Uint8Array(faceCount(mesh)), 1);
  const [long, second, third] = axes;
  // A right-handed frame: long × second = third.
  return up ? ([third, long, second].map((row) => [...row] as Row) as [Row, Row, Row]) : [[...long], [...third], second.map((value) => -value) as Row];
}
