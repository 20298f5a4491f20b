import { sumCounts } from '@kindred-baton/core/progress/tally';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getAcceptance, signOffNode } from '../cycles/acceptance.ts';
import { changeScope } from '../cycles/change-scope.ts';
import { listRunEnds } from '../cycles/list-runs.ts';
import { moveCycle } from '../cycles/move-cycle.ts';
import { mails } from '../schema/mails.ts';

describe('owners of processes', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    await db.store.db.delete(mails);
  });
  afterAll(() => db.drop());

  const letters = async () =>
    (await db.store.db.select().from(mails))
      .filter(({ text }) => text.includes('Yours to decide'))
      .map(({ toName, subject, text }) => ({ toName, subject, text }));
  const takeOut = (ids: readonly string[]) =>
    db.perform(lead, changeScope, { code: 'ACC-2', change: { add: [], drop: ids as never, why: 'Not this time' } });

  it('are told once, when the last turn of what is theirs is through, and of what', async () => {
    const { runs } = await db.ask(lead, listRunEnds, 'ACC-2');
    const open = runs.filter(({ outcome, leftTo }) => leftTo === null && outcome !== 'passed' && outcome !== 'skipped');
    const last = open.find(({ scenario }) => scenario.code.startsWith('NS-'))?.id ?? '';
    await takeOut(open.map(({ id }) => id).filter((id) => id !== last));
    expect(await letters()).not.toContainEqual(
      expect.objectContaining({ toName: 'Greta Holm', subject: expect.stringContaining('New supply') }),
    );
    const before = (await letters()).length;
    await takeOut([last]);
    const { nodes } = await db.ask(lead, getAcceptance, 'ACC-2');
    const own = nodes.filter(({ isOwnDecision, counts }) => isOwnDecision && sumCounts(counts) > 0);
    const told = (await letters()).slice(before);
    expect(told.map(({ toName }) => toName)).toContain('Greta Holm');
    for (const { toName, text } of told)
      for (const [, code, passed, all] of text.matchAll(/\(([\w.-]+)\): (\d+) of (\d+) turns passed/g)) {
        const node = own.find((each) => each.code === code);
        expect([node?.owner, node?.counts.passed, node && sumCounts(node.counts)]).toEqual([toName, Number(passed), Number(all)]);
      }
  });

  it('are told when a cycle is closing what they have not accepted as it stands', async () => {
    const greta = await db.actorOf('Greta Holm');
    const { nodes } = await db.ask(greta, getAcceptance, 'ACC-2');
    const node = nodes.find(({ code }) => code === 'NS');
    await db.perform(greta, signOffNode, {
      code: 'ACC-2',
      signOff: { node: 'NS', decision: 'accepted', reason: '', seen: node?.counts as never, reservations: [] },
    });
    await db.store.db.delete(mails);
    await db.perform(lead, moveCycle, { code: 'ACC-2', from: 'open', to: 'closing' });
    const told = await letters();
    const codes = told.flatMap(({ text }) => [...text.matchAll(/\(([\w.-]+)\):/g)].map(([, code]) => code));
    const due = nodes.filter(
      ({ code, owner, isOwnDecision, signOff }) =>
        owner !== null && isOwnDecision && code !== 'NS' && (signOff === null || signOff.hasMoved),
    );
    expect(codes.sort()).toEqual(due.map(({ code }) => code).sort());
    expect(told.every(({ subject }) => subject.startsWith('ACC-2 is closing'))).toBe(true);
  });
});
