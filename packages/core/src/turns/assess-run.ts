import type { RunOutcome } from '../outcomes.ts';
import { getRunOutcome, isTrouble, letsOn } from '../outcomes.ts';
import { convertValue } from '../values/convert-value.ts';
import { toNameKey } from '../values/field.ts';
import type { HoldCause, TurnAssessment, TurnView } from './turn.ts';

export interface RunAssessment {
  readonly turns: readonly TurnAssessment[];
  readonly outcome: RunOutcome;
}

/**
 * Where each turn of a run stands. A turn is ready when all turns before it passed (or were skipped) and every value it
 * needs is there; it is held when a turn somewhere before it failed or is blocked, or when a value that should have come
 * did not. Turns come in an order in which each stands after those it waits for. Cost O(turns × predecessors).
 */
export function assessRun(turns: readonly TurnView[]): RunAssessment {
  const causes: (readonly HoldCause[])[] = [];
  const assessed = turns.map((turn, index) => {
    causes[index] = findCauses(turns, turn, causes);
    return assessTurn(turns, turn, causes[index]);
  });
  const outcome = getRunOutcome(assessed.map((turn, index) => ({ outcome: turn.outcome, isBegun: turns[index]?.isUnderWay === true })));
  return { turns: assessed, outcome };
}

function assessTurn(turns: readonly TurnView[], turn: TurnView, causes: readonly HoldCause[]): TurnAssessment {
  const outcome = turn.latest?.outcome ?? 'not run';
  if (turn.isLeftOut && !turn.latest && !turn.isUnderWay) return { state: 'done', outcome: 'skipped', status: 'skipped', causes: [] };
  if (turn.isUnderWay) return { state: 'under way', outcome, status: turn.latest ? turn.latest.outcome : 'under way', causes: [] };
  if (turn.latest)
    return { state: turn.isRetestDue && !turn.isLeftOut ? 'ready' : 'done', outcome, status: turn.latest.outcome, causes: [] };
  if (causes.length > 0) return { state: 'waiting', outcome, status: 'held', causes };
  const isReady = turn.after.every((index) => isOver(turns[index]));
  return isReady ? { state: 'ready', outcome, status: 'ready', causes: [] } : { state: 'waiting', outcome, status: 'waiting', causes: [] };
}

function isOver(turn: TurnView | undefined): boolean {
  if (!turn?.latest) return turn?.isLeftOut === true && !turn.isUnderWay;
  return letsOn(turn.latest.outcome);
}

/** Root causes: failed or blocked turns before, values that a finished turn should have given, and the causes of whatever is not over yet; what was left out holds nobody. */
function findCauses(turns: readonly TurnView[], turn: TurnView, before: readonly (readonly HoldCause[])[]): HoldCause[] {
  const found = new Map<string, HoldCause>();
  const add = (cause: HoldCause) => found.set(`${cause.kind} ${cause.index} ${cause.kind === 'value' ? cause.name : ''}`, cause);
  for (const index of turn.after) {
    const outcome = turns[index]?.latest?.outcome;
    if (isTrouble(outcome)) add({ kind: 'turn', index, outcome });
    else if (!isOver(turns[index])) before[index]?.forEach(add);
  }
  for (const { name, source, isOptional } of turn.needs) {
    if (isOptional) continue;
    if (source.kind === 'none') add({ kind: 'value', index: null, name });
    if (source.kind !== 'turn') continue;
    const giver = turns[source.index];
    if (isOver(giver) && findKept(giver, source.name) === undefined) add({ kind: 'value', index: source.index, name });
  }
  return [...found.values()];
}

function findKept(turn: TurnView | undefined, name: string): string | undefined {
  const key = toNameKey(name);
  for (const [kept, value] of Object.entries(turn?.latest?.kept ?? {})) if (toNameKey(kept) === key && value !== '') return value;
  return undefined;
}

/** A value that is travelling: who made it, as a place in the run. */
export interface BatonValue {
  readonly name: string;
  readonly value: string;
  readonly index: number;
}

/** The baton: every value that passed turns have kept so far, in order; a later value of the same name replaces an earlier. */
export function collectBaton(turns: readonly TurnView[]): BatonValue[] {
  const baton = new Map<string, BatonValue>();
  turns.forEach((turn, index) => {
    if (turn.latest?.outcome !== 'passed') return;
    for (const [name, value] of Object.entries(turn.latest.kept)) baton.set(toNameKey(name), { name, value, index });
  });
  return [...baton.values()];
}

/** What a turn has in hand for each of its needs; undefined while it has not come. */
export function resolveNeeds(turns: readonly TurnView[], index: number): { name: string; value: string | undefined }[] {
  return (turns[index]?.needs ?? []).map(({ name, source }) => {
    if (source.kind === 'value') return { name, value: source.value };
    if (source.kind !== 'turn') return { name, value: undefined };
    const giver = turns[source.index];
    const kept = giver?.latest?.outcome === 'passed' ? findKept(giver, source.name) : undefined;
    // What cannot be converted is handed over as it came; the tester sees it.
    return { name, value: kept !== undefined && source.convertTo ? (convertValue(kept, source.convertTo) ?? kept) : kept };
  });
}
