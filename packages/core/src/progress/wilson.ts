/** A share that was seen, and what it may well be: 0 to 1. */
export interface ShareBounds {
  readonly low: number;
  readonly high: number;
}

/** The normal quantile of 97.5 %: of 100 such intervals, 95 hold the share that is true. */
const Z = 1.959963984540054;

/**
 * The score interval of a share, 95 % two-sided, without continuity correction: what `part` of `of` says of the share behind it. Of nothing
 * that was tried, everything may be so. Source: E. B. Wilson, Probable inference, the law of succession, and statistical inference, 1927.
 */
export function getWilsonBounds(part: number, of: number): ShareBounds {
  if (of <= 0) return { low: 0, high: 1 };
  const share = part / of;
  const square = (Z * Z) / of;
  const middle = share + square / 2;
  const half = Z * Math.sqrt((share * (1 - share)) / of + square / (4 * of));
  return { low: part === 0 ? 0 : (middle - half) / (1 + square), high: part === of ? 1 : (middle + half) / (1 + square) };
}
