import { CYCLE_PURPOSES } from '@kindred-baton/core/cycles/cycle';
import { sql } from 'drizzle-orm';
import { cycles } from '../../schema/cycles.ts';
import { turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { toValue } from './facet.ts';

export const purposeFacet: TurnFacet = {
  load: async () => ({
    ...{ facet: 'purpose', value: cycles.purpose },
    read: (purpose) =>
      toValue(
        purpose,
        CYCLE_PURPOSES.findIndex((each) => each === purpose),
      ),
  }),
  filter: (_, purpose) => sql`exists (select from cycles as own where own.id = ${turns.cycleId} and own.purpose::text = ${purpose})`,
};
