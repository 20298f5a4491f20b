import { createRandom } from '@kindred-baton/core/values/fresh';
import type { Store } from '../database.ts';
import { programmes } from '../schema/programmes.ts';
import { createDemoIds } from './demo-ids.ts';
import { layCycles } from './lay-cycles.ts';
import { layNewerVersions } from './lay-newer-versions.ts';
import { layProgramme } from './lay-programme.ts';
import { layScenarios } from './lay-scenarios.ts';

const SEED = 4_217;

/**
 * Lays Brindlemere Water Trust into an empty store, in one transaction: the same each time, but for dates, which are laid
 * around the store's *now*. Does nothing and returns false where there is a programme already.
 */
export async function seedDemo(store: Store, passwordHash: string): Promise<boolean> {
  const existing = await store.db.select({ id: programmes.id }).from(programmes).limit(1);
  if (existing.length > 0) return false;
  const random = createRandom(SEED);
  await store.db.transaction(async (db) => {
    const tools = { db, id: createDemoIds(random), now: store.now(), passwordHash, random };
    const laid = await layProgramme(tools);
    await layScenarios(tools, laid);
    await layCycles(tools, laid);
    await layNewerVersions(tools, laid);
  });
  return true;
}
