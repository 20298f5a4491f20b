import { pinRun } from '@kindred-baton/core/turns/pin-run';
import { leaveOutLegs } from '@kindred-baton/core/turns/leave-out-legs';
import type { OpenLegRule } from '@kindred-baton/core/cycles/rules';
import { spreadDueDays } from '@kindred-baton/core/cycles/spread-due-days';
import type { LegId, PersonId, RunId, TestVersionId } from '@kindred-baton/core/ids';
import { createBareTurn } from '@kindred-baton/core/turns/create-bare-turn';
import { createId } from '../ids.ts';
import type { LoadedLeg, LoadedScenario } from '../scenarios/load-chains.ts';
import type { CycleRow, RunRow } from '../schema/cycles.ts';
import type { turns } from '../schema/turns.ts';

export type NewTurn = typeof turns.$inferInsert & { readonly legId: LegId };

const OPEN_LEG_MINUTES = 15;

export interface TurnPlan {
  readonly cycle: Pick<CycleRow, 'id' | 'programmeId'>;
  readonly openLegs: OpenLegRule;
  readonly workingDays: readonly string[];
  readonly createId?: () => NewTurn['id'];
}

/** The turns of one run: a turn for each leg, with its wiring pinned for the run's data row, and its due day. */
export function makeTurns(plan: TurnPlan, run: Pick<RunRow, 'id' | 'values'>, loaded: LoadedScenario): NewTurn[] {
  const isLeftOut = (index: number) => plan.openLegs === 'left out' && !hasAgreedTest(loaded.legs[index]);
  const kept = leaveOutLegs(pinRun(loaded.chain, run.values), isLeftOut).flatMap(({ index, leg: pinned }) => {
    const leg = loaded.legs[index];
    return leg ? [{ leg, pinned }] : [];
  });
  const dueDays = spreadDueDays(
    kept.map(({ leg }) => getLegMinutes(leg)),
    plan.workingDays,
    kept.map(({ leg }) => leg.row.waitDays),
  );
  const indexOf = new Map(kept.map(({ leg }, index) => [leg.row.id, index]));
  return kept.map(({ leg, pinned }, index) => ({
    id: plan.createId?.() ?? createId<'turn'>(),
    programmeId: plan.cycle.programmeId,
    cycleId: plan.cycle.id,
    runId: run.id,
    index,
    legId: leg.row.id,
    title: leg.view.title,
    testId: leg.test?.id ?? null,
    versionId: getPinnedVersion(leg),
    bare: plan.openLegs === 'bare turn' && !hasAgreedTest(leg) ? createBareTurn(leg.view.title, leg.view.gives) : null,
    nodeId: leg.test?.nodeId ?? loaded.scenario.nodeId,
    teamId: leg.teamId,
    minutes: getLegMinutes(leg),
    dueOn: dueDays[index] ?? null,
    after: [...pinned.after],
    needs: [...pinned.needs],
    note: leg.row.note,
    personaId: leg.row.personaId,
    waitDays: leg.row.waitDays,
    samePersonAs: (leg.row.samePersonAs && indexOf.get(leg.row.samePersonAs)) ?? null,
    otherPersonThan: leg.row.otherPersonThan.flatMap((id) => indexOf.get(id) ?? []),
  }));
}

export function getLegMinutes(leg: LoadedLeg): number {
  return leg.test?.minutes ?? OPEN_LEG_MINUTES;
}

export function hasAgreedTest(leg: LoadedLeg | undefined): boolean {
  return Boolean(leg?.test) && leg?.version?.state === 'agreed';
}

/** Only an agreed version can be pinned. */
function getPinnedVersion(leg: LoadedLeg): TestVersionId | null {
  return leg.version?.state === 'agreed' ? leg.version.id : null;
}

export interface RunPlace {
  readonly runId: RunId;
  readonly legId: LegId | null;
  readonly assigneeId: PersonId | null;
  readonly dueOn: string | null;
}

/** Gives turns made anew the assignees that the same legs of the same runs had before; where they are to stay, their days too. */
export function keepAssignees(made: readonly NewTurn[], before: readonly RunPlace[], areDaysKept: boolean): NewTurn[] {
  const key = (place: { runId: RunId; legId: LegId | null }) => `${place.runId} ${place.legId ?? ''}`;
  const at = new Map(before.map((place) => [key(place), place]));
  return made.map((turn) => {
    const own = at.get(key(turn));
    return { ...turn, assigneeId: own?.assigneeId ?? null, ...(areDaysKept && own ? { dueOn: own.dueOn } : {}) };
  });
}
