import type { AttemptId, DefectId, PersonId, RunId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { AttemptSheet, DefectFacts, DefectTurn, RunFacts, RunsState, TurnFacts } from '@kindred-baton/core/turns/decide/runs-state';
import { and, asc, count, desc, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { pools } from '../schema/runners.ts';
import { testVersions } from '../schema/tests.ts';
import type { AttemptRow, TurnRow } from '../schema/turns.ts';
import { attempts, evidence, stepResults, turns } from '../schema/turns.ts';
import type { LockedScope } from './lock-runs.ts';

type Reader = Pick<ReadContext, 'db'>;

/** Runs as core decides about them; with the sheets of the attempts that are named. Eight queries, whatever the number of runs. */
export async function loadState(context: Reader, scope: LockedScope, sheetsOf: readonly AttemptId[] = []): Promise<RunsState> {
  const runRows = await loadRunRows(context, scope.runs);
  const turnsOf = await loadTurnFacts(context, scope.runs);
  return {
    runs: runRows.map(({ run, cycle }): RunFacts => {
      const { id, number, leftTo, leftReason, outcome } = run;
      return { id, number, cycle, leftTo, leftReason, outcome, turns: turnsOf.get(id) ?? [] };
    }),
    defects: await loadDefectFacts(context, scope),
    sheets: await loadSheets(context, sheetsOf),
  };
}

async function loadRunRows({ db }: Reader, ids: readonly RunId[]) {
  if (ids.length === 0) return [];
  return db
    .select({ run: runs, cycle: { id: cycles.id, code: cycles.code, state: cycles.state, rules: cycles.rules } })
    .from(runs)
    .innerJoin(cycles, eq(cycles.id, runs.cycleId))
    .where(inArray(runs.id, [...ids]))
    .orderBy(asc(runs.number));
}

async function loadTurnFacts({ db }: Reader, ids: readonly RunId[]): Promise<Map<RunId, TurnFacts[]>> {
  if (ids.length === 0) return new Map();
  const own = db
    .select({ id: turns.id })
    .from(turns)
    .where(inArray(turns.runId, [...ids]));
  const [rows, latestRows, openRows] = await Promise.all([
    db
      .select()
      .from(turns)
      .where(inArray(turns.runId, [...ids]))
      .orderBy(asc(turns.runId), asc(turns.index)),
    db
      .selectDistinctOn([attempts.turnId])
      .from(attempts)
      .where(and(inArray(attempts.turnId, own), isNotNull(attempts.finishedAt)))
      .orderBy(attempts.turnId, desc(attempts.number)),
    db
      .select({ attempt: attempts, name: people.name, poolId: pools.id })
      .from(attempts)
      .innerJoin(people, eq(people.id, attempts.personId))
      .leftJoin(pools, eq(pools.id, attempts.personId))
      .where(and(inArray(attempts.turnId, own), isNull(attempts.finishedAt))),
  ]);
  const latest = new Map(latestRows.map((attempt) => [attempt.turnId, attempt]));
  const open = new Map(openRows.map((row) => [row.attempt.turnId, row]));
  const turnsOf = new Map<RunId, TurnFacts[]>();
  for (const row of rows) pushTo(turnsOf, row.runId, toTurnFacts(row, latest.get(row.id), open.get(row.id)));
  return turnsOf;
}

function toTurnFacts(row: TurnRow, latest: AttemptRow | undefined, open: OpenRow | undefined): TurnFacts {
  const { bare, readyAt, doneAt, ...turn } = row;
  return {
    ...turn,
    hasSteps: row.versionId !== null || bare !== null,
    latest: latest ? toFinished(latest) : null,
    open: open ? toOpen(open) : null,
    readyAtMs: readyAt?.getTime() ?? null,
    doneAtMs: doneAt?.getTime() ?? null,
  };
}

function toFinished({ id, number, personId, outcome, kept, finishedAt, isAbandoned, versionId, seedId }: AttemptRow): TurnFacts['latest'] {
  if (outcome === null || finishedAt === null) return null;
  return { id, number, personId, outcome, kept, isAbandoned, versionId, seedId, finishedAtMs: finishedAt.getTime() };
}

interface OpenRow {
  readonly attempt: AttemptRow;
  readonly name: string;
  readonly poolId: PersonId | null;
}

function toOpen({ attempt, name, poolId }: OpenRow): TurnFacts['open'] {
  const { id, number, personId, kept, versionId, environment, browser, isFromSheet, startedAt, runnerId, continuesId, seedId } = attempt;
  return {
    ...{ id, number, personId, personName: name, kept, versionId, environment, browser, isFromSheet, runnerId, continuesId, seedId },
    ...{ startedAtMs: startedAt.getTime(), isWithRunners: poolId !== null },
  };
}

/** The defects that are named, and those at any turn of the runs. */
async function loadDefectFacts({ db }: Reader, scope: LockedScope): Promise<DefectFacts[]> {
  if (scope.runs.length === 0 && scope.defects.length === 0) return [];
  const atRuns = db
    .select({ id: defectTurns.defectId })
    .from(defectTurns)
    .innerJoin(turns, eq(turns.id, defectTurns.turnId))
    .where(inArray(turns.runId, [...scope.runs]));
  const isInScope = scope.runs.length > 0 ? inArray(defects.id, atRuns) : inArray(defects.id, [...scope.defects]);
  const [rows, named, links] = await Promise.all([
    db.select().from(defects).where(isInScope),
    scope.defects.length > 0
      ? db
          .select()
          .from(defects)
          .where(inArray(defects.id, [...scope.defects]))
      : [],
    db
      .select()
      .from(defectTurns)
      .where(scope.runs.length > 0 ? inArray(defectTurns.defectId, atRuns) : inArray(defectTurns.defectId, [...scope.defects])),
  ]);
  const linksOf = new Map<DefectId, DefectTurn[]>();
  for (const { defectId, turnId, retestAfter } of links) pushTo(linksOf, defectId, { turn: turnId, retestAfter });
  return [...new Map([...rows, ...named].map((row) => [row.id, row])).values()].map(({ id, code, title, status, reason, assigneeId }) => ({
    ...{ id, code, title, status, reason, assigneeId },
    turns: linksOf.get(id) ?? [],
  }));
}

async function loadSheets({ db }: Reader, ids: readonly AttemptId[]): Promise<AttemptSheet[]> {
  if (ids.length === 0) return [];
  const [rows, results, files] = await Promise.all([
    db
      .select({ id: attempts.id, steps: testVersions.steps, gives: testVersions.gives, bare: turns.bare })
      .from(attempts)
      .innerJoin(turns, eq(turns.id, attempts.turnId))
      .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
      .where(inArray(attempts.id, [...ids])),
    db
      .select()
      .from(stepResults)
      .where(inArray(stepResults.attemptId, [...ids])),
    db
      .select({ attemptId: evidence.attemptId, stepIndex: evidence.stepIndex, files: count() })
      .from(evidence)
      .where(inArray(evidence.attemptId, [...ids]))
      .groupBy(evidence.attemptId, evidence.stepIndex),
  ]);
  return rows.map(({ id, steps, gives, bare }) => ({
    attemptId: id,
    steps: steps ?? bare?.steps ?? [],
    gives: gives ?? bare?.gives ?? [],
    results: results.filter(({ attemptId }) => attemptId === id),
    pictures: new Map(files.filter(({ attemptId }) => attemptId === id).map((row) => [row.stepIndex, row.files])),
  }));
}
