/**
 * Milliseconds of the fastest run of each of several works, which take turns: what else the machine does only ever adds, and comes and goes within seconds, so
 * that works measured one after the other would not meet the same machine. A work quicker than the slowest is run more often a turn.
 */
export function fastest<Names extends string>(works: Readonly<Record<Names, () => unknown>>, turns = 8): Readonly<Record<Names, number>> {
  const names = Object.keys(works) as Names[];
  const best = Object.fromEntries(names.map((name) => [name, Infinity])) as Record<Names, number>;
  const run = (name: Names): void => {
    const start = performance.now();
    works[name]();
    best[name] = Math.min(best[name], performance.now() - start);
  };
  for (const name of names) run(name);
  const turn = Math.max(...Object.values<number>(best)) / 2;
  const begun = performance.now();
  // Ten seconds at least: the machine's slow spells last for some.
  for (let i = 0; i < turns || performance.now() - begun < 10_000; i++)
    for (const name of names) {
      const until = performance.now() + turn;
      do run(name);
      while (performance.now() < until);
    }
  return best;
}

/** Milliseconds of each of `times` runs of work that is awaited, after `before` that are not counted, the shortest first. */
export async function millisecondsOf(work: () => Promise<unknown>, times = 15, before = 8): Promise<number[]> {
  // The first steps of a drag still compile; what counts is how it goes on.
  for (let i = 0; i < before; i++) await work();
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    await work();
    all.push(performance.now() - start);
  }
  return all.sort((a, b) => a - b);
}

export interface Row {
  readonly what: string;
  readonly ours: string;
  readonly against: string;
  readonly result: string;
  readonly reach: string;
}

/** The rows of this run's table. */
export const rows: Row[] = [];

/** Milliseconds as text. */
export const ms = (value: number): string => `${value < 10 ? value.toFixed(2) : value.toFixed(0)} ms`;

/** Tells how many times faster ours is. */
export const faster = (what: string, ours: number, against: string, theirs: number, reach: string): void =>
  void rows.push({ what, ours: ms(ours), against: `${against} ${ms(theirs)}`, result: `${(theirs / ours).toFixed(1)}× faster`, reach });

/** Tells how many times as long ours takes. */
export const longer = (what: string, ours: number, against: string, theirs: number, reach: string): void =>
  void rows.push({ what, ours: ms(ours), against: `${against} ${ms(theirs)}`, result: `${(ours / theirs).toFixed(1)}× as long`, reach });

export function printTable(): void {
  console.table(rows);
}
