import { and, eq, inArray } from 'drizzle-orm';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { decideAfterRetest } from '@kindred-baton/core/defects/defect';
import type { DefectId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Context } from '../operation.ts';
import type { DefectRow } from '../schema/defects.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import type { TurnRow } from '../schema/turns.ts';
import { turns } from '../schema/turns.ts';

/** After attempts: a fixed defect whose retests all passed is closed, one whose retest failed is open again. */
export async function settleDefects(context: Context, ids: readonly DefectId[]): Promise<void> {
  if (ids.length === 0) return;
  const rows = await context.db
    .select({ defect: defects, turn: turns })
    .from(defects)
    .innerJoin(defectTurns, eq(defectTurns.defectId, defects.id))
    .innerJoin(turns, eq(turns.id, defectTurns.turnId))
    .where(inArray(defects.id, [...ids]));
  const turnsOf = new Map<DefectId, TurnRow[]>();
  for (const { defect, turn } of rows) pushTo(turnsOf, defect.id, turn);
  const byId = new Map(rows.map(({ defect }) => [defect.id, defect]));
  for (const defect of byId.values()) {
    const to = decideAfterRetest(defect.status, (turnsOf.get(defect.id) ?? []).map(toRetest));
    if (to !== defect.status) await settle(context, defect, to);
  }
}

function toRetest(turn: TurnRow): 'passed' | 'failed' | 'to come' {
  if (turn.isRetestDue || turn.outcome === 'blocked' || turn.outcome === 'not run') return 'to come';
  return turn.outcome === 'failed' ? 'failed' : 'passed';
}

async function settle(context: Context, defect: DefectRow, to: DefectStatus): Promise<void> {
  await context.db
    .update(defects)
    .set({ status: to, changedAt: context.now })
    .where(and(eq(defects.id, defect.id), eq(defects.status, defect.status)));
  const action = to === 'closed' ? 'retested and closed' : 'reopened by a retest';
  await context.record({ subject: 'defect', subjectId: defect.id, action, details: { from: defect.status, to } });
  context.announce('defects');
}
