import { eq } from 'drizzle-orm';
import type { PgSelect } from 'drizzle-orm/pg-core';
import { cycles, runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { turns } from '../schema/turns.ts';

/** Turns with their run, scenario, cycle, team, and whom they are with. Joined, 50,000 are put in order in a third of a second; looked up one by one, in some. */
export const withBelongings = <Select extends PgSelect>(select: Select) =>
  select
    .innerJoin(runs, eq(runs.id, turns.runId))
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .leftJoin(teams, eq(teams.id, turns.teamId))
    .leftJoin(people, eq(people.id, turns.assigneeId));
