import { and, asc, eq, inArray, isNull, lt, lte, sql } from 'drizzle-orm';
import type { MailId } from '@kindred-baton/core/ids';
import type { Store } from '../database.ts';
import { mails } from '../schema/mails.ts';

/** For the sender alone. */
export interface MailToSend {
  readonly id: MailId;
  readonly to: string;
  readonly toName: string;
  readonly subject: string;
  readonly text: string;
}

const AT_ONCE = 20;
const MOST_TRIES = 10;
const FIRST_WAIT_SECONDS = 30;
/** What a server that dies while it sends has not sent is tried again after this. */
const CLAIM_MS = 900_000;

/**
 * Sends what waits, each letter claimed before it goes out, so that two servers never send one twice; nothing is locked meanwhile. What could
 * not be sent is tried again, later each time; after ten tries it stays with its reason. Answers how many were tried.
 */
export async function sendMails(store: Store, send: (mail: MailToSend) => Promise<void>): Promise<number> {
  const due = await claimMails(store);
  for (const mail of due) {
    const problem = await send(mail).then(
      () => null,
      (error: unknown) => (error instanceof Error ? error.message : String(error)),
    );
    const wait = FIRST_WAIT_SECONDS * 2 ** mail.failures;
    await store.db
      .update(mails)
      .set(
        problem === null
          ? { sentAt: store.now(), problem: '' }
          : { failures: sql`${mails.failures} + 1`, problem, nextTryAt: new Date(store.now().getTime() + wait * 1_000) },
      )
      .where(eq(mails.id, mail.id));
  }
  return due.length;
}

async function claimMails(store: Store): Promise<(typeof mails.$inferSelect)[]> {
  const now = store.now();
  return store.db.transaction(async (db) => {
    const due = await db
      .select()
      .from(mails)
      .where(and(isNull(mails.sentAt), lte(mails.nextTryAt, now), lt(mails.failures, MOST_TRIES)))
      .orderBy(asc(mails.createdAt))
      .limit(AT_ONCE)
      .for('update', { skipLocked: true });
    const ids = due.map(({ id }) => id);
    if (ids.length > 0)
      await db
        .update(mails)
        .set({ nextTryAt: new Date(now.getTime() + CLAIM_MS) })
        .where(inArray(mails.id, ids));
    return due;
  });
}
