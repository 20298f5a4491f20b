import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { PersonId, TurnId } from '@kindred-baton/core/ids';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import { SITE, writeMails } from '../mails/write-mails.ts';
import type { Context, Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import { cycles } from '../schema/cycles.ts';
import { teamMembers } from '../schema/programmes.ts';
import type { TurnRow } from '../schema/turns.ts';
import { turns } from '../schema/turns.ts';
import { people } from '../schema/people.ts';

/**
 * Gives a turn to somebody, with a word: the lead any turn, a tester her own to somebody of its lane, or one of her lane to herself. One that is
 * under way stays with whoever does it.
 */
export const passTurn: Operation<{ turnId: TurnId; personId: PersonId; word: string }, void> = {
  right: 'make attempts',
  run: async (context, { turnId, personId, word }) => {
    const { db, actor } = context;
    await requireOwn(context, { ownerId: personId });
    const [found] = await db
      .select({ turn: turns, cycle: cycles })
      .from(turns)
      .innerJoin(cycles, eq(cycles.id, turns.cycleId))
      .where(and(eq(turns.id, turnId), eq(turns.programmeId, actor.programmeId)))
      .for('update', { of: turns });
    if (!found) throw new AppError('not found', 'There is no such turn in this programme.');
    const { turn, cycle } = found;
    if (cycle.state === 'closed') throw new AppError('conflict', `Cycle ${cycle.code} is closed; its turns stay as they are.`);
    if (turn.state === 'under way')
      throw new AppError('conflict', `${turn.title} is under way; it can be given to somebody else once that attempt is finished.`);
    await requireMayPass(context, turn, personId);
    await requireOtherPerson(context, turn, personId);
    await db.update(turns).set({ assigneeId: personId }).where(eq(turns.id, turnId));
    await context.record({
      subject: 'turn',
      subjectId: turnId,
      action: 'passed on',
      details: { from: turn.assigneeId, to: personId, word },
    });
    await tellPassed(context, turn, { personId, word });
    context.announce('turns');
  },
};

async function requireMayPass({ db, actor }: Context, turn: TurnRow, personId: PersonId): Promise<void> {
  if (hasRight(actor.roles, 'run cycles')) return;
  const lane = turn.teamId
    ? await db.select({ personId: teamMembers.personId }).from(teamMembers).where(eq(teamMembers.teamId, turn.teamId))
    : [];
  const isInLane = (id: PersonId) => lane.some((mate) => mate.personId === id);
  const isHandedOver = turn.assigneeId === actor.personId && isInLane(personId);
  const isTaken = personId === actor.personId && isInLane(actor.personId);
  if (!isHandedOver && !isTaken)
    throw new AppError(
      'forbidden',
      turn.assigneeId === actor.personId
        ? 'You can hand this turn to somebody of its lane. Ask the lead for anybody else.'
        : 'You can take turns of your own lane. Ask the lead for this one.',
    );
}

async function tellPassed(context: Context, turn: TurnRow, { personId, word }: { personId: PersonId; word: string }): Promise<void> {
  const [from] = await context.db.select({ name: people.name }).from(people).where(eq(people.id, context.actor.personId));
  const said = word === '' ? '' : `\n\n${from?.name} says: ${word}`;
  const link = `\n\n${SITE}/${context.actor.programmeKey}/turns/${turn.id}`;
  const letters = [
    { to: personId, subject: `With you now: ${turn.title}`, text: `${from?.name} has passed a turn to you: ${turn.title}.${said}${link}` },
  ];
  if (turn.assigneeId && turn.assigneeId !== personId)
    letters.push({
      to: turn.assigneeId,
      subject: `No longer with you: ${turn.title}`,
      text: `${from?.name} has passed your turn on: ${turn.title}.${said}${link}`,
    });
  await writeMails(context, 'baton', letters);
}

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
