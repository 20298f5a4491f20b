import { createReadStream, existsSync, statSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { startBrowser } from '@kindred-baton/runner/browser/start-browser';
import type { BrowserHost } from '@kindred-baton/runner/browser/start-browser';
import { openSession } from '@kindred-baton/runner/browser/open-session';
import { createReach } from '@kindred-baton/runner/browser/reach';
import { doTest } from '@kindred-baton/runner/drive/do-test';
import type { Want } from '@kindred-baton/core/screens/find-element';
import { findElement } from '@kindred-baton/core/screens/find-element';
import { nameElement } from '@kindred-baton/core/screens/name-element';
import { parseStep } from '@kindred-baton/core/tests/parse-step';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const TYPES: Readonly<Record<string, string>> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.svg': 'image/svg+xml',
};
const PAGES = ['form.html', 'form_advanced.html', 'tables.html', 'settings.html', 'general_elements.html', 'invoice.html'];
const WANTED: Readonly<Record<string, Want>> = {
  ...{
    button: 'press',
    link: 'press',
    tab: 'press',
    checkbox: 'press',
    radio: 'press',
    textbox: 'field',
    searchbox: 'field',
    spinbutton: 'field',
  },
  combobox: 'choice',
};
const MODULES = path.join(process.cwd(), 'node_modules');

// Source: applications of the packages todomvc 0.1.1 and gentelella 4.2.0 (MIT), which know nothing of us; nothing is said to them but words.
describe('a runner in foreign applications', { timeout: 120_000 }, () => {
  let host: BrowserHost;
  let address = '';
  const server = createServer((request, response) => {
    const wanted = path.normalize(path.join(MODULES, new URL(request.url ?? '/', 'http://x').pathname));
    const file = existsSync(wanted) && statSync(wanted).isDirectory() ? path.join(wanted, 'index.html') : wanted;
    if (!file.startsWith(MODULES) || !existsSync(file)) return void response.writeHead(404).end();
    response.writeHead(200, { 'content-type': TYPES[path.extname(file)] ?? 'application/octet-stream' });
    createReadStream(file).pipe(response);
  });
  beforeAll(async () => {
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    host = await startBrowser(process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium');
  });
  afterAll(async () => {
    await host.close();
    await new Promise((resolve) => server.close(resolve));
  });

  const run = async (page: string, text: string) => {
    const session = await openSession(host, { reach: createReach([address]) });
    await session.tab().page.goto(`${address}/${page}`, { waitUntil: 'domcontentloaded' });
    await session.tab().settle(5_000);
    const steps = text
      .trim()
      .split('\n')
      .map((line) => {
        const reading = parseStep(line.trim());
        if (!reading.ok) throw new Error(reading.message);
        return reading.step;
      });
    const none = { applications: [], account: undefined, accountOf: () => undefined, gives: [], values: {} };
    const calendar = { workingDays: [1, 2, 3, 4, 5], holidays: [] };
    const report = await doTest(session, {
      ...none,
      attempt: 'foreign',
      steps,
      day: '2026-11-27',
      calendar,
      patienceMs: 3_000,
      pictures: 'none',
    });
    await session.close();
    const last = report.steps.at(-1);
    return report.outcome === 'passed' ? 'passed' : `${report.outcome} at step ${(last?.index ?? 0) + 1}: ${last?.note} ${last?.actual}`;
  };

  it.each(['react', 'vue', 'backbone', 'angularjs'])('adds two, completes one and sees one left (%s)', async (example) => {
    const typed = (words: string) => `Fill "What needs to be done?" with "${words}"\nPress "Enter"`;
    expect(
      await run(
        `todomvc/examples/${example}/`,
        `${typed('buy a clamp')}
         ${typed('call the crew')}
         Press "buy a clamp"
         See "1 item left"`,
      ),
    ).toBe('passed');
  });

  it('names what can be pressed and filled on foreign pages so that the words find it and nothing else', async () => {
    const session = await openSession(host, { reach: createReach([address]) });
    const unnamed: string[] = [];
    let all = 0;
    let named = 0;
    for (const page of PAGES) {
      await session.tab().page.goto(`${address}/gentelella/dist/production/${page}`, { waitUntil: 'load' });
      const capture = await session.tab().capture();
      for (const element of capture.elements) {
        const want = WANTED[element.role];
        if (!want || !element.isVisible) continue;
        all += 1;
        const target = nameElement(capture, element, want);
        if (!target) {
          unnamed.push(`${page} ${element.role} “${element.name || element.label || element.text}”`);
          continue;
        }
        named += 1;
        const finding = findElement(capture, target);
        expect([target, finding.kind === 'found' || finding.kind === 'fixed' ? finding.element.index : finding.kind]).toEqual([
          target,
          element.index,
        ]);
      }
    }
    await session.close();
    expect(all).toBeGreaterThan(400);
    if (process.env['SHOW']) process.stdout.write(`${named} of ${all}\n${unnamed.slice(0, 40).join('\n')}\n`);
    expect(named / all).toBeGreaterThan(0.7);
  });

  it('gives the names that the browser itself gives (its accessibility tree)', async () => {
    const session = await openSession(host, { reach: createReach([address]) });
    const { page, cdp } = session.tab();
    const different: string[] = [];
    let compared = 0;
    for (const name of PAGES) {
      await page.goto(`${address}/gentelella/dist/production/${name}`, { waitUntil: 'load' });
      const { nodes } = await cdp.send('Accessibility.getFullAXTree');
      const nameOf = new Map(
        nodes.flatMap((node) =>
          node.backendDOMNodeId === undefined || node.ignored ? [] : [[node.backendDOMNodeId, String(node.name?.value ?? '')]],
        ),
      );
      for (const element of (await session.tab().capture()).elements) {
        const theirs = nameOf.get(element.handle);
        if (!WANTED[element.role] || theirs === undefined) continue;
        compared += 1;
        if (element.name !== theirs.replace(/\s+/g, ' ').trim()) different.push(`${name} ${element.role}: “${element.name}”, “${theirs}”`);
      }
    }
    await session.close();
    expect(compared).toBeGreaterThan(400);
    if (process.env['SHOW']) process.stdout.write(`${different.length} of ${compared}\n${different.slice(0, 40).join('\n')}\n`);
    expect(different.length / compared).toBeLessThan(0.02);
  });

  it('fills a form and reads a table', async () => {
    const page = 'gentelella/dist/production/';
    expect(
      await run(
        `${page}form.html`,
        `Fill "Project name" with "Weir Bank"
         Pick "Client" with "Globex Inc"
         Fill "Budget (USD)" with "12000"
         Press "Team"
         Fill "Start date" with "2026-12-01"`,
      ),
    ).toBe('passed');
    expect(await run(`${page}tables.html`, 'See "Status"\nSee "Status" beside "John Doe" showing "Active"')).toBe('passed');
  });
});
