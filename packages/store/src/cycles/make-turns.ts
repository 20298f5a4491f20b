import { pinRun } from '@kindred-baton/core/cycles/pin-run';
import { spreadDueDays } from '@kindred-baton/core/cycles/spread-due-days';
import type { LegId, PersonId, RunId, TestVersionId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { LoadedLeg, LoadedScenario } from '../scenarios/load-chains.ts';
import type { CycleRow, RunRow } from '../schema/cycles.ts';
import type { turns } from '../schema/turns.ts';

export type NewTurn = typeof turns.$inferInsert & { readonly legId: LegId };

export const OPEN_LEG_MINUTES = 15;

export interface TurnPlan {
  readonly cycle: Pick<CycleRow, 'id' | 'programmeId'>;
  readonly workingDays: readonly string[];
  readonly createId?: () => NewTurn['id'];
}

/** The turns of one run: a turn for each leg, with its wiring pinned for the run's data row, and its due day. */
export function makeTurns(plan: TurnPlan, run: Pick<RunRow, 'id' | 'values'>, loaded: LoadedScenario): NewTurn[] {
  const pinned = pinRun(loaded.chain, run.values);
  const minutes = loaded.legs.map(getLegMinutes);
  const dueDays = spreadDueDays(
    minutes,
    plan.workingDays,
    loaded.legs.map(({ row }) => row.waitDays),
  );
  const indexOf = new Map(loaded.legs.map(({ row }, index) => [row.id, index]));
  return loaded.legs.map((leg, index) => ({
    id: plan.createId?.() ?? createId<'turn'>(),
    programmeId: plan.cycle.programmeId,
    cycleId: plan.cycle.id,
    runId: run.id,
    index,
    legId: leg.row.id,
    title: leg.view.title,
    testId: leg.test?.id ?? null,
    versionId: getPinnedVersion(leg),
    nodeId: leg.test?.nodeId ?? loaded.scenario.nodeId,
    teamId: leg.teamId,
    minutes: minutes[index] ?? OPEN_LEG_MINUTES,
    dueOn: dueDays[index] ?? null,
    after: [...(pinned[index]?.after ?? [])],
    needs: [...(pinned[index]?.needs ?? [])],
    note: leg.row.note,
    personaId: leg.row.personaId,
    samePersonAs: (leg.row.samePersonAs && indexOf.get(leg.row.samePersonAs)) ?? null,
    otherPersonThan: leg.row.otherPersonThan.flatMap((id) => indexOf.get(id) ?? []),
  }));
}

export function getLegMinutes(leg: LoadedLeg): number {
  return leg.test?.minutes ?? OPEN_LEG_MINUTES;
}

/** Only an agreed version can be pinned. */
function getPinnedVersion(leg: LoadedLeg): TestVersionId | null {
  return leg.version?.state === 'agreed' ? leg.version.id : null;
}

export interface RunPlace {
  readonly runId: RunId;
  readonly legId: LegId | null;
  readonly assigneeId: PersonId | null;
}

/** Gives turns made anew the assignees that the same legs of the same runs had before. */
export function keepAssignees(made: readonly NewTurn[], before: readonly RunPlace[]): NewTurn[] {
  const key = (place: { runId: RunId; legId: LegId | null }) => `${place.runId} ${place.legId ?? ''}`;
  const assigneeAt = new Map(before.map((place) => [key(place), place.assigneeId]));
  return made.map((turn) => ({ ...turn, assigneeId: assigneeAt.get(key(turn)) ?? null }));
}
