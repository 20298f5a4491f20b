import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { AttemptView } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId, TestVersionId, TurnId } from '@kindred-baton/core/ids';
import { groupBy } from '@kindred-baton/core/push-to';
import { canContinue } from '@kindred-baton/core/turns/decide/begin';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { pools, runners } from '../schema/runners.ts';
import type { CycleRow } from '../schema/cycles.ts';
import type { TurnRow } from '../schema/turns.ts';
import { attempts, evidence, leases, saidMinutes, stepResults, turns } from '../schema/turns.ts';
import { withSpent } from './spent.ts';

/** An attempt as people see it, and the version that was done in it; null: a bare turn's steps. */
export interface ListedAttempt {
  readonly versionId: TestVersionId | null;
  readonly view: AttemptView;
}

/** Every attempt at turns of a cycle, the newest of each first, with whose word each step is, and what it took. Four queries. */
export async function listAttempts(
  { db, actor }: ReadContext,
  of: readonly Pick<TurnRow, 'id' | 'versionId'>[],
  cycle: Pick<CycleRow, 'state'>,
): Promise<ReadonlyMap<TurnId, readonly ListedAttempt[]>> {
  const turnIds = of.map(({ id }) => id);
  const rows = await db
    .select({ attempt: attempts, person: people.name, poolId: pools.id, runner: runners.name, leased: leases.attemptId })
    .from(attempts)
    .innerJoin(people, eq(people.id, attempts.personId))
    .leftJoin(pools, eq(pools.id, attempts.personId))
    .leftJoin(runners, eq(runners.id, attempts.runnerId))
    .leftJoin(leases, eq(leases.attemptId, attempts.id))
    .where(inArray(attempts.turnId, turnIds))
    .orderBy(desc(attempts.number));
  const ids: AttemptId[] = rows.map(({ attempt }) => attempt.id);
  if (ids.length === 0) return new Map();
  const [took, results, files] = await Promise.all([
    loadSpent(db, turnIds),
    db
      .select({ result: stepResults, by: people.name, runner: runners.name })
      .from(stepResults)
      .innerJoin(people, eq(people.id, stepResults.byId))
      .leftJoin(runners, eq(runners.id, stepResults.runnerId))
      .where(inArray(stepResults.attemptId, ids))
      .orderBy(asc(stepResults.stepIndex)),
    db
      .select({
        id: evidence.id,
        attemptId: evidence.attemptId,
        stepIndex: evidence.stepIndex,
        name: evidence.name,
        mediaType: evidence.mediaType,
        size: evidence.size,
      })
      .from(evidence)
      .where(inArray(evidence.attemptId, ids))
      .orderBy(asc(evidence.addedAt)),
  ]);
  const resultsOf = groupBy(results, ({ result }) => result.attemptId);
  const filesOf = groupBy(files, ({ attemptId }) => attemptId);
  const rowsOf = groupBy(rows, ({ attempt }) => attempt.turnId);
  const versionOf = new Map(of.map(({ id, versionId }) => [id, versionId]));
  return new Map(
    [...rowsOf].map(([turnId, own]) => {
      const newest = own.find(({ attempt }) => attempt.finishedAt !== null)?.attempt ?? null;
      const toContinue = { latest: newest, versionId: versionOf.get(turnId) ?? null };
      const listed = own.map(({ attempt, person, poolId, runner, leased }): ListedAttempt => {
        const isMine = attempt.personId === actor.personId;
        return {
          versionId: attempt.versionId,
          view: {
            ...{ id: attempt.id, number: attempt.number, person, isMine },
            ...{ outcome: attempt.outcome, kept: attempt.kept, environment: attempt.environment, browser: attempt.browser },
            ...{
              isFromSheet: attempt.isFromSheet,
              isWithRunners: poolId !== null,
              runner,
              seed: attempt.seedId,
              isLeased: leased !== null,
            },
            isOfVersion: attempt.versionId === toContinue.versionId,
            canContinue: attempt === newest && canContinue(toContinue, attempt.id),
            startedAt: attempt.startedAt.toISOString(),
            finishedAt: attempt.finishedAt?.toISOString() ?? null,
            spent: toSpent(took.get(attempt.id), isMine && cycle.state !== 'closed'),
            results: (resultsOf.get(attempt.id) ?? []).map(({ result, by, runner: machine }) =>
              toResult(result, machine ?? by, machine !== null),
            ),
            evidence: (filesOf.get(attempt.id) ?? []).map(({ attemptId: _, ...file }) => file),
          },
        };
      });
      return [turnId, listed] as const;
    }),
  );
}

const toResult = (
  { stepIndex, outcome, note, expected, actual, unlooked, tookMs }: typeof stepResults.$inferSelect,
  by: string,
  isByRunner: boolean,
) => ({ stepIndex, outcome, note, expected, actual, unlooked, tookMs, by, isByRunner });

interface Took extends Record<string, unknown> {
  readonly counted: number;
  readonly said: number | null;
}

const toSpent = (took: Took | undefined, canSay: boolean): AttemptView['spent'] => (took ? { ...took, canSay } : null);

async function loadSpent(db: ReadContext['db'], turnIds: readonly TurnId[]): Promise<ReadonlyMap<AttemptId, Took>> {
  const { rows } = await db.execute<Took & { attempt: AttemptId }>(sql`
    ${withSpent(inArray(turns.id, [...turnIds]))}
    select attempt, round(counted, 1)::float8 as counted, ${saidMinutes.minutes} as said
    from of_attempts left join ${saidMinutes} on ${saidMinutes.attemptId} = of_attempts.attempt where is_work`);
  return new Map(rows.map(({ attempt, ...spent }) => [attempt, spent]));
}
