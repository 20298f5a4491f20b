import { and, desc, eq, gte, ne } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { NodeChange } from '@kindred-baton/contracts/map/node';
import type { Query, ReadContext } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { people } from '../schema/people.ts';

const MOST = 1_000;

/** What changed on the map since a cycle opened, newest first; nothing before it has opened. */
export const getMapChanges: Query<{ cycle: string }, { changes: NodeChange[] }> = {
  right: 'read',
  read: async (context, { cycle: code }) => {
    const [cycle] = await context.db
      .select({ openedAt: cycles.openedAt })
      .from(cycles)
      .where(and(eq(cycles.programmeId, context.actor.programmeId), eq(cycles.code, code)));
    if (!cycle) throw new AppError('not found', `There is no cycle ${code}.`);
    return { changes: cycle.openedAt ? await listNodeChanges(context, { since: cycle.openedAt }) : [] };
  },
};

/** Ids of the nodes that have changed since a moment. */
export async function listChangedNodes({ db, actor }: ReadContext, since: Date): Promise<Set<string>> {
  const rows = await db
    .selectDistinct({ id: history.subjectId })
    .from(history)
    .where(
      and(eq(history.programmeId, actor.programmeId), eq(history.subject, 'node'), gte(history.at, since), ne(history.action, 'took over')),
    );
  return new Set(rows.map((row) => row.id));
}

/** Changes of nodes, newest first: of one, or of all since a moment. */
export async function listNodeChanges(
  { db, actor }: ReadContext,
  { since, nodeId }: { readonly since?: Date; readonly nodeId?: string },
): Promise<NodeChange[]> {
  const rows = await db
    .select({ action: history.action, details: history.details, by: people.name, at: history.at })
    .from(history)
    .leftJoin(people, eq(people.id, history.personId))
    .where(
      and(
        eq(history.programmeId, actor.programmeId),
        eq(history.subject, 'node'),
        since && gte(history.at, since),
        nodeId === undefined ? undefined : eq(history.subjectId, nodeId),
      ),
    )
    .orderBy(desc(history.id))
    .limit(MOST);
  return rows.map(({ action, details, by, at }) => ({
    ...{ action, by, at: at.toISOString() },
    code: typeof details['code'] === 'string' ? details['code'] : '',
    name: typeof details['name'] === 'string' ? details['name'] : '',
    details: Array.isArray(details['changes']) ? (details['changes'] as NodeChange['details']) : [],
  }));
}
