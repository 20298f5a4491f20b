import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { claimFolder } from './claim-folder.ts';
import { describeFailure, packCapture } from './voice.ts';
import { readSettings } from './settings.ts';
import { listSecrets, maskSecrets, toGivenTest } from './to-given-test.ts';

const ADDRESS = { KINDRED_BATON_RUNNER_ADDRESS: 'http://127.0.0.1:4217/brindlemere' };
const noFile = () => {
  throw new Error('No file is read.');
};

describe('how a runner is started', () => {
  it('takes its token from the environment or from a file', () => {
    expect(readSettings({ ...ADDRESS, KINDRED_BATON_RUNNER_TOKEN: ' kbr_x ' }, noFile)).toMatchObject({
      token: 'kbr_x',
      sessions: 2,
      patienceMs: 10_000,
    });
    expect(readSettings({ ...ADDRESS, KINDRED_BATON_RUNNER_TOKEN_FILE: 'f' }, (file) => `${file}-token\n`).token).toBe('f-token');
  });

  it('says in a sentence what is missing or wrong', () => {
    const read = (env: Record<string, string>) => () => readSettings(env, noFile);
    expect(read(ADDRESS)).toThrow('Give the token that was shown');
    expect(read({ KINDRED_BATON_RUNNER_ADDRESS: 'http://127.0.0.1:4217' })).toThrow('should end with the programme');
    expect(read({})).toThrow('should be the address of the programme');
    expect(read({ ...ADDRESS, KINDRED_BATON_RUNNER_TOKEN: 'x', KINDRED_BATON_RUNNER_SESSIONS: '99' })).toThrow('from 1 to 64 sessions');
  });

  it('has a folder to itself, and is the same runner when it is started there again after it was killed', () => {
    const folder = path.join(mkdtempSync(path.join(tmpdir(), 'kindred-baton-claim-')), 'runner');
    const first = claimFolder(folder);
    writeFileSync(path.join(folder, 'pid'), String(process.ppid));
    expect(() => claimFolder(folder)).toThrow('Another runner works in');
    // No process has this number: the one that had it was killed.
    writeFileSync(path.join(folder, 'pid'), String(2 ** 22 + 1));
    expect(claimFolder(folder).instance).toBe(first.instance);
  });
});

describe('a turn as it is given to a runner', () => {
  const work = {
    ...{ seed: 's', steps: [{ do: 'go' as const, target: 'Quotes', within: 'Millrace Billing' }], values: {}, gives: [], applications: [] },
    ...{
      day: '2026-11-27',
      workingDays: [1],
      holidays: [],
      pictures: 'each step' as const,
      fromStep: 0,
      kept: {},
      account: 'clerk',
      doors: [] as readonly { secret: string }[],
    },
    accounts: [
      { persona: 'clerk', application: 'Works', user: 'PLAN01', password: 'one' },
      { persona: 'Clerk', application: 'Billing', user: 'BILL01', password: 'two' },
      { persona: 'lead', application: 'Billing', user: 'BILL09', password: 'two' },
    ],
  };

  it('signs in with the persona’s account of the application that it opens first', () => {
    const { account, accountOf } = toGivenTest(work as never, 1_000);
    expect([account?.user, accountOf('LEAD')?.user, accountOf('nobody')]).toEqual(['BILL01', 'BILL09', undefined]);
  });

  it('has no word in which a password stands', () => {
    expect(listSecrets(work as never)).toEqual(['one', 'two']);
    expect(maskSecrets('It says two, and one', ['one', 'two'])).toBe('It says •••, and •••');
  });

  it('keeps a screen without what is secret on it', () => {
    const field = { role: 'textbox', name: 'Password', text: '', label: '', value: 'hunter', options: [], isSecret: true };
    const note = { ...field, role: 'text', name: '', text: 'Your token is t7"x', value: '', options: ['t7"x'], isSecret: false };
    const packed = packCapture({ address: 'http://x/?t7"x', title: 'x', elements: [field, note] } as never, ['t7"x', '7']);
    const text = gunzipSync(Buffer.from(packed, 'base64')).toString();
    expect(JSON.parse(text)).toMatchObject({ elements: [{ name: 'Password', value: '' }, { text: 'Your token is •••' }] });
    expect([text.includes('hunter'), text.includes('t7')]).toEqual([false, false]);
  });

  it('says a failure as a sentence', () => {
    expect(describeFailure('512.50', '642.75')).toBe('Looked for “512.50”; it shows “642.75”.');
    expect(describeFailure('512.50', '')).toBe('Looked for “512.50”; nothing stands there.');
    expect(describeFailure('“Saved”', '“Saved” is not on the screen.')).toBe('“Saved” is not on the screen.');
  });
});
