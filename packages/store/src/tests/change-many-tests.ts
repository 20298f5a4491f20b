import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeTests } from '@kindred-baton/contracts/tests/library';
import type { TestId, TestVersionId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import { nodes } from '../schema/map.ts';
import { isDrawn, legs, scenarios } from '../schema/scenarios.ts';
import type { TestRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { toDifference } from '../to-difference.ts';

/** The same change of many tests at once, all or none. What is absent stays. Retiring takes drafts as they are: they are no agreed versions. */
export const changeTests: Operation<ChangeTests, { changed: number }> = {
  right: 'edit tests',
  run: async (context, { codes, change }) => {
    const { teamId, applicationId, isRetired, node, ...rest } = change;
    await requireOwn(context, { teamId, applicationId });
    const rows = await lockTests(context, codes);
    const nodeId = node === undefined ? undefined : await findNode(context, node);
    const { addTags = [], removeTags = [], priority, runBy } = rest;
    const set = { teamId, applicationId, nodeId, priority, runBy };
    const ids = rows.map(({ id }) => id);
    if (Object.values(set).some((value) => value !== undefined))
      await forEachPiece(ids, (piece) => context.db.update(tests).set(set).where(inArray(tests.id, piece)));
    if (addTags.length + removeTags.length > 0) await changeTags(context, ids, { addTags, removeTags });
    if (isRetired !== undefined) await retire(context, rows, isRetired);
    const codeOf = new Map((node === undefined ? [] : await loadNodes(context)).map(({ id, code }) => [id, code]));
    await context.record(
      rows.map((row) => {
        const tags =
          addTags.length + removeTags.length > 0
            ? [...new Set([...row.tags, ...addTags])].filter((tag) => !removeTags.includes(tag))
            : undefined;
        const details = toDifference({ ...row, node: codeOf.get(row.nodeId) }, { ...set, nodeId: undefined, node, tags });
        return { subject: 'test' as const, subjectId: row.id, action: 'changed', details: { code: row.code, isRetired, ...details } };
      }),
    );
    return { changed: rows.length };
  },
};

async function forEachPiece(ids: readonly TestId[], run: (piece: TestId[]) => Promise<unknown>): Promise<void> {
  for (const piece of chunk(ids, 10_000)) await run(piece);
}

async function lockTests({ db, actor }: Context, codes: readonly string[]): Promise<TestRow[]> {
  const rows: TestRow[] = [];
  for (const piece of chunk([...new Set(codes)], 10_000)) {
    const found = await db
      .select()
      .from(tests)
      .where(and(eq(tests.programmeId, actor.programmeId), inArray(tests.code, piece)))
      .for('update');
    rows.push(...found);
  }
  const known = new Set(rows.map(({ code }) => code));
  const missing = codes.filter((code) => !known.has(code));
  if (missing.length > 0) throw new AppError('not found', `Not in the library: ${missing.slice(0, 5).join(', ')}. Nothing was changed.`);
  return rows;
}

const loadNodes = ({ db, actor }: Context) =>
  db.select({ id: nodes.id, code: nodes.code }).from(nodes).where(eq(nodes.programmeId, actor.programmeId));

async function findNode({ db, actor }: Context, code: string) {
  const [row] = await db
    .select({ id: nodes.id })
    .from(nodes)
    .where(and(eq(nodes.programmeId, actor.programmeId), eq(nodes.code, code)));
  if (!row) throw new AppError('not found', `There is no node ${code} on the map.`);
  return row.id;
}

function changeTags(
  { db }: Context,
  ids: readonly TestId[],
  { addTags, removeTags }: { addTags: string[]; removeTags: string[] },
): Promise<void> {
  const added = sql`${sql.param(addTags)}::text[]`;
  const removed = sql`${sql.param(removeTags)}::text[]`;
  return forEachPiece(ids, (piece) =>
    db
      .update(tests)
      .set({
        tags: sql`array(select distinct tag from unnest(${tests.tags} || ${added}) as tag where tag <> all(${removed}) order by tag)`,
      })
      .where(inArray(tests.id, piece)),
  );
}

/** A retired test is drawn in no new scenario or cycle; what is pinned stays pinned. */
async function retire({ db }: Context, rows: readonly TestRow[], isRetired: boolean): Promise<void> {
  const [from, to] = isRetired ? (['agreed', 'retired'] as const) : (['retired', 'agreed'] as const);
  await forEachPiece(
    rows.map(({ id }) => id),
    (piece) =>
      db
        .update(testVersions)
        .set({ state: to })
        .where(and(inArray(testVersions.testId, piece), eq(testVersions.state, from))),
  );
}

/**
 * Agrees the drafts of many tests, as `agreeTest` does one: legs that follow the newest version stay with the one before until somebody takes the
 * new one over. Tests without a draft, and drafts without steps, are left as they are and told.
 */
export const agreeTests: Operation<{ codes: readonly string[] }, { agreed: number; withoutDraft: number; withoutSteps: string[] }> = {
  right: 'agree tests',
  run: async (context, { codes }) => {
    const { db, actor, now } = context;
    const rows = await lockTests(context, codes);
    const drafts: { id: TestVersionId; testId: TestId; number: number; isEmpty: boolean }[] = [];
    const ids = rows.map(({ id }) => id);
    await forEachPiece(ids, async (piece) => {
      const found = await db
        .select({
          id: testVersions.id,
          testId: testVersions.testId,
          number: testVersions.number,
          steps: sql<number>`jsonb_array_length(${testVersions.steps})`,
        })
        .from(testVersions)
        .where(and(inArray(testVersions.testId, piece), eq(testVersions.state, 'draft')));
      drafts.push(...found.map(({ steps, ...draft }) => ({ ...draft, isEmpty: steps === 0 })));
    });
    const ready = drafts.filter(({ isEmpty }) => !isEmpty);
    for (const piece of chunk(ready, 10_000)) {
      await db
        .update(testVersions)
        .set({ state: 'agreed', agreedAt: now, agreedBy: actor.personId })
        .where(
          and(
            inArray(
              testVersions.id,
              piece.map(({ id }) => id),
            ),
            eq(testVersions.state, 'draft'),
          ),
        );
    }
    await forEachPiece(
      ready.map(({ testId }) => testId),
      (piece) => keepLegs(context, piece),
    );
    await context.record(
      ready.map(({ testId, number }) => ({ subject: 'test' as const, subjectId: testId, action: 'agreed', details: { version: number } })),
    );
    const codeOf = new Map(rows.map(({ id, code }) => [id, code]));
    return {
      agreed: ready.length,
      withoutDraft: rows.length - drafts.length,
      withoutSteps: drafts.flatMap(({ isEmpty, testId }) => (isEmpty ? [codeOf.get(testId) ?? ''] : [])).sort(),
    };
  },
};

/** Legs that were drawn with the newest version stay with the one agreed before it, where there is one. */
export async function keepLegs({ db }: Context, testIds: readonly TestId[]): Promise<void> {
  if (testIds.length === 0) return;
  const before = sql`(select number from ${testVersions} own where own.test_id = ${legs.testId} and own.state = 'agreed' order by number desc offset 1 limit 1)`;
  await db
    .update(legs)
    .set({ version: before })
    .where(
      and(
        inArray(legs.testId, [...testIds]),
        isNull(legs.version),
        inArray(legs.scenarioId, db.select({ id: scenarios.id }).from(scenarios).where(isDrawn)),
        sql`${before} is not null`,
      ),
    );
}
