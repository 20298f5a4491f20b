/**
 * Drawing from what was observed, where of some observations only a lower bound is known (a lane that ran out of work would have done more; a failed turn that still
 * waits will wait longer). The law is E. L. Kaplan and P. Meier's product limit (1958; Efron 1967 for the largest one); each path of a forecast weighs the observations
 * anew (D. B. Rubin 1981, the Bayesian bootstrap), so that few of them say little. Sources from memory.
 */
export interface Sample {
  readonly value: number;
  /** It was at least this much. */
  readonly isAtLeast: boolean;
  /** What it counts for; 1 where it is not said. */
  readonly weight?: number;
}

/** From the smallest; of equal ones those that are known first. */
export const sortSamples = (samples: readonly Sample[]): Sample[] =>
  [...samples].sort((a, b) => a.value - b.value || Number(a.isAtLeast) - Number(b.isAtLeast));

export interface Shares {
  /**
   * Weighs the samples anew: `draw` gives each its weight beside its own; equal ones for the product limit itself. Those that are known only from below hand their
   * share on to the larger ones; the largest keeps what is left. Cost O(samples).
   */
  readonly weigh: (draw: () => number) => void;
  /** The shares, added up to the last, which is 1. */
  readonly sums: Float64Array;
  /** The value on which a number in [0, 1) falls; 1 where there are no samples. Cost O(log distinct samples). */
  readonly draw: (at: number) => number;
}

export function createShares(sorted: readonly Sample[]): Shares {
  const size = sorted.length;
  /** Equal ones are one place for `draw`: days are few, samples many. */
  const values = Float64Array.from(new Set(sorted.map(({ value }) => value)));
  const placeOf = new Map([...values].map((value, place) => [value, place]));
  const places = Int32Array.from(sorted, ({ value }) => placeOf.get(value)!);
  const reach = new Float64Array(values.length);
  const own = Float64Array.from(sorted, ({ weight = 1 }) => weight);
  const isAtLeast = Uint8Array.from(sorted, (sample) => Number(sample.isAtLeast));
  const weights = new Float64Array(size);
  const sums = new Float64Array(size);
  return {
    sums,
    weigh: (draw) => {
      let behind = 0;
      for (let at = 0; at < size; at += 1) behind += weights[at] = own[at]! * draw();
      let left = 1;
      for (let at = 0; at < size; at += 1) {
        if (isAtLeast[at] === 0 && behind > 0) left -= (left * weights[at]!) / behind;
        behind -= weights[at]!;
        reach[places[at]!] = sums[at] = 1 - left;
      }
      if (size > 0) reach[values.length - 1] = sums[size - 1] = 1;
    },
    draw: (at) => {
      let low = 0;
      let high = values.length - 1;
      while (low < high) {
        const middle = (low + high) >> 1;
        if (reach[middle]! > at) high = middle;
        else low = middle + 1;
      }
      return size > 0 ? values[low]! : 1;
    },
  };
}

/** A weight of the Bayesian bootstrap: exponential, mean 1. */
export const drawWeight = (random: () => number): number => -Math.log(1 - random());
