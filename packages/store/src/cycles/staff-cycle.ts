import { eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CyclePlanView, PlanTurn, StaffCycle, Staffed } from '@kindred-baton/contracts/cycles/plan';
import type { AssignableTurn } from '@kindred-baton/core/cycles/assign-turns';
import { assignTurns } from '@kindred-baton/core/cycles/assign-turns';
import { addDays } from '@kindred-baton/core/time/calendar';
import { pushTo } from '@kindred-baton/core/push-to';
import { applyPlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { planCycle } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { isThrough, readWorker, toPlanProblem } from '@kindred-baton/core/cycles/plan/to-problem';
import { DAY_MINUTES } from '@kindred-baton/core/time/working-time';
import type { CycleId, PersonId, TurnId } from '@kindred-baton/core/ids';
import type { Context, Operation } from '../operation.ts';
import { loadPlan } from './get-plan.ts';
import { chooseForRunners } from './choose-for-runners.ts';
import { changeRuns } from '../runs/change-runs.ts';
import { requireReceiver } from '../runs/require-receiver.ts';
import { runs } from '../schema/cycles.ts';
import { keepPlanChanges } from './keep-plan-changes.ts';
import { lockCycle } from './require-cycle.ts';

/** Who does what in a cycle: by hand, by lane, or as the plan has it. What is under way stays with whoever does it. */
export const staffCycle: Operation<{ code: string; staff: StaffCycle }, Staffed> = {
  right: 'run cycles',
  run: async (context, { code, staff }) => {
    const cycle = await lockCycle(context, code, ['planning', 'open', 'closing']);
    const plan = { ...(await loadPlan(context, cycle)), code };
    const { wanted, stay = 0 } = await WAYS[staff.kind](context, plan, staff as never);
    const changed = await writeStaff(context, { cycleId: cycle.id, plan }, wanted);
    await context.record({ subject: 'cycle', subjectId: cycle.id, action: 'staffed', details: { how: staff.kind, turns: changed } });
    return {
      ...{ changed, stay },
      left: plan.turns.filter(
        (turn) => !isThrough(turn.status) && !isLeftOut(staff, turn) && (wanted.get(turn.id)?.person ?? turn.person) === null,
      ).length,
    };
  },
};

const isLeftOut = (staff: StaffCycle, { run }: PlanTurn) =>
  staff.kind === 'keep plan' && staff.changes.some((change) => change.kind === 'leave out' && change.runs.includes(run));

interface Wanted {
  readonly person: PersonId | null;
  readonly dueOn: string | null;
}
interface Chosen {
  readonly wanted: ReadonlyMap<TurnId, Wanted>;
  readonly stay?: number;
}

type Way<Kind extends StaffCycle['kind']> = (
  context: Context,
  plan: CyclePlanView & { readonly code: string },
  staff: Extract<StaffCycle, { kind: Kind }>,
) => Promise<Chosen> | Chosen;

const WAYS: { readonly [Kind in StaffCycle['kind']]: Way<Kind> } = {
  give: async (context, plan, { turns: ids, personId }) => {
    if (personId !== null) await requireReceiver(context, personId);
    const chosen = new Set(ids);
    const own = plan.turns.filter(({ id }) => chosen.has(id));
    if (own.length < chosen.size) throw new AppError('conflict', 'A chosen turn is no longer in this cycle. Look again.');
    const busy = own.find(({ status }) => status === 'under way');
    if (busy) throw new AppError('conflict', `${busy.title} is under way; it can be given to somebody else once that attempt is finished.`);
    requireOtherPeople(plan, chosen, personId);
    return { wanted: new Map(own.map((turn) => [turn.id, { person: personId, dueOn: turn.dueOn }])) };
  },
  'to runners': async (context, plan, { poolId, which }) => {
    const { isPool } = await requireReceiver(context, poolId);
    if (!isPool) throw new AppError('invalid', 'This programme has no such pool.');
    const { turns, stay } = await chooseForRunners(context, plan, { free: plan.turns.filter(canMove), which, poolId });
    return { wanted: new Map(turns.map((turn) => [turn.id, { person: poolId, dueOn: turn.dueOn }])), stay };
  },
  assign: (_, plan, { way, teams }) => {
    // What was given to runners stays with them.
    const isPools = (person: string | null) => plan.pools.some(({ id }) => id === person);
    const free = plan.turns.filter((turn) => canMove(turn) && !isPools(turn.person) && (teams === null || teams.includes(turn.team)));
    const freeIds = new Set(free.map(({ id }) => id));
    const load = new Map<string, number>();
    for (const turn of plan.turns)
      if (turn.person && !freeIds.has(turn.id) && !isThrough(turn.status))
        load.set(turn.person, (load.get(turn.person) ?? 0) + turn.minutes);
    const people = plan.people.flatMap((person) =>
      person.teams.map((team) => ({
        ...{ id: person.id as string, team, loadMinutes: load.get(person.id) ?? 0 },
        availableMinutes: person.minutesByDay.slice(0, Math.max(1, plan.endsAt / DAY_MINUTES)).reduce((sum, minutes) => sum + minutes, 0),
      })),
    );
    const { assigneeOf } = assignTurns(toAssignable(plan.turns, freeIds, way), people);
    return {
      wanted: new Map(
        free.map((turn) => [turn.id, { person: (assigneeOf.get(turn.id) as PersonId | undefined) ?? null, dueOn: turn.dueOn }]),
      ),
    };
  },
  'keep plan': async (context, plan, { changes, why }) => {
    const { jobs } = planCycle(changes.reduce(applyPlanChange, toPlanProblem(plan)));
    await keepPlanChanges(context, plan, { changes, why });
    return {
      wanted: new Map(
        jobs.flatMap(({ id, worker, end }) =>
          end === null
            ? []
            : [
                [
                  id as TurnId,
                  {
                    person: worker === null ? null : (readWorker(worker) as PersonId),
                    dueOn: addDays(plan.firstDay, Math.floor((end - 1) / DAY_MINUTES)),
                  },
                ] as const,
              ],
        ),
      ),
    };
  },
};

const canMove = (turn: PlanTurn) => !isThrough(turn.status) && turn.status !== 'under way';

/** Neighbouring legs of a run in one lane: to one person, or never to one. What the legs say themselves holds in each way. */
function toAssignable(
  all: readonly PlanTurn[],
  freeIds: ReadonlySet<TurnId>,
  way: 'balanced' | 'same person' | 'four eyes',
): AssignableTurn[] {
  const free = all.filter(({ id }) => freeIds.has(id));
  const at = new Map(all.map((turn) => [`${turn.run} ${turn.index}`, turn]));
  const previous = (turn: PlanTurn) => {
    for (let index = turn.index - 1; index >= 0; index -= 1) {
      const mate = at.get(`${turn.run} ${index}`);
      if (mate?.team === turn.team && freeIds.has(mate.id)) return mate.id as string;
    }
    return undefined;
  };
  const idAt = (turn: PlanTurn, index: number | null) => (index === null ? undefined : at.get(`${turn.run} ${index}`)?.id);
  const tied = tieToFixed(free, at, (turn) => !freeIds.has(turn.id));
  return free.map((turn) => ({
    ...{ id: turn.id, team: turn.team, minutes: turn.minutes },
    ...tied.get(turn.id),
    samePersonAs:
      idAt(turn, turn.samePersonAs) ?? (way === 'same person' && turn.otherPersonThan.length === 0 ? previous(turn) : undefined),
    otherPersonThan: [
      ...turn.otherPersonThan.flatMap((index) => idAt(turn, index) ?? []),
      ...(way === 'four eyes' ? [previous(turn) ?? []].flat() : []),
    ],
  }));
}

/** What legs say of each other binds also towards those that stay with whoever has them, or had them. */
function tieToFixed(
  free: readonly PlanTurn[],
  at: ReadonlyMap<string, PlanTurn>,
  isFixed: (turn: PlanTurn) => boolean,
): Map<string, Pick<AssignableTurn, 'notBy' | 'onlyBy'>> {
  const fixedPerson = (turn: PlanTurn, index: number) => {
    const mate = at.get(`${turn.run} ${index}`);
    return mate && isFixed(mate) ? ((isThrough(mate.status) ? mate.doneBy : null) ?? mate.person ?? undefined) : undefined;
  };
  const saidBy = new Map<string, PlanTurn[]>();
  for (const turn of at.values()) for (const index of turn.otherPersonThan) pushTo(saidBy, `${turn.run} ${index}`, turn);
  return new Map(
    free.map((turn) => {
      const barred = [...turn.otherPersonThan, ...(saidBy.get(`${turn.run} ${turn.index}`) ?? []).map(({ index }) => index)];
      const onlyBy = turn.samePersonAs === null ? undefined : fixedPerson(turn, turn.samePersonAs);
      return [turn.id, { notBy: barred.flatMap((index) => fixedPerson(turn, index) ?? []), ...(onlyBy === undefined ? {} : { onlyBy }) }];
    }),
  );
}

/** Four eyes: both of two turns that one person must not do cannot go to her. */
function requireOtherPeople(plan: CyclePlanView, chosen: ReadonlySet<string>, personId: PersonId | null): void {
  if (personId === null) return;
  const hers = plan.turns.filter((turn) => chosen.has(turn.id) || turn.person === personId);
  const at = new Map(hers.map((turn) => [`${turn.run} ${turn.index}`, turn]));
  for (const turn of hers) {
    const other = turn.otherPersonThan
      .map((index) => at.get(`${turn.run} ${index}`))
      .find((mate) => mate && (chosen.has(mate.id) || chosen.has(turn.id)));
    if (other)
      throw new AppError(
        'invalid',
        `${turn.title} must not be done by whoever does leg ${other.index + 1}, ${other.title}. Choose somebody else for one of them.`,
      );
  }
}

async function writeStaff(
  context: Context,
  { cycleId, plan }: { readonly cycleId: CycleId; readonly plan: CyclePlanView },
  wanted: ReadonlyMap<TurnId, Wanted>,
): Promise<number> {
  const rows = plan.turns.flatMap((turn) => {
    const to = wanted.get(turn.id);
    return to && (to.person !== turn.person || to.dueOn !== turn.dueOn) ? [{ turn: turn.id, personId: to.person, dueOn: to.dueOn }] : [];
  });
  if (rows.length === 0) return 0;
  const inCycle = await context.db.select({ id: runs.id }).from(runs).where(eq(runs.cycleId, cycleId));
  await changeRuns(context, { scope: { runs: inCycle.map(({ id }) => id) }, event: { kind: 'give', turns: rows } });
  return rows.length;
}
