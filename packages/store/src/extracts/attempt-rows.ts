import { eq, sql } from 'drizzle-orm';
import { people } from '../schema/people.ts';
import { runners } from '../schema/runners.ts';
import { attempts, turns } from '../schema/turns.ts';
import { AROUND_TURN, isSince, OF_TURN, ofWantedTurns } from './of-turns.ts';
import type { RowSource } from './row-source.ts';

export const attemptRows: RowSource<'attempts'> = {
  cells: () => ({
    ...OF_TURN,
    ...{ attempt: attempts.id, number: attempts.number, by: people.name, runner: runners.name, outcome: attempts.outcome },
    ...{ started_at: attempts.startedAt, finished_at: attempts.finishedAt, environment: attempts.environment, browser: attempts.browser },
  }),
  from: sql`from ${attempts} join ${turns} on ${eq(turns.id, attempts.turnId)} ${AROUND_TURN} join ${people} on ${eq(people.id, attempts.personId)}
    left join ${runners} on ${eq(runners.id, attempts.runnerId)}`,
  key: [{ cell: attempts.id, type: 'uuid' }],
  conditions: async (context, query) => [
    ...(await ofWantedTurns(context, query)),
    isSince(context, sql`coalesce(${attempts.finishedAt}, ${attempts.startedAt})`, query.since),
  ],
};
