import type { DecisionView, KeepDecision, LeftOpen, Outlook, OutlookQuery } from '@kindred-baton/contracts/progress/outlook';
import { LEFT_OPEN_SHOWN } from '@kindred-baton/contracts/progress/outlook';
import { AppError } from '@kindred-baton/contracts/errors';
import type { DecisionId, NodeId } from '@kindred-baton/core/ids';
import { isThrough } from '@kindred-baton/core/cycles/plan/to-problem';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import { findLeftOpen } from '@kindred-baton/core/progress/find-left-open';
import { and, count, countDistinct, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { loadCycleFigures } from '../cycles/acceptance.ts';
import { lockCycle } from '../cycles/require-cycle.ts';
import { getPath } from '../map/load-tree.ts';
import type { Operation, Query, ReadContext } from '../operation.ts';
import { findCycle } from '../programmes/find-cycle.ts';
import { isOfCycle } from '../runs/in-scope.ts';
import { isSparable } from '../runs/is-sparable.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { runs } from '../schema/cycles.ts';
import { decisions } from '../schema/decisions.ts';
import { people } from '../schema/people.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';

type Reading = Pick<ReadContext, 'db' | 'actor' | 'now'>;

/** So many are looked back on. */
const DECISIONS_SHOWN = 50;

/** What the end of a cycle is decided on: how far its exit criteria are met, what leaving out would leave open, and what was decided before. */
export const getOutlook: Query<OutlookQuery, Outlook> = {
  right: 'read',
  read: async (context, query) => {
    const cycle = await findCycle(context, query.cycle);
    if (!cycle) return { cycle: null, criteria: [], left: NOTHING, unmet: { requirements: 0, nodes: 0 }, decisions: [] };
    const [measured, made] = await Promise.all([measure(context, cycle), listDecisions(context, cycle)]);
    return { cycle: cycle.code, ...measured, decisions: made };
  },
};

const NOTHING: LeftOpen = { turns: 0, runs: 0, requirements: { total: 0, first: [] }, nodes: { total: 0, first: [] } };

async function measure(context: Reading, cycle: CycleRow) {
  const own = isOfCycle({ cycleId: cycle.id, nodes: null });
  const [figures, byTest, atNodes, [size]] = await Promise.all([
    loadCycleFigures(context, cycle),
    context.db
      .select({
        ...{ code: tests.code, spared: sql<number>`count(*) filter (where ${isSparable})::int` },
        kept: sql<number>`count(*) filter (where not ${isSparable})::int`,
      })
      .from(turns)
      .innerJoin(runs, eq(runs.id, turns.runId))
      .innerJoin(tests, eq(tests.id, turns.testId))
      .where(own)
      .groupBy(tests.code),
    context.db.selectDistinct({ id: turns.nodeId }).from(turns).innerJoin(runs, eq(runs.id, turns.runId)).where(and(own, isSparable)),
    context.db
      .select({ turns: count(), runs: countDistinct(turns.runId) })
      .from(turns)
      .innerJoin(runs, eq(runs.id, turns.runId))
      .where(and(own, isSparable)),
  ]);
  const { tree, requirements, criticalNodes, criteria } = figures;
  const pathOf = (id: NodeId) => getPath(tree, id).map(({ node }) => node.code);
  const open = findLeftOpen({
    ...{ requirements, turnsOf: new Map(byTest.map(({ code, ...turnsOf }) => [code, turnsOf])), nodes: criticalNodes },
    touched: new Set(atNodes.flatMap(({ id }) => pathOf(id))),
  });
  const left: LeftOpen = {
    ...(size ?? { turns: 0, runs: 0 }),
    requirements: toSome(open.requirements.map(({ code, title }) => ({ code, title }))),
    nodes: toSome(open.nodes.map(({ code }) => ({ code, title: tree.byCode.get(code)?.node.name ?? '' }))),
  };
  const unmet = {
    requirements: requirements.filter(({ state }) => state !== 'verified').length,
    nodes: criticalNodes.filter(({ isSignedOff }) => !isSignedOff).length,
  };
  return { criteria, left, unmet };
}

async function countThrough({ db }: Reading, cycle: CycleRow): Promise<{ turns: number; through: number }> {
  const through = inArray(turns.status, TURN_STATUSES.filter(isThrough));
  const [row] = await db
    .select({ turns: count(), through: sql<number>`count(*) filter (where ${through})::int` })
    .from(turns)
    .where(isOfCycle({ cycleId: cycle.id, nodes: null }));
  return row ?? { turns: 0, through: 0 };
}

const toSome = <Item>(all: readonly Item[]) => ({ total: all.length, first: all.slice(0, LEFT_OPEN_SHOWN) });

async function listDecisions({ db }: Reading, cycle: CycleRow): Promise<DecisionView[]> {
  const undoers = alias(people, 'undoers');
  const rows = await db
    .select({ decision: decisions, by: people.name, undoneBy: undoers.name })
    .from(decisions)
    .innerJoin(people, eq(people.id, decisions.decidedBy))
    .leftJoin(undoers, eq(undoers.id, decisions.takenBackBy))
    .where(eq(decisions.cycleId, cycle.id))
    .orderBy(desc(decisions.decidedAt), decisions.id)
    .limit(DECISIONS_SHOWN);
  return rows.map(({ decision: { id, kind, words, why, before, after, plannedOn, turns: all, through, left, ...own }, by, undoneBy }) => ({
    ...{ id, kind, words, why, before, after, plannedOn, turns: all, through, left, by, at: own.decidedAt.toISOString() },
    takenBack: own.takenBackAt && { by: undoneBy ?? '', at: own.takenBackAt.toISOString() },
  }));
}

/** Writes down what was decided, with the figures as they stand. The odds are those that whoever decides was shown; what is left open is counted here. */
export const keepDecision: Operation<KeepDecision, void> = {
  right: 'run cycles',
  run: async (context, { cycle: code, ...said }) => {
    const { db, actor, now } = context;
    const cycle = await lockCycle(context, code, ['open', 'closing']);
    const left = said.kind === 'leave out' ? (await measure(context, cycle)).left : null;
    const { turns: all, through } = await countThrough(context, cycle);
    const row = {
      ...{ ...said, programmeId: actor.programmeId, cycleId: cycle.id, plannedOn: cycle.endsOn, turns: all, through },
      ...{ left, decidedBy: actor.personId, decidedAt: now },
    };
    const added = await db.insert(decisions).values(row).onConflictDoNothing().returning({ id: decisions.id });
    if (added.length === 0) return;
    await context.record({ subject: 'cycle', subjectId: cycle.id, action: 'decided', details: { cycle: code, ...said, left } });
  },
};

/** It stays in the list, as taken back. */
export const takeBackDecision: Operation<DecisionId, void> = {
  right: 'run cycles',
  run: async (context, id) => {
    const [gone] = await context.db
      .update(decisions)
      .set({ takenBackBy: context.actor.personId, takenBackAt: context.now })
      .where(and(eq(decisions.programmeId, context.actor.programmeId), eq(decisions.id, id), isNull(decisions.takenBackAt)))
      .returning({ cycleId: decisions.cycleId, words: decisions.words });
    if (!gone) throw new AppError('not found', 'This decision is not there, or was taken back already.');
    await context.record({ subject: 'cycle', subjectId: gone.cycleId, action: 'took a decision back', details: { words: gone.words } });
  },
};
