import { fileURLToPath } from 'node:url';
import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import type { GuideView, TurnList } from '@kindred-baton/contracts/turns/turn';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

const WORKBOOK = fileURLToPath(new URL('../fixtures/street-lighting.openpyxl.xlsx', import.meta.url));
const PICTURE = fileURLToPath(new URL('../fixtures/seen.png', import.meta.url));
const CYCLE = 'LAMP-1';
const API = '/api/brindlemere';

/** The walk that has to work: from a lead’s own workbook to a run that four teams pass on, with a failure and its retest. */
describe('the walk', () => {
  // The cycle that it opens becomes the current one: other views must not see it.
  let server: WebServer;
  let baseUrl: string;
  let chromium: TestBrowser;
  let lead: Visitor;
  const testers = new Map<number, Visitor>();
  beforeAll(async () => {
    server = await startWebServer(await copyTemplate('demo'));
    baseUrl = server.baseUrl;
    chromium = await launchBrowser();
    lead = await openAs(chromium.browser, baseUrl, 'Lea Marsh');
  });
  afterAll(async () => {
    await chromium.close();
    await server.stop();
  });

  const listTurns = async () => (await lead.json<TurnList>(`${API}/turns/list?cycle=${CYCLE}`)).turns;
  const turnAt = async (leg: number) => {
    const turn = (await listTurns()).find((candidate) => candidate.leg === leg);
    if (!turn) throw new Error(`The run has no leg ${leg}.`);
    return turn;
  };
  /** Whoever the turn of that leg was given to, signed in and looking at her turns. */
  const testerOf = async (leg: number): Promise<Visitor> => {
    const known = testers.get(leg);
    if (known) return known;
    const visitor = await openAs(chromium.browser, baseUrl, (await turnAt(leg)).assignee ?? '');
    await visitor.go('/brindlemere/turns');
    testers.set(leg, visitor);
    return visitor;
  };

  it('1: the lead signs in; the strip and the map of Brindlemere are there', async () => {
    await lead.go('/brindlemere/map');
    await lead.sees('Process map');
    await lead.sees('New supply');
    await lead.sees('Price the quote');
    expect(await lead.page.$$eval('[role=tree][aria-label^="Process strip"] [role=treeitem]', (blocks) => blocks.length)).toBeGreaterThan(
      60,
    );
  });

  it('2: imports her own workbook after a preview; all of it appears', async () => {
    await lead.go('/brindlemere/map/import?kind=workbook');
    const input = await lead.page.$('input[type=file]');
    await input?.uploadFile(WORKBOOK);
    await lead.sees('nothing is stored yet');
    await lead.sees('Take a lamp report');
    await lead.sees('it is given only by leg 3, Mend the lamp');
    await lead.press('Take it all in');
    await lead.sees('is stored, all of it');
    await lead.go('/brindlemere/map?node=HL-1.1');
    await lead.sees('Take a lamp report');
    await lead.sees('HL-T1');
  });

  it('3: opens the scenario, sees what the wiring says, reorders, adds an open leg and removes it', async () => {
    await lead.go('/brindlemere/scenarios/HL-S1?run=none');
    await lead.sees('The baton does not arrive everywhere.');
    await lead.find('Leg 2: Post the lamp cost HL-T3, 1 to fix');
    const leg = await lead.find('Leg 3: Mend the lamp HL-T2');
    await leg.focus();
    await lead.page.keyboard.down('Alt');
    await lead.page.keyboard.press('ArrowLeft');
    await lead.page.keyboard.up('Alt');
    await lead.sees('Every baton arrives.');
    await lead.press('Add legs');
    await lead.press('In lines');
    await lead.type('Legs, a line each', 'Customer desk: thank the caller');
    await lead.press('Add 1 open leg');
    await lead.press('Close');
    await lead.sees('Leg 4 is open: its test is still to be written.');
    await (await lead.find('Leg 4: Thank the caller open')).focus();
    await lead.page.keyboard.press('Delete');
    await lead.sees('Thank the caller is taken out.');
    await lead.page.waitForFunction(() => !document.body.innerText.includes('Leg 4 is open'));
  });

  it('4: writes a transaction test as a table; needs and gives follow; she saves and agrees it', async () => {
    await lead.go('/brindlemere/tests?scope=HL-1.1');
    await lead.press('New test');
    await lead.type('Name', 'Thank the caller');
    await lead.type('Code', 'HL-T4');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Write its steps')]);
    await lead.settle();
    await lead.press('Add a step, or paste rows of a spreadsheet');
    await lead.type('Step 1: on', 'Report number');
    await lead.type('Step 1: with', '{Lamp report no.}');
    await lead.press('Add a step, or paste rows of a spreadsheet');
    await (await lead.find('Step 2: do', 'combobox')).select('press');
    await lead.type('Step 2: on', 'Send thanks');
    await lead.type('Step 2: you should see', 'Sent today');
    await lead.sees('Lamp report no.');
    await lead.sees('Draft saved');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Agree version 1')]);
    await lead.settle();
    await lead.sees('1, agreed');
    await lead.go('/brindlemere/scenarios/HL-S1?run=none');
    await lead.press('Add legs');
    await lead.type('Words in codes, names, steps and values', 'HL-T4');
    await lead.press('Thank the caller HL-T4 Customer desk');
    await lead.press('Close');
    await lead.find('Leg 4: Thank the caller HL-T4');
    await lead.sees('Every baton arrives.');
  });

  it('5: plans a cycle of it, and opens it; versions are pinned, turns assigned', async () => {
    await lead.go('/brindlemere/cycles/new?scope=HL');
    await lead.press('Dark lamp is mended and paid for', 'checkbox');
    await lead.press('Quay', 'checkbox');
    await lead.sees('1 run, 4 turns');
    await lead.type('Name', 'Lamp round');
    await lead.type('Code', CYCLE);
    await Promise.all([lead.page.waitForNavigation(), lead.press('Plan it')]);
    await lead.settle();
    await lead.sees('It can be opened');
    await lead.press('Open it');
    await lead.sees('The versions of all tests are pinned');
    const [, confirm] = await lead.page.$$('::-p-aria([name="Open it"][role="button"])');
    await (confirm ?? (await lead.find('Open it', 'button'))).click();
    await lead.sees('Lamp round is open now.');
    const turns = await listTurns();
    expect(turns.map(({ title, team, status }) => [title, team, status])).toEqual([
      ['Take a lamp report', 'Customer desk', 'ready'],
      ['Mend the lamp', 'Field crews', 'waiting'],
      ['Post the lamp cost', 'Finance', 'waiting'],
      ['Thank the caller', 'Customer desk', 'waiting'],
    ]);
    expect(new Set(turns.map(({ assignee }) => assignee)).size).toBe(4);
    expect((await lead.json<GuideView>(`${API}/turns/${turns[0]?.id}`)).version?.number).toBe(1);
  });

  it('6: the first tester does her turn in the guide; the second sees hers become ready without reloading, with the value', async () => {
    const second = await testerOf(2);
    const turn = await turnAt(2);
    await second.page.evaluate(() => ((window as unknown as { isSame: boolean }).isSame = true));
    const first = await testerOf(1);
    await first.go(`/brindlemere/turns?turn=${(await turnAt(1)).id}`);
    await first.press('Begin');
    await first.sees('Step 1 of 4');
    await first.page.keyboard.press('1');
    await first.sees('Step 2 of 4');
    await first.sees('Mill Lane');
    await first.press('It worked');
    await first.press('Leave it out');
    await first.sees('Step 4 of 4');
    await first.type('Type the Lamp report no. that you see', '4471');
    await first.press('It worked');
    await first.sees('should look like LR-4471');
    await first.type('Type the Lamp report no. that you see', 'LR-4471');
    await first.press('It worked');
    await first.sees('You hand on');
    await first.press('Finish and pass on');
    await first.sees('Passed on.');
    await second.page.waitForFunction(
      (title) =>
        [...document.querySelectorAll('section[aria-label="With you"] li')].some(
          (card) => card.textContent?.includes(title) && card.textContent.includes('LR-4471'),
        ),
      { timeout: 20_000 },
      turn.title,
    );
    expect(await second.page.evaluate(() => (window as unknown as { isSame?: boolean }).isSame)).toBe(true);
  });

  it('7: a step fails; the defect is logged with what the program knows, and the turns behind are held by it', async () => {
    const second = await testerOf(2);
    await second.go(`/brindlemere/turns?turn=${(await turnAt(2)).id}`);
    await second.press('Begin');
    await second.sees('the Lamp report no. handed to you');
    await second.press('It worked');
    await second.sees('Step 2 of 3');
    await second.page.keyboard.press('2');
    await second.sees('Say above what you saw.');
    await second.type('What did you see?', 'The job stays open');
    await (await second.page.$('input[type=file]'))?.uploadFile(PICTURE);
    await second.page.waitForSelector('img[alt="seen.png"]');
    await second.press('Log a defect');
    await second.sees('Log a defect at step 2');
    await second.type('In a few words', 'A finished job stays open');
    await second.press('Log it');
    await second.sees('is logged.');
    await second.press('Finish');
    await second.sees('Recorded as failed.');
    const held = (await listTurns()).filter(({ status }) => status === 'held');
    expect(held.map(({ leg }) => leg)).toEqual([3, 4]);
    expect(held[0]?.heldBy).toMatch(/^TQ-\d+ must be fixed first \(Mend the lamp\)$/);
    const third = await testerOf(3);
    await third.sees(/held: TQ-\d+ must be fixed first/);
  });

  it('8: progress shows process and team and where the baton is held; a number opens its turns; the strip scopes', async () => {
    await lead.go(`/brindlemere/progress?cycle=${CYCLE}`);
    await lead.sees('50%');
    await lead.sees('2 turns waiting behind 1 hold');
    await lead.sees('A finished job stays open');
    await Promise.all([lead.page.waitForNavigation(), lead.page.locator('aside a').click()]);
    await lead.settle();
    await lead.sees('2 turns');
    await lead.sees('Post the lamp cost');
    await lead.go(`/brindlemere/progress?cycle=${CYCLE}&scope=HL-2`);
    await lead.sees('0%');
    await lead.sees('1 turn waiting behind 1 hold');
  });

  it('9: once fixed, the tester gets the retest and passes it; the hold goes, the run ends, the defect closes, nothing is lost', async () => {
    const { defects } = await lead.json<{ defects: { code: string; title: string }[] }>(`${API}/defects`);
    const code = defects.find(({ title }) => title === 'A finished job stays open')?.code ?? '';
    await lead.go(`/brindlemere/defects/${code}`);
    await lead.sees('1. Fill "Report number" with "LR-4471".');
    await lead.press('Mark as fixed');
    await lead.sees('its turns are back with their testers');
    const second = await testerOf(2);
    await second.sees('Ready to try again');
    await second.press('Try again');
    await second.sees('Step 1 of 3');
    await second.page.keyboard.press('1');
    await second.page.keyboard.press('1');
    await second.sees('Step 3 of 3');
    await second.type('Type the Lamp cost that you see', '84.20');
    await second.page.keyboard.press('Enter');
    await second.press('Finish and pass on');
    await second.sees('Passed on.');
    for (const leg of [3, 4]) {
      const tester = await testerOf(leg);
      await tester.go(`/brindlemere/turns?turn=${(await turnAt(leg)).id}`);
      await tester.press('Begin');
      await tester.sees('Step 1 of 2');
      await tester.page.keyboard.press('1');
      await tester.sees('Step 2 of 2');
      await tester.page.keyboard.press('1');
      await tester.press('Finish and pass on');
      await tester.sees('Passed on.');
    }
    expect((await listTurns()).map(({ status }) => status)).toEqual(['passed', 'passed', 'passed', 'passed']);
    expect((await lead.json<DefectDetail>(`${API}/defects/${code}`)).status).toBe('closed');
    const guide = await lead.json<GuideView>(`${API}/turns/${(await turnAt(2)).id}`);
    expect(guide.attempts.map(({ number, outcome }) => [number, outcome])).toEqual([
      [2, 'passed'],
      [1, 'failed'],
    ]);
    expect(guide.attempts[1]?.evidence).toHaveLength(1);
    await lead.go(`/brindlemere/progress?cycle=${CYCLE}`);
    await lead.sees('100%');
    await lead.sees('Nowhere. Every turn that is not done can go on.');
  });

  it('leaves no error in any browser', () => {
    expect([lead, ...testers.values()].flatMap(({ errors }) => errors)).toEqual([]);
  });
});
