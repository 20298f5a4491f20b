import { NONE } from '@kindred-baton/core/progress/facet';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { tests } from '../../schema/tests.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { readNamed } from './facet.ts';

export const testFacet: TurnFacet = {
  load: async ({ db, actor }) => ({
    ...{ facet: 'test', value: turns.testId },
    read: await readNamed(
      db
        .select({ id: tests.id, key: tests.code, name: tests.name })
        .from(tests)
        .where(eq(tests.programmeId, actor.programmeId))
        .orderBy(asc(tests.code)),
      'Open legs',
    ),
  }),
  filter: ({ db, actor }, code) =>
    code === NONE
      ? isNull(turns.testId)
      : inArray(
          turns.testId,
          db
            .select({ id: tests.id })
            .from(tests)
            .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code))),
        ),
};
