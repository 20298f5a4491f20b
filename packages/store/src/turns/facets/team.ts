import { NONE } from '@kindred-baton/core/progress/facet';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { teams } from '../../schema/programmes.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { readNamed } from './facet.ts';

export const teamFacet: TurnFacet = {
  load: async ({ db, actor }) => ({
    ...{ facet: 'team', value: turns.teamId },
    read: await readNamed(
      db
        .select({ id: teams.id, name: teams.name })
        .from(teams)
        .where(eq(teams.programmeId, actor.programmeId))
        .orderBy(asc(teams.position), asc(teams.name)),
      'No team',
    ),
  }),
  filter: ({ db, actor }, name) =>
    name === NONE
      ? isNull(turns.teamId)
      : inArray(
          turns.teamId,
          db
            .select({ id: teams.id })
            .from(teams)
            .where(and(eq(teams.programmeId, actor.programmeId), eq(teams.name, name))),
        ),
};
