import { and, eq, gt } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TurnId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import { createId } from '../ids.ts';
import { SITE, writeMails } from '../mails/write-mails.ts';
import type { Operation } from '../operation.ts';
import { people } from '../schema/people.ts';
import { nudges, turns } from '../schema/turns.ts';

const APART_HOURS = 20;

/** A polite word to whoever has the baton: from somebody who waits for it, or from the lead; once a day, and counted. */
export const nudge: Operation<TurnId, { count: number; to: string }> = {
  right: 'make attempts',
  run: async (context, turnId) => {
    const { db, actor, now } = context;
    const [found] = await db
      .select({ turn: turns, name: people.name })
      .from(turns)
      .leftJoin(people, eq(people.id, turns.assigneeId))
      .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)))
      .for('update', { of: turns });
    if (!found) throw new AppError('not found', 'There is no such turn in this programme.');
    const { turn, name } = found;
    if (turn.assigneeId === null) throw new AppError('invalid', 'Nobody has this turn. Ask the lead to give it to somebody.');
    if (turn.assigneeId === actor.personId) throw new AppError('invalid', 'This turn is with you.');
    if (turn.state !== 'ready' && turn.state !== 'under way') throw new AppError('invalid', `${name} does not have the baton now.`);
    const own = await db
      .select({ title: turns.title })
      .from(turns)
      .where(and(eq(turns.runId, turn.runId), eq(turns.assigneeId, actor.personId), eq(turns.state, 'waiting')));
    if (own.length === 0 && !hasRight(actor.roles, 'run cycles')) throw new AppError('forbidden', 'You do not wait for this turn.');
    const [recent] = await db
      .select({ at: nudges.at })
      .from(nudges)
      .where(and(eq(nudges.turnId, turnId), gt(nudges.at, new Date(now.getTime() - APART_HOURS * 3_600_000))));
    if (recent)
      throw new AppError(
        'conflict',
        `${name} was nudged about this turn within the last day. Give it until tomorrow, or speak to each other.`,
      );
    await db.insert(nudges).values({ id: createId<'nudge'>(), turnId, fromId: actor.personId, toId: turn.assigneeId, at: now });
    const [me] = await db.select({ name: people.name }).from(people).where(eq(people.id, actor.personId));
    await writeMails(context, 'nudge', [
      {
        to: turn.assigneeId,
        subject: `${me?.name} waits for ${turn.title}`,
        text: `When you have a moment: ${me?.name} waits for what ${turn.title} hands on${own[0] ? `, to go on with ${own[0].title}` : ''}.\n\n${SITE}/${actor.programmeKey}/turns/${turnId}\n\nIf something keeps you from it, say so there (“I cannot go on”): then it can be helped.`,
      },
    ]);
    await context.record({ subject: 'turn', subjectId: turnId, action: 'nudged', details: { to: turn.assigneeId } });
    context.announce('turns');
    const all = await db.select({ id: nudges.id }).from(nudges).where(eq(nudges.turnId, turnId));
    return { count: all.length, to: name ?? '' };
  },
};
