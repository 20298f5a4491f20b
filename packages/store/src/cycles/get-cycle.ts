import { isLeft } from '@kindred-baton/core/outcomes';
import { and, asc, desc, eq, gt, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { isInScope } from '@kindred-baton/core/cycles/cycle';
import type { CycleId, PersonId, RunId, TeamId } from '@kindred-baton/core/ids';
import { describeChange } from '@kindred-baton/core/programmes/describe-change';
import { pushTo } from '@kindred-baton/core/push-to';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Counts } from '@kindred-baton/core/progress/tally';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { Query, ReadContext } from '../operation.ts';
import type { LoadedScenario } from '../scenarios/load-chains.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { cycleEnvironments, cycles, runs } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { people } from '../schema/people.ts';
import { applications, environments, teamMembers, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { turns } from '../schema/turns.ts';
import { loadIdNames } from '../programmes/load-id-names.ts';
import { findObstacles } from './find-obstacles.ts';

/** A cycle with its runs, its lanes and their load, and what keeps it from being opened. */
export const getCycle: Query<string, CycleDetail> = {
  right: 'read',
  read: async (context, code) => {
    const { cycle, environment, owner } = await loadHead(context, code);
    const [turnRows, runRows, laneRows, elsewhere, changes] = await Promise.all([
      loadTurns(context, cycle.id),
      loadRunRows(context, cycle.id),
      loadLanePeople(context),
      loadEnvironments(context, cycle.id),
      listScopeChanges(context, cycle),
    ]);
    const scope = new Set(runRows.filter(({ run }) => isInScope(run.leftTo)).map(({ run }) => run.id));
    const counted = turnRows.filter(({ runId }) => scope.has(runId));
    const turnsOf = new Map<RunId, TurnOfCycle[]>();
    for (const turn of turnRows) pushTo(turnsOf, turn.runId, turn);
    return {
      ...{ id: cycle.id, code: cycle.code, name: cycle.name, state: cycle.state, purpose: cycle.purpose },
      ...{ startsOn: cycle.startsOn, endsOn: cycle.endsOn, environment, owner, environmentId: cycle.environmentId, ownerId: cycle.ownerId },
      rules: { ...cycle.rules, failure: [...cycle.rules.failure], exit: cycle.rules.exit.map((rule) => ({ ...rule })) },
      documents: cycle.documents.map((document) => ({ ...document })),
      ...{ environments: elsewhere, scopeChanges: changes },
      counts: countStatuses(counted),
      runs: runRows.map(({ run, scenario }) => ({
        ...{ id: run.id, number: run.number, scenario, rowName: run.rowName, priority: run.priority, outcome: run.outcome },
        ...{ leftTo: run.leftTo, leftReason: run.leftReason },
        turns: (turnsOf.get(run.id) ?? []).map(({ id, title, status, team, assignee }) => ({
          id,
          title,
          status,
          team: team ?? 'No team',
          assignee,
        })),
      })),
      lanes: layOutLanes(counted, laneRows),
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

function loadTurns({ db }: ReadContext, cycleId: CycleId) {
  return db
    .select({
      id: turns.id,
      runId: turns.runId,
      title: turns.title,
      status: turns.status,
      minutes: turns.minutes,
      teamId: turns.teamId,
      team: teams.name,
      assigneeId: turns.assigneeId,
      assignee: people.name,
    })
    .from(turns)
    .leftJoin(teams, eq(teams.id, turns.teamId))
    .leftJoin(people, eq(people.id, turns.assigneeId))
    .where(eq(turns.cycleId, cycleId))
    .orderBy(asc(turns.runId), asc(turns.index));
}
type TurnOfCycle = Awaited<ReturnType<typeof loadTurns>>[number];

function loadRunRows({ db }: ReadContext, cycleId: CycleId) {
  return db
    .select({ run: runs, scenario: { id: scenarios.id, code: scenarios.code, name: scenarios.name } })
    .from(runs)
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .where(eq(runs.cycleId, cycleId))
    .orderBy(asc(runs.number));
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

const sumMinutes = (rows: readonly TurnOfCycle[]) => rows.reduce((sum, turn) => sum + turn.minutes, 0);

function countStatuses(rows: readonly { status: TurnStatus }[]): Counts {
  const counts = { ...NO_COUNTS } as Record<TurnStatus, number>;
  for (const { status } of rows) counts[status] += 1;
  return counts;
}

function layOutLanes(turnRows: readonly TurnOfCycle[], lanePeople: readonly LanePersonRow[]): CycleDetail['lanes'] {
  const turnsOf = new Map<TeamId | PersonId | null, TurnOfCycle[]>();
  for (const turn of turnRows) {
    pushTo(turnsOf, turn.teamId, turn);
    if (turn.assigneeId) pushTo(turnsOf, turn.assigneeId, turn);
  }
  const measure = (rows: readonly TurnOfCycle[]) => ({
    turns: rows.length,
    minutes: sumMinutes(rows),
    minutesLeft: sumMinutes(rows.filter((turn) => isLeft(turn.status))),
  });
  const lanes = new Map(lanePeople.map((row) => [row.teamId, row]));
  return [...lanes.values()]
    .filter((lane) => turnsOf.has(lane.teamId))
    .map((lane) => ({
      ...{ team: lane.team, hoursPerDay: lane.hoursPerDay },
      ...measure(turnsOf.get(lane.teamId) ?? []),
      counts: countStatuses(turnsOf.get(lane.teamId) ?? []),
      people: lanePeople.flatMap(({ teamId, personId, person }) =>
        teamId === lane.teamId && personId && person
          ? [{ id: personId, name: person, ...measure((turnsOf.get(personId) ?? []).filter((turn) => turn.teamId === lane.teamId)) }]
          : [],
      ),
    }));
}

/** What opening it would meet: what stands in its way, and the older versions that it would pin. */
async function lookAhead(
  context: ReadContext,
  runRows: Awaited<ReturnType<typeof loadRunRows>>,
  { rules }: CycleRow,
): Promise<Pick<CycleDetail, 'obstacles' | 'older'>> {
  const { scenarios: loaded } = await loadChains(context, [...new Set(runRows.map(({ run }) => run.scenarioId))]);
  return {
    obstacles: loaded.flatMap((scenario) =>
      findObstacles(
        scenario,
        runRows.filter(({ run }) => run.scenarioId === scenario.scenario.id).map(({ run }) => run),
        rules,
      ),
    ),
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
