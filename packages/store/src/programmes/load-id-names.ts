import { sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';

/** Names of people, teams, applications and environments by id, to tell changes by. One query. */
export async function loadIdNames({ db, actor }: Pick<ReadContext, 'db' | 'actor'>): Promise<(id: string) => string | undefined> {
  const here = actor.programmeId;
  const { rows } = await db.execute<{ id: string; name: string }>(sql`
    select id, name from environments where programme_id = ${here}
    union all select id, name from applications where programme_id = ${here}
    union all select id, name from teams where programme_id = ${here}
    union all select p.id, p.name from people p join members m on m.person_id = p.id where m.programme_id = ${here}`);
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return (id) => names.get(id);
}
