/** The middle of some numbers, of an even count the mean of the two in the middle; null of none. Source: any handbook of statistics. */
export function getMedian(values: readonly number[]): number | null {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length / 2;
  const [low, high] = [sorted[Math.ceil(half) - 1], sorted[Math.floor(half)]];
  return low === undefined || high === undefined ? null : (low + high) / 2;
}
