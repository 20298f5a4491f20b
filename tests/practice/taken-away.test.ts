import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import { createRunner, parse, PuppeteerRunnerExtension } from '@puppeteer/replay';
import type { ExportedTest } from '@kindred-baton/core/imports/exported-test';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { readTestFile } from '@kindred-baton/formats/tests/read-test-file';
import { writeRecording } from '@kindred-baton/formats/tests/write-recording';
import { writeScript } from '@kindred-baton/formats/tests/write-script';
import { toDemoField } from '@kindred-baton/store/demo/fields';
import { readOutline } from '@kindred-baton/store/demo/read-outline';
import { NEW_SUPPLY } from '@kindred-baton/store/demo/streams/new-supply';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Practice } from '../support/practice.ts';
import { openPractice } from '../support/practice.ts';

const run = promisify(execFile);
const OUTLINE = readOutline(NEW_SUPPLY).tests;

describe('a test that is taken away', { timeout: 120_000 }, () => {
  let practice: Practice;
  beforeAll(async () => {
    practice = await openPractice();
    await practice.deploy('rehearsal', { faults: [] });
  }, 60_000);
  afterAll(() => practice.close());

  const toExported = (code: string, values: Readonly<Record<string, string>>): ExportedTest => {
    const test = OUTLINE.find((one) => one.code === code)!;
    const { needs, gives } = deriveInterface(test.steps);
    const typed = (fields: readonly { readonly name: string }[]) => fields.map(({ name }) => toDemoField(name));
    return {
      ...{ ...test, activity: test.node, tags: [], needs: typed(needs), gives: typed(gives), version: 1, state: 'agreed', path: [] },
      ...{ rows: [{ name: 'one', values }], address: `${practice.address}/rehearsal/${test.application.toLowerCase()}` },
    };
  };

  /** Beside the packages, as somebody has it who has installed puppeteer-core, and nothing of ours. */
  const runScript = async (test: ExportedTest, user: string) => {
    const file = path.join(process.cwd(), 'node_modules', `.taken-away-${randomUUID()}.mjs`);
    await writeFile(file, writeScript(test));
    const env = {
      ...process.env,
      SIGN_IN_USER: user,
      SIGN_IN_PASSWORD: 'practice-rehearsal',
      CHROME: process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium',
    };
    try {
      const { stdout } = await run(process.execPath, [file], { env, timeout: 60_000 });
      return stdout;
    } catch (error) {
      return String((error as { stderr?: string }).stderr ?? error);
    } finally {
      await rm(file);
    }
  };

  it('runs as a script by itself, on pages of both generations, its values handed on by hand', async () => {
    const taken = await runScript(toExported('CUS-01', { Customer: 'Tallis Bakery', 'Customer band': 'B' }), 'DESK01');
    expect(taken).toMatch(/^passed/);
    const application = /AP-\d{5}/.exec(taken)?.[0] ?? '';
    const surveyed = await runScript(
      toExported('FLD-01', { 'Application no.': application, Customer: 'Tallis Bakery', 'Length measured': '14.5' }),
      'PLAN01',
    );
    expect(surveyed).toMatch(/^passed/);
    const survey = /SV-\d{5}/.exec(surveyed)?.[0] ?? '';
    const row = { 'Survey no.': survey, 'Customer band': 'B', 'Charge expected': '512.50' };
    const priced = await runScript(toExported('BIL-01', row), 'BILL01');
    expect(priced).toMatch(/^passed/);
    expect(priced).toMatch(/QT-\d{5}/);
  });

  it('is a recording that the recorder’s own player replays, and that comes in again', async () => {
    const test = toExported('CUS-01', { Customer: 'Moor End Dairy', 'Customer band': 'C' });
    const source = createStepSource({
      attempt: 'x',
      day: new Date().toISOString().slice(0, 10),
      calendar: { workingDays: [1, 2, 3, 4, 5], holidays: [] },
      values: [],
    });
    const text = writeRecording(test, source);
    const session = await practice.open();
    const { page } = session.tab();
    await page.goto(test.address!);
    await page.type('#user', 'DESK01');
    await page.type('#password', 'practice-rehearsal');
    await Promise.all([page.waitForNavigation(), page.keyboard.press('Enter')]);
    const player = await createRunner(
      parse(JSON.parse(text)),
      new PuppeteerRunnerExtension(practice.host.browser, page, { timeout: 8_000 }),
    );
    expect(await player.run()).toBe(true);
    const capture = await session.tab().capture();
    expect(capture.elements.find(({ label }) => label === 'Applicant')?.text).toBe('Moor End Dairy');
    await session.close();

    const { entries, problems } = await readTestFile({ name: 'CUS-01.json', bytes: new TextEncoder().encode(text) });
    expect(problems).toEqual([]);
    expect(entries[0]?.steps.map(printStep)).toEqual(
      expect.arrayContaining(['Press "New application".', 'Fill "Customer name" with "Moor End Dairy".', 'Press "Save application".']),
    );
  });
});
