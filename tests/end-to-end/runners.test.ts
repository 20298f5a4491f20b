import { sql } from 'drizzle-orm';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { createFreshValue, createRandom } from '@kindred-baton/core/values/fresh';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import type { RunnerHouse, RunnerProcess } from '../support/runner-house.ts';
import { openRunnerHouse } from '../support/runner-house.ts';

const API = '/api/brindlemere';
const PATIENCE_MS = 300_000;

/** A lead, a cycle, and machines: from giving them a regression to what they leave to people. In order, as a morning goes. */
describe('a regression done by runners', { timeout: 600_000 }, () => {
  let house: RunnerHouse;
  let chromium: TestBrowser;
  let lead: Visitor;
  let runner: RunnerProcess;
  let runnerId: string;
  beforeAll(async () => {
    house = await openRunnerHouse();
    chromium = await launchBrowser();
    lead = await openAs(chromium.browser, house.server.baseUrl, 'Lea Marsh');
  });
  afterAll(async () => {
    await chromium.close();
    await house.close();
  });

  const view = () => lead.json<RunnersView>(`${API}/runners`);
  const guideOf = (turn: string) => lead.json<GuideView>(`${API}/turns/${turn}`);
  const until = async <Found>(look: () => Promise<Found | undefined | false>): Promise<Found> => {
    const end = Date.now() + PATIENCE_MS;
    for (;;) {
      const found = await look();
      if (found) return found;
      if (Date.now() > end)
        throw new Error(`It did not come:\n${JSON.stringify(await view()).slice(0, 3_000)}\n${house.readLog().slice(-3_000)}`);
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
  };
  const tell = async (words: RegExp) => {
    await lead.go('/brindlemere/runners');
    await lead.press('Tell office-1');
    const item = await lead.page.waitForSelector(`::-p-aria([role="menuitem"]) >>> ::-p-text(${words.source})`);
    await item?.click();
    await lead.sees('office-1 is told.');
  };
  /** Says of each step that is left that it worked, with a value where one is to be kept. */
  const finishByHand = async (turn: string) => {
    const { version } = await guideOf(turn);
    const steps = version?.steps ?? [];
    const at = async () => (await guideOf(turn)).attempts[0]?.results.filter(({ outcome }) => outcome !== null).length ?? 0;
    for (let done = await at(); done < steps.length; done = await at()) {
      await lead.sees(`Step ${done + 1} of ${steps.length}`);
      const name = steps[done]?.keepAs;
      const field = version?.gives.find((give) => give.name === name);
      if (name)
        await lead.type(`Type the ${name} that you see`, field?.pattern ? createFreshValue(field.pattern, createRandom(done)) : '77');
      await lead.press('It worked');
      await until(async () => (await at()) > done);
    }
    await lead.press('Finish and pass on');
    await lead.sees('Passed on.');
  };
  const order = (wanted: string) =>
    lead.page.evaluate(
      async (id, to) => {
        const headers = { 'content-type': 'application/json' };
        await fetch(`/api/brindlemere/runners/${id}/order`, { method: 'PUT', headers, body: JSON.stringify({ order: to }) });
      },
      runnerId,
      wanted,
    );
  /** A turn that is in the middle, and stays there until the runner is told to work again. */
  const hold = async () => {
    for (;;) {
      const isInside = ({ step, steps }: { step: number; steps: number }) => step >= 1 && step <= steps - 2;
      await until(async () => (await view()).runners[0]?.now.some(isInside));
      await order('pause');
      await new Promise((resolve) => setTimeout(resolve, 1_500));
      const held = (await view()).runners[0]?.now.find(isInside);
      if (held) return held;
      await order('work');
    }
  };
  const takeOver = async (title: string) => {
    await lead.go('/brindlemere/runners');
    await Promise.all([lead.page.waitForNavigation(), lead.press(`Stop ${title} and go on by hand`)]);
    await lead.settle();
    return lead.page.url().split('/').at(-1)!;
  };

  it('tries steps as they are written, and shows beside each what came of it', async () => {
    runner = house.startRunner();
    await lead.go('/brindlemere/tests/BIL-13');
    const tryIt = async () => {
      await lead.press('Try it now');
      await lead.sees('counted nowhere');
      await lead.type('Bill no.', 'BL-000000');
      await lead.press('Try it');
    };
    await tryIt();
    await lead.sees(/Failed at step \d\.|Blocked at step \d\./);
    await lead.sees('The screen at step');
    expect(await view().then(({ runners }) => runners.flatMap(({ now }) => now))).toEqual([]);
    await tryIt();
    await lead.sees(/Step \d of \d …/);
    await lead.press('Stop');
    await lead.sees(/Stopped after \d steps?\./);
    // It hears of that at its next step, and goes on to whatever comes.
    await until(async () => house.readLog().includes('stopped: it is not this runner’s any more') || house.readLog().includes('not told'));
    expect(await runner.end()).toBe(0);
  });

  it('the lead gives the cycle to the pool and opens it; runners that are at work begin at once', async () => {
    runner = house.startRunner({ KINDRED_BATON_RUNNER_PATIENCE_SECONDS: '5' });
    runnerId = (await view()).runners[0]!.id;
    await lead.go('/brindlemere/cycles/REG-4.2');
    await lead.press('Give to runners …');
    const which = await lead.find('Which turns', 'combobox');
    await which.select('all');
    await lead.press('Give them');
    await lead.sees('112 turns changed.');
    await lead.press('Open it');
    await lead.sees('The versions of all tests are pinned');
    await lead.press('Open it before its day');
    await lead.sees('is open now.');
    await lead.go('/brindlemere/runners');
    await lead.sees(/\d+ turns wait; all done by about/);
    await until(async () => (await view()).runners[0]?.now.some(({ step }) => step >= 1));
    await lead.sees('Take over');
  });

  it('one is stopped in the middle and finished by hand; the rest of another is given back and goes on where it was', async () => {
    await tell(/Pause/);
    await order('work');
    const first = await takeOver((await hold()).title);
    const before = (await guideOf(first)).attempts[0]!;
    expect(before).toMatchObject({ isMine: true, isLeased: false });
    const done = before.results.length;
    expect(done).toBeGreaterThan(0);
    await finishByHand(first);
    const mine = (await guideOf(first)).attempts[0]!;
    expect(mine).toMatchObject({ number: 1, outcome: 'passed', person: 'Lea Marsh' });
    expect(new Set(mine.results.slice(0, done).map(({ by }) => by))).toEqual(new Set(['office-1']));
    expect(new Set(mine.results.slice(done).map(({ by }) => by))).toEqual(new Set(['Lea Marsh']));
    await lead.go(`/brindlemere/turns/${first}`);
    await lead.sees(`by office-1, ${done + 1}`);

    await order('work');
    const second = await takeOver((await hold()).title);
    await lead.sees('Step ');
    await lead.page.keyboard.press('a');
    await lead.press('Give the rest to runners …');
    await lead.sees(/nothing is done twice|without recording them/);
    await lead.press('Give it to them');
    await lead.sees('Waits for a runner of Office');
    await tell(/Work/);
    const finished = await until(async () => {
      const [attempt] = (await guideOf(second)).attempts;
      return attempt?.outcome ? attempt : undefined;
    });
    expect(finished).toMatchObject({ number: 1, isWithRunners: true });
    expect(finished.results.every(({ by }) => by === 'office-1')).toBe(true);
  });

  it('a real fault fails: the lead looks at what the runner saw and logs the defect, with expected, seen and picture', async () => {
    const failed = await until(async () => (await view()).toLookAt.find(({ outcome }) => outcome === 'failed'));
    await lead.go(`/brindlemere/turns/${failed.turn}`);
    await lead.sees('Looked for');
    await lead.press('Log a defect');
    await lead.type('In a few words', 'Runner sees another value than the test');
    await lead.press('Log it');
    await lead.sees('is logged.');
    const [code] = (await guideOf(failed.turn)).defects.map((defect) => defect.code);
    const defect = await lead.json<DefectDetail>(`${API}/defects/${code}`);
    const [attempt] = (await guideOf(failed.turn)).attempts;
    const step = attempt!.results.find(({ outcome }) => outcome === 'failed')!;
    expect(defect).toMatchObject({ title: 'Runner sees another value than the test', expected: step.expected });
    expect(JSON.stringify(defect)).toContain(attempt!.evidence.find(({ stepIndex }) => stepIndex === step.stepIndex)!.id);
    expect(failed.words).toBe(step.note);
  });

  it('an element that is gone blocks: it is counted apart, says what is missing, and somebody finishes it by hand from there', async () => {
    await house.deploy('rehearsal', { release: '4.2' });
    const blocked = await until(async () =>
      (await view()).toLookAt.find(({ outcome, words }) => outcome === 'blocked' && /There is no “|is nothing|nearest/.test(words)),
    );
    await lead.go(`/brindlemere/turns/${blocked.turn}`);
    const [attempt] = (await guideOf(blocked.turn)).attempts;
    const at = attempt!.results.find(({ outcome }) => outcome === 'blocked')!.stepIndex;
    await lead.press(`Finish it by hand from step ${at + 1}`);
    await lead.sees(`Step ${at + 1} of`);
    await finishByHand(blocked.turn);
    const [own] = (await guideOf(blocked.turn)).attempts;
    expect(own).toMatchObject({ number: 2, outcome: 'passed', seed: attempt!.id });
    expect(own!.evidence.map(({ stepIndex }) => stepIndex)).toEqual(
      expect.arrayContaining(Array.from({ length: at }, (_, index) => index)) as never,
    );
  });

  it('progress, holds and forecast follow, and no password stands anywhere', async () => {
    await tell(/Finish what it does/);
    await until(async () => (await view()).runners[0]?.now.length === 0);
    const progress = await lead.json<ProgressView>(`${API}/progress?cycle=REG-4.2&rows=person&columns=process`);
    const text = JSON.stringify(progress);
    expect(text).toContain('Office');
    expect(text).toMatch(/"passed":\d+/);
    await lead.go('/brindlemere/progress?cycle=REG-4.2');
    await lead.sees('Runner sees another value');
    expect(await runner.end()).toBe(0);
    const log = house.readLog();
    expect(log).not.toContain('practice-rehearsal');
    const { rows } = await house.store.db.execute<{ name: string }>(
      sql`select table_name as name from information_schema.tables where table_schema = 'public'`,
    );
    // Pictures are bytes; that they show none is another test's.
    for (const { name } of rows.filter((row) => row.name !== 'evidence')) {
      const found = await house.store.db.execute(
        sql`select 1 from ${sql.identifier(name)} t where to_jsonb(t)::text like '%practice-rehearsal%' limit 1`,
      );
      expect([name, found.rowCount]).toEqual([name, 0]);
    }
    expect(readdirSync(path.join(house.folder, 'runner', 'outbox'))).toEqual([]);
    expect(lead.errors).toEqual([]);
  });
});
