import { LIVE_STATES } from '@kindred-baton/core/cycles/cycle';
import { and, count, eq, inArray, isNull, lt, or, sql } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { enterProgramme } from '../operation.ts';
import { createId } from '../ids.ts';
import { cycles } from '../schema/cycles.ts';
import { mails } from '../schema/mails.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { SITE } from './write-mails.ts';
import type { ProgrammeRow } from './write-mornings.ts';
import { writeMornings } from './write-mornings.ts';

/** The morning's letter to those who asked for it: what is with them, what of it is due. Once a working day. Answers how many were written. */
export const writeDigests = (store: Store): Promise<number> =>
  writeMornings(store, (programme, today) => writeFor(store, programme, today));

function writeFor(store: Store, programme: ProgrammeRow, today: string): Promise<number> {
  return store.db.transaction(async (db) => {
    await enterProgramme(db, { programmeId: programme.id });
    const claimed = await db
      .update(members)
      .set({ digestOn: today })
      .where(
        and(
          ...[eq(members.programmeId, programme.id), isNull(members.leftAt), sql`(${members.notices} ->> 'digest')::boolean`],
          or(isNull(members.digestOn), lt(members.digestOn, today)),
        ),
      )
      .returning({ personId: members.personId });
    if (claimed.length === 0) return 0;
    const ids = claimed.map(({ personId }) => personId);
    const rows = await db
      .select({
        id: people.id,
        name: people.name,
        email: people.email,
        ready: count(turns.id),
        due: sql<number>`count(*) filter (where ${turns.dueOn} <= ${today})`.mapWith(Number),
      })
      .from(people)
      .innerJoin(turns, and(eq(turns.assigneeId, people.id), inArray(turns.state, ['ready', 'under way'])))
      .innerJoin(cycles, and(eq(cycles.id, turns.cycleId), inArray(cycles.state, LIVE_STATES), eq(cycles.programmeId, programme.id)))
      .where(inArray(people.id, ids))
      .groupBy(people.id);
    if (rows.length === 0) return 0;
    await db.insert(mails).values(
      rows.map(({ name, email, ready, due }) => ({
        ...{ id: createId<'mail'>(), programmeId: programme.id, to: email, toName: name, createdAt: store.now(), nextTryAt: store.now() },
        subject: `This morning: ${ready} with you, ${due} due`,
        text: `Dear ${name},\n\n${ready} ${ready === 1 ? 'turn is' : 'turns are'} with you in ${programme.name}; ${due} of them ${due === 1 ? 'is' : 'are'} due today or before.\n\n${SITE}/${programme.key}/turns\n\nKindred Baton\nWhat you are told by mail you choose at ${SITE}/${programme.key}/me`,
      })),
    );
    return rows.length;
  });
}
