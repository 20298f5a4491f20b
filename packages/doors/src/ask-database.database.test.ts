import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../tests/support/test-store.ts';
import { createTestStore } from '../../../tests/support/test-store.ts';
import { askDatabase } from './ask-database.ts';
import type { OpenDoor } from './door.ts';

describe('a door that is a database', { timeout: 60_000 }, () => {
  let db: TestStore;
  let door: OpenDoor;
  beforeAll(async () => {
    db = await createTestStore('empty');
    await db.store.pool.query('create table bills (number text, total numeric(9,2), is_paid boolean, made_at date, more jsonb)');
    await db.store.pool.query(`insert into bills values ('BL-1', 52.10, true, '2026-11-27', '{"a": 1}'), ('BL-2', 7, null, null, null)`);
    const { username, password, href } = new URL(db.url);
    door = {
      name: 'Ledger',
      kind: 'database',
      address: href.replace(`${username}${password && `:${password}`}@`, ''),
      signIn: 'none',
      user: username,
      secret: password,
    };
  });
  afterAll(() => db.drop());

  const ask = (statement: string, parameters: readonly string[] = []) => askDatabase(door, { kind: 'database', statement, parameters });

  it('answers with rows: numbers, truths and JSON as such, all else as it is written', async () => {
    expect(await ask('select * from bills order by number')).toEqual({
      ...{ code: null, isCut: false, columns: ['number', 'total', 'is_paid', 'made_at', 'more'] },
      body: [
        { number: 'BL-1', total: '52.10', is_paid: true, made_at: '2026-11-27', more: { a: 1 } },
        { number: 'BL-2', total: '7.00', is_paid: null, made_at: null, more: null },
      ],
    });
    expect((await ask('select count(*) from bills')).body).toEqual([{ count: 2 }]);
    expect(await ask('select * from bills where false')).toMatchObject({
      body: [],
      columns: ['number', 'total', 'is_paid', 'made_at', 'more'],
    });
  });

  it('takes values as parameters', async () => {
    expect((await ask('select total from bills where number = $1', [`' or true --`])).body).toEqual([]);
    expect((await ask(`select total from bills where number like '' || $1::text || '%'`, ['BL-1'])).body).toEqual([{ total: '52.10' }]);
  });

  it.each([
    ["insert into bills (number) values ('x')", 'would be changed by the statement; a door to a database only reads.'],
    ['with gone as (delete from bills returning *) select * from gone', 'would be changed by the statement'],
    ['drop table bills', 'would be changed by the statement'],
    ['select 1; drop table bills', 'takes one statement at a time.'],
    ['select * from nothing', 'does not understand the statement: relation "nothing" does not exist.'],
    ['selekt', 'does not understand the statement'],
  ])('changes nothing and says why: %s', async (statement, message) => {
    await expect(ask(statement)).rejects.toThrow(`“Ledger” ${message}`);
    expect((await ask('select count(*) from bills')).body).toEqual([{ count: 2 }]);
  });

  it('is left after ten seconds, and its statement is ended there too', async () => {
    await expect(ask('select pg_sleep(60)')).rejects.toThrow('“Ledger” did not answer within 10 seconds.');
    const { rows } = await db.store.pool.query(
      "select 1 from pg_stat_activity where query like '%pg_sleep(60)%' and pid <> pg_backend_pid()",
    );
    expect(rows).toEqual([]);
  });

  it('gives a thousand rows and says that there are more; no more than a megabyte', async () => {
    const { body, isCut } = await ask('select n from generate_series(1, 5000000) n');
    expect([(body as unknown[]).length, isCut]).toEqual([1_000, true]);
    const wide = await ask("select repeat('x', 20000) as x from generate_series(1, 5000)");
    expect([(wide.body as unknown[]).length <= 200, wide.isCut]).toEqual([true, true]);
  });

  it('says that it could not be reached, or refuses, without its password', async () => {
    const lost = { ...door, address: 'postgresql://127.0.0.1:9/nowhere', secret: 's3cret' };
    const message = await askDatabase(lost, { kind: 'database', statement: 'select 1', parameters: [] }).catch(
      (error: Error) => error.message,
    );
    expect(message).toMatch(/^“Ledger” could not be reached at 127\.0\.0\.1:9 \(ECONNREFUSED\)\.$/);
    const nobody = askDatabase({ ...door, user: 'nobody_of_that_name' }, { kind: 'database', statement: 'select 1', parameters: [] });
    await expect(nobody).rejects.toThrow(/refuses|could not be reached/);
  });
});
