import { NONE } from '@kindred-baton/core/progress/facet';
import { asc, eq, inArray, isNull } from 'drizzle-orm';
import { people } from '../../schema/people.ts';
import { members } from '../../schema/programmes.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { readNamed } from './facet.ts';

export const personFacet: TurnFacet = {
  load: async ({ db, actor }) => ({
    ...{ facet: 'person', value: turns.assigneeId },
    read: await readNamed(
      db
        .select({ id: people.id, name: people.name })
        .from(members)
        .innerJoin(people, eq(people.id, members.personId))
        .where(eq(members.programmeId, actor.programmeId))
        .orderBy(asc(people.name)),
      'Nobody yet',
    ),
  }),
  filter: ({ db }, name) =>
    name === NONE
      ? isNull(turns.assigneeId)
      : inArray(turns.assigneeId, db.select({ id: people.id }).from(people).where(eq(people.name, name))),
};
