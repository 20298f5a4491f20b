import { isNotNull } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { attempts } from '../schema/turns.ts';
import { findAnything } from './find-anything.ts';

describe('Find', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());
  const find = async (words: string) => (await db.ask(lead, findAnything, words)).found;

  it('leads from a value of the baton to the turn that made it', async () => {
    const rows = await db.store.db.select().from(attempts).where(isNotNull(attempts.finishedAt));
    const made = rows.find(({ kept }) => Object.values(kept).some((value) => /^[A-Z]+-\d+/.test(value)));
    const [name, value] = Object.entries(made?.kept ?? {}).find(([, text]) => /^[A-Z]+-\d+/.test(text)) ?? ['', ''];
    const found = await find(value);
    expect(found[0]).toMatchObject({
      kind: 'value',
      code: value,
      path: `/turns/${made?.turnId}`,
      name: expect.stringContaining(`${name} from `),
    });
    expect((await find(value.slice(0, -1))).some(({ kind }) => kind === 'value')).toBe(false);
  });

  it('takes words as they are: quotes, backslashes and signs of patterns find nothing else', async () => {
    for (const words of ['"', '\\', '%', '_', '") || (1 == 1', "'; drop table x"])
      expect((await find(words)).some(({ kind }) => kind === 'value')).toBe(false);
    expect((await find('BIL-01'))[0]).toMatchObject({ kind: 'test', code: 'BIL-01' });
  });
});
