import { count, eq, max } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { findNudgeRefusal, findWaiting } from '@kindred-baton/core/turns/decide/nudge';
import { findTurn } from '@kindred-baton/core/turns/decide/runs-state';
import { createId } from '../ids.ts';
import { tellNudged } from '../mails/tell.ts';
import type { Context, Operation } from '../operation.ts';
import { toError } from '../runs/change-runs.ts';
import { loadDoer } from '../runs/load-doer.ts';
import { loadState } from '../runs/load-state.ts';
import { lockScope } from '../runs/lock-runs.ts';
import { people } from '../schema/people.ts';
import { nudges } from '../schema/turns.ts';

/** A polite word to whoever has the baton, counted; who may, and how often, is decided by core. */
export const nudge: Operation<TurnId, { count: number; to: string }> = {
  right: 'make attempts',
  run: async (context, turnId) => {
    const { db, now } = context;
    const state = await loadState(context, await lockScope(context, { turns: [turnId] }));
    const found = findTurn(state, turnId);
    if (!found) throw new AppError('not found', 'There is no such turn in this programme.');
    const { run, turn } = found;
    const [by, holder, before] = [await loadDoer(context), await findName(context, turn.assigneeId), await countNudges(context, turnId)];
    const refusal = findNudgeRefusal({ run, turn, holder, by, lastNudgeMs: before.lastAt?.getTime() ?? null, atMs: now.getTime() });
    if (refusal) throw toError(refusal);
    // Nobody has it: refused above.
    const toId = turn.assigneeId!;
    await db.insert(nudges).values({ id: createId<'nudge'>(), turnId, fromId: by.personId, toId, at: now });
    await tellNudged(context, turn, { to: toId, from: by.name, waiting: findWaiting(run, by)?.title ?? null });
    await context.record({ subject: 'turn', subjectId: turnId, action: 'nudged', details: { to: toId } });
    return { count: before.count + 1, to: holder ?? '' };
  },
};

async function findName({ db }: Context, id: PersonId | null): Promise<string | null> {
  if (id === null) return null;
  const [person] = await db.select({ name: people.name }).from(people).where(eq(people.id, id));
  return person?.name ?? null;
}

async function countNudges({ db }: Context, turnId: TurnId): Promise<{ count: number; lastAt: Date | null }> {
  const [row] = await db
    .select({ count: count(), lastAt: max(nudges.at) })
    .from(nudges)
    .where(eq(nudges.turnId, turnId));
  return row ?? { count: 0, lastAt: null };
}
