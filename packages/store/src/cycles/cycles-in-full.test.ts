import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEFAULT_RULES } from '@kindred-baton/core/cycles/rules';
import type { CyclePlanView, KeptPlanChange } from '@kindred-baton/contracts/cycles/plan';
import { findWhatHelps } from '@kindred-baton/core/cycles/plan/find-what-helps';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { applyPlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import type { PlanProblem } from '@kindred-baton/core/cycles/plan/problem';
import { planCycle } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { toPlanProblem } from '@kindred-baton/core/cycles/plan/to-problem';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { getChoices } from '../programmes/get-viewer.ts';
import { savePerson } from '../programmes/change-people.ts';
import { runs } from '../schema/cycles.ts';
import { mails } from '../schema/mails.ts';
import { turns } from '../schema/turns.ts';
import { getGuide } from '../turns/get-guide.ts';
import { finishAttempt, recordStep, startAttempt } from '../turns/make-attempts.ts';
import { nudge } from '../turns/nudge.ts';
import { getAcceptance, signOffNode } from './acceptance.ts';
import { changeCycle, createCycle } from './change-cycles.ts';
import { changeScope, getScopeEffects, takeScenario } from './change-scope.ts';
import { getCycle } from './get-cycle.ts';
import { listRunEnds, listRuns } from './list-runs.ts';
import { getCycleScope, getFormerRuns } from './get-cycle-scope.ts';
import { getPlan } from './get-plan.ts';
import { getSinceOpening } from './get-since-opening.ts';
import { moveCycle } from './move-cycle.ts';
import { staffCycle } from './staff-cycle.ts';
import { listCycleRecord } from './list-cycle-record.ts';

describe('cycles in full', () => {
  let db: TestStore;
  let lead: Actor;
  let environmentId: never;
  beforeAll(async () => {
    db = await createTestStore('demo');
    lead = await db.actorOf('Lea Marsh');
    environmentId = (await db.ask(lead, getChoices, undefined)).environments[0]?.id as never;
  });
  afterAll(() => db.drop());

  const scopeOf = async (code: string, rows: number) => {
    const found = (await db.ask(lead, getCycleScope, undefined)).scenarios.find((scenario) => scenario.code === code);
    return { scenarioId: found?.id as never, rowIds: (found?.rows ?? []).slice(0, rows).map(({ id }) => id) };
  };
  const plan = async (code: string, scenario: string, rows = 1, more: object = {}) =>
    db.perform(lead, createCycle, {
      ...{
        code,
        name: code,
        purpose: 'smoke' as const,
        startsOn: '2026-11-02',
        endsOn: '2026-12-04',
        environmentId,
        scope: [await scopeOf(scenario, rows)],
      },
      ...more,
    });
  const open = (code: string) => db.perform(lead, moveCycle, { code, from: 'planning', to: 'open' });
  const turnsOf = async (code: string) => (await db.ask(lead, getPlan, code)).turns;

  describe('the plan', () => {
    it('of the demo is a few days late, within 5 % of its lower bound', async () => {
      const result = planCycle(toPlanProblem(await db.ask(lead, getPlan, 'ACC-2')));
      expect(result.stuck).toEqual([]);
      expect(result.gap).toBeLessThan(0.05);
    });

    it('knows hours, absences and what is done; keeping it gives due days that its people can meet', async () => {
      const before = await db.ask(lead, getPlan, 'ACC-2');
      const una = before.people.find(({ name }) => name === 'Una Petrel');
      expect(una?.absences).toHaveLength(1);
      expect(una?.minutesByDay.some((minutes) => minutes === 60)).toBe(true);
      const { changed } = await db.perform(lead, staffCycle, { code: 'ACC-2', staff: { kind: 'keep plan', changes: [], why: '' } });
      expect(changed).toBeGreaterThan(50);
      const after = await db.ask(lead, getPlan, 'ACC-2');
      for (const person of after.people) {
        const byDay = new Map<string, number>();
        for (const turn of after.turns)
          if (turn.person === person.id && turn.status !== 'passed' && turn.status !== 'skipped' && turn.dueOn)
            byDay.set(turn.dueOn, (byDay.get(turn.dueOn) ?? 0) + turn.minutes);
        // A turn that goes over several days is due on its last: so much that a day's due may hold work of the day before.
        for (const minutes of byDay.values()) expect(minutes).toBeLessThanOrEqual(2 * Math.max(...person.minutesByDay) + 60);
      }
    });
  });

  describe('staffing', () => {
    it('gives one or many by hand, but never both of two that one person must not do', async () => {
      await plan('S-1', 'LR-S3', 2);
      const list = await turnsOf('S-1');
      const gil = await db.actorOf('Gil Hansard');
      const ids = list.slice(0, 3).map(({ id }) => id);
      expect(
        await db.perform(lead, staffCycle, { code: 'S-1', staff: { kind: 'give', turns: ids, personId: gil.personId } }),
      ).toMatchObject({ left: 0 });
      expect((await turnsOf('S-1')).filter(({ id }) => ids.includes(id)).every(({ person }) => person === gil.personId)).toBe(true);
      await db.store.db
        .update(turns)
        .set({ otherPersonThan: [0] })
        .where(eq(turns.id, list[1]?.id as never));
      await expect(
        db.perform(lead, staffCycle, { code: 'S-1', staff: { kind: 'give', turns: ids, personId: gil.personId } }),
      ).rejects.toThrow('must not be done by whoever does leg 1');
    });

    it('gives out anew: balanced, to the same person for neighbours, or never the same; who is away gets nothing', async () => {
      await plan('S-2', 'NS-S1', 3);
      const crews = (await db.ask(lead, getPlan, 'S-2')).teams.find(({ name }) => name === 'Customer desk');
      const staff = (way: 'balanced' | 'same person' | 'four eyes') =>
        db.perform(lead, staffCycle, { code: 'S-2', staff: { kind: 'assign', way, teams: [crews?.id as never] } });
      const neighbours = async () => {
        const own = (await turnsOf('S-2')).filter(({ team }) => team === crews?.id);
        return own.flatMap((turn, index) => (own[index + 1]?.run === turn.run ? [turn.person === own[index + 1]?.person] : []));
      };
      await staff('same person');
      expect((await neighbours()).every(Boolean)).toBe(true);
      await staff('four eyes');
      expect((await neighbours()).some(Boolean)).toBe(false);
      const noor = await db.actorOf('Noor Castell');
      await db.perform(lead, savePerson, {
        personId: noor.personId,
        person: {
          roles: ['tester'],
          teams: [{ id: crews?.id as never, hoursPerDay: 1 }],
          absences: [{ firstDay: '2026-01-01', lastDay: '2027-12-31', note: '' }],
        },
      });
      await staff('balanced');
      expect((await turnsOf('S-2')).some(({ person }) => person === noor.personId)).toBe(false);
    });

    it('is told turn by turn and attempt by attempt, as many as were counted', async () => {
      const record = await db.ask(lead, listCycleRecord, 'ACC-2');
      const { counts } = await db.ask(lead, getCycle, 'ACC-2');
      const inScope = record.turns.filter(({ leftTo }) => leftTo !== 'dropped' && leftTo !== 'taken out');
      expect(inScope).toHaveLength(Object.values(counts).reduce((sum, count) => sum + count, 0));
      for (const status of ['passed', 'failed', 'held'] as const)
        expect(inScope.filter((turn) => turn.status === status)).toHaveLength(counts[status]);
      const passed = record.turns.find(({ status }) => status === 'passed');
      const last = record.attempts.filter(({ run, leg }) => run === passed?.run && leg === passed.leg).at(-1);
      expect(last).toMatchObject({ outcome: 'passed', finishedAt: passed?.doneAt });
      expect(record.attempts.some(({ kept }) => Object.keys(kept).length > 0)).toBe(true);
    });

    it('leaves a closed cycle alone', async () => {
      await expect(
        db.perform(lead, staffCycle, { code: 'INT-1', staff: { kind: 'assign', way: 'balanced', teams: null } }),
      ).rejects.toThrow('Cycle INT-1 is closed');
    });
  });

  describe('rules', () => {
    it('let open legs become bare turns that keep what others need, or leave them out', async () => {
      await plan('R-1', 'PU-S2', 1, { rules: { ...DEFAULT_RULES, openLegs: 'bare turn' } });
      const all = (await turnsOf('R-1')).length;
      const rows = await db.store.db.select({ turn: turns }).from(turns).innerJoin(runs, eq(runs.id, turns.runId));
      const bare = rows.map(({ turn }) => turn).filter(({ bare: own }) => own !== null);
      expect(bare.length).toBeGreaterThan(0);
      expect(bare[0]?.bare?.steps[0]).toMatchObject({ do: 'hand' });
      const { obstacles } = await db.ask(lead, getCycle, 'R-1');
      expect(obstacles.map(({ message }) => message).join()).not.toContain('is open');
      await db.perform(lead, changeCycle, {
        code: 'R-1',
        change: { rules: { ...DEFAULT_RULES, failure: [], openLegs: 'left out', exit: [] } },
      });
      expect((await turnsOf('R-1')).length).toBe(all - bare.filter(({ runId }) => rows.some(({ turn }) => turn.runId === runId)).length);
    });

    it('ask for pictures and words before an attempt is finished, and say who may try again', async () => {
      await plan('R-2', 'RB-S2', 1, {
        rules: { ...DEFAULT_RULES, failure: ['words', 'defect'], retestBy: 'another person', laneMayRecord: true },
      });
      await open('R-2');
      const [first] = await turnsOf('R-2');
      const mates = (await db.ask(lead, getPlan, 'R-2')).people.filter(({ teams: own }) => own.includes(first?.team ?? ''));
      const tester = await db.actorOf(mates[0]?.name ?? '');
      const mate = await db.actorOf(mates[1]?.name ?? '');
      const attempt = randomUUID() as never;
      await db.perform(mate, startAttempt, { turnId: first?.id as never, id: attempt, browser: '' });
      const { version } = await db.ask(mate, getGuide, first?.id as never);
      for (const [index] of (version?.steps ?? []).entries())
        await db.perform(mate, recordStep, {
          attemptId: attempt,
          stepIndex: index,
          word: { wordId: randomUUID(), outcome: index === 0 ? 'failed' : 'skipped', note: '', at: new Date().toISOString() },
        });
      await expect(db.perform(mate, finishAttempt, attempt)).rejects.toThrow(/words on what you saw at step 1\..*asks for a defect/);
      expect(tester.personId).not.toBe(mate.personId);
      expect((await db.ask(tester, getGuide, first?.id as never)).rules).toMatchObject({ failure: ['words', 'defect'] });
    });
  });

  describe('scope', () => {
    const runsOf = async (code: string) => (await db.ask(lead, listRuns, { code, page: 1 })).runs;

    it('changes freely while planned, and once open with a reason that is kept, before and after', async () => {
      await plan('C-1', 'LR-S3', 2);
      const [first] = await runsOf('C-1');
      expect(
        await db.perform(lead, changeScope, {
          code: 'C-1',
          change: { add: [await scopeOf('RB-S2', 1)], drop: [first?.id as never], why: '' },
        }),
      ).toEqual({ runs: 2 });
      await open('C-1');
      // One letter for each person with whom something is now.
      const letters = await db.store.db.select().from(mails);
      const withSomething = new Set(
        (await turnsOf('C-1')).flatMap(({ status, person }) => (status === 'ready' && person !== null ? [person] : [])),
      );
      expect(letters.filter(({ subject }) => /are with you now|With you now/.test(subject)).length).toBeGreaterThanOrEqual(
        withSomething.size,
      );
      const [, second] = await runsOf('C-1');
      const drop = { add: [], drop: [second?.id as never], why: '' };
      await expect(db.perform(lead, changeScope, { code: 'C-1', change: drop })).rejects.toThrow('say why its scope is changed');
      expect(await db.ask(lead, getScopeEffects, { code: 'C-1', runs: [second?.id as never] })).toMatchObject({
        attempts: 0,
        openDefects: [],
      });
      await db.perform(lead, changeScope, { code: 'C-1', change: { ...drop, why: 'Bills come later' } });
      const cycle = await db.ask(lead, getCycle, 'C-1');
      expect(cycle.scopeChanges[0]).toMatchObject({ by: 'Lea Marsh', why: 'Bills come later', added: [] });
      expect(cycle.scopeChanges[0]?.dropped).toHaveLength(1);
      const taken = (await runsOf('C-1')).find(({ id }) => id === second?.id);
      expect(taken).toMatchObject({ leftTo: 'taken out', outcome: 'skipped' });
      expect(taken?.turns.map(({ status }) => status)).toEqual(second?.turns.map(() => 'skipped'));
      expect(cycle.counts.skipped).toBe(0);
    });

    it('of an open cycle keeps rules and dates only with a reason, and never moves its begin', async () => {
      await expect(db.perform(lead, changeCycle, { code: 'C-1', change: { environmentId } })).rejects.toThrow('say why it is changed');
      await expect(db.perform(lead, changeCycle, { code: 'C-1', change: { startsOn: '2026-11-03', why: 'x' } })).rejects.toThrow(
        'cannot be changed any more',
      );
      await db.perform(lead, changeCycle, { code: 'C-1', change: { endsOn: '2026-12-11' } });
    });

    it('takes a changed scenario over for runs that nobody has begun', async () => {
      expect((await db.ask(lead, getSinceOpening, 'C-1')).scenarios).toEqual([]);
      // Somebody was asked for a baton of it; that does not stand in the way.
      const ready = (await turnsOf('C-1')).find(({ status, person }) => status === 'ready' && person !== null);
      await db.perform(lead, nudge, ready?.id as never);
      expect(await db.perform(lead, takeScenario, { code: 'C-1', scenario: 'LR-S3' })).toEqual({ runs: 1 });
      expect((await db.ask(lead, getCycle, 'C-1')).scopeChanges[0]?.action).toBe('took a scenario over');
    });

    it('comes from former cycles, nodes and requirements', async () => {
      const { former, scenarios, suggestedCodes } = await db.ask(lead, getCycleScope, undefined);
      expect(former.map(({ code }) => code)).toContain('INT-1');
      const { runs } = await db.ask(lead, getFormerRuns, 'INT-1');
      const { runs: ends } = await db.ask(lead, listRunEnds, 'INT-1');
      expect(runs.map(({ scenarioId: _, rowId: __, ...run }) => run)).toEqual(
        ends.map(({ outcome, leftTo }) => ({ outcome, isLeftToNext: leftTo === 'next cycle' })),
      );
      expect(runs.some(({ outcome }) => outcome === 'failed')).toBe(true);
      const supply = scenarios.find(({ code }) => code === 'NS-S1');
      expect(supply?.passes).toEqual(expect.arrayContaining(['NS', 'NS-2.1']));
      expect(supply?.requirements.length).toBeGreaterThan(0);
      expect(suggestedCodes.acceptance).toMatch(/^ACC-\d+$/);
    });
  });

  describe('acceptance', () => {
    it('is the owner’s alone, freezes the figures, and shows when they have moved', async () => {
      const node = async () => (await db.ask(greta, getAcceptance, 'ACC-2')).nodes.find(({ code }) => code === 'NS');
      const greta = await db.actorOf('Greta Holm');
      const before = await node();
      expect(before).toMatchObject({ canSign: true, owner: 'Greta Holm', signOff: null });
      const sign = {
        node: 'NS',
        decision: 'accepted with reservations' as const,
        reason: '',
        seen: before?.counts as never,
        reservations: [{ text: 'Charges above ten metres', dueOn: '2027-01-15' }],
      };
      for (const name of ['Anselm Roy', 'Lea Marsh'])
        await expect(db.perform(await db.actorOf(name), signOffNode, { code: 'ACC-2', signOff: sign })).rejects.toThrow(
          'decided on by its owner, Greta Holm',
        );
      await expect(
        db.perform(greta, signOffNode, { code: 'ACC-2', signOff: { ...sign, seen: { ...(sign.seen as object), passed: 1 } as never } }),
      ).rejects.toThrow('figures have moved');
      // A refusal is told to the leads.
      await db.perform(greta, signOffNode, {
        code: 'ACC-2',
        signOff: { ...sign, decision: 'refused', reason: 'No tariffs', reservations: [] },
      });
      const letters = (await db.store.db.select().from(mails)).filter(({ subject }) => subject === 'Refused: New supply');
      expect(letters.map(({ to, text }) => [to, text.includes('No tariffs')])).toEqual([['lea.marsh@brindlemere.example', true]]);
      await db.perform(greta, signOffNode, { code: 'ACC-2', signOff: sign });
      const after = await node();
      expect(after?.signOff).toMatchObject({
        decision: 'accepted with reservations',
        by: 'Greta Holm',
        hasMoved: false,
        counts: before?.counts,
        reservations: sign.reservations,
      });
      const ready = (await db.ask(lead, getPlan, 'ACC-2')).turns.find(({ status }) => status === 'ready');
      await db.perform(lead, startAttempt, { turnId: ready?.id as never, id: randomUUID() as never, browser: '' });
      const moved = (await db.ask(greta, getAcceptance, 'ACC-2')).nodes.filter(({ signOff }) => signOff?.hasMoved);
      expect(moved.map(({ code }) => code)).toEqual(
        ready && (await db.ask(greta, getAcceptance, 'ACC-2')).nodes.find(({ code }) => code === 'NS')?.counts['under way'] ? ['NS'] : [],
      );
    });

    it('of a closed cycle is over', async () => {
      const greta = await db.actorOf('Greta Holm');
      const sign = { node: 'NS', decision: 'accepted' as const, reason: '', reservations: [], seen: {} as never };
      await expect(db.perform(greta, signOffNode, { code: 'INT-1', signOff: sign })).rejects.toThrow('Cycle INT-1 is closed');
    });
  });

  describe('what would help, used', () => {
    const drain = (problem: PlanProblem) => {
      const work = findWhatHelps(problem, planCycle(problem));
      for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
    };
    /** One more tester is kept as somebody who joins: the first who is of another team. */
    const nameWho = (view: CyclePlanView, change: PlanChange): KeptPlanChange =>
      change.kind === 'more people'
        ? {
            ...{ kind: 'join lane', lane: change.lane as never },
            person: view.people.find(({ teams: own }) => !own.includes(change.lane))?.id as never,
          }
        : (change as KeptPlanChange);

    it('does what was tried, and ends no later than was promised', async () => {
      const used = new Set<string>();
      for (const kind of ['share', 'more hours', 'more people', 'move person', 'leave out'] as const) {
        const view = await db.ask(lead, getPlan, 'ACC-2');
        const problem = toPlanProblem(view);
        const help = drain(problem).find(({ changes }) => changes.every((change) => change.kind === kind));
        if (!help) continue;
        const changes = help.changes.map((change) => nameWho(view, change));
        const promised = planCycle(changes.reduce(applyPlanChange, problem));
        await db.perform(lead, staffCycle, { code: 'ACC-2', staff: { kind: 'keep plan', changes, why: 'No time is left.' } });
        const after = planCycle(toPlanProblem(await db.ask(lead, getPlan, 'ACC-2')));
        expect([kind, after.finish <= promised.finish, after.stuck.length]).toEqual([kind, true, promised.stuck.length]);
        used.add(kind);
      }
      expect(used.size).toBeGreaterThanOrEqual(3);
    });

    it('is all or nothing, and only with people, teams and runs of this programme', async () => {
      const view = await db.ask(lead, getPlan, 'ACC-2');
      const [team] = view.teams;
      const keep = (changes: KeptPlanChange[]) =>
        db.perform(lead, staffCycle, { code: 'ACC-2', staff: { kind: 'keep plan', changes, why: '' } });
      const join = { kind: 'join lane', person: view.people.at(-1)?.id as never, lane: team?.id as never } as const;
      await expect(keep([join, { kind: 'leave out', runs: [view.runs[0]?.id as never] }])).rejects.toThrow('say why');
      await expect(keep([{ ...join, lane: randomUUID() as never }])).rejects.toThrow('no such team');
      const cora = await db.actorOf('Cora Vane');
      await expect(keep([{ ...join, person: cora.personId }])).rejects.toThrow('no role that makes attempts');
      expect((await db.ask(lead, getPlan, 'ACC-2')).people).toEqual(view.people);
    });
  });
});
