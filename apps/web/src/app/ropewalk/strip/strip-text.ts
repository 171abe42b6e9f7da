import type { PathStripData } from '@filaxis/protocol';
import { figure } from '../../shared/figures';

const greatest = (values: ArrayLike<number>): number => Array.from(values).reduce((a, b) => Math.max(a, b), 0);

/** What the strip shows, for those who hear it. */
export function spokenStrip(data: PathStripData | null): string {
  if (!data) return 'Path strip, empty';
  const thick = data.radius ? `, greatest radius ${figure(greatest(data.radius) * 1000, 3)} millimetres` : '';
  const bend = `greatest curvature ${figure(greatest(data.curvature), 3)} per metre`;
  return `Path strip of curve ${data.curve + 1} of ${data.curves}, ${figure(data.length)} metres long, ${bend}${thick}, ${data.warnings.length} ${data.warnings.length === 1 ? 'place' : 'places'} to look at`;
}

/** What is at a point of the curve, in a line. */
export function pointText(data: PathStripData, i: number): string {
  const parts = [
    `${figure(data.s[i], 4)} m`,
    data.radius && `radius ${figure(data.radius[i] * 1000, 4)} mm`,
    `roll ${figure(data.roll[i], 3)}°`,
    `bend ${figure(data.curvature[i], 3)} /m`,
    data.attribute && `${data.attribute.name} ${figure(data.attribute.values[i], 4)}`,
  ];
  return parts.filter(Boolean).join(' · ');
}

/** All rows as text: a column each, tabs between them. */
export function stripAsText(data: PathStripData | null): string {
  if (!data) return '';
  const columns: [string, ArrayLike<number>][] = [['s (m)', data.s]];
  if (data.radius) columns.push(['radius (m)', data.radius]);
  columns.push(['roll (°)', data.roll], ['curvature (1/m)', data.curvature], ['spacing (m)', data.spacing]);
  if (data.attribute) columns.push([data.attribute.name, data.attribute.values]);
  const lines = Array.from(data.s, (_, i) => columns.map(([, values]) => values[i]).join('\t'));
  return [columns.map(([name]) => name).join('\t'), ...lines].join('\n');
}
