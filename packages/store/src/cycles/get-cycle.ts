import { isLeft } from '@kindred-baton/core/outcomes';
import { and, asc, count, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { isInScope } from '@kindred-baton/core/cycles/cycle';
import type { CycleId, ScenarioId, TeamId } from '@kindred-baton/core/ids';
import { describeChange } from '@kindred-baton/core/programmes/describe-change';
import { pushTo } from '@kindred-baton/core/push-to';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { Query, ReadContext } from '../operation.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import type { CycleRow, RunRow } from '../schema/cycles.ts';
import { cycleEnvironments, cycles, runs } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { people } from '../schema/people.ts';
import { applications, environments, teamMembers, teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { loadIdNames } from '../programmes/load-id-names.ts';
import { findObstacles } from './find-obstacles.ts';

/** A cycle with its lanes and their load, and what keeps it from being opened. Its runs are list-runs.ts. */
export const getCycle: Query<string, CycleDetail> = {
  right: 'read',
  read: async (context, code) => {
    const { cycle, environment, owner } = await loadHead(context, code);
    const [loads, runRows, laneRows, elsewhere, changes] = await Promise.all([
      loadLoads(context, cycle.id),
      loadRunRows(context, cycle.id),
      loadLanePeople(context),
      loadEnvironments(context, cycle.id),
      listScopeChanges(context, cycle),
    ]);
    return {
      ...{ id: cycle.id, code: cycle.code, name: cycle.name, state: cycle.state, purpose: cycle.purpose },
      ...{ startsOn: cycle.startsOn, endsOn: cycle.endsOn, environment, owner, environmentId: cycle.environmentId, ownerId: cycle.ownerId },
      rules: { ...cycle.rules, failure: [...cycle.rules.failure], exit: cycle.rules.exit.map((rule) => ({ ...rule })) },
      documents: cycle.documents.map((document) => ({ ...document })),
      ...{ environments: elsewhere, scopeChanges: changes },
      counts: countStatuses(loads),
      runs: runRows.filter(({ leftTo }) => isInScope(leftTo)).length,
      lanes: layOutLanes(loads, laneRows),
      ...(cycle.state === 'planning' ? await lookAhead(context, runRows, cycle) : { obstacles: [], older: [] }),
    };
  },
};

async function loadHead({ db, actor }: ReadContext, code: string): Promise<{ cycle: CycleRow; environment: string; owner: string | null }> {
  const [head] = await db
    .select({ cycle: cycles, environment: environments.name, owner: people.name })
    .from(cycles)
    .innerJoin(environments, eq(environments.id, cycles.environmentId))
    .leftJoin(people, eq(people.id, cycles.ownerId))
    .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, code)));
  if (!head) throw new AppError('not found', `There is no cycle ${code}.`);
  return head;
}

/** The turns in scope as loads: how many of a lane, a person and a status there are, and their minutes. */
function loadLoads({ db }: ReadContext, cycleId: CycleId) {
  return db
    .select({
      ...{ teamId: turns.teamId, assigneeId: turns.assigneeId, status: turns.status },
      ...{ turns: count(), minutes: sql<number>`sum(${turns.minutes})::int` },
    })
    .from(turns)
    .where(and(eq(turns.cycleId, cycleId), isTurnInScope))
    .groupBy(turns.teamId, turns.assigneeId, turns.status);
}
type Load = Awaited<ReturnType<typeof loadLoads>>[number];

function loadRunRows({ db }: ReadContext, cycleId: CycleId) {
  return db.select().from(runs).where(eq(runs.cycleId, cycleId)).orderBy(asc(runs.number));
}

function loadLanePeople({ db, actor }: ReadContext) {
  return db
    .select({ teamId: teams.id, team: teams.name, hoursPerDay: teams.hoursPerDay, personId: people.id, person: people.name })
    .from(teams)
    .leftJoin(teamMembers, eq(teamMembers.teamId, teams.id))
    .leftJoin(people, eq(people.id, teamMembers.personId))
    .where(eq(teams.programmeId, actor.programmeId))
    .orderBy(asc(teams.position), asc(people.name));
}
type LanePersonRow = Awaited<ReturnType<typeof loadLanePeople>>[number];

function countStatuses(loads: readonly Load[]): Counts {
  const counts = { ...NO_COUNTS } as Record<TurnStatus, number>;
  for (const load of loads) counts[load.status] += load.turns;
  return counts;
}

function measure(loads: readonly Load[]) {
  const sum = (of: readonly Load[], figure: 'turns' | 'minutes') => of.reduce((total, load) => total + load[figure], 0);
  const left = loads.filter(({ status }) => isLeft(status));
  return { turns: sum(loads, 'turns'), minutes: sum(loads, 'minutes'), minutesLeft: sum(left, 'minutes') };
}

function layOutLanes(loads: readonly Load[], lanePeople: readonly LanePersonRow[]): CycleDetail['lanes'] {
  const loadsOf = new Map<TeamId, Load[]>();
  for (const load of loads) if (load.teamId) pushTo(loadsOf, load.teamId, load);
  const lanes = new Map(lanePeople.map((row) => [row.teamId, row]));
  return [...lanes.values()]
    .filter((lane) => loadsOf.has(lane.teamId))
    .map((lane) => ({
      ...{ team: lane.team, hoursPerDay: lane.hoursPerDay },
      ...measure(loadsOf.get(lane.teamId) ?? []),
      counts: countStatuses(loadsOf.get(lane.teamId) ?? []),
      people: lanePeople.flatMap(({ teamId, personId, person }) =>
        teamId === lane.teamId && personId && person
          ? [
              {
                id: personId,
                name: person,
                ...measure((loadsOf.get(lane.teamId) ?? []).filter(({ assigneeId }) => assigneeId === personId)),
              },
            ]
          : [],
      ),
    }));
}

/** What opening it would meet: what stands in its way, and the older versions that it would pin. */
async function lookAhead(
  context: ReadContext,
  runRows: readonly RunRow[],
  { rules }: CycleRow,
): Promise<Pick<CycleDetail, 'obstacles' | 'older'>> {
  const { scenarios: loaded } = await loadChains(context, [...new Set(runRows.map(({ scenarioId }) => scenarioId))]);
  const runsOf = new Map<ScenarioId, RunRow[]>();
  for (const run of runRows) pushTo(runsOf, run.scenarioId, run);
  return {
    obstacles: loaded.flatMap((scenario) => findObstacles(scenario, runsOf.get(scenario.scenario.id) ?? [], rules)),
    older: listOlder(loaded),
  };
}

function listOlder(loaded: readonly LoadedScenario[]): CycleDetail['older'] {
  const older = new Map<string, CycleDetail['older'][number]>();
  for (const { scenario, legs } of loaded)
    for (const { test, version, newer } of legs) {
      if (!test || !version || newer === null) continue;
      const known = older.get(`${test.code} ${version.number}`);
      if (known && !known.scenarios.includes(scenario.code)) known.scenarios.push(scenario.code);
      if (!known)
        older.set(`${test.code} ${version.number}`, {
          test: test.code,
          version: version.number,
          newest: newer,
          scenarios: [scenario.code],
        });
    }
  return [...older.values()].sort((a, b) => (a.test < b.test ? -1 : 1));
}

function loadEnvironments({ db }: ReadContext, cycleId: CycleId): Promise<CycleDetail['environments']> {
  return db
    .select({
      ...{ applicationId: cycleEnvironments.applicationId, application: applications.name },
      ...{ environmentId: cycleEnvironments.environmentId, environment: environments.name },
    })
    .from(cycleEnvironments)
    .innerJoin(applications, eq(applications.id, cycleEnvironments.applicationId))
    .innerJoin(environments, eq(environments.id, cycleEnvironments.environmentId))
    .where(eq(cycleEnvironments.cycleId, cycleId))
    .orderBy(asc(applications.name));
}

const SCOPE_ACTIONS = ['scope changed', 'changed while open', 'took a scenario over', 'took a newer version over'];

/** What was changed of its scope and rules since it opened, newest first, with who and why. */
async function listScopeChanges(context: ReadContext, cycle: CycleRow): Promise<CycleDetail['scopeChanges']> {
  if (cycle.openedAt === null) return [];
  const [nameOf, rows] = await Promise.all([
    loadIdNames(context),
    context.db
      .select({ action: history.action, details: history.details, by: people.name, at: history.at })
      .from(history)
      .leftJoin(people, eq(people.id, history.personId))
      .where(and(eq(history.subjectId, cycle.id), inArray(history.action, SCOPE_ACTIONS), gt(history.at, cycle.openedAt)))
      .orderBy(desc(history.id)),
  ]);
  return rows.map(({ action, by, at, details: { added, dropped, ...details } }) => ({
    ...{ action, by, at: at.toISOString(), why: typeof details['why'] === 'string' ? details['why'] : '' },
    ...{ details: describeChange(details, nameOf), added: toTexts(added), dropped: toTexts(dropped) },
  }));
}

const toTexts = (value: unknown) => (Array.isArray(value) ? value.filter((item) => typeof item === 'string') : []);
