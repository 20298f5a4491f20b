import { describe, expect, it } from 'vitest';
import { createDoAside, doAside } from './do-aside.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const list = (rows: number) =>
  encode(
    `Code,Requirement\n${Array.from({ length: rows }, (_, i) => `R-${i},It holds in case ${i} of the many that there are`).join('\n')}\n`,
  );
const LIMITS = { mostMs: 60_000, storesMs: 60_000, heapMb: 768, threads: 2, mostWaiting: 4, advice: 'Nothing was kept.' };

describe('work aside', { timeout: 60_000 }, () => {
  it('gives what the reader gives, of a table only what is shown of its columns, and lets this thread go on', async () => {
    const read = createDoAside(LIMITS);
    let turns = 0;
    const clock = setInterval(() => (turns += 1), 5);
    const { entries, problems, columns, taken } = await read('requirements', { name: 'x.csv', bytes: list(50_000) }, {});
    clearInterval(clock);
    expect([entries.length, problems, columns?.rows, taken]).toEqual([50_000, [], 50_000, { code: 0, title: 1 }]);
    // Reading it here would have let none of them come.
    expect(turns).toBeGreaterThan(10);
  });

  it('stops what takes too long and what takes too much memory, says so, and reads the next file all the same', async () => {
    const impatient = createDoAside({ ...LIMITS, mostMs: 1, threads: 1 });
    await expect(impatient('requirements', { name: 'x.csv', bytes: list(60_000) }, {})).rejects.toMatchObject({
      ...{ code: 'invalid', message: 'This takes more than 0.001 seconds, so it was stopped. Nothing was kept.' },
    });
    const narrow = createDoAside({ ...LIMITS, heapMb: 48, threads: 1 });
    await expect(narrow('requirements', { name: 'x.csv', bytes: list(60_000) }, {})).rejects.toMatchObject({
      ...{ code: 'invalid', message: 'This takes more than 48 MB of memory, so it was stopped. Nothing was kept.' },
    });
    expect((await narrow('requirements', { name: 'x.csv', bytes: list(3) }, {})).entries).toHaveLength(3);
  });

  it('lets so many wait, and no more', async () => {
    const read = createDoAside({ ...LIMITS, threads: 1, mostWaiting: 2 });
    const ask = () => read('requirements', { name: 'x.csv', bytes: list(30_000) }, {}).then(({ entries }) => entries.length);
    const answers = await Promise.allSettled(Array.from({ length: 6 }, ask));
    expect(answers.map(({ status }) => status).sort()).toEqual([
      ...Array.from({ length: 3 }, () => 'fulfilled'),
      'rejected',
      'rejected',
      'rejected',
    ]);
    const refused = answers.flatMap((answer) => (answer.status === 'rejected' ? [String((answer.reason as Error).message)] : []));
    expect(new Set(refused)).toEqual(new Set(['Much is being worked on right now. Try again in a minute.']));
  });

  it('lets no file keep a tester’s sheet or a cycle’s workbook waiting', async () => {
    const answered: string[] = [];
    const note = (name: string) => () => void answered.push(name);
    await Promise.all([
      ...Array.from({ length: 6 }, () => doAside('requirements', { name: 'x.csv', bytes: list(50_000) }, {}).then(note('list'))),
      doAside('turn sheet', { name: 'x.xlsx', bytes: encode('no workbook') }).then(note('sheet')),
      doAside('write workbook', [{ sheet: 'Runs', headings: ['run'], rows: [] }]).then(note('workbook')),
    ]);
    expect(answered.at(-1)).toBe('list');
    expect(answered.filter((name) => name === 'list')).toHaveLength(6);
  });
});
