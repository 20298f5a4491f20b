import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MinuteProposals } from '@kindred-baton/contracts/progress/effort';
import type { Outlook } from '@kindred-baton/contracts/progress/outlook';
import type { TurnList } from '@kindred-baton/contracts/turns/turn';
import { TURNS_A_PAGE } from '@kindred-baton/contracts/turns/turn';
import * as XLSX from 'xlsx';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Visitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer } from '../support/own-server.ts';

describe('what a lead does beside the walk', () => {
  let own: OwnServer;
  let lead: Visitor;
  beforeAll(async () => {
    own = await openOwnServer('Lea Marsh');
    lead = own.visitor;
  });
  afterAll(() => own.close());

  it('walks the outline by keys', async () => {
    await lead.go('/brindlemere/map?node=NS-1');
    await lead.page.focus('[role=tree][aria-label="Process map"]');
    await lead.page.keyboard.press('ArrowDown');
    await lead.page.waitForFunction(() => location.search === '?node=NS-1.1');
    await lead.page.keyboard.press('ArrowUp');
    await lead.page.keyboard.press('ArrowLeft');
    await lead.page.waitForFunction(
      () => !document.querySelector('[role=tree][aria-label="Process map"]')?.textContent?.includes('NS-1.1'),
    );
  });

  it('turns the pages of a long list of turns, to the last', async () => {
    await lead.go('/brindlemere/cycles/ACC-2/turns');
    const { rows } = await lead.json<TurnList>('/api/brindlemere/turns/list?cycle=ACC-2');
    expect(rows.size).toBeGreaterThan(TURNS_A_PAGE * 2);
    await lead.sees(`Turns 1 to ${TURNS_A_PAGE} of ${rows.size.toLocaleString('en')}`);
    await lead.press('Next');
    await lead.sees(`Turns ${TURNS_A_PAGE + 1} to ${2 * TURNS_A_PAGE} of`);
    const last = Math.ceil(rows.size / TURNS_A_PAGE);
    await lead.go(`/brindlemere/cycles/ACC-2/turns?page=${last}`);
    await lead.sees(`to ${rows.size.toLocaleString('en')} of ${rows.size.toLocaleString('en')}`);
    const shown = await lead.page.$$eval('tbody tr', (lines) => lines.length);
    expect(shown).toBe(rows.size - (last - 1) * TURNS_A_PAGE);
  });

  it('reads when the round will end, what would help, and the course of one team; a day opens what was tried on it', async () => {
    await lead.go('/brindlemere/progress?view=course&cycle=ACC-2');
    await lead.sees(/Even odds by|All is through/);
    await lead.page.waitForFunction(() => /even odds by/.test(document.querySelector('[aria-label="What would help"]')?.textContent ?? ''));
    await lead.page.waitForSelector('[role=img] svg path');
    await lead.press('Billing');
    await lead.page.waitForFunction(() => new URLSearchParams(location.search).get('team') === 'Billing');
    await lead.sees('through at Billing');
    await lead.page.click('summary');
    const [day] = await lead.page.$$eval('details tbody a', (links) => links.map((link) => (link as HTMLAnchorElement).href));
    const { rows } = await lead.json<TurnList>(`/api/brindlemere/turns/list?cycle=ACC-2&${new URL(day!).searchParams}`);
    await lead.page.goto(day!);
    await lead.sees(new RegExp(`^${rows.size} turns?$`, 'm'));
    await lead.sees('tried on');
  });

  it('writes down what is decided about the end, with its figures, and takes it back', async () => {
    await lead.go('/brindlemere/progress?view=course&cycle=ACC-2');
    await lead.press('Decide: Nothing is changed');
    await lead.type('Why', 'The crews are trained on Monday; it is looked at again then.');
    await lead.press('Write it down');
    await lead.sees('It is written down, with its figures.');
    await lead.sees('it is looked at again then');
    const { decisions } = await lead.json<Outlook>('/api/brindlemere/progress/outlook?cycle=ACC-2');
    expect(decisions).toMatchObject([{ kind: 'stay', by: 'Lea Marsh', takenBack: null }]);
    expect(decisions[0]!.before).toEqual(decisions[0]!.after);
    await lead.press('Take it back');
    await lead.sees('Taken back by Lea Marsh');
  });

  it('plans tests anew by what their turns took, all at once, and takes it back', async () => {
    const path = '/api/brindlemere/progress/minutes';
    const before = await lead.json<MinuteProposals>(path);
    await lead.go('/brindlemere/progress?view=effort');
    await lead.sees(/A turn takes \d+ min/);
    await lead.press(`Plan ${before.total} tests anew`);
    await lead.sees(`${before.total} tests planned anew.`);
    expect((await lead.json<MinuteProposals>(path)).total).toBe(0);
    await lead.press('Take it back');
    await lead.sees('Planned as before.');
    expect(await lead.json<MinuteProposals>(path)).toEqual(before);
  });

  it('reads how the defects came and went; a number of a day opens those of that day', async () => {
    await lead.go('/brindlemere/progress?view=defects&cycle=ACC-2');
    await lead.sees(/\d+ defects? open/);
    await lead.page.waitForSelector('[role=img] svg path');
    await lead.page.click('summary');
    const links = await lead.page.$$eval('details tbody a', (found) =>
      found.map((link) => ({ count: link.textContent, href: (link as HTMLAnchorElement).href })),
    );
    const most = links.toSorted((a, b) => Number(b.count) - Number(a.count))[0]!;
    await lead.page.goto(most.href);
    await lead.sees(new RegExp(`: ${most.count} defects?\\.`));
    expect(await lead.page.$$eval('tbody tr', (lines) => lines.length)).toBe(Number(most.count));
    await lead.press('Show all');
    await lead.page.waitForFunction(() => !location.search.includes('happened'));
  });

  it('sees what is wrong in a workbook with its place, and nothing is stored', async () => {
    const workbook = XLSX.utils.book_new();
    const add = (name: string, rows: unknown[][]) => XLSX.utils.book_append_sheet(workbook, XLSX.utils.aoa_to_sheet(rows), name);
    add('Processes', [
      ['Code', 'Name', 'Parent'],
      ['QQ', 'Queue'],
      ['QQ', 'Queue again'],
      ['QQ-1', 'Line', 'NOPE'],
    ]);
    add('Tests', [['Test', 'Name', 'Activity', 'Step']]);
    add('Scenarios', [
      ['Scenario', 'Name', 'Process', 'Test'],
      ['QS', 'S', 'QQ', 'T-404'],
    ]);
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'kindred-baton-')), 'wrong.xlsx');
    writeFileSync(file, XLSX.write(workbook, { type: 'buffer', bookType: 'xlsx' }) as Buffer);
    await lead.go('/brindlemere/map/import?kind=workbook');
    await (await lead.page.$('input[type=file]'))?.uploadFile(file);
    await lead.sees('3 things to mend in wrong.xlsx; nothing is stored');
    await lead.sees('Process QQ is already in row 2.');
    await lead.sees('Parent NOPE of Line is not in this file and not on the map.');
    await lead.sees('Leg 1 names the test T-404, which is not in the library.');
    expect(await (await lead.find('Take it all in', 'button')).evaluate((button) => (button as HTMLButtonElement).disabled)).toBe(true);
  });

  it('begins a sketch, and gets out of a need that nothing gives by a column and a data row', async () => {
    await lead.go('/brindlemere/scenarios?scope=NS');
    await lead.press('New scenario');
    await lead.type('Name', 'Quote at the counter');
    await lead.type('Code', 'NS-S9');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Begin the sketch')]);
    await lead.settle();
    await lead.sees('No legs yet');
    await lead.press('Add legs');
    await lead.type('Words in codes, names, steps and values', 'BIL-01');
    await lead.press('Price the quote BIL-01 Billing');
    await lead.press('Close');
    await lead.sees('Leg 1 needs Survey no., and nothing gives it.');
    await lead.press('Add a column for it');
    await lead.page.waitForFunction(() => !document.body.innerText.includes('Leg 1 needs Survey no.'));
    await lead.press('Data rows');
    await lead.press('Add a row');
    await lead.type('Survey no. of Row 1', 'SV-40172');
    await lead.page.keyboard.press('Enter');
    await lead.page.waitForFunction(async () =>
      ((await (await fetch('/api/brindlemere/scenarios/NS-S9')).json()) as { document: { rows: { values: object }[] } }).document.rows.some(
        ({ values }) => 'Survey no.' in values,
      ),
    );
    const {
      document: { rows },
    } = await lead.json<{ document: { rows: { values: Record<string, string> }[] } }>('/api/brindlemere/scenarios/NS-S9');
    expect(rows.map(({ values }) => values['Survey no.'])).toEqual(['SV-40172']);
  });

  it('moves a defect, and sees it in its history', async () => {
    await lead.go('/brindlemere/defects');
    await lead.press('Damage charge leaves half hours out', 'link');
    await lead.page.waitForFunction(() => location.pathname.includes('/defects/TQ-'));
    await lead.settle();
    await lead.press('Decline');
    await lead.type('Why it is declined', 'Half hours are not charged.');
    const buttons = await lead.page.$$('[role=dialog] button[type=submit]');
    await buttons[0]?.click();
    await lead.sees('Half hours are not charged.');
    await lead.press('Open again');
    await lead.sees('is accepted.');
  });
});
