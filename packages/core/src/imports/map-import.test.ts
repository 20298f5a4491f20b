import { describe, expect, it } from 'vitest';
import { DEFAULT_CODE_SCHEME } from '../map/code-scheme.ts';
import type { MapSurroundings } from './compare-map.ts';
import { compareMap, countKinds } from './compare-map.ts';
import { toMapEdits } from './choose-differences.ts';
import { findCodeParents } from './find-code-parents.ts';
import { guessMapMapping, readMapTable } from './map-table.ts';
import type { TextTable } from '../tables/text-table.ts';

const table = (headings: string[], ...rows: (string[] | [number, ...string[]])[]): TextTable => ({
  sheet: 'List',
  headings,
  rows: rows.map((row, index) => {
    const [first, ...rest] = row;
    const indent = typeof first === 'number' ? first : 0;
    return { number: index + 2, indent, cells: typeof first === 'number' ? (rest as string[]) : (row as string[]) };
  }),
});
const read = (list: TextTable) => {
  const mapping = guessMapMapping(list);
  const { entries, problems } = readMapTable(list, mapping);
  return {
    hierarchy: mapping.hierarchy,
    lines: entries.map(({ code, name, parent }) => [code, name, entries[parent]?.name ?? null]),
    entries,
    problems,
  };
};

describe('a process list', () => {
  it('has its hierarchy in a parent column, children before their parents too, by code or by name', () => {
    const { hierarchy, lines } = read(
      table(['ID', 'Process name', 'Parent process'], ['2', 'Quote', '1'], ['1', 'Sell', ''], ['3', 'Price', 'Quote']),
    );
    expect(hierarchy).toBe('parent');
    expect(lines).toEqual([
      ['1', 'Sell', null],
      ['2', 'Quote', 'Sell'],
      ['3', 'Price', 'Quote'],
    ]);
  });

  it('has it in dotted codes', () => {
    const { hierarchy, lines } = read(table(['No.', 'Title'], ['1', 'Sell'], ['1.1', 'Quote'], ['1.1.2', 'Price'], ['1.2.1', 'Send']));
    expect(hierarchy).toBe('codes');
    expect(lines.map(([, name, parent]) => [name, parent])).toEqual([
      ['Sell', null],
      ['Quote', 'Sell'],
      ['Price', 'Quote'],
      ['Send', 'Sell'],
    ]);
  });

  it('has it in one column a level, merged or repeated', () => {
    const { hierarchy, lines } = read(
      table(['Level 1', 'Level 2', 'Level 3'], ['Sell', 'Quote', 'Price'], ['', '', 'Send'], ['Sell', 'Bill', ''], ['Mend', '', '']),
    );
    expect(hierarchy).toBe('levels');
    expect(lines.map(([, name, parent]) => [name, parent])).toEqual([
      ['Sell', null],
      ['Quote', 'Sell'],
      ['Price', 'Quote'],
      ['Send', 'Quote'],
      ['Bill', 'Sell'],
      ['Mend', null],
    ]);
  });

  it('has it in the indentation', () => {
    const { hierarchy, lines } = read(table(['Process'], [0, 'Sell'], [2, 'Quote'], [4, 'Price'], [2, 'Bill']));
    expect(hierarchy).toBe('indent');
    expect(lines.map(([, name, parent]) => [name, parent])).toEqual([
      ['Sell', null],
      ['Quote', 'Sell'],
      ['Price', 'Quote'],
      ['Bill', 'Sell'],
    ]);
  });

  it('tells what is wrong with its place: a code twice, a name missing, a circle', () => {
    const { problems } = read(
      table(['Code', 'Name', 'Parent'], ['1', 'A', '2'], ['2', 'B', '1'], ['3', '', ''], ['4', 'D', ''], ['4', 'E', '']),
    );
    expect(problems.map(({ row, message }) => `${row}: ${message}`)).toEqual([
      '4: 3 has no name.',
      '6: Code 4 stands in row 5 already.',
      '2: 1 is its own parent in the end; one of its parents has to be another.',
      '3: 2 is its own parent in the end; one of its parents has to be another.',
    ]);
  });
});

describe('the parent that a code has by its shape', () => {
  it.each([
    [
      ['NS', 'NS-2', 'NS-2.1', 'NS-10'],
      [null, 'NS', 'NS-2', 'NS'],
    ],
    [
      ['31-33', '311', '3111', '48', '481'],
      [null, '31-33', '311', null, '48'],
    ],
    [
      ['1', '1.2.3', '12', 'A B', 'A'],
      [null, '1', '1', 'A', null],
    ],
    [
      ['X1', 'X12'],
      [null, 'X1'],
    ],
  ])('%j', (codes, parents) => expect(findCodeParents(codes)).toEqual(parents));
});

describe('a list against the map', () => {
  const state = (code: string, parent: string | null, more: object = {}) => ({
    ...{
      code,
      parent,
      name: `N ${code}`,
      description: '',
      team: null,
      application: null,
      owner: null,
      isCritical: false,
      isRetired: false,
    },
    ...more,
  });
  const around: MapSurroundings = {
    nodes: [
      state('A', null),
      state('A-1', 'A', { team: 'Field' }),
      state('A-2', 'A'),
      state('A-3', 'A', { isRetired: true }),
      state('B', null),
    ],
    ...{ levels: ['a', 'b', 'c'], scheme: DEFAULT_CODE_SCHEME, teams: ['Field', 'Office'], applications: [], people: [] },
  };
  const compare = (list: TextTable, below: string | null = null) =>
    compareMap(readMapTable(list, guessMapMapping(list)).entries, around, { below });

  it('says what is new, changed field by field, moved and missing; a retired node is not missed', () => {
    const { differences } = compare(
      table(
        ['Code', 'Name', 'Parent', 'Team'],
        ['A', 'N A', '', ''],
        ['A-1', 'Renamed', 'A', 'Office'],
        ['A-2', 'N A-2', 'B', ''],
        ['B', 'N B', '', ''],
        ['B-7', 'New one', 'B', 'field'],
      ),
    );
    expect(
      differences.map(({ kind, code, changes }) => [
        kind,
        code,
        changes.map(({ field, before, after }) => `${field}: ${before} → ${after}`),
      ]),
    ).toEqual([
      ['same', 'A', []],
      ['changed', 'A-1', ['name: N A-1 → Renamed', 'team: Field → Office']],
      ['same', 'B', []],
      ['moved', 'A-2', []],
      ['new', 'B-7', []],
    ]);
    expect(countKinds(compare(table(['Code', 'Name'], ['A', 'N A'])).differences)).toEqual({
      new: 0,
      changed: 0,
      moved: 0,
      same: 1,
      missing: 3,
    });
  });

  it('knows nodes without codes by their names below the same parent, and numbers new ones', () => {
    const { differences } = compare(table(['Level 1', 'Level 2'], ['n a', 'N  A-1'], ['n a', 'Fresh'], ['Later', '']));
    expect(differences.filter(({ kind }) => kind !== 'missing').map(({ kind, code }) => [kind, code])).toEqual([
      ['changed', 'A'],
      ['same', 'A-1'],
      ['new', 'A-4'],
      ['new', 'LAT'],
    ]);
  });

  it('takes siblings of one name for as many nodes, first and again', () => {
    const twins = table(['Name'], ['Fresh'], ['  Check'], ['  Pay'], ['  Check']);
    const { entries } = readMapTable(twins, guessMapMapping(twins));
    const first = compareMap(entries, around, { below: null }).differences.filter(({ kind }) => kind !== 'missing');
    expect(first.map(({ kind, name }) => [kind, name])).toEqual([
      ['new', 'Fresh'],
      ['new', 'Check'],
      ['new', 'Pay'],
      ['new', 'Check'],
    ]);
    const stored = first.map(({ code, name, parent }) => ({ ...around.nodes[0]!, code, name, parent, isRetired: false }));
    const again = compareMap(entries, { ...around, nodes: stored }, { below: null }).differences;
    expect(again.map(({ kind, code }) => [kind === 'new' || kind === 'missing', code])).toEqual(first.map(({ code }) => [false, code]));
  });

  it('goes below a node of the map, and tells what is too deep or unknown', () => {
    const list = table(['Code', 'Name', 'Team'], ['1', 'One', 'Nobody'], ['1.1', 'Two', 'Nobody'], ['1.1.1', 'Three', '']);
    const { differences, problems } = compare(list, 'A');
    const { entries } = readMapTable(list, guessMapMapping(list));
    expect(compareMap(entries.slice(0, 2), around, { below: 'A', addsNames: true })).toMatchObject({ newTeams: ['Nobody'], problems: [] });
    expect(differences.filter(({ kind }) => kind === 'new').map(({ code, depth, parent }) => [code, depth, parent])).toEqual([
      ['1', 1, 'A'],
      ['1.1', 2, '1'],
      ['1.1.1', 3, '1.1'],
    ]);
    expect(problems.map(({ message }) => message)).toEqual([
      expect.stringMatching(/^Three would stand on level 4/),
      'Team “Nobody” is not in this programme. Known: Field, Office.',
    ]);
  });

  it('is taken in by branches; missing nodes are kept, retired or removed', () => {
    const { differences } = compare(
      table(['Code', 'Name', 'Parent'], ['A', 'New name', ''], ['A-1', 'Other', 'A'], ['C', 'C', ''], ['C-1', 'C1', 'C']),
    );
    const made = (leftOut: string[], missing: 'keep' | 'retire' | 'remove') =>
      toMapEdits(differences, { leftOut, missing }).map(
        (edit) => `${edit.kind} ${edit.kind === 'move' ? '' : edit.kind === 'remove' ? edit.codes.join() : edit.code}`,
      );
    expect(made([], 'keep')).toEqual(['change A', 'change A-1', 'add C', 'add C-1']);
    expect(made(['A'], 'keep')).toEqual(['add C', 'add C-1']);
    expect(made(['A', 'C'], 'retire')).toEqual(['change B']);
    expect(made(['C'], 'remove')).toEqual(['change A', 'change A-1', 'remove A-2', 'remove B']);
  });
});
