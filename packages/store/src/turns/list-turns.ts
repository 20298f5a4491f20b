import { and, count, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TurnList, TurnListQuery } from '@kindred-baton/contracts/turns/turn';
import { NONE, TURN_PAGE_SIZE } from '@kindred-baton/contracts/turns/turn';
import type { TurnId } from '@kindred-baton/core/ids';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { applications, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { loadTurnCards } from './load-turn-cards.ts';

/** The turns behind a number: every count on a screen leads here with the filters that it was counted by. */
export const listTurns: Query<TurnListQuery, TurnList> = {
  right: 'read',
  read: async (context, query) => {
    const { db, actor } = context;
    const [cycle] = await db
      .select({ id: cycles.id, code: cycles.code, name: cycles.name })
      .from(cycles)
      .where(and(eq(cycles.programmeId, actor.programmeId), eq(cycles.code, query.cycle)));
    if (!cycle) throw new AppError('not found', `There is no cycle ${query.cycle}.`);
    const where = and(eq(turns.cycleId, cycle.id), ...(await toConditions(context, query, cycle.id)));
    const matching = db.select({ id: turns.id }).from(turns).where(where);
    const [total, cards] = await Promise.all([
      db.select({ turns: count() }).from(matching.as('matching')),
      loadTurnCards(context, { where: inArray(turns.id, matching), limit: TURN_PAGE_SIZE, offset: (query.page - 1) * TURN_PAGE_SIZE }),
    ]);
    return { cycle: { code: cycle.code, name: cycle.name }, total: total[0]?.turns ?? 0, page: query.page, turns: cards };
  },
};

async function toConditions(
  context: ReadContext,
  query: TurnListQuery,
  cycleId: typeof turns.$inferSelect.cycleId,
): Promise<(SQL | undefined)[]> {
  const { db, actor } = context;
  const here = actor.programmeId;
  const named = {
    team: (name: string) =>
      name === NONE
        ? isNull(turns.teamId)
        : inArray(
            turns.teamId,
            db
              .select({ id: teams.id })
              .from(teams)
              .where(and(eq(teams.programmeId, here), eq(teams.name, name))),
          ),
    person: (name: string) =>
      name === NONE
        ? isNull(turns.assigneeId)
        : inArray(turns.assigneeId, db.select({ id: people.id }).from(people).where(eq(people.name, name))),
    application: (name: string) => {
      const among = name === NONE ? isNull(tests.applicationId) : eq(applications.name, name);
      const found = db
        .select({ id: tests.id })
        .from(tests)
        .leftJoin(applications, eq(applications.id, tests.applicationId))
        .where(and(eq(tests.programmeId, here), among));
      return name === NONE ? or(isNull(turns.testId), inArray(turns.testId, found)) : inArray(turns.testId, found);
    },
    priority: (priority: NonNullable<TurnListQuery['priority']>) =>
      inArray(
        turns.runId,
        db
          .select({ id: runs.id })
          .from(runs)
          .where(and(eq(runs.cycleId, cycleId), eq(runs.priority, priority))),
      ),
    test: (code: string) =>
      inArray(
        turns.testId,
        db
          .select({ id: tests.id })
          .from(tests)
          .where(and(eq(tests.programmeId, here), eq(tests.code, code))),
      ),
    scenario: (code: string) =>
      inArray(
        turns.runId,
        db
          .select({ id: runs.id })
          .from(runs)
          .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
          .where(and(eq(scenarios.programmeId, here), eq(scenarios.code, code))),
      ),
    run: (number: number) =>
      inArray(
        turns.runId,
        db
          .select({ id: runs.id })
          .from(runs)
          .where(and(eq(runs.cycleId, cycleId), eq(runs.number, number))),
      ),
  };
  return [
    query.status ? inArray(turns.status, query.status) : undefined,
    query.team ? named.team(query.team) : undefined,
    query.person ? named.person(query.person) : undefined,
    query.application ? named.application(query.application) : undefined,
    query.priority ? named.priority(query.priority) : undefined,
    query.test ? named.test(query.test) : undefined,
    query.scenario ? named.scenario(query.scenario) : undefined,
    query.run ? named.run(query.run) : undefined,
    query.node ? amongIds(turns.nodeId, listSubtree(await loadTree(context), query.node)) : undefined,
    query.hold ? amongIds(turns.id, await listHeldTurns(context, cycleId, query.hold)) : undefined,
  ];
}

function amongIds(column: typeof turns.nodeId | typeof turns.id, ids: readonly string[]): SQL {
  return ids.length > 0 ? inArray(column as typeof turns.id, ids as TurnId[]) : sql`false`;
}

async function listHeldTurns(context: ReadContext, cycleId: typeof turns.$inferSelect.cycleId, hold: string): Promise<string[]> {
  const { holds } = await loadHolds(context, cycleId);
  const found = holds.find((candidate) => `${candidate.kind}:${candidate.key}` === hold);
  return found ? [...found.behind] : [];
}
