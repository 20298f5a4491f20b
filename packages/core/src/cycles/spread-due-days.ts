/**
 * Due days for the legs of one run: the run's work is laid evenly over the cycle's working days, so a leg is due on the
 * day on which its share of the minutes (itself included) is used up. A leg that waits for days is due as many working days later, and so are those behind it. Returns one day for each leg,
 * never decreasing, at most the last.
 */
export function spreadDueDays(
  minutes: readonly number[],
  workingDays: readonly string[],
  waitDays: readonly number[] = [],
): (string | null)[] {
  const total = minutes.reduce((sum, value) => sum + value, 0);
  let done = 0;
  let waited = 0;
  return minutes.map((value, index) => {
    done += value;
    // Five working days to a calendar week.
    waited += Math.ceil(((waitDays[index] ?? 0) * 5) / 7);
    const share = total > 0 ? done / total : (index + 1) / minutes.length;
    return workingDays[Math.min(workingDays.length - 1, Math.max(0, Math.ceil(share * workingDays.length) - 1 + waited))] ?? null;
  });
}
