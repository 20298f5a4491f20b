import { eq, sql } from 'drizzle-orm';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';
import { AROUND_TURN, isSince, OF_TURN, ofWantedTurns } from './of-turns.ts';
import type { RowSource } from './row-source.ts';

const seenAt = sql`(select string_agg(${defects.code}, ' ' order by ${defects.number}) from ${defectTurns} join ${defects} on ${eq(defects.id, defectTurns.defectId)}
  where ${eq(defectTurns.turnId, turns.id)})`;
const ended = sql`(select count(*) from ${attempts} where ${eq(attempts.turnId, turns.id)} and ${attempts.finishedAt} is not null)`;

export const turnRows: RowSource<'turns'> = {
  cells: () => ({
    ...OF_TURN,
    ...{ tester: people.name, status: turns.status, version: testVersions.number, due_on: turns.dueOn },
    ...{ ready_at: turns.readyAt, done_at: turns.doneAt, planned_minutes: turns.minutes, attempts: ended, defects: seenAt },
  }),
  from: sql`from ${turns} ${AROUND_TURN} left join ${people} on ${eq(people.id, turns.assigneeId)} left join ${testVersions} on ${eq(testVersions.id, turns.versionId)}`,
  key: [{ cell: turns.id, type: 'uuid' }],
  conditions: async (context, query) => [
    ...(await ofWantedTurns(context, query)),
    isSince(context, sql`greatest(${turns.readyAt}, ${turns.doneAt})`, query.since),
  ],
};
