import { and, asc, eq, isNotNull, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { ReportedAttempt, ReportedTurn } from '@kindred-baton/core/cycles/record';
import type { Query } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';
import { requireCycle } from './require-cycle.ts';

/** Everything that was done in a cycle, turn by turn and attempt by attempt, by run and leg; moments in the programme's zone. Two queries. */
export const listCycleRecord: Query<string, { turns: ReportedTurn[]; attempts: ReportedAttempt[] }> = {
  right: 'read',
  read: async (context, code) => {
    const { db, actor } = context;
    const cycle = await requireCycle(context, code);
    const print = (at: PgColumn) => sql<string>`coalesce(to_char(${at} at time zone ${actor.timeZone}, 'YYYY-MM-DD HH24:MI'), '')`;
    const leg = sql<number>`${turns.index} + 1`;
    const turnRows = await db
      .select({
        ...{ run: runs.number, leg, scenario: scenarios.code, row: runs.rowName, title: turns.title, test: tests.code },
        ...{ version: testVersions.number, node: nodes.code, team: teams.name, assignee: people.name, minutes: turns.minutes },
        ...{ dueOn: turns.dueOn, status: turns.status, readyAt: print(turns.readyAt), doneAt: print(turns.doneAt), leftTo: runs.leftTo },
      })
      .from(turns)
      .innerJoin(runs, eq(runs.id, turns.runId))
      .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
      .innerJoin(nodes, eq(nodes.id, turns.nodeId))
      .leftJoin(tests, eq(tests.id, turns.testId))
      .leftJoin(testVersions, eq(testVersions.id, turns.versionId))
      .leftJoin(teams, eq(teams.id, turns.teamId))
      .leftJoin(people, eq(people.id, turns.assigneeId))
      .where(eq(turns.cycleId, cycle.id))
      .orderBy(asc(runs.number), asc(turns.index));
    const attemptRows = await db
      .select({
        ...{ run: runs.number, leg, title: turns.title, number: attempts.number, person: people.name, version: testVersions.number },
        ...{ environment: attempts.environment, startedAt: print(attempts.startedAt), finishedAt: print(attempts.finishedAt) },
        ...{ outcome: attempts.outcome, isFromSheet: attempts.isFromSheet, kept: attempts.kept },
      })
      .from(attempts)
      .innerJoin(turns, eq(turns.id, attempts.turnId))
      .innerJoin(runs, eq(runs.id, turns.runId))
      .innerJoin(people, eq(people.id, attempts.personId))
      .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
      .where(and(eq(turns.cycleId, cycle.id), isNotNull(attempts.finishedAt)))
      .orderBy(asc(runs.number), asc(turns.index), asc(attempts.number));
    return { turns: turnRows, attempts: attemptRows };
  },
};
