import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import puppeteer from 'puppeteer-core';
import { DEMO_PASSWORD } from './demo-password.ts';

const ARGS = [
  ...[
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
  ...[
    '--disable-dev-shm-usage',
    '--no-default-browser-check',
    '--disable-extensions',
    '--force-color-profile=srgb',
    '--font-render-hinting=none',
  ],
];

export interface TestBrowser {
  readonly browser: Browser;
  readonly close: () => Promise<void>;
}

export async function launchBrowser(): Promise<TestBrowser> {
  const userDataDir = mkdtempSync(path.join(tmpdir(), 'kindred-baton-browser-'));
  const browser = await puppeteer.launch({ executablePath: process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium', userDataDir, args: ARGS });
  return {
    browser,
    close: async () => {
      await browser.close();
      rmSync(userDataDir, { recursive: true, force: true, maxRetries: 3 });
    },
  };
}

/** A page of one person, signed in, apart from everybody else’s. What goes wrong in it is gathered in `errors`. */
export async function openAs(browser: Browser, baseUrl: string, name: string): Promise<Visitor> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  const errors: string[] = [];
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  page.on('pageerror', (error) => errors.push(error instanceof Error ? error.message : String(error)));
  page.on('dialog', (dialog) => void dialog.accept());
  const visitor = createVisitor(page, baseUrl, errors);
  await page.goto(`${baseUrl}/sign-in`);
  await visitor.settle();
  await visitor.type('Mail address', `${name.toLowerCase().replace(' ', '.')}@brindlemere.example`);
  await visitor.type('Password', DEMO_PASSWORD);
  await Promise.all([page.waitForNavigation(), visitor.press('Sign in')]);
  await visitor.settle();
  return visitor;
}

export interface Visitor {
  readonly page: Page;
  readonly errors: string[];
  readonly go: (path: string) => Promise<void>;
  /** Waits until the page is alive: no island left to wake, fonts there. Never waits for a quiet network. */
  readonly settle: () => Promise<void>;
  /** By accessible name, as a person or a screen reader finds it. */
  readonly find: (name: string, role?: string) => Promise<ElementHandle>;
  readonly press: (name: string, role?: string) => Promise<void>;
  readonly type: (label: string, text: string) => Promise<void>;
  readonly sees: (text: string | RegExp) => Promise<void>;
  readonly text: () => Promise<string>;
  readonly json: <Answer>(path: string) => Promise<Answer>;
}

const WAIT_MS = 20_000;

/** Whether React has woken every island: an element hears keys and clicks once React has put its mark on it. */
function isAwake(): boolean {
  const islands = [...document.querySelectorAll('astro-island')];
  const isMarked = (island: Element) => {
    const root = island.querySelector('main, form, button');
    return root === null || Object.keys(root).some((key) => key.startsWith('__reactProps'));
  };
  return islands.every((island) => !island.hasAttribute('ssr') && isMarked(island));
}

export function createVisitor(page: Page, baseUrl: string, errors: string[]): Visitor {
  const settle = async () => {
    await page.waitForFunction(isAwake, { timeout: WAIT_MS });
    // Effects run in a frame after, on a busy machine some later: when the page has nothing else to do, they are through.
    await page.evaluate(() =>
      document.fonts.ready.then(
        () =>
          new Promise((resolve) =>
            requestAnimationFrame(() => requestAnimationFrame(() => requestIdleCallback(() => resolve(undefined), { timeout: 3_000 }))),
          ),
      ),
    );
  };
  const find = async (name: string, role?: string) => {
    const found = await page.waitForSelector(`::-p-aria([name="${name}"]${role ? `[role="${role}"]` : ''})`, { timeout: WAIT_MS });
    if (!found) throw new Error(`There is no ${role ?? 'thing'} called ${name}.`);
    return found;
  };
  return {
    ...{ page, errors, settle, find },
    go: async (to) => {
      await page.goto(baseUrl + to, { waitUntil: 'load' });
      await settle();
    },
    press: async (name, role = 'button') => {
      const element = await find(name, role);
      // A part that is fetched when it is shown wakes after the page.
      await page.waitForFunction(
        (node) => node.closest('astro-island') === null || Object.keys(node).some((key) => key.startsWith('__reactProps')),
        { timeout: WAIT_MS },
        element,
      );
      // What floats is pressed once it has come to rest.
      if (role === 'menuitem')
        await page.waitForFunction(() => [...document.querySelectorAll('.floats')].every((own) => own.getAnimations().length === 0));
      await element.evaluate((node) => node.scrollIntoView({ block: 'center' }));
      await element.click();
    },
    type: async (label, text) => {
      const fields = ['textbox', 'searchbox', 'spinbutton', 'combobox'].map((role) => `::-p-aria([name="${label}"][role="${role}"])`);
      const element = await page.waitForSelector(fields.join(', '), { timeout: WAIT_MS });
      if (!element) throw new Error(`There is no field called ${label}.`);
      await element.evaluate((node) => {
        node.scrollIntoView({ block: 'center' });
        (node as HTMLInputElement).focus();
        (node as HTMLInputElement).select();
      });
      await page.keyboard.press('Backspace');
      await element.type(text);
    },
    sees: async (text) => {
      const [source, flags] = typeof text === 'string' ? [text, null] : [text.source, text.flags];
      const isThere = (wanted: string, how: string | null) =>
        how === null ? document.body.innerText.includes(wanted) : new RegExp(wanted, how).test(document.body.innerText);
      await page.waitForFunction(isThere, { timeout: WAIT_MS }, source, flags).catch(async () => {
        throw new Error(`“${source}” is not on the page:\n${(await page.evaluate(() => document.body.innerText)).slice(-1_500)}`);
      });
    },
    text: () => page.evaluate(() => document.body.innerText),
    json: async (path) => (await page.evaluate(async (to) => (await fetch(to)).json() as Promise<unknown>, path)) as never,
  };
}
