/**
 * Due days for the legs of one run: the run's work is laid evenly over the cycle's working days, so a leg is due on the
 * day on which its share of the minutes (itself included) is used up. Returns one day for each leg, never decreasing.
 */
export function spreadDueDays(minutes: readonly number[], workingDays: readonly string[]): (string | null)[] {
  const total = minutes.reduce((sum, value) => sum + value, 0);
  let done = 0;
  return minutes.map((value, index) => {
    done += value;
    const share = total > 0 ? done / total : (index + 1) / minutes.length;
    return workingDays[Math.min(workingDays.length - 1, Math.max(0, Math.ceil(share * workingDays.length) - 1))] ?? null;
  });
}
