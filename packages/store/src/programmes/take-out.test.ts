import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { listCycles } from '../cycles/list-cycles.ts';
import { checkRuns } from '../runs/check-runs.ts';
import { getActor } from '../actor.ts';
import { people } from '../schema/people.ts';
import { attempts, evidence } from '../schema/turns.ts';
import { takeProgrammeIn } from './take-in.ts';
import type { Row, TakenProgramme } from './take-out.ts';
import { takeProgrammeOut } from './take-out.ts';

describe('a programme as one open file', () => {
  let db: TestStore;
  let empty: TestStore;
  beforeAll(async () => {
    [db, empty] = [await createTestStore('demo'), await createTestStore('empty')];
    const [attempt] = await db.store.db.select().from(attempts).limit(1);
    const picture = { name: 'a.png', mediaType: 'image/png', size: 4, content: Buffer.from([0x89, 0x50, 0, 0xff]) };
    await db.store.db.insert(evidence).values({
      ...picture,
      id: randomUUID() as never,
      programmeId: attempt?.programmeId as never,
      attemptId: attempt?.id as never,
      stepIndex: 0,
      addedBy: attempt?.personId as never,
    });
  }, 120_000);
  afterAll(async () => {
    await db.drop();
    await empty.drop();
  });

  /** Rows as they would be there: with the ids that they got, and in an order that does not hang on them. */
  const sort = (rows: readonly Row[]) => rows.map((row) => JSON.stringify(row, Object.keys(row).sort())).sort();
  const compare = (before: TakenProgramme, after: TakenProgramme, ids: ReadonlyMap<string, string>) => {
    const move = (row: Row) => JSON.parse(JSON.stringify(row).replace(/[0-9a-f-]{36}/g, (id) => ids.get(id) ?? id)) as Row;
    for (const [name, rows] of Object.entries(before.tables)) {
      const [was, is] = [rows.map(move), after.tables[name] ?? []];
      // History and earlier states of scenarios are in the order in which they came about.
      if (name === 'history' || name === 'scenario_states') expect([name, is]).toEqual([name, was]);
      else expect([name, sort(is)]).toEqual([name, sort(was)]);
    }
  };

  it('goes out and in the same, with its pictures, into an installation that has never seen it', { timeout: 120_000 }, async () => {
    const before = await takeProgrammeOut(db.store, 'brindlemere');
    // Nothing is lost where it goes through a file (formats: programme-file).
    const file = JSON.parse(JSON.stringify(before)) as TakenProgramme;
    expect(file).toEqual(before);
    const { ids, newPeople } = await takeProgrammeIn(empty.store, file, { key: 'copy' });
    expect(newPeople.length).toBe(before.people.length);
    const after = await takeProgrammeOut(empty.store, 'copy');
    expect(Object.keys(after.tables)).toEqual(Object.keys(before.tables));
    expect(Object.values(after.tables).flat().length).toBeGreaterThan(5_000);
    compare(before, after, ids);
    expect(await checkRuns(empty.store.db)).toEqual([]);
    const [lead] = await empty.store.db.select().from(people).where(eq(people.name, 'Lea Marsh'));
    const cycles = await empty.ask(await getActor(empty.store, lead?.id as never, 'copy'), listCycles, undefined);
    expect(cycles).toMatchObject({
      cycles: (await db.ask(await db.actorOf('Lea Marsh'), listCycles, undefined)).cycles.map(({ code, counts }) => ({ code, counts })),
    });
  });

  it('goes in beside the one it was taken out of, and shares nothing with it but its people', { timeout: 120_000 }, async () => {
    const before = await takeProgrammeOut(db.store, 'brindlemere');
    await expect(takeProgrammeIn(db.store, before, { key: 'brindlemere' })).rejects.toThrow('There is a programme at /brindlemere already');
    const { ids, newPeople } = await takeProgrammeIn(db.store, before, { key: 'second' });
    expect(newPeople).toEqual([]);
    const after = await takeProgrammeOut(db.store, 'second');
    compare(before, after, ids);
    const idsOf = ({ tables }: TakenProgramme) =>
      new Set(Object.values(tables).flatMap((rows) => rows.flatMap(({ id }) => (typeof id === 'string' ? [id] : []))));
    expect([...idsOf(after)].filter((id) => idsOf(before).has(id))).toEqual([]);
    expect(await takeProgrammeOut(db.store, 'brindlemere')).toEqual(before);
  });

  it('is refused with a sentence, and leaves nothing behind, where it does not hold together', { timeout: 60_000 }, async () => {
    const taken = await takeProgrammeOut(db.store, 'brindlemere');
    const change = (name: string, row: Row): TakenProgramme => ({
      ...taken,
      tables: { ...taken.tables, [name]: [{ ...taken.tables[name]![0], ...row }, ...taken.tables[name]!.slice(1)] },
    });
    const takeIn = (file: TakenProgramme) => takeProgrammeIn(empty.store, file, { key: 'broken' });
    await expect(takeIn({ ...taken, schema: 3 })).rejects.toThrow('of another release');
    await expect(takeIn(change('tests', { node_id: randomUUID() }))).rejects.toThrow('a row of tests refers to nodes, which is not in it');
    await expect(takeIn(change('tests', { programme_id: randomUUID() }))).rejects.toThrow('a row of tests refers to another programme');
    await expect(takeIn(change('tests', { priority: 'whenever' }))).rejects.toThrow('The rows of tests do not fit');
    await expect(takeIn({ ...taken, tables: { ...taken.tables, sessions: [] } })).rejects.toThrow('not known here: sessions');
    await expect(takeProgrammeOut(empty.store, 'broken')).rejects.toThrow('There is no programme /broken');
  });
});
