import type { BoardList, BoardView } from '@kindred-baton/contracts/boards/board';
import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { DefectCourseView } from '@kindred-baton/contracts/progress/defects';
import type { Effort } from '@kindred-baton/contracts/progress/effort';
import type { TeamProgress } from '@kindred-baton/contracts/progress/teams';
import type { WrongSteps } from '@kindred-baton/contracts/progress/wrong-steps';
import type { TurnList } from '@kindred-baton/contracts/turns/turn';
import type { ElementHandle, KeyInput } from 'puppeteer-core';
import * as XLSX from 'xlsx';
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
    // Each key acts where the one before has led to.
    const press = async (key: KeyInput, leadsTo: string) => {
      await lead.page.keyboard.press(key);
      await lead.page.waitForFunction((start) => document.activeElement?.getAttribute('aria-label')?.startsWith(start), {}, leadsTo);
    };
    await press('ArrowDown', 'How far');
    await press('ArrowRight', 'Move How far');
    await press('Enter', 'Insert between How far');
    await press('ArrowUp', 'Insert between Teams by priority');
    await press('ArrowUp', 'Insert before Teams by priority');
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

  const readSheet = async (query: string) => {
    const bytes = await lead.page.evaluate(
      (path) => fetch(path).then(async (answer) => [...new Uint8Array(await answer.arrayBuffer())]),
      `${API}/progress/file?${query}`,
    );
    const book = XLSX.read(new Uint8Array(bytes), { type: 'array', raw: true, codepage: 65_001 });
    return XLSX.utils.sheet_to_json<Record<string, string>>(book.Sheets[book.SheetNames[0] ?? ''] ?? {}, { defval: '' });
  };

  it('takes the table that is shown away as a sheet: every cell and sum of all pages, as the view counts them', async () => {
    const query = 'cycle=ACC-2&rows=scenario&columns=person&counted=turns';
    for (const format of ['xlsx', 'csv']) {
      const lines = await readSheet(`view=where&${query}&format=${format}`);
      const sum = (fitting: (line: Record<string, string>) => boolean) =>
        lines.filter(fitting).reduce((total, line) => total + Number(line['All']), 0);
      const isAll = (line: Record<string, string>, axis: string) => line[axis] === 'All';
      const { total } = await lead.json<ProgressView>(`${API}/progress?${query}`);
      const turns = Object.values(total).reduce((all, count) => all + count, 0);
      expect([format, sum((line) => !isAll(line, 'Scenario') && !isAll(line, 'Person'))]).toEqual([format, turns]);
      expect([format, sum((line) => !isAll(line, 'Scenario') && isAll(line, 'Person'))]).toEqual([format, turns]);
      expect([format, sum((line) => isAll(line, 'Scenario') && !isAll(line, 'Person'))]).toEqual([format, turns]);
      expect([format, sum((line) => isAll(line, 'Scenario') && isAll(line, 'Person'))]).toEqual([format, turns]);
    }
  });

  it.each(['csv', 'xlsx'])('takes every other view of progress away as it is shown, as %s', async (format) => {
    const sheet = (view: string, more = '') => readSheet(`view=${view}&cycle=ACC-2${more}&format=${format}`);
    const sum = (lines: readonly Record<string, string>[], column: string) => lines.reduce((all, line) => all + Number(line[column]), 0);
    const teams = await lead.json<TeamProgress>(`${API}/progress/teams?cycle=ACC-2`);
    const teamLines = await sheet('teams');
    expect(teamLines.map((line) => [line['Team'], Number(line['Late'])])).toEqual(teams.teams.map(({ name, late }) => [name, late]));
    const steps = await lead.json<WrongSteps>(`${API}/progress/steps?cycle=ACC-2`);
    const stepLines = await sheet('steps');
    expect([stepLines.length, sum(stepLines, 'Failed') + sum(stepLines, 'Blocked')]).toEqual([steps.rows.size, steps.errors]);
    const fields = await lead.json<WrongSteps>(`${API}/progress/steps?cycle=ACC-2&each=target`);
    expect((await sheet('steps', '&each=target')).length).toBe(fields.rows.size);
    const defects = await lead.json<DefectCourseView>(`${API}/progress/defects?cycle=ACC-2`);
    const days = await sheet('defects');
    expect([sum(days, 'Found'), days.length]).toEqual([defects.all.found, defects.days.length]);
    const effort = await lead.json<Effort>(`${API}/progress/effort?cycle=ACC-2&by=day`);
    const spent = await sheet('effort', '&by=day');
    const all = spent.find((line) => line['Day'] === 'All');
    expect(Number(all?.['Turns tried to the end'])).toBe(effort.totals[0]?.tried);
    expect(sum(spent, 'Turns tried to the end')).toBe(2 * (effort.totals[0]?.tried ?? 0));
    const course = await sheet('course');
    const { total } = await lead.json<ProgressView>(`${API}/progress?cycle=ACC-2`);
    const now = course.filter((line) => line['Team'] === 'All' && line['Through, turns'] !== '').at(-1);
    expect([Number(now?.['Through, turns']), Number(now?.['In scope now, turns'])]).toEqual([
      total.passed + total.skipped,
      Object.values(total).reduce((turns, of) => turns + of, 0),
    ]);
  });

  it('offers each view of progress to be taken away, with what its address asks', async () => {
    await lead.go('/brindlemere/progress?view=steps&cycle=ACC-2&each=target');
    await lead.press('Take away');
    const link = await lead.find('This view as CSV', 'menuitem');
    const href = await link.evaluate((own) => (own as HTMLAnchorElement).href);
    expect(new URL(href).search).toBe('?view=steps&cycle=ACC-2&each=target&format=csv');
    await lead.page.keyboard.press('Escape');
  });

  it('narrows, sorts and groups the list of turns, and copies all of its rows', async () => {
    await lead.page
      .browserContext()
      .overridePermissions(new URL(lead.page.url()).origin, ['clipboard-read', 'clipboard-write', 'clipboard-sanitized-write']);
    await lead.go('/brindlemere/cycles/ACC-2/turns');
    await lead.press('Add a filter');
    await lead.page.waitForFunction(() =>
      [...document.querySelectorAll('[role=dialog] button')].some((own) => own.textContent?.startsWith('Billing')),
    );
    await lead.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role=dialog] button')].find((own) => own.textContent?.startsWith('Billing'))?.click(),
    );
    await lead.sees('by Billing');
    await lead.press('Due', 'link');
    await lead.page.waitForSelector('th[aria-sort=ascending]');
    await lead.press('Group not');
    await lead.press('by status', 'option');
    await lead.page.waitForSelector('th[scope=colgroup]');
    const { rows } = await lead.json<TurnList>(`${API}/turns/list?cycle=ACC-2&team=Billing`);
    await lead.press('Copy rows');
    await lead.sees(`${rows.size} rows copied`);
    const lines = (await lead.page.evaluate(() => navigator.clipboard.readText())).split('\r\n');
    expect(lines).toHaveLength(rows.size + 1);
    expect(new Set(lines.map((line) => line.split('\t').length)).size).toBe(1);
  });
});
