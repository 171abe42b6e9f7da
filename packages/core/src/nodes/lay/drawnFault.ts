/** Three finite numbers. */
export const isPlace = (value: unknown): boolean =>
  Array.isArray(value) && value.length === 3 && value.every((n) => typeof n === 'number' && Number.isFinite(n));

/** What is wrong with a list of lines drawn by hand, each with points and perhaps `closed`; null: nothing. `word`: what a line is called; `more`: what else it may have. */
export function drawnFault(value: readonly unknown[], word: string, more: readonly string[]): { path: string; message: string } | null {
  for (let c = 0; c < value.length; c++) {
    const line = value[c] as { points?: unknown; closed?: unknown } | null;
    if (typeof line !== 'object' || line === null || !Array.isArray(line.points)) return { path: `/${c}`, message: `${word} ${c} has no list of points.` };
    const known = ['points', ...more, 'closed'];
    const extra = Object.keys(line).find((key) => !known.includes(key));
    if (extra) return { path: `/${c}/${extra}`, message: `${word} ${c} has no "${extra}"; it has ${known.slice(0, -1).join(', ')} and closed.` };
    const points: unknown[] = line.points;
    const bad = points.findIndex((point) => !isPlace(point));
    if (bad >= 0)
      return { path: `/${c}/points/${bad}`, message: `point ${bad} of ${word} ${c} is ${JSON.stringify(points[bad])}; a point is three finite numbers.` };
    if (line.closed !== undefined && typeof line.closed !== 'boolean')
      return { path: `/${c}/closed`, message: `closed of ${word} ${c} must be true or false.` };
  }
  return null;
}
