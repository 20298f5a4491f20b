import { NONE } from '@kindred-baton/core/progress/facet';
import { sql } from 'drizzle-orm';
import { attempts, turns } from '../../schema/turns.ts';
import type { TurnFacet } from './facet.ts';
import { toNone, toValue } from './facet.ts';

const NEWEST = sql`select case when ${attempts.runnerId} is null then 'person' else 'runner' end from ${attempts}
  where ${attempts.turnId} = ${turns.id} and not ${attempts.isAbandoned} order by ${attempts.number} desc limit 1`;

const NAMES: Readonly<Record<string, string>> = { person: 'By a person', runner: 'By a runner' };

/** Who did, or does, the newest attempt. */
export const handsFacet: TurnFacet = {
  load: async (_, { as }) => ({
    facet: 'hands',
    value: sql`${as}.hands`,
    join: sql`left join lateral (${NEWEST}) as ${as}(hands) on true`,
    read: (value) => (value === '' ? toNone('Not tried yet') : { ...toValue(value), name: NAMES[value] ?? value }),
  }),
  filter: (_, value) => sql`coalesce((${NEWEST}), ${NONE}) = ${value}`,
};
