import { getMedian } from '../values/median.ts';

/** Minutes without a word that are work however short the turn was planned. */
export const SHORTEST_PAUSE_MINUTES = 15;

/** How long somebody may say nothing and be at work, in minutes: as long as the whole turn was planned, at least SHORTEST_PAUSE_MINUTES. What is longer is a pause. */
export const getLongestWorkMinutes = (plannedMinutes: number): number => Math.max(SHORTEST_PAUSE_MINUTES, plannedMinutes);

/**
 * What an attempt took, in milliseconds: the times between one word and the next, from its begin to its end, pauses taken out whole. Moments in milliseconds since
 * 1970, in any order. Cost O(n log n).
 */
export function getSpentMs(momentsMs: readonly number[], plannedMinutes: number): number {
  const longest = getLongestWorkMinutes(plannedMinutes) * 60_000;
  const sorted = [...momentsMs].sort((a, b) => a - b);
  return sorted.reduce((sum, at, i) => {
    const gap = at - (sorted[i - 1] ?? at);
    return gap <= longest ? sum + gap : sum;
  }, 0);
}

/** So many of the newest turns of a test are looked at, and so many it takes at least, for its minutes to be planned by them. */
export const TURNS_LOOKED_AT = 10;
export const LEAST_TURNS = 3;

/** By less than a tenth, and less than two minutes, nothing is planned better. */
const LEAST_SHARE = 0.1;
const LEAST_MINUTES = 2;

/** From twenty minutes on, plans are in steps of five. */
const toPlanned = (minutes: number): number => (minutes < 20 ? Math.max(1, Math.round(minutes)) : Math.round(minutes / 5) * 5);

/**
 * What a turn of a test should be planned for: the median of what its last ten took, in minutes, the newest first; null where those are fewer than three, or say
 * what is planned.
 */
export function proposeMinutes(planned: number, spentMinutes: readonly number[]): number | null {
  const looked = spentMinutes.slice(0, TURNS_LOOKED_AT);
  const median = looked.length < LEAST_TURNS ? null : getMedian(looked);
  if (median === null) return null;
  const proposed = toPlanned(median);
  const isAsGood = Math.abs(proposed - planned) < Math.max(LEAST_MINUTES, planned * LEAST_SHARE);
  return isAsGood ? null : proposed;
}
