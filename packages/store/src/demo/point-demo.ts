import { eq, like } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { installations } from '../schema/programmes.ts';

/** Where the practice application stands when nothing else is said. */
export const PRACTICE_ADDRESS = 'http://127.0.0.1:4227';

const PRACTICE = /^http:\/\/127\.0\.0\.1:\d+(?=\/(?:rehearsal|integration)\/)/;

/** Points the demo's applications to where the practice application stands now; addresses that people have set stay. */
export async function pointDemo(store: Store, practiceAddress: string): Promise<void> {
  const rows = await store.db
    .selectDistinct({ address: installations.address })
    .from(installations)
    .where(like(installations.address, 'http://127.0.0.1:%'));
  for (const { address } of rows) {
    const now = address.replace(PRACTICE, practiceAddress);
    if (now !== address) await store.db.update(installations).set({ address: now }).where(eq(installations.address, address));
  }
}
