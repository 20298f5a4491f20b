import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import type { TurnRow } from '../schema/turns.ts';
import { turns } from '../schema/turns.ts';

/** Gives a turn to somebody; one that is under way stays with whoever does it. */
export const assignTurn: Operation<{ turnId: TurnId; personId: PersonId }, void> = {
  right: 'run cycles',
  run: async (context, { turnId, personId }) => {
    const { db, actor } = context;
    await requireOwn(context, { ownerId: personId });
    const [turn] = await db
      .select()
      .from(turns)
      .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)))
      .for('update');
    if (!turn) throw new AppError('not found', 'There is no such turn in this programme.');
    if (turn.state === 'under way')
      throw new AppError('conflict', `${turn.title} is under way; it can be given to somebody else once that attempt is finished.`);
    await requireOtherPerson(context, turn, personId);
    await db.update(turns).set({ assigneeId: personId }).where(eq(turns.id, turnId));
    await context.record({ subject: 'turn', subjectId: turnId, action: 'assigned', details: { from: turn.assigneeId, to: personId } });
    context.announce('turns');
  },
};

/** Four eyes: who does one of two legs that must not be done by the same person cannot get the other. */
async function requireOtherPerson({ db }: Context, turn: TurnRow, personId: PersonId): Promise<void> {
  const mates = await db
    .select({ index: turns.index, title: turns.title, otherPersonThan: turns.otherPersonThan })
    .from(turns)
    .where(and(eq(turns.runId, turn.runId), eq(turns.assigneeId, personId)));
  const barred = mates.find(({ index, otherPersonThan }) => turn.otherPersonThan.includes(index) || otherPersonThan.includes(turn.index));
  if (!barred) return;
  throw new AppError(
    'invalid',
    `${turn.title} must not be done by whoever does leg ${barred.index + 1}, ${barred.title}, which that person has. Choose somebody else.`,
  );
}
