import { desc, eq, and, inArray } from 'drizzle-orm';
import { cycles } from '../../schema/cycles.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { readNamed } from './facet.ts';

/** Rounds beside each other, the newest first. */
export const cycleFacet: TurnFacet = {
  load: async ({ db, actor }) => ({
    ...{ facet: 'cycle', value: turns.cycleId },
    read: await readNamed(
      db
        .select({ id: cycles.id, key: cycles.code, name: cycles.name })
        .from(cycles)
        .where(eq(cycles.programmeId, actor.programmeId))
        .orderBy(desc(cycles.startsOn)),
      'None',
    ),
  }),
  filter: ({ db, actor }, codes) =>
    inArray(
      turns.cycleId,
      db
        .select({ id: cycles.id })
        .from(cycles)
        .where(and(eq(cycles.programmeId, actor.programmeId), inArray(cycles.code, codes.split(',')))),
    ),
};
