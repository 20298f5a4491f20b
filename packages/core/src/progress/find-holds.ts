/**
 * Where the baton is held (design: progress, Holds): for each failed, blocked or idle turn, the turns behind it in its
 * run, counted once. Failed turns with the same open defect are one hold, ready turns that one person has not started
 * are one hold. Ranked by turns waiting, then by minutes of work waiting.
 */
import { followNext, listNext } from '../graph/order-nodes.ts';
import type { TurnStatus } from '../outcomes.ts';
import { isLeft } from '../outcomes.ts';

export interface HoldTurn {
  readonly id: string;
  readonly run: string;
  readonly team: string;
  readonly minutes: number;
  /** 0-based place in the run, and the places it waits for. */
  readonly index: number;
  readonly after: readonly number[];
  readonly status: TurnStatus;
  readonly assignee: string | null;
  /** Open defects that keep it failed or blocked. */
  readonly defects: readonly string[];
  /** When it failed, was blocked or became ready: milliseconds since 1970. */
  readonly sinceMs: number | null;
}

type HoldKind = 'defect' | 'failure' | 'block' | 'idle';

export interface Hold {
  readonly kind: HoldKind;
  /** The defect, the turn or the person that holds. */
  readonly key: string;
  /** The turns at which it holds. */
  readonly at: readonly string[];
  /** The turns that wait behind those, not done yet, each once. */
  readonly behind: readonly string[];
  readonly runs: number;
  readonly teams: number;
  readonly minutes: number;
  readonly sinceMs: number | null;
}

export interface HoldRule {
  /** A ready turn that has lain since before this moment is idle. */
  readonly idleBeforeMs: number;
}

/** Cost O(turns + holding turns × turns of their run). */
export function findHolds(turns: readonly HoldTurn[], rule: HoldRule): Hold[] {
  const runs = groupByRun(turns);
  const groups = new Map<string, { kind: HoldKind; key: string; at: HoldTurn[] }>();
  for (const turn of turns) {
    for (const { kind, key } of findHolders(turn, rule)) {
      const group = groups.get(`${kind} ${key}`) ?? { kind, key, at: [] };
      group.at.push(turn);
      groups.set(`${kind} ${key}`, group);
    }
  }
  return [...groups.values()]
    .map((group) => measureHold(group, runs))
    .filter((hold) => hold.kind !== 'idle' || hold.behind.length > 0)
    .sort((a, b) => b.behind.length - a.behind.length || b.minutes - a.minutes || (a.key < b.key ? -1 : 1));
}

interface Run {
  readonly turns: readonly HoldTurn[];
  /** For each place, the places that wait for it. */
  readonly next: readonly (readonly number[])[];
}

function groupByRun(turns: readonly HoldTurn[]): Map<string, Run> {
  const runs = new Map<string, HoldTurn[]>();
  for (const turn of turns) {
    const list = runs.get(turn.run) ?? [];
    list[turn.index] = turn;
    runs.set(turn.run, list);
  }
  return new Map([...runs].map(([run, own]) => [run, { turns: own, next: listNext(Array.from(own, (turn) => turn?.after ?? [])) }]));
}

function findHolders(turn: HoldTurn, rule: HoldRule): { kind: HoldKind; key: string }[] {
  if (turn.status === 'failed' || turn.status === 'blocked') {
    if (turn.defects.length > 0) return turn.defects.map((key) => ({ kind: 'defect', key }));
    return [{ kind: turn.status === 'failed' ? 'failure' : 'block', key: turn.id }];
  }
  const isIdle = turn.status === 'ready' && turn.sinceMs !== null && turn.sinceMs < rule.idleBeforeMs;
  return isIdle && turn.assignee !== null ? [{ kind: 'idle', key: turn.assignee }] : [];
}

function measureHold(group: { kind: HoldKind; key: string; at: HoldTurn[] }, runs: ReadonlyMap<string, Run>): Hold {
  const behind = new Set<HoldTurn>();
  for (const turn of group.at) {
    const { turns = [], next = [] } = runs.get(turn.run) ?? {};
    for (const index of followNext(next, turn.index)) {
      const member = turns[index];
      if (member && isLeft(member.status)) behind.add(member);
    }
  }
  const waiting = [...behind];
  const since = group.at.flatMap((turn) => (turn.sinceMs === null ? [] : [turn.sinceMs]));
  return {
    kind: group.kind,
    key: group.key,
    at: group.at.map((turn) => turn.id),
    behind: waiting.map((turn) => turn.id),
    runs: new Set(waiting.map((turn) => turn.run)).size,
    teams: new Set(waiting.map((turn) => turn.team)).size,
    minutes: waiting.reduce((sum, turn) => sum + turn.minutes, 0),
    sinceMs: since.length > 0 ? Math.min(...since) : null,
  };
}
