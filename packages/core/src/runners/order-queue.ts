import { pushTo } from '../push-to.ts';
import type { RunId, TurnId } from '../ids.ts';
import type { Priority } from '../values/priority.ts';

/** A turn of a run in which runners have something to do. */
export interface QueueTurn {
  readonly id: TurnId;
  readonly run: RunId;
  readonly runNumber: number;
  readonly index: number;
  readonly after: readonly number[];
  /** It is with the pool, and not through. */
  readonly isQueued: boolean;
  /** It has passed or was left out: what stands behind it does not wait for it. */
  readonly isThrough: boolean;
  readonly isReady: boolean;
  /** Somebody gave its rest back: its values are at hand, and who gave it waits. */
  readonly isGivenBack: boolean;
  /** How long a runner takes for it. */
  readonly minutes: number;
  readonly dueOn: string | null;
  readonly priority: Priority;
}

const RANKS: Readonly<Record<Priority, number>> = { high: 0, medium: 1, low: 2 };

/**
 * Turns of a pool in the order in which they are handed out as they become ready: rests that were given back, then by due day, by priority, and of
 * these those first behind which the most work of their chain stands (its longest way to the end, in minutes). Cost O(turns × predecessors + n log n).
 */
export function orderQueue(turns: readonly QueueTurn[]): QueueTurn[] {
  const tails = measureTails(turns);
  const tail = (turn: QueueTurn) => tails.get(turn.id) ?? turn.minutes;
  return turns
    .filter(({ isQueued }) => isQueued)
    .sort(
      (a, b) =>
        Number(b.isGivenBack) - Number(a.isGivenBack) ||
        compareDays(a.dueOn, b.dueOn) ||
        RANKS[a.priority] - RANKS[b.priority] ||
        tail(b) - tail(a) ||
        a.runNumber - b.runNumber ||
        a.index - b.index,
    );
}

const compareDays = (a: string | null, b: string | null) => (a === b ? 0 : a === null ? 1 : b === null ? -1 : a < b ? -1 : 1);

/** Of each turn the minutes from its begin to the end of the longest way behind it in its run. */
export function measureTails(turns: readonly QueueTurn[]): Map<TurnId, number> {
  const runs = new Map<RunId, QueueTurn[]>();
  for (const turn of turns) pushTo(runs, turn.run, turn);
  const tails = new Map<TurnId, number>();
  for (const own of runs.values()) {
    const behind = new Map<number, number>();
    for (const turn of [...own].sort((a, b) => b.index - a.index)) {
      const tail = (turn.isThrough ? 0 : turn.minutes) + (behind.get(turn.index) ?? 0);
      tails.set(turn.id, tail);
      for (const index of turn.after) behind.set(index, Math.max(behind.get(index) ?? 0, tail));
    }
  }
  return tails;
}
