import { withAttributes, type Attribute } from '../../geometry/attributes.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { joinMeshes } from '../../geometry/join.js';
import { curveLengths } from '../../curves/evaluate/arcLength.js';
import { resample } from '../../curves/change/resample.js';
import { unbounded, type Work } from '../../base/work.js';
import { constantField, fieldAt, type Field } from '../../values/field.js';
import { braidSection, ropeSection } from './ropeSection.js';
import { layStrands, plaitStrands, type Strands } from './ropeStrands.js';
import type { TubeOptions } from '../parts/sink.js';
import { tube } from '../tube/tube.js';
import type { SkinIssue } from '../plan/tubePlan.js';

export interface RopeOptions {
  /** Outer diameter, metres, more than 0, a value per point of the curves. */
  diameter: Field;
  /** Strands of a laid rope, or of a braid: 8, 12 or 16, half of each hand. */
  strands: number;
  /** Laid: all strands turn the same way. Plaited: half turn the other way, over one and under one. */
  lay: 'laid' | 'plaited';
  /** Metres per turn of a strand, more than 0. */
  layLength: number;
  /** `right`: strands rise to the right in front of the eye (the common Z lay). */
  hand: 'right' | 'left';
  /** Corners of a strand's section, or a yarn's. */
  sides: number;
  /** Fill the hole in the middle with one straight strand; so in each strand, where strands have yarns. */
  core: boolean;
  /** Yarns that each strand is laid of, the other way round; 0 or 1: strands are smooth. */
  yarns: number;
  caps: TubeOptions['caps'];
  uvScale: number;
  /** Rings of a strand per turn of the finest lay. */
  ringsPerTurn: number;
}

/**
 * Ropes of twisted strands along curves (the heart is the strand's helix round the curve's frame; common practice). Strands may be laid of yarns once
 * more, or plaited. They begin on the frames of the curves and turn with them. A closed curve gets a whole number of turns, so that strands meet.
 * @throws RangeError naming the point where the diameter is not more than 0; whatever `work` throws.
 */
export function rope(curves: Curves, options: RopeOptions, work: Work = unbounded): { mesh: Mesh; issues: SkinIssue[] } {
  requireDiameters(curves, options.diameter);
  const { lay, strands, yarns, core } = options;
  const twofold = yarns > 1;
  // Yarns are laid in their strand as strands in the rope: the lay is to the diameter as there. A plait swings out and in once a crossing.
  const yarnLay = options.layLength * shareOfStrand(options);
  const ofStrands = lay === 'plaited' ? (options.layLength * 4) / strands : options.layLength;
  const finest = twofold ? Math.min(yarnLay, ofStrands) : ofStrands;
  const spacing = finest / options.ringsPerTurn;
  const lengths = curveLengths(curves);
  const counts = Float64Array.from(lengths, (length, c) => Math.max(curves.closed[c] ? 3 : 2, Math.ceil(length / spacing) + (curves.closed[c] ? 0 : 1)));
  const rings = counts.reduce((sum, count) => sum + count, 0);
  const perStrand = twofold ? yarns + (core && yarns > 2 ? 1 : 0) : 1;
  const perRing = (strands + (core ? 1 : 0)) * perStrand * options.sides;
  work.claim({ vertices: rings * perRing, faces: rings * perRing });

  const withDiameter = attach(curves, options.diameter);
  const even = { by: 'count', spacing: constantField(1), deviation: 1, fit: 'even', spread: 'even', keepFrames: true } as const;
  const fine = resample(withDiameter, { ...even, count: { constant: 0, values: counts } });
  const diameters = fine.attributes.get(diameterName)!.data;
  const path = { ...fine, attributes: withAttributes(fine.attributes, { [diameterName]: null }) };
  let made: Strands[] = lay === 'plaited' ? [plaitStrands(path, diameters, options)] : layStrands(path, diameters, options);
  if (twofold) made = made.flatMap((each) => layStrands(each.curves, each.radii.map((r) => 2 * r), { strands: yarns, core, hand: options.hand === 'right' ? 'left' : 'right', layLength: yarnLay })); // prettier-ignore
  const shared = { sides: options.sides, caps: options.caps, corners: 'asIs' as const, uvScale: options.uvScale, ringStep: 1 };
  const issues: SkinIssue[] = [];
  const curvesGiven = Math.max(1, curveCount(curves));
  const meshes = made.map((each) => {
    const skin = tube(each.curves, { ...shared, radius: { constant: 0, values: each.radii } }, work);
    issues.push(...skin.issues.map((issue) => ({ ...issue, curve: issue.curve % curvesGiven })));
    return skin.mesh;
  });
  return { mesh: joinMeshes(meshes, work.memory), issues };
}

/** Diameter of a strand over that of the rope, at the rope's first point. */
function shareOfStrand({ diameter, lay, strands, layLength }: RopeOptions): number {
  const radius = fieldAt(diameter, 0) / 2;
  const section = lay === 'plaited' ? braidSection(radius, strands, layLength) : ropeSection(radius, strands, layLength);
  return section.strandRadius / radius;
}

/** No name that an artist can give. */
const diameterName = 'rope diameter';

/** The curves with their diameter as an attribute, so that resampling carries it along. */
function attach(curves: Curves, diameter: Field): Curves {
  const data = Float32Array.from({ length: curves.positions.length / 3 }, (_, i) => fieldAt(diameter, i));
  const attributes = new Map<string, Attribute>(curves.attributes).set(diameterName, { carrier: 'point', size: 1, data });
  return { ...curves, attributes };
}

function requireDiameters(curves: Curves, diameter: Field): void {
  for (let i = 0; i < curves.positions.length / 3; i++) {
    const value = fieldAt(diameter, i);
    if (!(value > 0) || !Number.isFinite(value)) throw new RangeError(`The diameter at point ${i + 1} is ${value} m; it must be more than 0.`);
  }
}
