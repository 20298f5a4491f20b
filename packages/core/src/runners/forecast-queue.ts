import { createHeap } from '../graph/heap.ts';
import type { TurnId } from '../ids.ts';
import type { QueueTurn } from './order-queue.ts';
import { orderQueue } from './order-queue.ts';

/** A turn in the forecast. Minutes count from now, and only those in which the pool works. */
interface ForecastTurn {
  readonly id: TurnId;
  readonly session: number;
  readonly from: number;
  readonly to: number;
}

export interface QueueForecast {
  readonly turns: readonly ForecastTurn[];
  /** When the last of them ends; 0 when there is none. */
  readonly end: number;
  /** Turns that stand behind something which is with people, failed or blocked: nobody can say when they come. */
  readonly waiting: readonly TurnId[];
}

/** A turn that a session does now, and for how much longer by what it usually takes. */
export interface UnderWay {
  readonly id: TurnId;
  readonly minutesLeft: number;
}

/**
 * Plays the queue on so many sessions: whichever is free takes the next turn in the queue's order that is ready by then. Cost
 * O(turns × predecessors + n log n) for chains of the queue itself.
 */
export function forecastQueue(turns: readonly QueueTurn[], sessions: number, underWay: readonly UnderWay[] = []): QueueForecast {
  const queued = orderQueue(turns);
  const at = new Map(turns.map((turn) => [`${turn.run} ${turn.index}`, turn]));
  const busy = new Map(underWay.map((turn) => [turn.id, turn.minutesLeft]));
  const reachable = listReachable(queued, at, busy);
  const rank = new Map(queued.map((turn, place) => [turn.id, place]));
  const done: ForecastTurn[] = [];
  const free = Array.from({ length: Math.max(1, sessions) }, (_, session) => session);
  const running = createHeap<ForecastTurn>((a, b) => a.to < b.to || (a.to === b.to && a.session < b.session));
  const begin = (turn: QueueTurn, now: number, minutes: number) => {
    const session = free.shift();
    if (session === undefined) return;
    const played = { id: turn.id, session, from: now, to: now + minutes };
    running.push(played);
    done.push(played);
  };
  const waitsFor = new Map<TurnId, number>();
  const behind = new Map<TurnId, QueueTurn[]>();
  const ready = createHeap<QueueTurn>((a, b) => (rank.get(a.id) ?? 0) < (rank.get(b.id) ?? 0));
  for (const turn of reachable) {
    const open = turn.after.flatMap((index) => at.get(`${turn.run} ${index}`) ?? []).filter((mate) => !mate.isThrough);
    waitsFor.set(turn.id, open.length);
    for (const mate of open) behind.set(mate.id, [...(behind.get(mate.id) ?? []), turn]);
  }
  for (const turn of reachable) if (busy.has(turn.id)) begin(turn, 0, busy.get(turn.id) ?? 0);
  for (const turn of reachable) if (!busy.has(turn.id) && (waitsFor.get(turn.id) === 0 || turn.isReady)) ready.push(turn);
  let now = 0;
  for (;;) {
    while (free.length > 0 && ready.size() > 0) {
      const next = ready.pop()!;
      begin(next, now, next.minutes);
    }
    const ended = running.pop();
    if (!ended) break;
    now = ended.to;
    free.push(ended.session);
    free.sort((a, b) => a - b);
    for (const turn of behind.get(ended.id) ?? []) {
      const left = (waitsFor.get(turn.id) ?? 1) - 1;
      waitsFor.set(turn.id, left);
      if (left === 0 && !turn.isReady) ready.push(turn);
    }
  }
  const isReached = new Set(reachable.map(({ id }) => id));
  return {
    turns: done,
    end: done.reduce((most, { to }) => Math.max(most, to), 0),
    waiting: queued.filter(({ id }) => !isReached.has(id)).map(({ id }) => id),
  };
}

/** Queued turns before which nothing is open but what the queue does itself. */
function listReachable(
  queued: readonly QueueTurn[],
  at: ReadonlyMap<string, QueueTurn>,
  busy: ReadonlyMap<TurnId, number>,
): readonly QueueTurn[] {
  const isReached = new Set<TurnId>();
  for (const turn of [...queued].sort((a, b) => a.index - b.index)) {
    const isFree = turn.after.every((index) => {
      const mate = at.get(`${turn.run} ${index}`);
      return !mate || mate.isThrough || isReached.has(mate.id);
    });
    if (turn.isReady || turn.isGivenBack || busy.has(turn.id) || isFree) isReached.add(turn.id);
  }
  return queued.filter(({ id }) => isReached.has(id));
}

/**
 * The fewest sessions with which the queue ends by then; null when no number would do, since the longest chain alone takes longer. Tries every
 * number up to `most`: more sessions do not always end sooner, and the first that does is the answer.
 */
export function findFewestSessions(
  turns: readonly QueueTurn[],
  byMinutes: number,
  { most, underWay = [] }: { readonly most: number; readonly underWay?: readonly UnderWay[] },
): number | null {
  for (let sessions = Math.max(1, underWay.length); sessions <= most; sessions += 1)
    if (forecastQueue(turns, sessions, underWay).end <= byMinutes) return sessions;
  return null;
}
