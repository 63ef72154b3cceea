/** Median of the figures among some values; NaN where there is none. */
export function medianOf(values: Float64Array): number {
  const kept = values.filter((value) => !Number.isNaN(value)).sort();
  if (kept.length === 0) return Number.NaN;
  return kept.length % 2 ? (kept[kept.length >> 1] as number) : ((kept[kept.length / 2 - 1] as number) + (kept[kept.length / 2] as number)) / 2;
}
