import { and, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId, RunnerId } from '@kindred-baton/core/ids';
import type { RunnerOrder } from '@kindred-baton/core/runners/runner';
import type { Actor } from '../actor.ts';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { people } from '../schema/people.ts';
import { members, programmes } from '../schema/programmes.ts';
import { pools, runners } from '../schema/runners.ts';
import { createToken, hashToken } from '../tokens.ts';
import { breakOffAll } from './break-off.ts';

const PREFIX = 'kbr_';

/** Lets a machine in for a pool. Its token is answered once, and of it only a hash is kept. */
export const addRunner: Operation<{ poolId: PersonId; name: string }, { id: RunnerId; token: string }> = {
  right: 'run cycles',
  run: async (context, { poolId, name }) => {
    const { db, actor } = context;
    const [pool] = await db
      .select({ name: people.name })
      .from(pools)
      .innerJoin(people, eq(people.id, pools.id))
      .innerJoin(members, and(eq(members.personId, pools.id), isNull(members.leftAt)))
      .where(and(eq(pools.id, poolId), eq(pools.programmeId, actor.programmeId)));
    if (!pool) throw new AppError('not found', 'This programme has no such pool.');
    const id = createId<'runner'>();
    const token = createToken(PREFIX);
    await db.insert(runners).values({
      id,
      programmeId: actor.programmeId,
      poolId,
      name,
      tokenHash: hashToken(token),
      addedBy: actor.personId,
      addedAt: context.now,
    });
    await context.record({ subject: 'programme', subjectId: id, action: 'runner added', details: { name, pool: pool.name } });
    return { id, token };
  },
};

async function lockRunner({ db, actor }: Context, id: RunnerId) {
  const [runner] = await db
    .select()
    .from(runners)
    .where(and(eq(runners.id, id), eq(runners.programmeId, actor.programmeId)))
    .for('no key update');
  if (!runner) throw new AppError('not found', 'This programme has no such runner.');
  return runner;
}

/** To work, to pause, to finish and take nothing more, or to leave what it does at once: that is given out again. */
export const orderRunner: Operation<{ id: RunnerId; order: RunnerOrder }, { done: true }> = {
  right: 'run cycles',
  run: async (context, { id, order }) => {
    const runner = await lockRunner(context, id);
    if (runner.tokenHash === null) throw new AppError('conflict', `${runner.name} is retired.`);
    if (order === runner.order) return { done: true };
    if (order === 'stop') await breakOffAll(context, { runners: [id], why: 'The runner was stopped.' });
    await context.db.update(runners).set({ order }).where(eq(runners.id, id));
    await context.record({ subject: 'programme', subjectId: id, action: 'runner ordered', details: { name: runner.name, order } });
    return { done: true };
  },
};

/** Its token is withdrawn at once, and what it does is given out again. What it did stays. */
export const retireRunner: Operation<RunnerId, { done: true }> = {
  right: 'run cycles',
  run: async (context, id) => {
    const runner = await lockRunner(context, id);
    await breakOffAll(context, { runners: [id], why: 'The runner was retired.' });
    await context.db.update(runners).set({ tokenHash: null }).where(eq(runners.id, id));
    await context.record({ subject: 'programme', subjectId: id, action: 'runner retired', details: { name: runner.name } });
    return { done: true };
  },
};

/** Whose token it is: the pool, in whose name the runner acts, in its programme alone. undefined: nobody's, or withdrawn. */
export async function findRunner(store: Store, token: string): Promise<Actor | undefined> {
  const [found] = await store.db
    .select({
      runnerId: runners.id,
      personId: runners.poolId,
      programmeId: programmes.id,
      programmeKey: programmes.key,
      programmeName: programmes.name,
      timeZone: programmes.timeZone,
      severityNames: programmes.severityNames,
      roles: members.roles,
    })
    .from(runners)
    .innerJoin(programmes, eq(programmes.id, runners.programmeId))
    .innerJoin(members, and(eq(members.programmeId, runners.programmeId), eq(members.personId, runners.poolId), isNull(members.leftAt)))
    .where(eq(runners.tokenHash, hashToken(token)));
  return found;
}
