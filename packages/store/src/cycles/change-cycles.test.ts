import { randomUUID } from 'node:crypto';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { createLeg } from '@kindred-baton/core/scenarios/scenario-document';
import { asc, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getChoices } from '../programmes/get-viewer.ts';
import { createScenario } from '../scenarios/change-scenarios.ts';
import { editScenario } from '../scenarios/edit-scenario.ts';
import { getScenario } from '../scenarios/get-scenario.ts';
import { takeVersion } from '../scenarios/review-change.ts';
import { cycles } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { turns } from '../schema/turns.ts';
import { agreeTest, createTest, saveTest } from '../tests/change-tests.ts';
import { passTurn } from '../turns/pass-turn.ts';
import { getGuide } from '../turns/get-guide.ts';
import { startAttempt } from '../turns/make-attempts.ts';
import { getAcceptance } from './acceptance.ts';
import { createCycle } from './change-cycles.ts';
import { moveCycle } from './move-cycle.ts';
import { getCycle } from './get-cycle.ts';
import { listRuns } from './list-runs.ts';
import { getCycleScope } from './get-cycle-scope.ts';

describe('planning and opening a cycle', () => {
  let db: TestStore;
  let lead: Actor;
  let environmentId: string;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    environmentId = (await db.ask(lead, getChoices, undefined)).environments[0]?.id ?? '';
  });
  afterAll(() => db.drop());

  const plan = async (code: string, scenario: string, rows = 1) => {
    const { scenarios } = await db.ask(lead, getCycleScope, undefined);
    const found = scenarios.find((candidate) => candidate.code === scenario);
    return db.perform(lead, createCycle, {
      ...{
        code,
        name: code,
        purpose: 'smoke' as const,
        startsOn: '2026-11-02',
        endsOn: '2026-11-06',
        environmentId: environmentId as never,
      },
      scope: [{ scenarioId: found?.id as never, rowIds: (found?.rows ?? []).slice(0, rows).map(({ id }) => id) }],
    });
  };
  const edit = (code: string, edits: ScenarioEdit[]) => db.perform(lead, editScenario, { code, edits: edits as never });
  const open = (code: string) => db.perform(lead, moveCycle, { code, from: 'planning', to: 'open' });
  const turnsOf = (code: string) =>
    db.store.db
      .select({ turn: turns, assignee: people.name })
      .from(turns)
      .innerJoin(cycles, eq(cycles.id, turns.cycleId))
      .leftJoin(people, eq(people.id, turns.assigneeId))
      .where(eq(cycles.code, code))
      .orderBy(asc(turns.runId), asc(turns.index));

  const runsOf = async (code: string) => (await db.ask(lead, listRuns, { code, page: 1 })).runs;

  it('makes a run for each data row and a turn for each leg, spread over the lane’s people', async () => {
    await plan('P-1', 'LR-S3', 3);
    const cycle = await db.ask(lead, getCycle, 'P-1');
    expect(cycle.runs).toBe(3);
    expect((await runsOf('P-1')).map((run) => run.turns.length)).toEqual([7, 7, 7]);
    const crews = cycle.lanes.find(({ team }) => team === 'Field crews');
    const loads = (crews?.people ?? []).map(({ minutes }) => minutes);
    // Longest first (Graham 1969): no two people of a lane differ by more than the longest turn.
    expect(Math.max(...loads) - Math.min(...loads)).toBeLessThanOrEqual(22);
  });

  it('suggests a code that is free, and says when one is taken', async () => {
    // The demo has ACC-1 and ACC-2, and no smoke cycle; P-1 stands beside them.
    const suggest = async () => (await db.ask(lead, getCycleScope, undefined)).suggestedCodes;
    expect(await suggest()).toMatchObject({ acceptance: 'ACC-3', smoke: 'SMO-1' });
    await plan('SMO-1', 'NS-S6');
    expect((await suggest()).smoke).toBe('SMO-2');
    await expect(plan('P-1', 'NS-S6')).rejects.toThrow('There is a cycle with that code already. Choose another.');
  });

  it('tells what stands in the way, and does not open until it is settled', async () => {
    await plan('P-2', 'PU-S2');
    const { obstacles } = await db.ask(lead, getCycle, 'P-2');
    expect(obstacles.map(({ message }) => message).join('\n')).toMatch(
      /needs Plan no\., and nothing gives it[\s\S]*is open: its test is still to be written/,
    );
    await expect(open('P-2')).rejects.toMatchObject({
      code: 'invalid',
      message: expect.stringMatching(/cannot be opened yet: \d+ things stand in the way/),
    });
    expect((await db.ask(lead, getCycle, 'P-2')).state).toBe('planning');
  });

  it('does not open with a draft, or with a gap in a data row; it names both', async () => {
    await db.perform(lead, createTest, { code: 'D-1', name: 'Drafted', node: 'NS-2.1', teamId: null, applicationId: null });
    const steps = [{ do: 'fill' as const, target: 'Band', value: '{Band}' }];
    await db.perform(lead, saveTest, {
      code: 'D-1',
      save: { base: { number: 1, revision: 1 }, name: 'Drafted', minutes: 5, steps, needs: [], gives: [], rows: [] },
    });
    await db.perform(lead, createScenario, { code: 'D-S1', name: 'With a draft', node: 'NS' });
    await edit('D-S1', [
      { kind: 'add leg', leg: createLeg({ id: randomUUID(), test: 'D-1' }), before: null },
      { kind: 'add column', column: { name: 'Band', type: 'text', required: true }, before: null },
      { kind: 'add row', row: { id: randomUUID(), name: 'Empty', values: {} }, before: null },
    ]);
    await plan('P-3', 'D-S1');
    expect((await db.ask(lead, getCycle, 'P-3')).obstacles.map(({ message }) => message)).toEqual([
      'Test D-1 has no agreed version yet.',
      'Data row “Empty” has no value for Band, which leg 1 needs.',
    ]);
  });

  it('pins on opening what is agreed then; later versions and edits do not move it', async () => {
    await plan('P-4', 'NS-S6');
    const before = await turnsOf('P-4');
    const { legs } = (await db.ask(lead, getScenario, 'NS-S6')).document;
    await db.perform(lead, saveTest, {
      code: 'CUS-01',
      save: {
        base: { number: 1, revision: 1 },
        name: 'Take the application',
        minutes: 12,
        steps: [{ do: 'keep', target: 'Application number', keepAs: 'Application no.' }],
        needs: [],
        gives: [],
        rows: [],
      },
    });
    await db.perform(lead, agreeTest, { code: 'CUS-01', number: 2, revision: 1 });
    expect((await db.ask(lead, getScenario, 'NS-S6')).document.legs[0]?.version).toBe(1);
    const older = async () => (await db.ask(lead, getCycle, 'P-4')).older;
    expect(await older()).toEqual([{ test: 'CUS-01', version: 1, newest: 2, scenarios: ['NS-S6'] }]);
    await db.perform(lead, takeVersion, { test: 'CUS-01', scenarios: ['NS-S6'] });
    expect(await older()).toEqual([]);
    await open('P-4');
    const pinned = await turnsOf('P-4');
    expect(pinned.map(({ assignee }) => assignee)).toEqual(before.map(({ assignee }) => assignee));
    expect(pinned[0]?.turn.needs).toEqual([]);
    await edit('NS-S6', [{ kind: 'move leg', leg: legs[0]?.id ?? '', before: null }]);
    expect((await turnsOf('P-4')).map(({ turn }) => [turn.title, turn.versionId])).toEqual(
      pinned.map(({ turn }) => [turn.title, turn.versionId]),
    );
  });

  it('moves only along its states, and tells when somebody moved it meanwhile', async () => {
    await expect(open('P-4')).rejects.toThrow('Cycle P-4 is open by now, not planning.');
    await expect(db.perform(lead, moveCycle, { code: 'P-4', from: 'open', to: 'closed' })).rejects.toThrow('cannot become closed');
    await db.perform(lead, moveCycle, { code: 'P-4', from: 'open', to: 'closing' });
    const [first] = await turnsOf('P-4');
    const attempt = { turnId: first?.turn.id as never, id: randomUUID() as never, browser: '' };
    await expect(db.perform(lead, startAttempt, attempt)).rejects.toThrow('closing: only retests are made');
    await expect(db.perform(lead, moveCycle, { code: 'P-4', from: 'closing', to: 'closed' })).rejects.toThrow('1 run is not through');
    const [run] = await runsOf('P-4');
    const drop = (reason: string) => [{ runId: run?.id as never, to: 'dropped' as const, reason }];
    await expect(db.perform(lead, moveCycle, { code: 'P-4', from: 'closing', to: 'closed', left: drop('') })).rejects.toThrow(
      'Say why run 1',
    );
    await db.perform(lead, moveCycle, { code: 'P-4', from: 'closing', to: 'closed', left: drop('Of no use any more') });
    expect((await runsOf('P-4'))[0]).toMatchObject({ leftTo: 'dropped', leftReason: 'Of no use any more' });
    await expect(db.perform(lead, startAttempt, attempt)).rejects.toThrow('Cycle P-4 is closed');
    await expect(db.perform(lead, moveCycle, { code: 'P-4', from: 'closed', to: 'open' })).rejects.toThrow('cannot become open');
  });

  it('gives a turn to somebody else, but not one that is under way', async () => {
    await plan('P-5', 'RB-S2');
    await open('P-5');
    const [first] = await turnsOf('P-5');
    const jory = await db.actorOf('Jory Lind');
    const mira = await db.actorOf('Mira Stokes');
    const other = first?.assignee === 'Jory Lind' ? mira : jory;
    await db.perform(lead, passTurn, { turnId: first?.turn.id as never, personId: other.personId, word: '' });
    await db.perform(other, startAttempt, { turnId: first?.turn.id as never, id: randomUUID() as never, browser: '' });
    await expect(db.perform(lead, passTurn, { turnId: first?.turn.id as never, personId: lead.personId, word: '' })).rejects.toThrow(
      'is under way',
    );
    await expect(
      db.perform(lead, passTurn, { turnId: first?.turn.id as never, personId: randomUUID() as never, word: '' }),
    ).rejects.toThrow('no such person');
  });

  it('pins note, persona and who may do it; never the same person is kept when turns are given', async () => {
    const { document, personas } = await db.ask(lead, getScenario, 'NS-S5');
    const [first, , third] = document.legs;
    await edit('NS-S5', [
      { kind: 'change leg', leg: first?.id ?? '', change: { note: 'Ask for the band', persona: personas[0]?.id ?? null, waitDays: 2 } },
      { kind: 'change leg', leg: third?.id ?? '', change: { otherPersonThan: [first?.id ?? ''] } },
    ]);
    await plan('P-6', 'NS-S5');
    const turnList = await turnsOf('P-6');
    const [a, c] = [turnList[0]?.turn, turnList[2]?.turn];
    expect(a).toMatchObject({ note: 'Ask for the band', personaId: personas[0]?.id });
    expect(c?.otherPersonThan).toEqual([0]);
    const guide = await db.ask(lead, getGuide, a?.id as never);
    expect([guide.note, guide.persona]).toEqual(['Ask for the band', personas[0]?.name]);
    await expect(db.perform(lead, passTurn, { turnId: c?.id as never, personId: a?.assigneeId as never, word: '' })).rejects.toThrow(
      'must not be done by whoever does leg 1',
    );
  });

  it('refuses a scenario or row that is gone, and one without legs', async () => {
    await expect(
      db.perform(lead, createCycle, {
        ...{
          code: 'P-9',
          name: 'P-9',
          purpose: 'smoke',
          startsOn: '2026-11-02',
          endsOn: '2026-11-06',
          environmentId: environmentId as never,
        },
        scope: [{ scenarioId: randomUUID() as never, rowIds: [] }],
      }),
    ).rejects.toThrow('no longer there');
    await db.perform(lead, createScenario, { code: 'E-S1', name: 'Empty', node: 'NS' });
    await expect(plan('P-9', 'E-S1')).rejects.toThrow('has no legs yet');
  });

  it('shows the sign-offs of a closed cycle with the figures as they stood', async () => {
    const { nodes, state } = await db.ask(lead, getAcceptance, 'INT-1');
    expect(state).toBe('closed');
    const signOffs = nodes
      .flatMap(({ code, signOff }) => (signOff ? [{ code, ...signOff }] : []))
      .sort((a, b) => (a.code < b.code ? -1 : 1));
    expect(signOffs.map(({ code, decision }) => [code, decision])).toEqual([
      ['LR', 'accepted with reservations'],
      ['MI', 'accepted with reservations'],
      ['NS', 'accepted'],
      ['PU', 'accepted with reservations'],
      ['RB', 'accepted with reservations'],
    ]);
    expect(signOffs.every(({ counts }) => counts.passed > 0)).toBe(true);
  });
});
