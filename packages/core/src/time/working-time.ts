/**
 * Working time on one line: minutes since midnight of a plan's first day, by the wall clock of the programme's time zone. A day has
 * 1,440 of them, also on the two days of the year on which the clock is moved: nobody tests at that hour.
 */
export const DAY_MINUTES = 1_440;

export interface WorkingTime {
  /** Windows in which work is done, in order and apart. */
  readonly starts: readonly number[];
  readonly ends: readonly number[];
  /** The working minutes before each window. */
  readonly before: readonly number[];
}

/** Working time from the minutes of each day, each day's beginning at `startsAt` (minutes after midnight). Cost O(days). */
export function createWorkingTime(minutesByDay: readonly number[], startsAt: number): WorkingTime {
  const [starts, ends, before]: number[][] = [[], [], []];
  let sum = 0;
  minutesByDay.forEach((minutes, day) => {
    if (minutes <= 0) return;
    const start = day * DAY_MINUTES + startsAt;
    const isJoined = ends?.at(-1) === start;
    if (isJoined) ends![ends!.length - 1] = start + minutes;
    else {
      starts!.push(start);
      ends!.push(start + minutes);
      before!.push(sum);
    }
    sum += minutes;
  });
  return { starts: starts!, ends: ends!, before: before! };
}

/** The time in which at least one of several works. Cost O(windows log windows). */
export function uniteTimes(times: readonly WorkingTime[]): WorkingTime {
  const windows = times
    .flatMap(({ starts, ends }) => starts.map((start, i) => ({ start, end: ends[i] ?? start })))
    .sort((a, b) => a.start - b.start);
  const joined: { start: number; end: number }[] = [];
  for (const { start, end } of windows) {
    const last = joined.at(-1);
    if (last && start <= last.end) last.end = Math.max(last.end, end);
    else joined.push({ start, end });
  }
  let sum = 0;
  const before = joined.map(({ start, end }) => {
    const at = sum;
    sum += end - start;
    return at;
  });
  return { starts: joined.map(({ start }) => start), ends: joined.map(({ end }) => end), before };
}

/** The first window that ends after a moment. */
function findWindow({ ends }: WorkingTime, at: number): number {
  let [low, high] = [0, ends.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[middle]! > at) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The next moment of work, the given one included; Infinity when there is none any more. Cost O(log windows). */
export function findNextWork(time: WorkingTime, at: number): number {
  const start = time.starts[findWindow(time, at)];
  return start === undefined ? Infinity : Math.max(start, at);
}

/** How much has been worked by a moment. */
export function countWorkBefore(time: WorkingTime, at: number): number {
  const index = findWindow(time, at);
  const start = time.starts[index];
  if (start === undefined) {
    const last = time.ends.length - 1;
    return last < 0 ? 0 : time.before[last]! + time.ends[last]! - time.starts[last]!;
  }
  return time.before[index]! + Math.max(0, at - start);
}

/** When work of so many minutes, begun at a moment, is done; Infinity where the time does not suffice. Cost O(log windows). */
export function addWork(time: WorkingTime, at: number, minutes: number): number {
  if (minutes <= 0) return at;
  const wanted = countWorkBefore(time, at) + minutes;
  let [low, high] = [0, time.before.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (time.before[middle]! < wanted) low = middle + 1;
    else high = middle;
  }
  const index = low - 1;
  const end = time.starts[index]! + wanted - time.before[index]!;
  return index >= 0 && end <= time.ends[index]! ? end : Infinity;
}
