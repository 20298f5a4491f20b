import { sql } from 'drizzle-orm';
import { OUT_OF_SCOPE } from '@kindred-baton/core/cycles/cycle';
import { LETTING_ON } from '@kindred-baton/core/outcomes';
import type { CycleId, PersonId, TurnId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Context } from '../operation.ts';
import { isTurnInScope } from './in-scope.ts';
import { nodes } from '../schema/map.ts';
import { turns } from '../schema/turns.ts';
import { SITE, writeMails } from '../mails/write-mails.ts';

interface Due {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly cycle: string;
  readonly owner: PersonId;
  readonly passed: number;
  readonly turns: number;
  readonly [column: string]: unknown;
}

/** Says to owners that everything of a node of theirs is through by these turns, which have just been: it is theirs to decide. */
export async function tellDecidable(context: Context, done: readonly TurnId[]): Promise<void> {
  if (done.length === 0) return;
  // Most often something of the same node is still to come: that is seen at once, without looking at the branches above it.
  const isDone = sql`${turns.id} in ${[...done]} and not exists (
    select from ${turns} other where other.node_id = ${turns.nodeId} and other.cycle_id = ${turns.cycleId}
      and other.outcome::text not in ${[...LETTING_ON]}
      and not exists (select from runs where runs.id = other.run_id and runs.left_to::text in ${OUT_OF_SCOPE}))`;
  const due = await findNodes(context, isDone, sql`having bool_and(${turns.outcome}::text in ${[...LETTING_ON]})`);
  await write(context, due, (list) =>
    list.length === 1 ? `Everything of ${list[0]?.name} is through in ${list[0]?.cycle}` : `${list.length} of your processes are through`,
  );
}

/** Says to owners that a cycle is closing: what of theirs it touches, and they have not accepted, is theirs to decide now. */
export async function tellClosing(context: Context, cycleId: CycleId): Promise<void> {
  const due = await findNodes(context, sql`${turns.cycleId} = ${cycleId}`, sql``);
  await write(
    context,
    due,
    (list) => `${list[0]?.cycle} is closing: ${list.length === 1 ? list[0]?.name : `${list.length} processes`} to decide on`,
  );
}

/**
 * Owned nodes above these turns that nobody has accepted as they stand, with the turns of their branches in the same cycle. A node whose parent has
 * the same owner is decided on with it. One query, over the branches that are touched.
 */
async function findNodes({ db, actor }: Context, of: ReturnType<typeof sql>, having: ReturnType<typeof sql>): Promise<readonly Due[]> {
  const { rows } = await db.execute<Due>(sql`
    with recursive touched as (select distinct cycle_id, node_id from ${turns} where programme_id = ${actor.programmeId} and ${of}),
    up as (
      select touched.cycle_id, ${nodes}.* from touched join ${nodes} on ${nodes}.id = touched.node_id
      union select up.cycle_id, ${nodes}.* from up join ${nodes} on ${nodes}.id = up.parent_id
    ),
    owned as (
      select up.* from up left join ${nodes} parent on parent.id = up.parent_id
      where up.owner_id is not null and parent.owner_id is distinct from up.owner_id
    ),
    below as (
      select owned.cycle_id, owned.id as root, owned.id from owned
      union select below.cycle_id, below.root, ${nodes}.id from below join ${nodes} on ${nodes}.parent_id = below.id
    )
    select owned.id, owned.code, owned.name, owned.owner_id as owner, cycles.code as cycle, count(*)::int as turns,
      (count(*) filter (where ${turns.outcome} = 'passed'))::int as passed
    from owned
    join cycles on cycles.id = owned.cycle_id
    join below on below.root = owned.id and below.cycle_id = owned.cycle_id
    join ${turns} on ${turns.nodeId} = below.id and ${turns.cycleId} = owned.cycle_id and ${isTurnInScope}
    where not exists (
      select from sign_offs where sign_offs.cycle_id = owned.cycle_id and sign_offs.node_id = owned.id and sign_offs.decision <> 'refused'
        and sign_offs.decided_at > (select coalesce(max(done_at), '-infinity') from ${turns} own join below b on b.id = own.node_id and b.root = owned.id where own.cycle_id = owned.cycle_id)
    )
    group by owned.id, owned.code, owned.name, owned.owner_id, cycles.code
    ${having}
    order by owned.code`);
  return rows;
}

async function write(context: Context, due: readonly Due[], toSubject: (list: readonly Due[]) => string): Promise<void> {
  const of = new Map<PersonId, Due[]>();
  for (const node of due) pushTo(of, node.owner, node);
  await writeMails(
    context,
    'decision',
    [...of].map(([to, list]) => ({
      to,
      subject: toSubject(list),
      text: `Yours to decide:\n\n${list.map((node) => describe(context, node)).join('\n\n')}`,
    })),
  );
}

const describe = ({ actor }: Context, { code, name, cycle, passed, turns: all }: Due) =>
  `${name} (${code}): ${passed} of ${all} turns passed\n  ${SITE}/${actor.programmeKey}/cycles/${cycle}?view=acceptance&node=${code}`;
