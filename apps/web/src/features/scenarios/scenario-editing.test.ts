import { wireChain } from '@kindred-baton/core/scenarios/wire-chain';
import { describe, expect, it } from 'vitest';
import { createSetup, parseClasses, printClasses, setClasses, switchClass, toRowEdits, toUsed } from './rows/class-setup.ts';
import { listSources, toSourceKey } from './wiring/list-sources.ts';
import { pasteCells } from './rows/paste-cells.ts';

const field = (name: string, type: 'text' | 'number' | 'date' = 'text') => ({ name, type, required: true });
const row = (id: string, values: Record<string, string> = {}) => ({ id, name: `Row ${id}`, values });

describe('pasting a block of a spreadsheet', () => {
  const paste = (text: string, place = { row: 0, column: 0 }) => {
    let next = 0;
    return pasteCells({ rows: [row('a'), row('b')], columns: ['Band', 'Length'], text, ...place, createId: () => `new${(next += 1)}` });
  };

  it('changes the cells from there on, and adds the rows that are missing', () => {
    expect(paste('A\t5\r\nB\t10\nC\t15\n', { row: 1, column: 0 })).toEqual([
      { kind: 'change row', row: 'b', values: { Band: 'A', Length: '5' } },
      { kind: 'add row', row: { id: 'new1', name: 'Row 3', values: { Band: 'B', Length: '10' } }, before: null },
      { kind: 'add row', row: { id: 'new2', name: 'Row 4', values: { Band: 'C', Length: '15' } }, before: null },
    ]);
  });

  it('names rows by the first column, and passes over what goes beyond the last', () => {
    expect(paste('Small\tA\t5\tmore', { row: 0, column: -1 })).toEqual([
      { kind: 'change row', row: 'a', values: { Band: 'A', Length: '5' }, name: 'Small' },
    ]);
  });

  it('leaves one cell to the cell', () => expect(paste('just text')).toBeNull());
});

describe('classes', () => {
  it('are typed with commas, and switched to what they are meant as, which stays with them while others are typed', () => {
    const typed = parseClasses('A, B,*C\n!-1,, none', []);
    expect(typed.map(({ value, kind }) => `${value} ${kind}`)).toEqual(['A valid', 'B valid', '*C valid', '!-1 valid', 'none valid']);
    const switched = switchClass(switchClass(typed, 'none', 'invalid'), 'A', 'must-have');
    expect(parseClasses(printClasses(switched), switched)).toEqual(switched);
    expect(parseClasses('none, Z, a', switched).map(({ kind }) => kind)).toEqual(['invalid', 'valid', 'must-have']);
    expect(switchClass(switchClass(switched, 'none', 'must-have'), 'A', 'must-have').map(({ kind }) => kind)).toEqual([
      ...['valid', 'valid', 'valid', 'valid', 'must-have'],
    ]);
  });

  it('begin as the choices of a column, else as the values that rows have', () => {
    const columns = [{ ...field('Band'), choices: ['A', 'B'] }, field('Length')];
    const setup = createSetup(columns, [row('a', { Length: '5' }), row('b', { Length: '5' }), row('c', { Length: '10' })]);
    expect(setup.columns.map(({ classes }) => printClasses(classes))).toEqual(['A, B', '5, 10']);
    expect(toUsed(setClasses(setup, 'length', []), columns).columns.map(({ name }) => name)).toEqual(['Band']);
    expect(toUsed(setup, [columns[0]!]).columns.map(({ name }) => name)).toEqual(['Band']);
  });

  it('make rows that take the place of those that do not stay', () => {
    const made = [
      { values: { Band: 'A' }, why: 'stays' as const },
      { values: { Band: 'B' }, why: 'covers' as const, invalid: 'Band' },
    ];
    expect(toRowEdits(made, [row('a'), row('b')], new Set(['a']), () => 'new')).toEqual([
      { kind: 'remove row', row: 'b' },
      { kind: 'add row', row: { id: 'new', name: '2: B (Band invalid)', values: { Band: 'B' } }, before: null },
    ]);
  });
});

describe('where a need could come from', () => {
  const leg = (id: string, more: object) => ({ id, title: id, isOpen: false, needs: [], gives: [], ...more });
  const chain = wireChain(
    [
      leg('1', { gives: [field('Length', 'number'), field('Quote no.')] }),
      leg('2', { gives: [field('Due', 'date')] }),
      leg('3', { needs: [field('Length', 'number')], wires: [{ need: 'Length', from: { kind: 'column', column: 'Band' } }] }),
      leg('4', { gives: [field('Length', 'number')] }),
    ],
    [field('Band')],
  );
  const third = chain.legs[2]!;

  it('are earlier outputs that fit, the same name first; others converted; columns', () => {
    const { legs, converted, columns } = listSources(chain, third, field('Length', 'number'));
    expect(legs.map(({ label }) => label)).toEqual(['Leg 1: Length']);
    expect(converted.map(({ label }) => label)).toEqual(['Leg 2: Due (date)', 'Leg 1: Quote no. (text)']);
    expect(converted[0]?.from).toMatchObject({ convert: true });
    expect(columns.map(({ label }) => label)).toEqual(['Column: Band']);
  });

  it('and what is in force has its key', () => expect(toSourceKey(third, field('length'))).toBe('column band'));
});
