import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestBrowser, Visitor } from '../support/browser.ts';
import { createVisitor, launchBrowser } from '../support/browser.ts';
import { copyTemplate } from '../support/test-store.ts';
import type { WebServer } from '../support/web-server.ts';
import { startWebServer } from '../support/web-server.ts';

const TEAMS = ['Sales desk', 'Workshop', 'Accounts'];
const PEOPLE =
  'Ina Roe\tina@north.example\ttester\tSales desk\nBo Ash\tbo@north.example\ttester\tWorkshop\nUma Lind\tuma@north.example\ttester\tAccounts';
const TESTS = [
  ['Take an order', 'Open Orders\nEnter {Boat} in Boat\nPress Save. You should see: Order taken\nKeep "Order number", keep as "Order no."'],
  ['Plan the work', 'Open Plans\nEnter {Order no.} in Order\nPress Plan\nKeep "Job number", keep as "Job no."'],
  ['Do the work', 'Open Jobs\nEnter {Job no.} in Job\nPress Done. You should see: Job is done\nKeep "Hours", keep as "Hours worked"'],
  [
    'Bill the work',
    'Open Bills\nEnter {Order no.} in Order\nEnter {Hours worked} in Hours\nPress Bill\nKeep "Bill number", keep as "Bill no."',
  ],
  [
    'Take the payment',
    'Open Payments\nEnter {Bill no.} in Bill\nPress Pay. You should see: Paid\nKeep "Receipt number", keep as "Receipt no."',
  ],
  ['Close the order', 'Open Orders\nEnter {Order no.} in Order\nEnter {Receipt no.} in Receipt\nPress Close. You should see: Closed'],
] as const;
const BOATS = ['Dinghy', 'Yawl', 'Ketch', 'Punt'];

/** Everything by hand, nothing brought from a file: from an empty installation to an open cycle of 24 turns. */
describe('a round from nothing', () => {
  let server: WebServer;
  let chromium: TestBrowser;
  let una: Visitor;
  /** Presses, and fields that were gone into to type or to paste: what a mouse would do. */
  let clicks = 0;
  beforeAll(async () => {
    server = await startWebServer(await copyTemplate('empty'));
    chromium = await launchBrowser();
    const page = await chromium.browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    const visitor = createVisitor(page, server.baseUrl, []);
    una = {
      ...visitor,
      press: (name, role) => ((clicks += 1), visitor.press(name, role)),
      type: (label, text) => ((clicks += 1), visitor.type(label, text)),
      go: (to) => ((clicks += 1), visitor.go(to)),
    };
  });
  afterAll(async () => {
    await chromium.close();
    await server.stop();
  });

  const leave = async (name: string, role?: string) => {
    await Promise.all([una.page.waitForNavigation(), una.press(name, role)]);
    await una.settle();
  };
  /** What is in the clipboard, put where the focus is. */
  const paste = async (selector: string, text: string) => {
    clicks += 1;
    await una.page.$eval(
      selector,
      (node, given) => {
        (node as HTMLElement).focus();
        const clipboardData = new DataTransfer();
        clipboardData.setData('text/plain', given);
        node.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
      },
      text,
    );
  };

  it('takes fewer than 170 clicks to the first open cycle', { timeout: 240_000 }, async () => {
    const { page } = una;
    await page.goto(`${server.baseUrl}/sign-in`);
    await una.settle();
    for (const [name, text] of [
      ['name', 'Una Berg'],
      ['email', 'una@north.example'],
      ['password', 'a long password'],
      ['programme', 'North'],
    ] as const) {
      clicks += 1;
      await page.type(`input[name=${name}]`, text);
    }
    clicks += 1;
    await Promise.all([page.waitForNavigation(), page.locator('button[type=submit]').click()]);
    await una.settle();
    await una.go('/north/set-up?view=applications');
    for (const name of ['Orders', 'Ledger']) {
      await una.press('Add an application');
      await una.type('Name', name);
      await una.press('Keep');
      await una.sees(name);
    }
    await una.press('Add an environment');
    await una.type('Name', 'Trial');
    for (const name of ['Orders', 'Ledger']) await una.type(`Address of ${name}`, `trial.example/${name.toLowerCase()}`);
    await una.press('Keep');
    await una.sees('trial.example/orders');
    await una.go('/north/set-up?view=teams');
    for (const name of TEAMS) {
      await una.press('Add a team');
      await una.type('Name', name);
      await una.press('Keep');
      await una.sees(name);
    }
    await una.go('/north/set-up?view=people');
    await una.press('Invite people');
    await una.page.waitForSelector('[role=dialog] textarea');
    clicks += 1;
    await una.page.type('[role=dialog] textarea', PEOPLE);
    await una.sees('Ina Roe');
    await una.press('Invite 3 people');
    await una.sees('3 people get a letter.');

    await una.go('/north/map');
    const levels = (await una.text()).match(/New [^\n]+/)?.[0] ?? '';
    await una.press(levels);
    await page.waitForSelector('[aria-label="Name of the new node"]');
    await page.keyboard.type('Boats\n');
    await page.keyboard.press('Escape');
    await page.waitForSelector('[role=treeitem]');
    await paste('[role=tree]', 'Orders\n  Take and plan\n  Do and bill');
    await una.sees('Do and bill');

    for (const [name, sentences] of TESTS) {
      await una.go('/north/tests');
      await una.press('New test');
      await una.type('Name', name);
      clicks += 1;
      await page.waitForSelector('[role=dialog] select[name=node] option:nth-child(3)');
      await page.select(
        '[role=dialog] select[name=node]',
        await page.$eval('[role=dialog] select[name=node]', (node) => (node as HTMLSelectElement).options[2]?.value ?? ''),
      );
      await leave('Write its steps');
      await page.waitForSelector('[data-step], button');
      await una.press('Add a step, or paste rows of a spreadsheet');
      await una.press('Steps as Table');
      await una.press('Sentences', 'option');
      await page.waitForSelector('.cm-content');
      clicks += 1;
      await page.click('.cm-content');
      await page.keyboard.down('Control');
      await page.keyboard.press('a');
      await page.keyboard.up('Control');
      await page.keyboard.press('Backspace');
      await page.evaluate((text) => document.execCommand('insertText', false, text), sentences);
      await una.sees('Draft saved');
    }
    await una.go('/north/tests');
    for (let at = 1; at <= TESTS.length; at += 1) {
      const mark = await page.waitForSelector(`[aria-label^="Mark T-00${at}"]`);
      clicks += 1;
      await mark?.click();
    }
    await una.press('Agree');
    await una.sees('6 drafts are agreed.');

    await una.go('/north/scenarios');
    await una.press('New scenario');
    await una.type('Name', 'A boat is mended and paid for');
    await leave('Begin the sketch');
    await una.press('Add legs');
    for (const [name] of TESTS) {
      const found = await page.waitForSelector(`::-p-xpath(//button[.//b[normalize-space()="${name}"]])`);
      clicks += 1;
      await found?.click();
      await una.find(
        `Leg ${TESTS.findIndex(([each]) => each === name) + 1}: ${name} T-00${TESTS.findIndex(([each]) => each === name) + 1}${name === 'Take an order' ? ', 1 to fix' : ''}`,
      );
    }
    await una.press('Close');
    await una.press('Add a column for it');
    await una.sees('Every baton arrives.');
    clicks += 1;
    await page.locator('::-p-text(Data rows)').click();
    await una.press('Add a row');
    await page.waitForSelector('[data-cell="0:0"]');
    await paste('[data-cell="0:0"]', BOATS.join('\n'));
    await page.waitForSelector('[data-cell="3:0"]');
    await una.press('Agree it');

    await una.go('/north/cycles/new');
    await una.press('A boat is mended and paid for', 'checkbox');
    await una.sees('4 runs, 24 turns');
    await una.type('Name', 'First round');
    await leave('Plan it');
    await una.sees('It can be opened');
    await una.press('Open it');
    await una.sees('The versions of all tests are pinned');
    const [, confirm] = await page.$$('::-p-aria([name="Open it"][role="button"])');
    clicks += 1;
    await (confirm ?? (await una.find('Open it', 'button'))).click();
    await una.sees('First round is open now.');
    process.stdout.write(`From nothing to an open cycle of 24 turns: ${clicks} clicks.\n`);
    expect(clicks).toBeLessThan(170);
  });
});
