/** Lists that belong together have different numbers of elements. */
export class UnequalLists extends RangeError {
  override name = 'UnequalLists';
  readonly code = 'unequal-lists' as const;
}
