import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { BoardList } from '@kindred-baton/contracts/boards/board';
import type { AxeResults } from 'axe-core';
import type { HTTPRequest } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { launchBrowser, openAs } from '../support/browser.ts';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
/** Source: WCAG 2.2, levels A and AA (W3C), by axe-core 4.14.1. */
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

const VIEWS: readonly (readonly [name: string, path: string, person: string])[] = [
  ['progress', '/brindlemere/progress', 'Lea Marsh'],
  ['progress of one branch', '/brindlemere/progress?scope=RB&rows=scenario&columns=person', 'Lea Marsh'],
  ['boards', '/brindlemere/boards', 'Cora Vane'],
  ['teams side by side', '/brindlemere/progress?view=teams', 'Lea Marsh'],
  ['the course', '/brindlemere/progress?view=course', 'Lea Marsh'],
  ['the course of a team, in minutes', '/brindlemere/progress?view=course&team=Billing&count=minutes', 'Cora Vane'],
  ['effort', '/brindlemere/progress?view=effort', 'Lea Marsh'],
  ['effort by day, of a branch', '/brindlemere/progress?view=effort&by=day&cycle=ACC-2&scope=NS', 'Ines Varga'],
  ['defects over time', '/brindlemere/progress?view=defects', 'Lea Marsh'],
  ['defects that were opened again', '/brindlemere/defects?cycle=ACC-2&happened=reopened&show=all', 'Lea Marsh'],
  ['where it goes wrong', '/brindlemere/progress?view=steps', 'Lea Marsh'],
  ['where it goes wrong, by screen', '/brindlemere/progress?view=steps&each=screen', 'Lea Marsh'],
  ['where it goes wrong, in a branch', '/brindlemere/progress?view=steps&scope=RB&by=people', 'Cora Vane'],
  ['map', '/brindlemere/map?node=NS-2.1', 'Lea Marsh'],
  ['requirements', '/brindlemere/requirements', 'Lea Marsh'],
  ['requirements as a matrix', '/brindlemere/requirements?view=matrix&scope=NS', 'Lea Marsh'],
  ['import of a process list', '/brindlemere/map/import', 'Lea Marsh'],
  ['import of tests', '/brindlemere/map/import?kind=tests', 'Lea Marsh'],
  ['import of requirements', '/brindlemere/map/import?kind=requirements', 'Lea Marsh'],
  ['import of a workbook', '/brindlemere/map/import?kind=workbook', 'Lea Marsh'],
  ['tests', '/brindlemere/tests', 'Lea Marsh'],
  ['tests, narrowed', '/brindlemere/tests?team=Billing|Finance&q=quote', 'Lea Marsh'],
  ['worth a look', '/brindlemere/tests?view=look&rule=shared opening', 'Lea Marsh'],
  ['personas', '/brindlemere/tests?view=personas', 'Lea Marsh'],
  ['test as sentences', '/brindlemere/tests/BIL-02?steps=sentences', 'Edda Quill'],
  ['two versions', '/brindlemere/tests/BIL-02?compare=1-1', 'Edda Quill'],
  ['test, as its author', '/brindlemere/tests/BIL-01', 'Edda Quill'],
  ['test, as an observer', '/brindlemere/tests/BIL-01', 'Cora Vane'],
  ['scenarios', '/brindlemere/scenarios', 'Lea Marsh'],
  ['scenario', '/brindlemere/scenarios/LR-S1', 'Lea Marsh'],
  ['sketch', '/brindlemere/scenarios/PU-S2', 'Lea Marsh'],
  ['sketch, legs to add', '/brindlemere/scenarios/PU-S2?add=tests', 'Lea Marsh'],
  ['sketch, lines', '/brindlemere/scenarios/PU-S2?add=lines', 'Lea Marsh'],
  ['wiring', '/brindlemere/scenarios/PU-S2?view=wiring', 'Lea Marsh'],
  ['data rows', '/brindlemere/scenarios/LR-S1?view=rows', 'Lea Marsh'],
  ['data rows, as an observer', '/brindlemere/scenarios/LR-S1?view=rows', 'Cora Vane'],
  ['scenario on the map', '/brindlemere/scenarios/LR-S1?view=map', 'Lea Marsh'],
  ['scenario compared', '/brindlemere/scenarios/LR-S1?view=compare&with=LR-S2', 'Lea Marsh'],
  ['chain finder', '/brindlemere/scenarios?view=find&goal=Receipt no.', 'Lea Marsh'],
  ['overlap', '/brindlemere/scenarios?view=overlap', 'Lea Marsh'],
  ['not reached', '/brindlemere/scenarios?view=gaps', 'Lea Marsh'],
  ['change of a test', '/brindlemere/scenarios?view=review&test=BIL-09', 'Lea Marsh'],
  ['import of a scenario', '/brindlemere/map/import?kind=scenario', 'Lea Marsh'],
  ['cycles', '/brindlemere/cycles', 'Lea Marsh'],
  ['runners', '/brindlemere/runners', 'Lea Marsh'],
  ['cycle', '/brindlemere/cycles/ACC-2', 'Lea Marsh'],
  ['cycle, a lane opened', '/brindlemere/cycles/ACC-2?lane=Billing&load=planned', 'Lea Marsh'],
  ['cycle, scope', '/brindlemere/cycles/ACC-2?view=scope', 'Lea Marsh'],
  ['cycle, rules', '/brindlemere/cycles/REG-4.2?view=rules', 'Lea Marsh'],
  ['cycle, since it opened', '/brindlemere/cycles/ACC-2?view=changes', 'Lea Marsh'],
  ['cycle, acceptance', '/brindlemere/cycles/INT-1?view=acceptance', 'Lea Marsh'],
  ['acceptance, as an owner', '/brindlemere/cycles/ACC-2?view=acceptance', 'Greta Holm'],
  ['new cycle', '/brindlemere/cycles/new', 'Lea Marsh'],
  ['turns of a cycle', '/brindlemere/cycles/ACC-2/turns?status=held', 'Lea Marsh'],
  ['turns', '/brindlemere/turns', 'Ines Varga'],
  ['defects', '/brindlemere/defects?show=all', 'Lea Marsh'],
  ['defects as a board', '/brindlemere/defects?view=board', 'Lea Marsh'],
  ['defect', '/brindlemere/defects/TQ-203', 'Lea Marsh'],
  ['set-up', '/brindlemere/set-up', 'Lea Marsh'],
  ['set-up of applications', '/brindlemere/set-up?view=applications', 'Lea Marsh'],
  ['set-up of teams', '/brindlemere/set-up?view=teams', 'Lea Marsh'],
  ['set-up of people', '/brindlemere/set-up?view=people', 'Lea Marsh'],
  ['letters', '/brindlemere/set-up?view=mails', 'Lea Marsh'],
  ['who did what', '/brindlemere/set-up?view=history', 'Lea Marsh'],
  ['own account', '/brindlemere/me', 'Ines Varga'],
];

describe('every main view', () => {
  const baseUrl = inject('baseUrl');
  let chromium: TestBrowser;
  const people = new Map<string, Visitor>();
  beforeAll(async () => {
    chromium = await launchBrowser();
    for (const name of new Set(VIEWS.map(([, , person]) => person))) people.set(name, await openAs(chromium.browser, baseUrl, name));
  });
  afterAll(() => chromium.close());

  const visit = async (person: string, path: string): Promise<Visitor> => {
    const visitor = people.get(person);
    if (!visitor) throw new Error(`${person} is not signed in.`);
    await visitor.go(path);
    return visitor;
  };
  const check = async ({ page }: Visitor) => {
    await page.evaluate(AXE);
    // What still fades in has the contrast of its moment, not its own.
    await page.evaluate(() => Promise.allSettled(document.getAnimations().map(({ finished }) => finished)));
    const results = await page.evaluate(
      (values) =>
        (window as unknown as { axe: { run: (context: Document, options: object) => Promise<unknown> } }).axe.run(document, {
          runOnly: { type: 'tag', values },
        }),
      TAGS,
    );
    return (results as AxeResults).violations.flatMap(({ id, nodes }) =>
      nodes.map(({ html, target }) => `${id}: ${target.join(' ').slice(0, 80)} ${html.slice(0, 160)}`),
    );
  };

  it.each(VIEWS)('%s has nothing that axe finds at A or AA, and no error', async (_, path, person) => {
    const visitor = await visit(person, path);
    await visitor.page.waitForSelector('h1');
    // Parts that are fetched when they are shown.
    await visitor.page.waitForFunction(() => !/(One moment|Loading.*|Looking .*|Drawing .*|Trying .*) …/.test(document.body.innerText));
    expect(await check(visitor)).toEqual([]);
    expect(visitor.errors.splice(0)).toEqual([]);
  });

  it('a board, arranged and on the wall, has nothing that axe finds', async () => {
    const visitor = await visit('Lea Marsh', '/brindlemere/boards');
    const boards = await visitor.json<BoardList>('/api/brindlemere/boards');
    for (const path of boards.flatMap(({ id }) => ['', '?arrange=yes', '?wall=yes'].map((how) => `/brindlemere/boards/${id}${how}`))) {
      await visitor.go(path);
      await visitor.page.waitForFunction(() => !/(Looking .*|Drawing .*) …/.test(document.body.innerText));
      expect([path, await check(visitor)]).toEqual([path, []]);
    }
    expect(visitor.errors.splice(0)).toEqual([]);
  });

  it('the guide, its start and its steps, has nothing that axe finds', async () => {
    const visitor = await visit('Ines Varga', '/brindlemere/turns');
    await visitor.page.locator('section[aria-label="With you"] li button').click();
    await visitor.find('Begin', 'button');
    expect(await check(visitor)).toEqual([]);
    await visitor.press('Begin');
    await visitor.sees(/Step 1 of \d/);
    expect(await check(visitor)).toEqual([]);
    await visitor.page.keyboard.press('a');
    await visitor.sees('to do');
    expect(await check(visitor)).toEqual([]);
  });

  it('the dark theme has nothing that axe finds in its contrasts', async () => {
    const visitor = await visit('Lea Marsh', '/brindlemere/progress');
    await visitor.page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'dark' }]);
    for (const path of [
      '/brindlemere/progress',
      '/brindlemere/scenarios/LR-S1',
      '/brindlemere/map?node=NS-2.1',
      '/brindlemere/cycles/ACC-2',
    ]) {
      await visitor.go(path);
      expect([path, await check(visitor)]).toEqual([path, []]);
    }
    await visitor.page.emulateMediaFeatures([]);
  });

  it.each([
    [1024, '/brindlemere/progress', 'Lea Marsh'],
    [1024, '/brindlemere/map?node=NS-2.1', 'Lea Marsh'],
    [1024, '/brindlemere/scenarios/LR-S1', 'Lea Marsh'],
    [1024, '/brindlemere/scenarios/LR-S1?view=rows', 'Lea Marsh'],
    [1024, '/brindlemere/scenarios/LR-S1?view=wiring', 'Lea Marsh'],
    [1024, '/brindlemere/cycles/ACC-2', 'Lea Marsh'],
    [1024, '/brindlemere/cycles/ACC-2?view=acceptance', 'Lea Marsh'],
    [390, '/brindlemere/me', 'Ines Varga'],
    [390, '/brindlemere/turns', 'Ines Varga'],
  ])('at %i px nothing scrolls sideways but tables in their own frame: %s', async (width, path, person) => {
    const visitor = await visit(person, path);
    await visitor.page.setViewport({ width, height: 800 });
    await visitor.page.waitForFunction(() => innerWidth <= 1024);
    const overflow = await visitor.page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    await visitor.page.setViewport({ width: 1280, height: 800 });
    expect(overflow).toBeLessThanOrEqual(0);
  });

  it('Find opens by Ctrl K, finds by words, and goes there by Enter', async () => {
    const visitor = await visit('Lea Marsh', '/brindlemere/progress');
    const open = async () => {
      await visitor.page.keyboard.down('Control');
      await visitor.page.keyboard.press('k');
      await visitor.page.keyboard.up('Control');
      return visitor.page.waitForSelector('[role=combobox]', { timeout: 3_000 }).catch(() => null);
    };
    // Who gets no answer presses again, as a person does on a busy machine.
    for (let tries = 0; tries < 5 && (await open()) === null; tries += 1) continue;
    // The answer to the whole code comes late: Enter waits for it, and does not open the first of an earlier list.
    await visitor.page.setRequestInterception(true);
    const late = (request: HTTPRequest) => setTimeout(() => void request.continue(), request.url().endsWith('?q=BIL-01') ? 1_500 : 0);
    visitor.page.on('request', late);
    await visitor.page.keyboard.type('B');
    await visitor.page.waitForSelector('#found [role=option]');
    await visitor.page.keyboard.type('IL-01');
    await Promise.all([visitor.page.waitForNavigation(), visitor.page.keyboard.press('Enter')]);
    visitor.page.off('request', late);
    await visitor.page.setRequestInterception(false);
    expect(visitor.page.url()).toMatch(/\/brindlemere\/tests\/BIL-01$/);
  });

  it('the strip is walked and chosen by keys, scopes the view, and Back works', async () => {
    const visitor = await visit('Lea Marsh', '/brindlemere/progress');
    await visitor.page.focus('[role=tree][aria-label^="Process strip"]');
    for (const key of ['ArrowRight', 'ArrowDown', 'Enter'] as const) await visitor.page.keyboard.press(key);
    await visitor.page.waitForFunction(() => location.search === '?scope=LR-1');
    await visitor.page.waitForFunction(() => document.querySelector('nav[aria-label="What is looked at"] [aria-current]') !== null);
    await visitor.page.keyboard.press('Escape');
    await visitor.page.waitForFunction(() => location.search === '?scope=LR');
    await visitor.page.goBack();
    await visitor.page.waitForFunction(() => location.search === '?scope=LR-1');
  });

  it('refuses what a role may not see the buttons of, and what is not there, with a sentence', async () => {
    const observer = await visit('Cora Vane', '/brindlemere/map');
    expect(await observer.page.$('::-p-aria([name="Import"])')).toBeNull();
    await observer.go('/brindlemere/tests/NOPE');
    await observer.sees('There is no test NOPE in the library.');
    await observer.go('/elsewhere/map');
    await observer.sees('There is no programme “elsewhere” that you belong to.');
  });
});
