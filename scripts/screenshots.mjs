/** npm run screenshots: pictures of the main views, from a running demo (npm start), into docs/screenshots. */
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import puppeteer from 'puppeteer-core';
import { requireChromium } from './setup/debian.mjs';
import { ROOT } from './setup/paths.mjs';
import { runMain, say } from './setup/say.mjs';

const ADDRESS = process.env.KINDRED_BATON_ADDRESS ?? 'http://127.0.0.1:4217';
const PASSWORD = process.env.KINDRED_BATON_DEMO_PASSWORD ?? 'pass-the-baton';
/** By then some turns are through, and some have met a fault. */
const WORKED_MS = 90_000;
const FOLDER = path.join(ROOT, 'docs/screenshots');

const press = async (page, selector) => (await page.waitForSelector(selector)).click();

const VIEWS = [
  { name: 'progress', path: '/brindlemere/progress', as: 'lea.marsh' },
  {
    name: 'course',
    path: '/brindlemere/progress?view=course',
    as: 'lea.marsh',
    then: (page) =>
      page.waitForFunction(() => /even odds by/.test(document.querySelector('[aria-label="What would help"]')?.textContent ?? '')),
  },
  { name: 'wrong-steps', path: '/brindlemere/progress?view=steps', as: 'lea.marsh' },
  {
    name: 'board',
    path: '/brindlemere/boards',
    as: 'lea.marsh',
    then: async (page) => {
      await press(page, '::-p-text(Steering group)');
      await page.waitForSelector('[aria-label="What the odds say"]');
      await page.waitForSelector('.board-tile table.grid-table');
    },
  },
  { name: 'map', path: '/brindlemere/map?node=NS-2.1', as: 'lea.marsh' },
  {
    name: 'import',
    path: '/brindlemere/map/import?kind=workbook',
    as: 'lea.marsh',
    then: async (page) => (await page.$('input[type=file]')).uploadFile(path.join(ROOT, 'tests/fixtures/street-lighting.openpyxl.xlsx')),
  },
  { name: 'requirements', path: '/brindlemere/requirements?view=matrix&scope=NS', as: 'lea.marsh' },
  { name: 'tests', path: '/brindlemere/tests', as: 'lea.marsh' },
  { name: 'test', path: '/brindlemere/tests/BIL-01', as: 'edda.quill' },
  {
    name: 'scenario',
    path: '/brindlemere/scenarios/NS-S1',
    as: 'lea.marsh',
    then: async (page) => (await page.$$('[data-leg]'))[2].click(),
  },
  { name: 'wiring', path: '/brindlemere/scenarios/PU-S2?view=wiring', as: 'lea.marsh' },
  { name: 'data-rows', path: '/brindlemere/scenarios/LR-S1?view=rows', as: 'lea.marsh', then: makeRows },
  {
    name: 'cycle',
    path: '/brindlemere/cycles/ACC-2',
    as: 'lea.marsh',
    then: (page) => page.waitForSelector('button[aria-label^="Try:"]'),
  },
  {
    name: 'acceptance',
    path: '/brindlemere/cycles/ACC-2?view=acceptance&node=NS-2',
    as: 'greta.holm',
    then: (page) => page.waitForSelector('input[name=decision]'),
  },
  { name: 'new-cycle', path: '/brindlemere/cycles/new', as: 'lea.marsh', then: (page) => press(page, 'tbody input[type=checkbox]') },
  { name: 'turns', path: '/brindlemere/turns', as: 'sena.adeyo', then: (page) => press(page, 'section[aria-label="With you"] li button') },
  { name: 'guide-phone', path: '/brindlemere/turns', as: 'ines.varga', width: 390, then: guide },
  { name: 'defect', path: '/brindlemere/defects/TQ-203', as: 'lea.marsh' },
  { name: 'runners', path: '/brindlemere/cycles/REG-4.2', as: 'lea.marsh', then: letRunnersWork },
];

/** Last of all: it opens the regression for the pool, and looks when the runners are in the middle of it. */
async function letRunnersWork(page) {
  await page.evaluate(async () => {
    const api = '/api/brindlemere';
    const post = (to, body) =>
      fetch(api + to, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    const { pools } = await (await fetch(`${api}/pools`)).json();
    await post('/cycles/REG-4.2/plan', { kind: 'to runners', poolId: pools[0].id, which: 'all' });
    await post('/cycles/REG-4.2/move', { from: 'planning', to: 'open' });
  });
  await new Promise((resolve) => setTimeout(resolve, WORKED_MS));
  await page.goto(`${ADDRESS}/brindlemere/runners`, { waitUntil: 'load' });
  await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
}

async function makeRows(page) {
  const button = 'section[aria-label="Rows from classes"] .button-primary';
  await page.waitForSelector(button);
  // The view is fetched when it is shown, and hears clicks once React has put its mark on it.
  await page.waitForFunction(
    (selector) => Object.keys(document.querySelector(selector) ?? {}).some((key) => key.startsWith('__reactProps')),
    {},
    button,
  );
  await page.evaluate((selector) => document.querySelector(selector)?.click(), button);
  const answer = await page.waitForSelector('section[aria-label="Rows from classes"] [role=status]');
  await answer.evaluate((node) => node.scrollIntoView({ block: 'center' }));
}

async function guide(page) {
  await press(page, 'section[aria-label="With you"] li button');
  const begin = await Promise.race(['::-p-text(Begin)', '::-p-text(It worked)'].map((text) => page.waitForSelector(text)));
  await begin.click();
  await page.waitForSelector('::-p-text(It worked)');
}

async function signIn(page, name) {
  await page.goto(`${ADDRESS}/sign-in`);
  const status = await page.evaluate(
    (email, password) =>
      fetch('/api/auth/sign-in/email', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email, password }),
      }).then((answer) => answer.status),
    `${name}@brindlemere.example`,
    PASSWORD,
  );
  if (status !== 200) throw new Error(`${name} could not sign in (${status}).`);
}

/** Each person signs in once: the sign-in page bears only so many within a minute. */
async function openAs(browser, contexts, name) {
  const known = contexts.get(name);
  if (known) return known.newPage();
  const context = await browser.createBrowserContext();
  contexts.set(name, context);
  const page = await context.newPage();
  await signIn(page, name);
  return page;
}

await runMain(async () => {
  const userDataDir = mkdtempSync(path.join(tmpdir(), 'kindred-baton-pictures-'));
  const browser = await puppeteer.launch({
    executablePath: requireChromium(),
    userDataDir,
    args: ['--no-sandbox', '--disable-quic', '--disable-background-networking', '--force-color-profile=srgb', '--font-render-hinting=none'],
  });
  mkdirSync(FOLDER, { recursive: true });
  const wanted = process.argv.slice(2);
  const contexts = new Map();
  for (const view of VIEWS.filter(({ name }) => wanted.length === 0 || wanted.includes(name))) {
    const page = await openAs(browser, contexts, view.as);
    await page.setViewport({ width: view.width ?? 1280, height: 800 });
    await page.goto(ADDRESS + view.path, { waitUntil: 'load' });
    await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
    await page.evaluate(() => document.fonts.ready);
    await view.then?.(page);
    await new Promise((resolve) => setTimeout(resolve, 900));
    await page.screenshot({ path: path.join(FOLDER, `${view.name}.png`) });
    await page.close();
    say(view.name);
  }
  await browser.close();
  rmSync(userDataDir, { recursive: true, force: true });
});
