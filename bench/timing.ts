/** Milliseconds of the middle run of `times`, after sixteen runs to warm up (or as many as `times`, if fewer). */
export function milliseconds(work: () => unknown, times = 41): number {
  for (let i = 0; i < Math.min(16, times); i++) work();
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    work();
    all.push(performance.now() - start);
  }
  return all.sort((a, b) => a - b)[times >> 1];
}

/** The same for work that is awaited. */
export async function millisecondsOf(work: () => Promise<unknown>, times = 15): Promise<number[]> {
  await work();
  await work();
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

export function printTable(rows: readonly Row[]): void {
  console.table(rows);
}
