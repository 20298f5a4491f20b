import type { DefectListItem } from '@kindred-baton/contracts/defects/defect';
import type { DefectLife } from '@kindred-baton/core/defects/happenings';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { DEFECT_STATUSES } from '@kindred-baton/core/defects/defect';
import type { DefectId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import { cycles } from '../schema/cycles.ts';
import { defects } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { attempts, turns } from '../schema/turns.ts';

/** A defect of the list as it is read. */
export type ReadItem = Omit<DefectListItem, 'cycle' | 'waiting'> & {
  readonly id: DefectId;
  readonly cycle: string;
  readonly cycleName: string;
  readonly changedAt: string;
};

/** Every defect of the programme, the newest first. */
export function readItems(context: ReadContext): Promise<ReadItem[]> {
  const { id, code, title, kind, severity, priority, status, foundAt, changedAt, dueOn, number } = defects;
  const finders = alias(people, 'finders');
  return readPacked<ReadItem>(context, {
    cells: {
      ...{ id, code, title, kind, severity, priority, status, foundAt, changedAt, dueOn, cycle: cycles.code, cycleName: cycles.name },
      ...{ team: teams.name, foundBy: finders.name, node: nodes.code, assignee: people.name },
    },
    from: sql`from ${defects}
      join ${cycles} on ${eq(cycles.id, defects.cycleId)}
      join ${people} as finders on ${eq(finders.id, defects.foundBy)}
      left join ${teams} on ${eq(teams.id, defects.teamId)}
      left join ${people} on ${eq(people.id, defects.assigneeId)}
      left join ${attempts} on ${eq(attempts.id, defects.attemptId)}
      left join ${turns} on ${eq(turns.id, attempts.turnId)}
      left join ${nodes} on ${nodes.id} = coalesce(${turns.nodeId}, ${defects.nodeId})
      where ${eq(defects.programmeId, context.actor.programmeId)} order by ${number} desc`,
  });
}

/** Whether a defect was found in a branch of the map, or nowhere on it; of no branch in particular, each was. */
export async function loadBranch(context: ReadContext, scope: string | undefined): Promise<(defect: Pick<ReadItem, 'node'>) => boolean> {
  if (scope === undefined) return () => true;
  const tree = await loadTree(context);
  const branch = new Set(listSubtree(tree, scope).map((id) => tree.byId.get(id)?.node.code ?? ''));
  return ({ node }) => node === null || branch.has(node);
}

interface ReadMove {
  readonly id: DefectId;
  readonly to: DefectStatus;
  readonly at: string;
}

/** What was written down of where defects were moved, the first first; one that stands elsewhere than its last move says was moved there when it changed. */
export async function loadLives(context: ReadContext, items: readonly ReadItem[]): Promise<ReadonlyMap<DefectId, DefectLife>> {
  const rows = await readPacked<ReadMove>(context, {
    cells: { id: history.subjectId, to: history.action, at: history.at },
    from: sql`from ${history} join ${defects} on ${eq(defects.id, history.subjectId)}
      where ${eq(defects.programmeId, context.actor.programmeId)} and ${eq(history.subject, 'defect')}
        and ${history.action} = any(${sql.param([...DEFECT_STATUSES])}::text[]) order by ${history.at}, ${history.id}`,
  });
  const moves = new Map<DefectId, DefectLife['moves'][number][]>();
  for (const { id, to, at } of rows) pushTo(moves, id, { to, atMs: Date.parse(at) });
  return new Map(
    items.map(({ id, status, foundAt, changedAt }) => {
      const own = moves.get(id) ?? [];
      const isTold = (own.at(-1)?.to ?? 'new') === status;
      return [id, { foundMs: Date.parse(foundAt), moves: isTold ? own : [...own, { to: status, atMs: Date.parse(changedAt) }] }];
    }),
  );
}
