import { and, asc, eq, isNull, lte, lt, sql } from 'drizzle-orm';
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

/**
 * Sends what waits, each letter locked while it goes out, so that two servers never send one twice. What could not be sent is tried again,
 * later each time; after ten tries it stays with its reason. Answers how many were tried.
 */
export async function sendMails(store: Store, send: (mail: MailToSend) => Promise<void>): Promise<number> {
  return store.db.transaction(async (db) => {
    const now = store.now();
    const due = await db
      .select()
      .from(mails)
      .where(and(isNull(mails.sentAt), lte(mails.nextTryAt, now), lt(mails.failures, MOST_TRIES)))
      .orderBy(asc(mails.createdAt))
      .limit(AT_ONCE)
      .for('update', { skipLocked: true });
    for (const mail of due) {
      const problem = await send(mail).then(
        () => null,
        (error: unknown) => (error instanceof Error ? error.message : String(error)),
      );
      const wait = FIRST_WAIT_SECONDS * 2 ** mail.failures;
      await db
        .update(mails)
        .set(
          problem === null
            ? { sentAt: now, problem: '' }
            : { failures: sql`${mails.failures} + 1`, problem, nextTryAt: new Date(now.getTime() + wait * 1_000) },
        )
        .where(eq(mails.id, mail.id));
    }
    return due.length;
  });
}
