/** Minutes without a word that are work however short the turn was planned. */
export const SHORTEST_PAUSE_MINUTES = 15;

/** How long somebody may say nothing and be at work: as long as the whole turn was planned, at least SHORTEST_PAUSE_MINUTES. What is longer is a pause. */
const getLongestWorkMs = (plannedMinutes: number): number => Math.max(SHORTEST_PAUSE_MINUTES, plannedMinutes) * 60_000;

/**
 * What an attempt took, in milliseconds: the times between one word and the next, from its begin to its end, pauses taken out whole. Moments in milliseconds since
 * 1970, in any order. Cost O(n log n).
 */
export function getSpentMs(momentsMs: readonly number[], plannedMinutes: number): number {
  const longest = getLongestWorkMs(plannedMinutes);
  const sorted = [...momentsMs].sort((a, b) => a - b);
  return sorted.reduce((sum, at, i) => {
    const gap = at - (sorted[i - 1] ?? at);
    return gap <= longest ? sum + gap : sum;
  }, 0);
}
