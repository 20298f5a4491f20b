import { NONE } from '@kindred-baton/core/progress/facet';
import { and, asc, eq, inArray, isNull, or } from 'drizzle-orm';
import { applications } from '../../schema/programmes.ts';
import { tests } from '../../schema/tests.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFilter } from '../filter-turns.ts';
import type { TurnFacet } from './facet.ts';
import { readNamed } from './facet.ts';

const byApplication: TurnFilter = ({ db, actor }, name) => {
  const among = name === NONE ? isNull(tests.applicationId) : eq(applications.name, name);
  const found = db
    .select({ id: tests.id })
    .from(tests)
    .leftJoin(applications, eq(applications.id, tests.applicationId))
    .where(and(eq(tests.programmeId, actor.programmeId), among));
  return name === NONE ? or(isNull(turns.testId), inArray(turns.testId, found)) : inArray(turns.testId, found);
};

export const applicationFacet: TurnFacet = {
  load: async ({ db, actor }) => ({
    ...{ facet: 'application', value: tests.applicationId },
    read: await readNamed(
      db
        .select({ id: applications.id, name: applications.name })
        .from(applications)
        .where(eq(applications.programmeId, actor.programmeId))
        .orderBy(asc(applications.name)),
      'None',
    ),
  }),
  filter: byApplication,
};
