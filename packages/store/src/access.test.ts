import { randomUUID } from 'node:crypto';
import { hasRight, RIGHTS, ROLES } from '@kindred-baton/core/programmes/roles';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofCycle } from '../../../tests/support/of-cycle.ts';
import type { TestStore } from '../../../tests/support/test-store.ts';
import { createTestStore } from '../../../tests/support/test-store.ts';
import type { Actor } from './actor.ts';
import { getActor } from './actor.ts';
import { changeCycle } from './cycles/change-cycles.ts';
import { getMap } from './map/get-map.ts';
import { getRunOverlay } from './turns/get-run-overlay.ts';
import { editScenario } from './scenarios/edit-scenario.ts';
import { getScenario } from './scenarios/get-scenario.ts';
import { getTest } from './tests/get-test.ts';
import { getGuide } from './turns/get-guide.ts';
import { listTurns } from './turns/list-turns.ts';

/** The spine itself; every route is tried by every role in tests/end-to-end/every-route.test.ts, made from the table of routes. */
describe('access', () => {
  let db: TestStore;
  let lead: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
  });
  afterAll(() => db.drop());

  const code = async (promise: Promise<unknown>) =>
    promise.then(
      () => 'done',
      (error: { code?: string }) => error.code ?? 'other',
    );

  it.each(ROLES)('of a %s is what her rights say, before anything is looked up', async (role: Role) => {
    const actor: Actor = { ...lead, roles: [role] };
    for (const right of RIGHTS) {
      let isReached = false;
      const reach = async () => {
        isReached = true;
        return Promise.resolve('done');
      };
      const answers = [
        await code(db.perform(actor, { right, run: reach }, undefined)),
        await code(db.ask(actor, { right, read: reach }, undefined)),
      ];
      const isAllowed = hasRight([role], right);
      expect([right, answers, isReached]).toEqual([right, isAllowed ? ['done', 'done'] : ['forbidden', 'forbidden'], isAllowed]);
    }
  });

  it('takes the rights of several roles together', () => {
    expect(RIGHTS.filter((right) => hasRight(['tester', 'owner'], right))).toEqual([
      'read',
      'make attempts',
      'log defects',
      'move defects',
      'sign off',
    ]);
    expect(RIGHTS.filter((right) => hasRight(['observer'], right))).toEqual(['read']);
    expect(RIGHTS.filter((right) => hasRight([], right))).toEqual([]);
  });

  it('ends at the programme: what belongs to another is not found, by any address', async () => {
    const stranger: Actor = { ...lead, programmeId: randomUUID() as never };
    const scenario = await db.ask(lead, getScenario, 'NS-S1');
    const turn = (await db.ask(lead, listTurns, { ...ofCycle('ACC-2') })).turns[0];
    expect(await code(db.ask(stranger, getGuide, turn?.id as never))).toBe('not found');
    expect(await code(db.ask(stranger, getRunOverlay, scenario.runs[0]?.id as never))).toBe('not found');
    expect(await code(db.ask(stranger, getTest, { code: 'BIL-01' }))).toBe('not found');
    expect(
      await code(
        db.perform(stranger, editScenario, { code: 'NS-S1', edits: [{ kind: 'remove leg', leg: scenario.document.legs[0]?.id as never }] }),
      ),
    ).toBe('not found');
    expect((await db.ask(stranger, getMap, undefined)).nodes).toEqual([]);
    expect(await code(getActor(db.store, lead.personId, 'elsewhere'))).toBe('not found');
  });

  it('does not let an owner in who is not of the programme', async () => {
    const change = db.perform(lead, changeCycle, { code: 'ACC-2', change: { ownerId: randomUUID() as never } });
    await expect(change).rejects.toThrow('This programme has no such person.');
  });
});
