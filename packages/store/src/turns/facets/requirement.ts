import { NONE } from '@kindred-baton/core/progress/facet';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import type { SQL } from 'drizzle-orm';
import { eq, sql } from 'drizzle-orm';
import { requirements, requirementTests } from '../../schema/requirements.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { toNone, toValue } from './facet.ts';

const kindsOf = (more?: SQL): SQL => sql`select ${requirements.kind}::text from ${requirementTests}
  join ${requirements} on ${eq(requirements.id, requirementTests.requirementId)} where ${requirementTests.testId} = ${turns.testId} ${more}`;

/** By the kind of the requirements that a turn's test serves. */
export const requirementFacet: TurnFacet = {
  load: async (_, { as }) => ({
    facet: 'requirement',
    value: sql`${as}.kind`,
    join: sql`left join lateral (${kindsOf(sql`group by ${requirements.kind}`)}) as ${as}(kind) on true`,
    isMany: true,
    read: (kind) =>
      kind === ''
        ? toNone('No requirement')
        : toValue(
            kind,
            REQUIREMENT_KINDS.findIndex((each) => each === kind),
          ),
  }),
  filter: (_, kind) =>
    kind === NONE ? sql`not exists (${kindsOf()})` : sql`exists (${kindsOf(sql`and ${requirements.kind}::text = ${kind}`)})`,
};
