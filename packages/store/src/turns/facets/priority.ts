import { PRIORITIES } from '@kindred-baton/core/values/priority';
import { sql } from 'drizzle-orm';
import { runs } from '../../schema/cycles.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { toValue } from './facet.ts';

export const priorityFacet: TurnFacet = {
  load: async () => ({
    ...{ facet: 'priority', value: runs.priority },
    read: (priority) =>
      toValue(
        priority,
        PRIORITIES.findIndex((each) => each === priority),
      ),
  }),
  filter: ({ db }, priority, cycleIds) =>
    sql`${turns.runId} in ${db
      .select({ id: runs.id })
      .from(runs)
      .where(sql`${runs.cycleId} = any(${sql.param(cycleIds)}::uuid[]) and ${runs.priority}::text = ${priority}`)}`,
};
