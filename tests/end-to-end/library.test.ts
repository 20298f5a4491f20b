import type { TestDetail } from '@kindred-baton/contracts/tests/test';
import type { TestList } from '@kindred-baton/contracts/tests/library';
import { printStep } from '@kindred-baton/core/tests/print-step';
import type { KeyInput } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Visitor } from '../support/browser.ts';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer, toFile } from '../support/own-server.ts';

const API = '/api/brindlemere';

describe('the library and its editor', () => {
  let own: OwnServer;
  let lead: Visitor;
  beforeAll(async () => {
    own = await openOwnServer('Lea Marsh');
    lead = own.visitor;
  });
  afterAll(() => own.close());

  const press = async (key: KeyInput, ...held: KeyInput[]) => {
    for (const each of held) await lead.page.keyboard.down(each);
    await lead.page.keyboard.press(key);
    for (const each of held) await lead.page.keyboard.up(each);
  };
  const getTest = (code: string) => lead.json<TestDetail>(`${API}/tests/${code}`);
  const until = async (code: string, isSo: (test: TestDetail) => boolean) => {
    for (let tries = 0; tries < 80 && !isSo(await getTest(code)); tries += 1) await new Promise((resolve) => setTimeout(resolve, 100));
    const test = await getTest(code);
    expect(isSo(test), test.version.steps.map(printStep).join('\n')).toBe(true);
    return test;
  };
  const fetchFile = (to: string) =>
    lead.page.evaluate(async (address) => {
      const answer = await fetch(address);
      const bytes = new Uint8Array(await answer.arrayBuffer());
      return {
        status: answer.status,
        type: answer.headers.get('content-type'),
        start: String.fromCharCode(...bytes.slice(0, 300)),
        size: bytes.length,
      };
    }, to);

  it('is narrowed by words and facets in its address, and Back widens it', async () => {
    await lead.go('/brindlemere/tests');
    const { all } = await lead.json<TestList>(`${API}/tests`);
    await lead.sees(`${all} tests`);
    await lead.page.locator('section[aria-label="Narrow by"] input[type=checkbox]').click();
    await lead.page.waitForFunction(() => location.search === '?team=Billing');
    await lead.sees(`14 of ${all} tests`);
    await lead.type('Words in tests', 'quote disc');
    await lead.sees(/\b[1-4] of 70 tests/);
    await lead.page.goBack();
    await lead.sees(`${all} tests`);
  });

  it('changes the marked tests at once', async () => {
    await lead.go('/brindlemere/tests?team=Finance');
    for (const code of ['FIN-01', 'FIN-02']) await lead.page.locator(`input[aria-label="Mark ${code}"]`).click();
    await lead.sees('2 tests marked');
    await lead.type('Tag', 'month end');
    await lead.press('Add');
    await lead.sees('2 tests changed.');
    await lead.go('/brindlemere/tests?tag=month end');
    await lead.sees('2 of 70 tests');
  });

  it('edits steps by keys; the draft saves itself and what was done is undone', async () => {
    await lead.go('/brindlemere/tests/FIN-02');
    const before = (await getTest('FIN-02')).version.steps;
    await lead.type('Step 1: you should see', 'The ledger is there');
    await lead.press('Save as a new draft');
    await lead.sees('Version 2 is saved as a draft.');
    await (await lead.find('Step 1: you should see')).focus();
    await press('d', 'Control');
    await until('FIN-02', ({ version }) => version.steps.length === before.length + 1);
    await press('ArrowDown', 'Alt');
    await until('FIN-02', ({ version }) => version.steps[2]?.target === before[0]?.target);
    await lead.press('Undo');
    await lead.press('Undo');
    await until('FIN-02', ({ version }) => version.steps.length === before.length);
    await lead.press('Mark step 1');
    await lead.press('Mark step 2');
    await lead.press('Take out');
    await until('FIN-02', ({ version }) => version.steps.length === before.length - 2);
    await lead.press('Undo');
    const restored = await until('FIN-02', ({ version }) => version.steps.length === before.length);
    expect(restored.version.steps[0]).toEqual({ ...before[0], expect: 'The ledger is there' });
  });

  it('compares the draft with the agreed version, step by step', async () => {
    await lead.go('/brindlemere/tests/FIN-02');
    await lead.press('Compare');
    await lead.page.waitForFunction(() => location.search.includes('compare=1-2'));
    await lead.sees('1 changed');
    await lead.press('Back to the steps');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Drop the draft')]);
    await lead.settle();
    await until('FIN-02', ({ versions }) => versions.length === 1);
  });

  it('reads the same steps as sentences in ordinary words, and marks what it does not understand', async () => {
    await lead.go('/brindlemere/tests/FIN-03?steps=sentences');
    await lead.page.waitForSelector('.cm-content[aria-label="Steps as sentences, one a line"]');
    const first = await lead.page.$eval('.cm-line', (line) => line.textContent);
    expect(first).toBe(printStep((await getTest('FIN-03')).version.steps[0]!));
    await lead.page.locator('.cm-content').click();
    await press('End', 'Control');
    await lead.page.keyboard.type('\nclick the Save button, then note the total\nRing the depot');
    await lead.sees('1 line not understood: it stays as a step by hand.');
    await lead.page.waitForSelector('.cm-lintRange-warning');
    await lead.press('Write them all alike');
    await lead.sees('By hand "Ring the depot".');
    await lead.page.locator('.cm-content').click();
    await press('End', 'Control');
    await lead.page.keyboard.type('\nFill "Rec');
    await lead.page.waitForSelector('.cm-tooltip-autocomplete');
    await press('Escape');
    await lead.press('Undo');
    await lead.page.waitForFunction(() => !document.querySelector('.cm-content')?.textContent.includes('Ring the depot'));
    await lead.press('Redo');
    await lead.page.waitForFunction(() => document.querySelector('.cm-content')?.textContent.includes('Ring the depot'));
    await lead.press('Save as a new draft');
    const { version } = await until('FIN-03', ({ version: { number } }) => number === 2);
    expect(version.steps.map(printStep)).toEqual(
      expect.arrayContaining(['Press "Save".', 'Keep "Total", keep as "Total".', 'By hand "Ring the depot".']),
    );
  });

  it('tidies recorded steps, with before and after', async () => {
    await lead.go('/brindlemere/tests/FIN-04');
    await lead.press('Add a step, or paste rows of a spreadsheet');
    const at = (await getTest('FIN-04')).version.steps.length + 1;
    await (await lead.find(`Step ${at}: on`)).focus();
    await lead.page.evaluate(() => {
      const clipboardData = new DataTransfer();
      clipboardData.setData(
        'text/plain',
        'Press Refresh\nPress Refresh\nScroll down\nEnter "Halden Row" in Street\nCheck that Address is "Halden Row"',
      );
      document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    });
    await lead.press('Tidy 3');
    await lead.sees('Refresh is pressed 2 times in a row.');
    await lead.press('Take all in');
    await lead.sees('Nothing more to tidy');
    await lead.press('Close');
    await lead.press('Save as a new draft');
    const { version } = await until('FIN-04', ({ version: { number } }) => number === 2);
    expect(version.steps.slice(-3).map(printStep)).toEqual([
      'Press "Refresh".',
      'Fill "Street" with {Street}.',
      'See "Address" showing {Street}.',
    ]);
    expect(version.rows[0]?.values['Street']).toBe('Halden Row');
  });

  it('copies a data row, and changes what differs', async () => {
    await lead.go('/brindlemere/tests/FIN-04');
    await lead.press('Copy row 1');
    await lead.type('Row 2: Street', 'Mill Lane');
    await lead.type('Row 2: as', 'field planner');
    const { version } = await until(
      'FIN-04',
      ({ version: { rows } }) => rows[1]?.values['Street'] === 'Mill Lane' && rows[1].as === 'field planner',
    );
    expect(version.rows).toHaveLength(2);
    const rows = await fetchFile(`${API}/tests/FIN-04/rows`);
    expect([rows.status, rows.start.slice(0, 2)]).toEqual([200, 'PK']);
    const input = await lead.page.$('input[aria-label="File with data rows"]');
    await (input as never as { uploadFile: (file: string) => Promise<void> }).uploadFile(
      toFile('rows.csv', 'Data row,Street\nFrom a file,Quay Street\n'),
    );
    await until('FIN-04', ({ version: { rows: read } }) => read[2]?.values['Street'] === 'Quay Street');
  });

  it('shows what is worth a look beside the steps, and waives it with a note', async () => {
    await lead.go('/brindlemere/tests/BIL-01');
    await lead.sees('Quote no. is kept as it stands');
    const waive = await lead.page.waitForSelector(
      '::-p-xpath(//li[contains(., "Quote no. is kept as it stands")]//button[. = "It may stay"])',
    );
    await waive?.click();
    await lead.type('Why it may stay', 'The next team reads it.');
    await lead.press('Waive');
    await lead.sees('1 waived');
    await lead.go('/brindlemere/tests?view=look');
    await lead.sees('The next team reads it.');
  });

  it('keeps personas, and how each starts an application in an environment', async () => {
    await lead.go('/brindlemere/tests?view=personas');
    await lead.press('New persona');
    await lead.type('Name', 'field inspector');
    const [how] = await lead.page.$$('[role=dialog] fieldset input');
    await how?.type('Sign in as fi01; the password is in the safe.');
    await lead.press('Save');
    await lead.sees('Sign in as fi01; the password is in the safe.');
  });

  it('takes tests in ordinary words in, with their data rows, all or nothing', async () => {
    const list =
      'Test ID,Name,Step,Expected\nLST-1,Price by list,Open the list of quotes,\nLST-1,,Enter the survey number,The address is filled in\nLST-1,,Ring the depot,\nLST-2,,Click Save,Saved\n';
    await lead.go('/brindlemere/map/import?kind=tests&scope=NS-2.1');
    await (await lead.page.$('input[aria-label=File]'))?.uploadFile(toFile('list.csv', list));
    await lead.sees('2 new, 0 changed, 0 the same · 3 of 4 sentences understood');
    const data = await lead.page.$('input[aria-label="File with data rows"]');
    await (data as never as { uploadFile: (file: string) => Promise<void> }).uploadFile(
      toFile('rows.csv', 'Test,Data row,Survey number\nLST-1,House,SV-7\n'),
    );
    await lead.sees('rows.csv');
    await lead.page.waitForFunction(() => !document.body.innerText.includes('Working'));
    await lead.press('Take it all in');
    await lead.sees('list.csv is taken in');
    const { version, path: place } = await getTest('LST-1');
    expect(place.at(-1)?.code).toBe('NS-2.1');
    expect(version.steps.map(printStep)).toEqual([
      'Go to "List of quotes".',
      'Fill "Survey number" with {Survey number}. You should see: The address is filled in',
      'By hand "Ring the depot".',
    ]);
    expect(version.rows).toEqual([{ name: 'House', values: { 'Survey number': 'SV-7' } }]);
  });

  it('writes one test out at once, in every format', async () => {
    const starts: Record<string, string> = {
      xlsx: 'PK',
      csv: '\u00ef\u00bb\u00bfTest',
      feature: 'Feature: BIL-01',
      md: '# BIL-01',
      html: '<!doctype html>',
      pdf: '%PDF',
    };
    for (const [format, start] of Object.entries(starts)) {
      const file = await fetchFile(`${API}/library/export?format=${format}&code=BIL-01`);
      expect([format, file.status, file.start.slice(0, start.length)]).toEqual([format, 200, start]);
    }
    expect((await fetchFile(`${API}/library/export?format=docx&code=BIL-01`)).status).toBe(400);
    expect((await fetchFile(`${API}/library/export?format=md&code=GONE`)).status).toBe(404);
    // Refused answers stand in the browser's console; nothing else may.
    lead.errors.splice(0);
  });

  it('saves one test from its page, without leaving it', async () => {
    await lead.go('/brindlemere/tests/BIL-02');
    await lead.press('Export');
    const [answer] = await Promise.all([
      lead.page.waitForResponse((response) => response.url().includes('/library/export')),
      lead.page.waitForSelector('::-p-aria([name="Markdown"][role="menuitem"])').then((item) => item?.click()),
    ]);
    expect(answer.status()).toBe(200);
    expect(new URL(lead.page.url()).pathname).toBe('/brindlemere/tests/BIL-02');
  });

  it('writes many out as work with progress, into one file', async () => {
    await lead.go('/brindlemere/tests?team=Finance');
    await lead.press('Export');
    await (await lead.page.waitForSelector('::-p-aria([name="Markdown"][role="menuitem"])'))?.click();
    await lead.sees('The tests are written out');
    const href = await lead.page.$eval('a[href$="/file"]', (link) => (link as HTMLAnchorElement).pathname);
    const file = await fetchFile(href);
    expect([file.status, file.type, file.start.slice(0, 2)]).toEqual([200, 'application/zip', 'PK']);
    await lead.sees('Save brindlemere-tests.zip');
  });

  it('stops work that is under way', async () => {
    await lead.go('/brindlemere/tests');
    await lead.press('Export');
    await (await lead.page.waitForSelector('::-p-aria([name="PDF, A4"][role="menuitem"])'))?.click();
    await lead.press('Stop');
    await lead.sees('nothing is kept');
  });

  it('lets turns that nobody has begun take a newer version over', async () => {
    await lead.go('/brindlemere/tests/BIL-01');
    await lead.type('Step 1: you should see', 'The list of open quotes, newest first');
    await lead.press('Save as a new draft');
    await lead.sees('Version 2 is saved as a draft.');
    await Promise.all([lead.page.waitForNavigation(), lead.press('Agree version 2')]);
    await lead.settle();
    await lead.sees('Version 2 is newer.');
    const offered = await lead.page.$('::-p-xpath(//button[starts-with(., "Take it over for")])');
    if (offered) {
      await offered.click();
      await lead.sees('will be done with version 2.');
    } else await lead.sees('All of them are begun or done.');
  });

  it('leaves the console without an error', () => expect(lead.errors).toEqual([]));
});
