import { compareRequirements } from '@kindred-baton/core/imports/compare-requirements';
import type { StoredRequirement } from '@kindred-baton/core/imports/compare-requirements';
import { describe, expect, it } from 'vitest';
import { writeCsv, writeXlsx } from '../tables/write-tables.ts';
import { readRequirementFile, toRequirementTable } from './requirement-files.ts';
import { writeReqif } from './write-reqif.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const make = (code: string, more: Partial<StoredRequirement> = {}): StoredRequirement => ({
  ...{ code, title: `What ${code} asks`, description: '', kind: 'functional', priority: 'medium', nodes: [], tests: [] },
  ...more,
});
const LIST: readonly StoredRequirement[] = [
  make('RQ-1', { kind: 'business', priority: 'high', nodes: ['NS-1', 'NS-2.1'], tests: ['BIL-01'] }),
  make('RQ-2', { title: 'Less than 2 s & "quick" <enough>', description: 'Two lines\nof *text*', kind: 'performance' }),
  make('RQ-3', { title: '=דרישה', priority: 'low', kind: 'acceptance', tests: ['BIL-01', 'BIL-02'] }),
];
const around = (requirements: readonly StoredRequirement[]) => ({ requirements, nodes: ['NS-1', 'NS-2.1'], tests: ['BIL-01', 'BIL-02'] });
const read = (name: string, bytes: Uint8Array) => readRequirementFile({ name, bytes }, {});
const readText = (text: string) => read('list.csv', encode(text));

describe('writing requirements and reading them again is the identity', () => {
  it.each<[string, () => Promise<Uint8Array> | Uint8Array]>([
    ['list.xlsx', () => writeXlsx([toRequirementTable(LIST)])],
    ['list.csv', () => writeCsv(toRequirementTable(LIST))],
    ['list.reqif', () => encode(writeReqif(LIST, { title: 'Brindlemere', at: '2026-11-25T10:00:00Z' }))],
  ])('%s', async (name, write) => {
    const { entries, problems } = await read(name, await write());
    expect(problems).toEqual([]);
    const { differences, missing } = compareRequirements(entries, around(LIST));
    expect(differences.map(({ kind, changes }) => [kind, changes])).toEqual(LIST.map(() => ['same', []]));
    expect(missing).toEqual([]);
  });
});

describe('a list of requirements', () => {
  it('of another programme is read by its headings, kinds and priorities', async () => {
    const { entries, problems } = await readText(
      'Req. ID;Requirement;Type;MoSCoW;Process codes;Test cases\nR1;A deposit is taken once;Business requirement;Must have;NS-1, NS-2.1;BIL-01\n',
    );
    expect(problems).toEqual([]);
    expect(entries[0]).toMatchObject({ code: 'R1', kind: 'business', priority: 'high', nodes: ['NS-1', 'NS-2.1'], tests: ['BIL-01'] });
  });

  it('changes only what it says: a column that is not there leaves what is', async () => {
    const { entries } = await readText('Code,Title\nRQ-1,Another title\nRQ-9,A new one\n');
    const { differences, missing } = compareRequirements(entries, around(LIST));
    expect(differences.map(({ kind, code, changes }) => [kind, code, changes.map(({ field }) => field)])).toEqual([
      ['changed', 'RQ-1', ['title']],
      ['new', 'RQ-9', []],
    ]);
    expect(differences[0]?.after).toMatchObject({ kind: 'business', nodes: ['NS-1', 'NS-2.1'] });
    expect(missing).toEqual(['RQ-2', 'RQ-3']);
  });

  it('tells what is wrong, with its place', async () => {
    const { entries, problems } = await readText('Code,Title,Kind,Priority,Tests\nRQ 1,A,colour,sky,BIL-09\n,B,,,\nRQ-2,,,,\nRQ-2,C,,,\n');
    expect(problems.map(({ row, message }) => [row, message])).toEqual([
      [2, '“RQ 1” is not a code: letters, digits, points, hyphens and underscores, at most 40.'],
      [2, '“colour” is not a kind. Known: business, functional, performance, acceptance.'],
      [2, '“sky” is not a priority. Known: high, medium, low.'],
      [3, '“B” has no code.'],
      [4, 'RQ-2 does not say what must hold.'],
      [5, 'Code RQ-2 stands there twice.'],
    ]);
    expect(compareRequirements(entries, around([])).problems.map(({ message }) => message)).toEqual([
      'Test BIL-09, linked by RQ 1, is not in the library.',
    ]);
  });

  it('as XML that is no ReqIF, or is cut short, is a sentence', async () => {
    const whole = writeReqif(LIST, { title: 'B', at: '2026-11-25T10:00:00Z' });
    expect((await read('x.reqif', encode('<a/>'))).problems[0]?.message).toBe('The file is XML, but not ReqIF: it has no REQ-IF-CONTENT.');
    expect((await read('x.reqif', encode(whole.slice(0, whole.length / 2)))).problems[0]?.message).toMatch(
      /not well-formed XML, or its end is missing/,
    );
  });
});
