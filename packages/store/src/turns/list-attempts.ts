import { asc, desc, eq, inArray } from 'drizzle-orm';
import type { AttemptView } from '@kindred-baton/contracts/turns/turn';
import type { AttemptId } from '@kindred-baton/core/ids';
import { canContinue } from '@kindred-baton/core/turns/decide/begin';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { pools, runners } from '../schema/runners.ts';
import type { TurnRow } from '../schema/turns.ts';
import { attempts, evidence, leases, stepResults } from '../schema/turns.ts';

/** Every attempt at a turn, newest first, with whose word each step is. Three queries. */
export async function listAttempts({ db, actor }: ReadContext, turn: Pick<TurnRow, 'id' | 'versionId'>): Promise<AttemptView[]> {
  const turnId = turn.id;
  const rows = await db
    .select({ attempt: attempts, person: people.name, poolId: pools.id, runner: runners.name, leased: leases.attemptId })
    .from(attempts)
    .innerJoin(people, eq(people.id, attempts.personId))
    .leftJoin(pools, eq(pools.id, attempts.personId))
    .leftJoin(runners, eq(runners.id, attempts.runnerId))
    .leftJoin(leases, eq(leases.attemptId, attempts.id))
    .where(eq(attempts.turnId, turnId))
    .orderBy(desc(attempts.number));
  const ids: AttemptId[] = rows.map(({ attempt }) => attempt.id);
  if (ids.length === 0) return [];
  const [results, files] = await Promise.all([
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
  const newest = rows.find(({ attempt }) => attempt.finishedAt !== null)?.attempt;
  return rows.map(({ attempt, person, poolId, runner, leased }) => ({
    ...{ id: attempt.id, number: attempt.number, person, isMine: attempt.personId === actor.personId },
    ...{ outcome: attempt.outcome, kept: attempt.kept, environment: attempt.environment, browser: attempt.browser },
    ...{ isFromSheet: attempt.isFromSheet, isWithRunners: poolId !== null, runner, seed: attempt.seedId, isLeased: leased !== null },
    canContinue: attempt === newest && canContinue({ latest: newest ?? null, versionId: turn.versionId }, attempt.id),
    startedAt: attempt.startedAt.toISOString(),
    finishedAt: attempt.finishedAt?.toISOString() ?? null,
    results: results
      .filter(({ result }) => result.attemptId === attempt.id)
      .map(({ result: { stepIndex, outcome, note, expected, actual, unlooked, tookMs }, by, runner: machine }) => ({
        ...{ stepIndex, outcome, note, expected, actual, unlooked, tookMs, by: machine ?? by, isByRunner: machine !== null },
      })),
    evidence: files.filter((file) => file.attemptId === attempt.id).map(({ attemptId: _, ...file }) => file),
  }));
}
