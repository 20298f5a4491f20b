import { and, eq, inArray, isNull } from 'drizzle-orm';
import type { PersonId } from '@kindred-baton/core/ids';
import { DEFAULT_NOTICES } from '@kindred-baton/core/programmes/notices';
import type { Notice } from '@kindred-baton/core/programmes/notices';
import { createId } from '../ids.ts';
import type { Context } from '../operation.ts';
import { mails } from '../schema/mails.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';

/** Stands in a letter where the address of this installation goes; the sender knows it. */
export const SITE = '{site}';

export interface Letter {
  readonly to: PersonId;
  readonly subject: string;
  readonly text: string;
}

/** Letters to people of the programme who want notices of this kind; nobody is written to about what she did herself. */
export async function writeMails(
  context: Pick<Context, 'db' | 'actor' | 'now'>,
  notice: Notice,
  letters: readonly Letter[],
): Promise<number> {
  const { db, actor, now } = context;
  const others = letters.filter(({ to }) => to !== actor.personId);
  if (others.length === 0) return 0;
  const wishes = await db
    .select({ id: people.id, name: people.name, email: people.email, notices: members.notices })
    .from(members)
    .innerJoin(people, eq(people.id, members.personId))
    .where(
      and(
        eq(members.programmeId, actor.programmeId),
        inArray(
          members.personId,
          others.map(({ to }) => to),
        ),
        isNull(members.leftAt),
      ),
    );
  const personOf = new Map(wishes.map((person) => [person.id, person]));
  const rows = others.flatMap(({ to, subject, text }) => {
    const person = personOf.get(to);
    // Who chose before there was this kind is told by default.
    if (!person || !{ ...DEFAULT_NOTICES, ...person.notices }[notice]) return [];
    return [
      {
        ...{
          id: createId<'mail'>(),
          programmeId: actor.programmeId,
          to: person.email,
          toName: person.name,
          createdAt: now,
          nextTryAt: now,
        },
        subject,
        text: sign(person.name, text, actor.programmeKey),
      },
    ];
  });
  if (rows.length > 0) await db.insert(mails).values(rows);
  return rows.length;
}

function sign(name: string, text: string, programmeKey: string): string {
  return `Dear ${name},\n\n${text}\n\nKindred Baton\nWhat you are told by mail you choose at ${SITE}/${programmeKey}/me`;
}
