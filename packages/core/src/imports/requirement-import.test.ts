import { describe, expect, it } from 'vitest';
import type { TextTable } from '../tables/text-table.ts';
import { compareRequirements } from './compare-requirements.ts';
import type { RequirementSurroundings, StoredRequirement } from './compare-requirements.ts';
import { guessRequirementColumns, readRequirementTable } from './requirement-table.ts';

const table = (headings: readonly string[], rows: readonly (readonly string[])[]): TextTable => ({
  sheet: 'List',
  headings,
  rows: rows.map((cells, index) => ({ number: index + 2, cells })) as unknown as TextTable['rows'],
});
const read = (headings: readonly string[], ...rows: readonly (readonly string[])[]) => {
  const given = table(headings, rows);
  return readRequirementTable(given, guessRequirementColumns(given));
};

describe('the columns of a list of requirements', () => {
  it.each([
    [
      ['Req ID', 'Requirement', 'Type', 'MoSCoW', 'Linked process codes', 'Verified by tests'],
      { code: 0, title: 1, kind: 2, priority: 3, nodes: 4, tests: 5 },
    ],
    [['Nr', 'Statement', 'Details'], { code: 0, title: 1, description: 2 }],
    [['Test cases', 'Name'], { tests: 0, title: 1 }],
  ])('are guessed from headings: %s', (headings, columns) => expect(guessRequirementColumns(table(headings, []))).toEqual(columns));

  it('take the text for what must hold where nothing else says it, and leave no empty place behind', () => {
    const columns = guessRequirementColumns(table(['Key', 'Text'], []));
    expect(columns).toEqual({ code: 0, title: 1 });
    expect('description' in columns).toBe(false);
  });
});

describe('a list of requirements', () => {
  it('is read row by row; what is empty says nothing, and links are split', () => {
    const { entries, problems } = read(
      ['Code', 'Title', 'Kind', 'Priority', 'Tests', 'Processes'],
      ['R-1', ' A  charge\nis shown ', 'Business rule', 'must', 'T-1, T-2;T-3', 'P1|P2'],
      ['R-2', 'Two', '', '', '', ''],
      ['', '', '', '', '', ''],
    );
    expect(problems).toEqual([]);
    expect(entries).toEqual([
      expect.objectContaining({
        code: 'R-1',
        title: 'A charge is shown',
        kind: 'business',
        priority: 'high',
        tests: ['T-1', 'T-2', 'T-3'],
        nodes: ['P1', 'P2'],
      }),
      expect.objectContaining({ code: 'R-2', kind: undefined, priority: undefined, tests: [], nodes: [] }),
    ]);
    expect(read(['Code', 'Title'], ['R-1', 'One']).entries[0]).toMatchObject({
      tests: undefined,
      nodes: undefined,
      description: undefined,
    });
  });

  it('says of each row what is wrong with it, and where', () => {
    const { problems } = read(
      ['Code', 'Title', 'Kind', 'Priority'],
      ['', 'No code', '', ''],
      ['R 1', 'Bad', '', ''],
      ['R-1', 'Good', '', ''],
      ['R-1', 'Twice', 'odd', 'soon'],
      ['R-3', '', '', ''],
      [`R${'x'.repeat(40)}`, 'Long', '', ''],
    );
    expect(problems.map(({ row, column, message }) => [row, column, message])).toEqual([
      [2, 'Code', '“No code” has no code.'],
      [3, 'Code', '“R 1” is not a code: letters, digits, points, hyphens and underscores, at most 40.'],
      [5, 'Code', 'Code R-1 stands there twice.'],
      [5, 'Kind', '“odd” is not a kind. Known: business, functional, performance, acceptance.'],
      [5, 'Priority', '“soon” is not a priority. Known: high, medium, low.'],
      [6, 'Title', 'R-3 does not say what must hold.'],
      [7, 'Code', `“R${'x'.repeat(39)}” is not a code: letters, digits, points, hyphens and underscores, at most 40.`],
    ]);
  });
});

describe('a list compared with what is there', () => {
  const stored = (code: string, more: Partial<StoredRequirement> = {}): StoredRequirement => ({
    ...{ code, title: `Title ${code}`, description: '', kind: 'business', priority: 'low', nodes: ['P1'], tests: ['T-2', 'T-1'] },
    ...more,
  });
  const around: RequirementSurroundings = { requirements: [stored('R-1'), stored('R-2')], nodes: ['P1', 'P2'], tests: ['T-1', 'T-2'] };
  const entry = (code: string, more = {}) => ({ place: { sheet: 'List', row: 2 }, code, title: `Title ${code}`, ...more });

  it('finds what is new, changed and the same; what the list does not say stays, and order of links says nothing', () => {
    const { differences, missing, problems } = compareRequirements(
      [entry('R-1', { tests: ['T-1', 'T-2', 'T-1'], description: '\r\n' }), entry('R-9', { priority: 'high' })],
      around,
    );
    expect(differences.map(({ kind, code }) => [kind, code])).toEqual([
      ['same', 'R-1'],
      ['new', 'R-9'],
    ]);
    expect(differences[1]?.after).toEqual({
      code: 'R-9',
      title: 'Title R-9',
      description: '',
      kind: 'functional',
      priority: 'high',
      nodes: [],
      tests: [],
    });
    expect([missing, problems]).toEqual([['R-2'], []]);
  });

  it('shows each changed field before and after', () => {
    const [{ kind, changes, after } = { kind: '', changes: [], after: null }] = compareRequirements(
      [entry('R-2', { title: 'Other', nodes: ['P2', 'P1'], kind: 'functional' })],
      around,
    ).differences;
    expect([kind, changes]).toEqual([
      'changed',
      [
        { field: 'title', before: 'Title R-2', after: 'Other' },
        { field: 'kind', before: 'business', after: 'functional' },
        { field: 'nodes', before: 'P1', after: 'P1 P2' },
      ],
    ]);
    expect(after).toMatchObject({ priority: 'low', tests: ['T-2', 'T-1'] });
  });

  it('names links to what is not there', () => {
    const { problems } = compareRequirements([entry('R-1', { nodes: ['P9'], tests: ['T-9', 'T-1'] })], around);
    expect(problems.map(({ message }) => message)).toEqual([
      'Node P9, linked by R-1, is not on the map.',
      'Test T-9, linked by R-1, is not in the library.',
    ]);
  });
});
