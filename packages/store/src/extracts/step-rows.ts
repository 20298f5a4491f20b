import { eq, sql } from 'drizzle-orm';
import { people } from '../schema/people.ts';
import { runners } from '../schema/runners.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { AROUND_TURN, isSince, OF_TURN, ofWantedTurns } from './of-turns.ts';
import type { RowSource } from './row-source.ts';

const ofStep = (part: 'do' | 'target') => sql`(${testVersions.steps} -> ${stepResults.stepIndex} ->> ${sql.raw(`'${part}'`)})`;

/** What stands to each step of each attempt; a word that was taken back is none. */
export const stepRows: RowSource<'steps'> = {
  cells: () => ({
    ...OF_TURN,
    ...{
      attempt: attempts.id,
      number: attempts.number,
      step: sql`${stepResults.stepIndex} + 1`,
      action: ofStep('do'),
      target: ofStep('target'),
    },
    ...{ outcome: stepResults.outcome, by: people.name, runner: runners.name, expected: stepResults.expected, actual: stepResults.actual },
    ...{ note: stepResults.note, recorded_at: stepResults.recordedAt, took_ms: stepResults.tookMs },
  }),
  from: sql`from ${stepResults} join ${attempts} on ${eq(attempts.id, stepResults.attemptId)} join ${turns} on ${eq(turns.id, attempts.turnId)} ${AROUND_TURN}
    join ${people} on ${eq(people.id, stepResults.byId)} left join ${runners} on ${eq(runners.id, stepResults.runnerId)}
    left join ${testVersions} on ${eq(testVersions.id, attempts.versionId)}`,
  key: [
    { cell: stepResults.attemptId, type: 'uuid' },
    { cell: stepResults.stepIndex, type: 'int' },
  ],
  conditions: async (context, query) => [
    ...(await ofWantedTurns(context, query)),
    sql`${stepResults.outcome} is not null`,
    isSince(context, stepResults.recordedAt, query.since),
  ],
};
