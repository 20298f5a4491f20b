import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getActor } from '../actor.ts';
import type { Operation } from '../operation.ts';
import { createProgramme } from './change-programme.ts';

/** Statements that forget to ask whose a row is, for every table there is. */
describe('programmes are kept apart by the database', () => {
  let db: TestStore;
  let lead: Actor;
  let stranger: Actor;
  let tables: string[];
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    const levels = ['Stream', 'Process'];
    await db.perform(lead, createProgramme, { key: 'other', name: 'Other', timeZone: 'Europe/London', levels } as never);
    stranger = await getActor(db.store, lead.personId, 'other');
    const { rows } = await db.store.db.execute<{ name: string }>(
      sql`select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'programme_id' order by 1`,
    );
    tables = rows.map(({ name }) => name);
  });
  afterAll(() => db.drop());

  const doing = <Output>(run: Operation<undefined, Output>['run']): Operation<undefined, Output> => ({ right: 'read', run });
  const count = (actor: Actor, table: string) =>
    db.perform(
      actor,
      doing(
        async (context) => (await context.db.execute<{ n: string }>(sql`select count(*) as n from ${sql.identifier(table)}`)).rows[0]?.n,
      ),
      undefined,
    );

  it('has every table of the domain under its rule', async () => {
    const { rows } = await db.store.db.execute<{ name: string }>(
      sql`select relname as name from pg_class where relnamespace = 'public'::regnamespace and relkind = 'r' and not relrowsecurity order by 1`,
    );
    // People and their accounts belong to no programme; of these only people can be read at all by who acts in one.
    expect(rows.map(({ name }) => name)).toEqual(['accounts', 'people', 'rate_limits', 'sessions', 'verifications']);
    expect(tables.length).toBeGreaterThan(35);
  });

  it('shows none of another’s rows to a statement without a condition', async () => {
    const seen = await Promise.all(tables.map(async (table) => [table, await count(stranger, table)]));
    // What founding the other programme wrote is all there is of it.
    expect(seen.filter(([, n]) => n !== '0')).toEqual([
      ['history', '1'],
      ['members', '1'],
    ]);
    expect(Number(await count(lead, 'turns'))).toBeGreaterThan(500);
  });

  it('lets no statement without a condition change or take away another’s rows', async () => {
    for (const table of tables) {
      const touched = await db.perform(
        stranger,
        doing(async (context) => {
          await context.db.execute(sql`savepoint before`);
          const changed = await context.db.execute(sql`update ${sql.identifier(table)} set programme_id = programme_id`);
          const gone = await context.db.execute(sql`delete from ${sql.identifier(table)}`);
          await context.db.execute(sql`rollback to savepoint before`);
          return [table, changed.rowCount, gone.rowCount];
        }),
        undefined,
      );
      const own = table === 'history' || table === 'members' ? 1 : 0;
      expect(touched).toEqual([table, own, own]);
    }
  });

  it('refuses a row under another’s name, and one that points to another’s', async () => {
    const forge = (programme: string) =>
      db.perform(
        stranger,
        doing((context) =>
          context.db.execute(
            sql`insert into teams (id, programme_id, name, colour) values (gen_random_uuid(), ${programme}, 'Forged', '#000000')`,
          ),
        ),
        undefined,
      );
    await expect(forge(lead.programmeId)).rejects.toThrow(/row-level security|Failed query/);
    const { rows } = await db.store.db.execute<{ id: string }>(sql`select id from turns limit 1`);
    const point = db.perform(
      stranger,
      doing((context) =>
        context.db.execute(
          sql`insert into nudges (id, turn_id, from_id, to_id, at) values (gen_random_uuid(), ${rows[0]?.id}, ${lead.personId}, ${lead.personId}, now())`,
        ),
      ),
      undefined,
    );
    await expect(point).rejects.toThrow('Something that this points to is gone');
  });

  it('keeps passwords and sessions from whoever acts in a programme', async () => {
    for (const table of ['accounts', 'sessions', 'verifications']) await expect(count(lead, table)).rejects.toThrow();
  });

  it('lets a read change nothing', async () => {
    const writing = {
      right: 'read' as const,
      read: ({ db: reader }: { db: Pick<typeof db.store.db, 'execute'> }) => reader.execute(sql`delete from nudges`),
    };
    await expect(db.ask(lead, writing as never, undefined)).rejects.toThrow();
  });
});
