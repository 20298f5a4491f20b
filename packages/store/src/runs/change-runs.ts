import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId, TurnId } from '@kindred-baton/core/ids';
import { letsOn } from '@kindred-baton/core/outcomes';
import { decide } from '@kindred-baton/core/turns/decide/decide';
import type { Effect, Refusal, RunEvent } from '@kindred-baton/core/turns/decide/event';
import type { RunsState } from '@kindred-baton/core/turns/decide/runs-state';
import { tellBlocked, tellFixed, tellLifted, tellPassedOn, tellReady } from '../mails/tell.ts';
import { tellDecidable } from './tell-owners.ts';
import type { Context } from '../operation.ts';
import { loadDoer } from './load-doer.ts';
import { loadState } from './load-state.ts';
import type { RunScope } from './lock-runs.ts';
import { lockScope } from './lock-runs.ts';
import { writeState } from './write-state.ts';

export interface RunChange {
  readonly scope: RunScope;
  /** Attempts that the event ends, of which everything recorded is asked for. */
  readonly sheetsOf?: readonly AttemptId[];
  /** What happens, said once the runs are locked and read: nothing of them changes meanwhile. */
  readonly event: RunEvent | ((state: RunsState) => RunEvent | Promise<RunEvent>);
}

export interface ChangedRuns {
  readonly before: RunsState;
  readonly after: RunsState;
  readonly effects: readonly Effect[];
}

/**
 * The one door to runs, turns and attempts: lock in one order, load, let core decide, write what differs, history, letters and notices. Whatever
 * changes a run comes through here, in the caller's transaction.
 */
export async function changeRuns(context: Context, { scope, sheetsOf, event }: RunChange): Promise<ChangedRuns> {
  const locked = await lockScope(context, scope);
  const [before, by] = [await loadState(context, locked, sheetsOf), await loadDoer(context)];
  const decision = decide(before, typeof event === 'function' ? await event(before) : event, { by, atMs: context.now.getTime() });
  if (!decision.ok) throw toError(decision.refusal);
  const { state: after, effects } = decision;
  await writeState(context, before, after);
  await tell(context, after, effects);
  await tellDecidable(context, listThrough(before, after));
  return { before, after, effects };
}

/** Turns that let on by now, and did not before. */
function listThrough(before: RunsState, after: RunsState): TurnId[] {
  const was = new Map(before.runs.flatMap((run) => run.turns.map(({ id, outcome }) => [id, outcome] as const)));
  return after.runs.flatMap((run) => run.turns.filter(({ id, outcome }) => letsOn(outcome) && !letsOn(was.get(id))).map(({ id }) => id));
}

export const toError = ({ code, message }: Refusal) => new AppError(code, message);

async function tell(context: Context, state: RunsState, effects: readonly Effect[]): Promise<void> {
  await context.record(
    effects.flatMap((effect) => {
      if (effect.kind !== 'history') return [];
      const { subject, subjectId, action, details } = effect;
      return [{ subject, subjectId, action, details }];
    }),
  );
  const turnOf = new Map(state.runs.flatMap((run) => run.turns.map((turn) => [turn.id, turn] as const)));
  for (const effect of effects) {
    if (effect.kind === 'tell ready')
      await tellReady(
        context,
        effect.turns.flatMap((id) => turnOf.get(id) ?? []),
      );
    if (effect.kind === 'tell fixed') {
      const defect = state.defects.find(({ id }) => id === effect.defect);
      if (defect)
        await tellFixed(
          context,
          defect,
          effect.turns.flatMap((id) => turnOf.get(id) ?? []),
        );
    }
    const turn = 'turn' in effect ? turnOf.get(effect.turn) : undefined;
    if (effect.kind === 'tell passed on' && turn) await tellPassedOn(context, turn, effect);
    if (effect.kind === 'tell blocked' && turn) await tellBlocked(context, turn, effect.why);
    if (effect.kind === 'tell lifted' && turn) await tellLifted(context, turn, effect.word);
  }
}
