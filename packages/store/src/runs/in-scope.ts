import { OUT_OF_SCOPE } from '@kindred-baton/core/cycles/cycle';
import type { CycleId, NodeId } from '@kindred-baton/core/ids';
import type { SQL, SQLWrapper } from 'drizzle-orm';
import { and, eq, isNull, notInArray, or, sql } from 'drizzle-orm';
import { runs } from '../schema/cycles.ts';
import { turns } from '../schema/turns.ts';

/** The one meaning of *in scope*: runs that were not taken out of their cycle while it was open. Every figure of a cycle is over these. */
export const isRunInScope = or(isNull(runs.leftTo), notInArray(runs.leftTo, OUT_OF_SCOPE));

/** The same of turns, where their runs are not joined. */
export const isTurnInScope = sql`not exists (select from runs as own where own.id = ${turns.runId} and own.left_to::text in ${OUT_OF_SCOPE})`;

export interface InScope {
  readonly cycleId: CycleId;
  /** Only turns at these nodes; null: all. */
  readonly nodes: readonly NodeId[] | null;
}

export const isAtNodes = (nodes: readonly NodeId[] | null, at: SQLWrapper = turns.nodeId): SQL | undefined =>
  nodes === null ? undefined : sql`${at} = any(${sql.param(nodes)}::uuid[])`;

/** Turns of a cycle, or of a branch of the map in it. */
export const isOfCycle = ({ cycleId, nodes }: InScope): SQL | undefined => and(eq(turns.cycleId, cycleId), isTurnInScope, isAtNodes(nodes));
