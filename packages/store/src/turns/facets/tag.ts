import { NONE } from '@kindred-baton/core/progress/facet';
import { sql } from 'drizzle-orm';
import { tests } from '../../schema/tests.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { toNone, toValue } from './facet.ts';

export const tagFacet: TurnFacet = {
  load: async (_, { as }) => ({
    facet: 'tag',
    value: sql`${as}.tag`,
    join: sql`left join lateral unnest(${tests.tags}) as ${as}(tag) on true`,
    isMany: true,
    read: (tag) => (tag === '' ? toNone('No tag') : toValue(tag)),
  }),
  filter: (_, tag) =>
    tag === NONE
      ? sql`not exists (select from tests as own where own.id = ${turns.testId} and own.tags <> '{}')`
      : sql`exists (select from tests as own where own.id = ${turns.testId} and ${tag} = any(own.tags))`,
};
