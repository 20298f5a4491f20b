import type { Since } from '@kindred-baton/contracts/progress/since';
import { LIVE_STATES } from '@kindred-baton/core/cycles/cycle';
import { hasRight } from '@kindred-baton/core/programmes/roles';
import { describeSince, hasChanged } from '@kindred-baton/core/progress/describe-since';
import { getLastWorkingDay } from '@kindred-baton/core/time/since-when';
import { and, asc, eq, inArray, isNull, lt, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import { SITE } from '../mails/write-mails.ts';
import type { ProgrammeRow } from '../mails/write-mornings.ts';
import { writeMornings } from '../mails/write-mornings.ts';
import type { ReadContext } from '../operation.ts';
import { enterProgramme } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { mails } from '../schema/mails.ts';
import { nodes } from '../schema/map.ts';
import { people } from '../schema/people.ts';
import { members } from '../schema/programmes.ts';
import { getSince } from './get-since.ts';

/** Who owns more processes side by side is told of the first of them; the letter opens the rest. */
const NODES_TOLD = 8;

/** The morning's letter of what changed since the last working day, to those who asked for it. Once a working day. Answers how many were written. */
export const writeNews = (store: Store): Promise<number> => writeMornings(store, (programme, today) => writeFor(store, programme, today));

interface Reader {
  readonly personId: ReadContext['actor']['personId'];
  readonly roles: ReadContext['actor']['roles'];
}

function writeFor(store: Store, programme: ProgrammeRow, today: string): Promise<number> {
  return store.db.transaction(async (db) => {
    await enterProgramme(db, { programmeId: programme.id });
    const readers = await db
      .update(members)
      .set({ newsOn: today })
      .where(
        and(
          ...[eq(members.programmeId, programme.id), isNull(members.leftAt), sql`(${members.notices} ->> 'news')::boolean`],
          or(isNull(members.newsOn), lt(members.newsOn, today)),
        ),
      )
      .returning({ personId: members.personId, roles: members.roles });
    if (readers.length === 0) return 0;
    const now = store.now();
    const since = getLastWorkingDay(now.getTime(), programme.timeZone);
    const known = new Map<string, Promise<Since>>();
    const look = (reader: Reader, cycle: string, scope: string | undefined) => {
      const { id, key, name, timeZone, severityNames } = programme;
      const actor = { ...reader, programmeId: id, programmeKey: key, programmeName: name, timeZone, severityNames };
      const place = `${cycle} ${scope ?? ''}`;
      const found = known.get(place) ?? getSince.read({ db, actor, now }, { cycle, since, ...(scope === undefined ? {} : { scope }) });
      known.set(place, found);
      return found;
    };
    const live = await db
      .select({ code: cycles.code, name: cycles.name })
      .from(cycles)
      .where(and(eq(cycles.programmeId, programme.id), inArray(cycles.state, LIVE_STATES)))
      .orderBy(asc(cycles.startsOn), asc(cycles.code));
    const rows: (typeof mails.$inferInsert)[] = [];
    for (const reader of readers) {
      const parts = await listParts(db, programme, reader);
      const lines: string[] = [];
      for (const cycle of live)
        for (const { scope, name } of parts) {
          const changed = await look(reader, cycle.code, scope);
          const of = name === null ? cycle.name : `${name} in ${cycle.name}`;
          if (hasChanged(changed)) lines.push(describeSince(changed, { of, since: nameMoment(since, programme.timeZone) }));
        }
      const [person] = lines.length === 0 ? [] : await db.select().from(people).where(eq(people.id, reader.personId));
      if (person) rows.push(toLetter(programme, person, lines, now));
    }
    if (rows.length > 0) await db.insert(mails).values(rows);
    return rows.length;
  });
}

/** What somebody is told of: who owns processes and leads nothing, of those, each with all below it; everybody else of all. */
async function listParts(
  db: Pick<ReadContext['db'], 'select'>,
  programme: ProgrammeRow,
  { personId, roles }: Reader,
): Promise<readonly { readonly scope: string | undefined; readonly name: string | null }[]> {
  const whole = [{ scope: undefined, name: null }];
  if (hasRight(roles, 'run cycles')) return whole;
  const over = alias(nodes, 'over');
  const own = await db
    .select({ scope: nodes.code, name: nodes.name })
    .from(nodes)
    .leftJoin(over, eq(over.id, nodes.parentId))
    .where(and(eq(nodes.programmeId, programme.id), eq(nodes.ownerId, personId), or(isNull(over.ownerId), ne(over.ownerId, personId))))
    .orderBy(asc(nodes.code))
    .limit(NODES_TOLD);
  return own.length === 0 ? whole : own;
}

const nameMoment = (iso: string, timeZone: string) =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone,
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }).format(Date.parse(iso));

const toLetter = (
  { id, key, name: of }: ProgrammeRow,
  { name, email }: { readonly name: string; readonly email: string },
  lines: readonly string[],
  now: Date,
): typeof mails.$inferInsert => ({
  ...{ id: createId<'mail'>(), programmeId: id, to: email, toName: name, createdAt: now, nextTryAt: now },
  subject: `What changed in ${of}`,
  text: `Dear ${name},\n\n${lines.join('\n\n')}\n\n${SITE}/${key}/progress?view=course\n\nKindred Baton\nWhat you are told by mail you choose at ${SITE}/${key}/me`,
});
