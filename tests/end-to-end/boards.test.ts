import type { BoardList, BoardView } from '@kindred-baton/contracts/boards/board';
import type { ElementHandle } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Visitor } from '../support/browser.ts';
import { createVisitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer } from '../support/own-server.ts';

const API = '/api/brindlemere';

describe('own cuts and boards', () => {
  let own: OwnServer;
  let lead: Visitor;
  let link: string;
  beforeAll(async () => {
    own = await openOwnServer('Lea Marsh');
    lead = own.visitor;
  });
  afterAll(() => own.close());

  const findBoard = async (name: string) => (await lead.json<BoardList>(`${API}/boards`)).find((board) => board.name === name);
  const choose = async (label: string, word: string) => {
    const field = (await lead.find(label, 'combobox')) as ElementHandle<HTMLSelectElement>;
    await field.select(await field.evaluate((node, text) => [...node.options].find((own) => own.text === text)?.value ?? text, word));
  };
  const headings = () => lead.page.$$eval('.board-tile h2 a', (links) => links.map(({ textContent }) => textContent));

  it('keeps what is looked at under a name; its address opens it, and says when it was changed', async () => {
    await lead.go('/brindlemere/progress?rows=team&columns=priority&sort=errors');
    await lead.press('Slices');
    await lead.press('Keep this as a slice …', 'menuitem');
    await lead.type('Name', 'Teams by priority');
    await lead.page.click('[name=shared]');
    await lead.press('Keep it');
    await lead.sees('Slice Teams by priority');
    const slice = new URL(lead.page.url()).searchParams.get('slice');
    await lead.go(`/brindlemere/slices/${slice}`);
    await lead.sees('Slice Teams by priority');
    expect(new URL(lead.page.url()).searchParams.get('rows')).toBe('team');
    await lead.go(`/brindlemere/progress?slice=${slice}&rows=team&columns=priority`);
    await lead.sees('Slice Teams by priority, changed');
    await lead.press('Slices');
    await lead.press('Keep the change in “Teams by priority”', 'menuitem');
    await lead.page.waitForFunction(() => !document.body.innerText.includes(', changed'));
  });

  it('puts it on a board, which shows the same figures as the view and opens it', async () => {
    await lead.go('/brindlemere/boards');
    await lead.press('Make a board');
    await lead.type('Name', 'Monday');
    await lead.press('Make it');
    for (const [shows, slice] of [
      ['The table', 'Teams by priority'],
      ['How far, in figures', 'The current cycle, all of it'],
      ['The course, day by day', 'The current cycle, all of it'],
    ] as const) {
      await lead.press('Add a tile');
      await choose('It shows', shows);
      await choose('Of', slice);
      await lead.press('Add it');
      await lead.page.waitForFunction(
        (name) => [...document.querySelectorAll('[role=row] b')].some(({ textContent }) => textContent === name),
        {},
        slice.startsWith('The current') ? shows : slice,
      );
    }
    await lead.press('It is as I want it');
    await lead.page.waitForFunction(() => document.querySelectorAll('.board-tile table.grid-table').length > 0);
    expect(await headings()).toEqual(['Teams by priority', 'How far, in figures', 'The course, day by day']);
    await lead.page.waitForSelector('.board-tile [role=img] svg path');
    const figure = await lead.page.$eval('[aria-label="How far, in figures"] strong', ({ textContent }) => textContent);
    await lead.press('How far, in figures', 'link');
    await lead.page.waitForFunction(() => location.pathname.endsWith('/progress'));
    await lead.sees(`${figure} run`);
  });

  it('arranges it by keys', async () => {
    const board = (await findBoard('Monday'))!;
    await lead.go(`/brindlemere/boards/${board.id}?arrange=yes`);
    await lead.page.focus('[role=row]');
    for (const key of ['ArrowDown', 'ArrowRight', 'Enter'] as const) await lead.page.keyboard.press(key);
    await lead.page.waitForSelector('[role=button][aria-label^="Insert"]');
    // Before itself, then before the one above.
    for (let up = 0; up < 2; up += 1) await lead.page.keyboard.press('ArrowUp');
    await lead.page.keyboard.press('Enter');
    await expect
      .poll(async () => (await lead.json<BoardView>(`${API}/boards/${board.id}`)).tiles.map(({ shows }) => shows))
      .toEqual(['figures', 'table', 'curve']);
    await lead.page.select('[role=row] select', 'whole');
    await expect.poll(async () => (await lead.json<BoardView>(`${API}/boards/${board.id}`)).tiles[0]?.width).toBe('whole');
    await lead.press('Take The course, day by day away');
    await expect.poll(async () => (await lead.json<BoardView>(`${API}/boards/${board.id}`)).tiles.length).toBe(2);
  });

  it('hangs on a wall without bar and strip, follows what happens, and is left by Esc', async () => {
    const board = (await findBoard('Monday'))!;
    await lead.go(`/brindlemere/boards/${board.id}?wall=yes`);
    await lead.page.waitForSelector('[aria-label="How far, in figures"] strong');
    expect(await lead.page.$('header')).toBeNull();
    await lead.page.keyboard.press('Escape');
    await lead.page.waitForFunction(() => location.search === '' && document.querySelector('header'));
  });

  it('is shown by a link without an account: that board alone, without people, until it is withdrawn', async () => {
    const board = (await findBoard('The lead’s morning'))!;
    await lead.go(`/brindlemere/boards/${board.id}`);
    await lead.press('More');
    await lead.press('A link for observers …', 'menuitem');
    await lead.press('Make the link');
    await lead.sees('now and never again');
    link = await lead.page.$eval('[aria-label="Link to the board"]', (node) => (node as HTMLInputElement).value);
    const context = await lead.page.browser().createBrowserContext();
    const page = await context.newPage();
    const errors: string[] = [];
    const observer = createVisitor(page, new URL(link).origin, errors);
    await page.goto(link);
    await observer.sees('renews itself');
    await page.waitForFunction(() => document.body.innerText.includes('waiting behind'));
    expect(await page.evaluate(() => document.body.innerText)).not.toContain('Ines Varga');
    await page.click('.board-tile h2 a');
    await observer.sees('What it counts is for those who sign in.');
    expect(page.url()).toBe(link);
    const token = link.split('/').at(-1) ?? '';
    const ask = async (path: string) => (await fetch(`${new URL(link).origin}/api/shown/${token}${path}`)).status;
    const other = (await findBoard('Monday'))!;
    expect([await ask(`/boards/${board.id}`), await ask(`/boards/${other.id}`), await ask('/boards'), await ask('/tests')]).toEqual([
      ...[200, 403, 403, 403],
    ]);
    await lead.press('Withdraw the link');
    await lead.sees('The link shows nothing any more.');
    expect(await ask(`/boards/${board.id}`)).toBe(404);
    await page.goto(link);
    await observer.sees('This link was withdrawn.');
    await context.close();
  });

  it('says that a slice is gone, and shows the rest', async () => {
    const board = (await findBoard('Monday'))!;
    const { tiles } = await lead.json<BoardView>(`${API}/boards/${board.id}`);
    const slice = tiles.find(({ sliceId }) => sliceId !== null)?.sliceId;
    await lead.page.evaluate((path) => fetch(path, { method: 'DELETE' }), `${API}/slices/${slice}`);
    await lead.go(`/brindlemere/boards/${board.id}`);
    await lead.sees('Its slice is gone.');
    await lead.page.waitForSelector('[aria-label="How far, in figures"] strong');
    await lead.go(`/brindlemere/progress?slice=${slice}`);
    await lead.sees('The slice of this address is gone');
  });
});
