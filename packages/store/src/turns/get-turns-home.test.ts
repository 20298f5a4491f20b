import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofCycle } from '../../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import { getScenario } from '../scenarios/get-scenario.ts';
import { getGuide } from './get-guide.ts';
import { getRunOverlay } from './get-run-overlay.ts';
import { getTurnsHome } from './get-turns-home.ts';
import { listTurns } from './list-turns.ts';

describe('a tester’s turns', () => {
  let db: TestStore;
  beforeAll(async () => {
    db = await createTestStore('demo');
  });
  afterAll(() => db.drop());

  it.each(['Ines Varga', 'Karim Bol', 'Sena Adeyo', 'Mira Stokes'])(
    'of %s are all there: with her, on their way, passed on',
    async (name) => {
      const actor = await db.actorOf(name);
      const home = await db.ask(actor, getTurnsHome, undefined);
      const all = await db.ask(actor, listTurns, { ...ofCycle('ACC-2'), person: name });
      const { passed, failed, blocked, skipped } = home.passedOn;
      const retests = home.withYou.filter(({ isRetest }) => isRetest).length;
      expect(home.withYou.length + home.onItsWay.length + home.moreOnItsWay + passed + failed + blocked + skipped - retests).toBe(
        all.rows.size,
      );
      expect(home.withYou.every(({ state, assignee }) => (state === 'ready' || state === 'under way') && assignee === name)).toBe(true);
    },
  );

  it('say of each that is on its way who has the baton, or by what it is held', async () => {
    const home = await db.ask(await db.actorOf('Sena Adeyo'), getTurnsHome, undefined);
    expect(home.onItsWay.length).toBeGreaterThan(0);
    for (const turn of home.onItsWay) expect([turn.title, turn.heldBy ?? turn.holder?.person]).toEqual([turn.title, expect.any(String)]);
  });

  it('bring the values that were handed over, with who gave them', async () => {
    const home = await db.ask(await db.actorOf('Sena Adeyo'), getTurnsHome, undefined);
    const ready = home.withYou.find(({ title }) => title === 'Record the deposit');
    expect(ready?.arrivals).toEqual(
      expect.arrayContaining([
        { name: 'Quote no.', value: expect.stringMatching(/^QT-\d{5}$/), from: expect.objectContaining({ person: expect.any(String) }) },
        { name: 'Customer', value: expect.any(String), from: null },
      ]),
    );
    const guide = await db.ask(await db.actorOf('Sena Adeyo'), getGuide, ready?.id as never);
    expect(guide).toMatchObject({ refusal: null, environment: 'Rehearsal', newerVersion: null });
    expect(guide.goesTo.map(({ name }) => name)).toEqual(guide.goesTo.map(() => 'Receipt no.'));
  });

  it('refuse an observer with a sentence, and somebody else too', async () => {
    const ines = await db.ask(await db.actorOf('Ines Varga'), getTurnsHome, undefined);
    const id = ines.withYou[0]?.id as never;
    expect((await db.ask(await db.actorOf('Cora Vane'), getGuide, id)).refusal).toBe('Your role (observer) only looks on.');
    expect((await db.ask(await db.actorOf('Karim Bol'), getGuide, id)).refusal).toBe('This turn is with somebody else.');
  });

  it('lie over the relay of their scenario: each leg’s turn, and the baton so far', async () => {
    const lead = await db.actorOf('Lea Marsh');
    const {
      runs,
      document: { legs },
    } = await db.ask(lead, getScenario, 'NS-S1');
    const overlay = await db.ask(lead, getRunOverlay, runs[0]?.id as never);
    expect(overlay.turns.map(({ legId }) => legId)).toEqual(legs.map(({ id }) => id));
    const failed = overlay.turns.find(({ status }) => status === 'failed');
    expect(failed?.latest).toMatchObject({ outcome: 'failed', step: 6, steps: 9 });
    expect(overlay.baton.map(({ name }) => name)).toEqual(['Application no.', 'Survey no.', 'Pipe length']);
  });
});
