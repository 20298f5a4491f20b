import { createRandom } from '@kindred-baton/core/values/fresh';
import { sql } from 'drizzle-orm';
import type { Store } from '../database.ts';
import { programmes } from '../schema/programmes.ts';
import { createBigContents } from './big/big-contents.ts';
import type { BigSize } from './big/big-size.ts';
import { layBigCycles } from './big/lay-big-cycles.ts';
import { readBrindlemere } from './contents.ts';
import { createDemoIds } from './demo-ids.ts';
import { layBoards } from './lay-boards.ts';
import { layCycles } from './lay-cycles.ts';
import { layNewerVersions } from './lay-newer-versions.ts';
import type { DemoTools } from './lay-programme.ts';
import { layProgramme } from './lay-programme.ts';
import { layScenarios } from './lay-scenarios.ts';

const SEED = 4_217;

/**
 * Lays Brindlemere Water Trust into an empty store, in one transaction: the same each time, but for dates, which are laid
 * around the store's *now*. With a size it is a trust of several divisions. Does nothing and returns false where there is a programme already.
 */
export async function seedDemo(store: Store, passwordHash: string, size?: BigSize): Promise<boolean> {
  const existing = await store.db.select({ id: programmes.id }).from(programmes).limit(1);
  if (existing.length > 0) return false;
  const random = createRandom(SEED);
  await store.db.transaction(async (db) => {
    const tools = { db, id: createDemoIds(random), now: store.now(), passwordHash, random };
    await (size ? layBig(tools, size) : layUsual(tools));
  });
  // The database learns how much there is before anybody asks it.
  await store.db.execute(sql`analyze`);
  return true;
}

type Tools = DemoTools & { readonly random: () => number };

async function layUsual(tools: Tools): Promise<void> {
  const laid = await layProgramme(tools, readBrindlemere());
  await layScenarios(tools, laid);
  await layCycles(tools, laid);
  await layNewerVersions(tools, laid);
  await layBoards(tools, laid);
}

async function layBig(tools: Tools, size: BigSize): Promise<void> {
  const laid = await layProgramme(tools, createBigContents(size));
  await layScenarios(tools, laid);
  await layBigCycles(tools, laid, size);
}
