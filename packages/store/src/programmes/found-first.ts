import { AppError } from '@kindred-baton/contracts/errors';
import type { CreateProgramme } from '@kindred-baton/contracts/programmes/programme';
import { sql } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import { history } from '../schema/history.ts';
import { accounts, people } from '../schema/people.ts';
import { members, programmes } from '../schema/programmes.ts';

export async function isEmptyStore({ db }: Store): Promise<boolean> {
  const [one] = await db.select({ id: people.id }).from(people).limit(1);
  return one === undefined;
}

interface Founder {
  readonly name: string;
  readonly email: string;
  readonly passwordHash: string;
  readonly programme: CreateProgramme;
}

/** The first account and its programme; refused as soon as anybody is there. */
export function foundFirst(store: Store, { name, email, passwordHash, programme }: Founder): Promise<string> {
  return store.db.transaction(async (db) => {
    await db.execute(sql`lock table people in exclusive mode`);
    if (!(await isEmptyStore({ ...store, db: db as unknown as Store['db'] })))
      throw new AppError('conflict', 'Somebody is here already. Ask to be invited.');
    const now = store.now();
    const personId = createId<'person'>();
    const programmeId = createId<'programme'>();
    await db.insert(people).values({ id: personId, name, email, emailVerified: true, createdAt: now, updatedAt: now });
    await db.insert(accounts).values({
      id: createId(),
      accountId: personId,
      providerId: 'credential',
      userId: personId,
      password: passwordHash,
      createdAt: now,
      updatedAt: now,
    });
    await db.insert(programmes).values({ id: programmeId, ...programme, defectPrefix: 'D' });
    await db.insert(members).values({ programmeId, personId, roles: ['lead', 'administrator'] });
    await db.insert(history).values({
      programmeId,
      personId,
      at: now,
      subject: 'programme',
      subjectId: programmeId,
      action: 'founded',
      details: { name: programme.name },
    });
    return programme.key;
  });
}
