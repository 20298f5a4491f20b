import { and, asc, eq, inArray } from 'drizzle-orm';
import { runs } from '../../schema/cycles.ts';
import { scenarios } from '../../schema/scenarios.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { readNamed } from './facet.ts';

export const scenarioFacet: TurnFacet = {
  load: async ({ db, actor }) => ({
    ...{ facet: 'scenario', value: runs.scenarioId },
    read: await readNamed(
      db
        .select({ id: scenarios.id, key: scenarios.code, name: scenarios.name })
        .from(scenarios)
        .where(eq(scenarios.programmeId, actor.programmeId))
        .orderBy(asc(scenarios.name), asc(scenarios.code)),
      'None',
    ),
  }),
  filter: ({ db, actor }, code) =>
    inArray(
      turns.runId,
      db
        .select({ id: runs.id })
        .from(runs)
        .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
        .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code))),
    ),
};
