/**
 * Which places of a line are enough to draw it in so many columns from `first` to `last`: the lowest and the highest of each column, gaps (null), and one place
 * beyond either end. All that lie between the ends, when they are no more than that.
 */
export function leanPlaces(x: ArrayLike<number>, y: ArrayLike<number | null>, first: number, last: number, columns: number): number[] {
  let from = 0;
  while (from + 1 < x.length && x[from + 1] <= first) from++;
  let to = x.length - 1;
  while (to > from && x[to - 1] >= last) to--;
  const every = to - from < columns * 2;
  const kept: number[] = [];
  const width = (last - first) / columns;
  let [column, low, high] = [-Infinity, -1, -1];
  const finish = (): void => {
    if (low >= 0) kept.push(Math.min(low, high));
    if (high >= 0 && high !== low) kept.push(Math.max(low, high));
    low = high = -1;
  };
  for (let i = from; i <= to; i++) {
    const value = y[i];
    const own = Math.floor((x[i] - first) / width);
    if (every || value === null || i === from || i === to) {
      finish();
      kept.push(i);
      continue;
    }
    if (own !== column) finish();
    column = own;
    if (low < 0 || value < y[low]!) low = i;
    if (high < 0 || value > y[high]!) high = i;
  }
  finish();
  return kept;
}
