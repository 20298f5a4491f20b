import { count, eq, max } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { findAsked, findNudgeRefusal, findWaiting } from '@kindred-baton/core/turns/decide/nudge';
import { findTurn, listDefectsOf } from '@kindred-baton/core/turns/decide/runs-state';
import { createId } from '../ids.ts';
import { tellNudged } from '../mails/tell.ts';
import type { Context, Operation } from '../operation.ts';
import { toError } from '../runs/change-runs.ts';
import { loadDoer } from '../runs/load-doer.ts';
import { loadState } from '../runs/load-state.ts';
import { lockScope } from '../runs/lock-runs.ts';
import { people } from '../schema/people.ts';
import { nudges } from '../schema/turns.ts';

/** A polite word to whoever has the baton, or fixes the defect that holds it, counted; who may, and how often, is decided by core. */
export const nudge: Operation<TurnId, { count: number; to: string }> = {
  right: 'make attempts',
  run: async (context, turnId) => {
    const { db, now } = context;
    const state = await loadState(context, await lockScope(context, { turns: [turnId] }));
    const found = findTurn(state, turnId);
    if (!found) throw new AppError('not found', 'There is no such turn in this programme.');
    const { run, turn } = found;
    const asked = findAsked(turn, listDefectsOf(state, turnId));
    const [by, before] = [await loadDoer(context), await countNudges(context, turnId)];
    const refusal = findNudgeRefusal({ run, turn, asked, by, lastNudgeMs: before.lastAt?.getTime() ?? null, atMs: now.getTime() });
    if (refusal) throw toError(refusal);
    // Nobody has it: refused above.
    const toId = asked.id!;
    await db.insert(nudges).values({ id: createId<'nudge'>(), turnId, fromId: by.personId, toId, at: now });
    await tellNudged(context, turn, { to: toId, from: by.name, waiting: findWaiting(run, by)?.title ?? null, defect: asked.defect });
    await context.record({ subject: 'turn', subjectId: turnId, action: 'nudged', details: { to: toId } });
    return { count: before.count + 1, to: await loadName(context, toId) };
  },
};

async function loadName({ db }: Context, id: PersonId): Promise<string> {
  const [person] = await db.select({ name: people.name }).from(people).where(eq(people.id, id));
  return person?.name ?? '';
}

async function countNudges({ db }: Context, turnId: TurnId): Promise<{ count: number; lastAt: Date | null }> {
  const [row] = await db
    .select({ count: count(), lastAt: max(nudges.at) })
    .from(nudges)
    .where(eq(nudges.turnId, turnId));
  return row ?? { count: 0, lastAt: null };
}
