import { listRequirements } from '@kindred-baton/store/requirements/list-requirements';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { TestStore } from '../../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../../tests/support/test-store.ts';
import { createDoAside } from './do-aside.ts';

const LIMITS = { mostMs: 60_000, storesMs: 60_000, heapMb: 768, threads: 1, mostWaiting: 4, advice: 'Nothing was kept.' };
const BYTES = new TextEncoder().encode(
  `Code,Requirement\n${Array.from({ length: 2_000 }, (_, i) => `ZZ-${i},It holds in case ${i} of the many that there are`).join('\n')}\n`,
);

describe('the time that an import has', { timeout: 120_000 }, () => {
  let db: TestStore;
  beforeAll(async () => {
    db = await createTestStore('demo');
    vi.stubEnv('DATABASE_URL', db.url);
    vi.stubEnv('KINDRED_BATON_SECRET', 'a-secret-of-this-test-alone-0123456789');
  });
  afterAll(async () => {
    vi.unstubAllEnvs();
    await db.drop();
  });

  const countStored = async () => {
    const { requirements } = await db.ask(await db.actorOf('Lea Marsh'), listRequirements, {});
    return requirements.filter(({ code }) => code.startsWith('ZZ-')).length;
  };
  const importList = async (limits: Partial<typeof LIMITS>, accept?: string) => {
    const caller = { actor: await db.actorOf('Lea Marsh'), route: 'importRequirements' } as const;
    const options = accept === undefined ? {} : { accept };
    const preview = await createDoAside({ ...LIMITS, ...limits })('import', caller, { name: 'x.csv', bytes: BYTES, options });
    return preview as { readonly fingerprint: string; readonly isStored: boolean };
  };

  it('is that of reading until it has read, whatever the request says; storing alone has longer, and what is stopped stores nothing', async () => {
    const { fingerprint } = await importList({ storesMs: 1 });
    await expect(importList({ mostMs: 1 }, fingerprint)).rejects.toThrow('more than 0.001 seconds');
    await expect(importList({ storesMs: 1 }, fingerprint)).rejects.toThrow('more than 0.001 seconds');
    expect(await countStored()).toBe(0);
    expect((await importList({}, fingerprint)).isStored).toBe(true);
    expect(await countStored()).toBe(2_000);
  });
});
