import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Field, FieldType } from '../values/field.ts';
import type { LegView } from './chain.ts';
import type { ComparedLeg } from './compare-scenarios.ts';
import { compareScenarios } from './compare-scenarios.ts';
import { findOverlaps } from './find-overlaps.ts';
import type { MapPlace } from './follow-map.ts';
import { findMapGaps, followMap } from './follow-map.ts';
import { compareInterfaces, reviewChange } from './review-change.ts';
import { walkThrough } from './walk-through.ts';
import { wireChain } from './wire-chain.ts';

const field = (name: string, type: FieldType = 'text', more: Partial<Field> = {}): Field => ({ name, type, required: true, ...more });
const leg = (id: string, needs: Field[], gives: Field[], more: Partial<LegView> = {}): LegView => ({
  id,
  title: id,
  isOpen: false,
  needs,
  gives,
  ...more,
});

describe('a walk-through with examples', () => {
  const chain = wireChain(
    [
      leg('apply', [field('Band')], [field('Application no.', 'code', { pattern: '\\AP-99999', example: 'AP-90341' })]),
      leg('price', [field('Application no.'), field('Pipe length', 'number')], [field('Deposit due', 'money')], {
        ownValues: { 'Pipe length': '14.5' },
      }),
    ],
    [field('Band')],
  );

  it('shows what comes in, and what the baton holds after each leg', () => {
    const walk = walkThrough(chain, { band: 'B' });
    expect(walk.map(({ needs }) => needs.map(({ value }) => `${value?.name} ${value?.value}`))).toEqual([
      ['Band B'],
      ['Application no. AP-90341', 'Pipe length 14.5'],
    ]);
    expect(walk.at(-1)?.baton.map(({ name, value, isExample }) => [name, value, isExample])).toEqual([
      ['Application no.', 'AP-90341', true],
      ['Deposit due', '120.00', true],
    ]);
  });

  it('shows what the row lacks as nothing', () => {
    expect(walkThrough(chain, {})[0]?.needs[0]?.value).toBeNull();
  });
});

describe('a change review', () => {
  const legs = [leg('1', [], [field('Quote no.')]), leg('2', [field('Quote no.', 'code')], [])];
  const before = { needs: [], gives: [field('Quote no.')], ownValues: {} };

  it('says how the interface differs', () => {
    expect(
      compareInterfaces(before, { needs: [field('Band')], gives: [field('Quote no.', 'date'), field('Due', 'money')], ownValues: {} }),
    ).toEqual(['It now needs Band.', 'It now gives Due.', 'Quote no. is now date, not text.']);
  });

  it('says of each scenario whether it fits, needs a look or breaks', () => {
    const review = (after: typeof before, columns: Field[] = []) => reviewChange({ legs, columns, changes: ['1'] }, after);
    expect(review({ ...before, gives: [field('Quote no.'), field('Due')] }).verdict).toBe('fits');
    expect(review({ ...before, gives: [field('Offer no.')] })).toMatchObject({
      verdict: 'breaks',
      brings: [{ rule: 'never-given', leg: '2' }],
    });
    expect(review({ ...before, gives: [field('Quote no.', 'date')] }).brings[0]?.rule).toBe('types-differ');
  });

  it('says what a newer version puts right', () => {
    const broken = [leg('1', [], []), leg('2', [field('Quote no.')], [])];
    expect(reviewChange({ legs: broken, columns: [], changes: ['1'] }, before)).toMatchObject({
      verdict: 'fits',
      ends: [{ rule: 'never-given' }],
    });
  });
});

describe('following the map', () => {
  const place = (code: string, parentId: string | null, isRetired = false): MapPlace => ({
    id: code,
    parentId,
    code,
    name: code,
    isRetired,
  });
  const map = [
    place('A', null),
    place('A1', 'A'),
    place('A1x', 'A1'),
    place('A1y', 'A1'),
    place('A1z', 'A1', true),
    place('B', null),
    place('B1', 'B'),
  ];
  const at = (index: number, nodeId: string | null) => ({ index, title: `Leg ${index}`, nodeId });

  it('shows the processes it passes, what it leaves out there, and where its order differs', () => {
    const [process] = followMap([at(0, 'A1y'), at(1, 'A1x'), at(2, null)], map);
    expect(process?.node.code).toBe('A1');
    expect(process?.activities.map(({ node, legs }) => `${node.code} ${legs.join(',')}`)).toEqual(['A1x 1', 'A1y 0']);
    expect(process?.reversals).toEqual([{ leg: 1, after: 0 }]);
    expect(followMap([at(0, 'A1x')], map)[0]?.activities.map(({ node }) => node.code)).toEqual(['A1x', 'A1y']);
  });

  it('finds streams with no scenario and activities in none', () => {
    const gaps = findMapGaps(map, new Set(['A1x']));
    expect(gaps.streams.map(({ code }) => code)).toEqual(['B']);
    expect(gaps.activities.map(({ code }) => code)).toEqual(['A1y', 'B1']);
  });
});

describe('comparing scenarios', () => {
  const compared = (test: string, more: Partial<ComparedLeg> = {}): ComparedLeg => ({
    ...{
      test,
      version: 1,
      title: test,
      team: 'Billing',
      persona: null,
      note: '',
      waitDays: 0,
      wires: [],
      after: [],
      people: [],
      needs: [],
      gives: [],
    },
    ...more,
  });
  const scenario = (legs: ComparedLeg[], rows: { name: string; values: Record<string, string> }[] = [], columns: Field[] = []) => ({
    name: 'S',
    legs,
    columns,
    rows,
  });

  it('tells legs that are new, gone, moved or changed, and how', () => {
    const before = scenario([compared('A'), compared('B'), compared('C'), compared('D')]);
    const after = scenario([
      compared('C'),
      compared('A'),
      compared('B', { note: 'Ring first', waitDays: 3 }),
      compared('E', { team: 'Stores' }),
    ]);
    const told = compareScenarios(before, after).legs.map((row) => [
      row.kind,
      'after' in row ? row.after.item.test : row.before.item.test,
      ...row.changes,
    ]);
    expect(told).toEqual([
      ['moved', 'C'],
      ['same', 'A'],
      ['changed', 'B', 'note: none → Ring first', 'waiting days: 0 → 3'],
      ['added', 'E'],
      ['removed', 'D'],
    ]);
  });

  it('knows a leg again that got its test', () => {
    const open = compared('', { test: null, title: 'Report a breakdown' });
    expect(
      compareScenarios(scenario([open]), scenario([compared('PLT-01', { title: 'Report a breakdown' })])).legs.map(({ kind, changes }) => [
        kind,
        ...changes,
      ]),
    ).toEqual([['changed', 'test: none → PLT-01']]);
  });

  it('tells columns and rows in sentences', () => {
    const before = scenario(
      [],
      [
        { name: 'Small', values: { Band: 'A' } },
        { name: 'Old', values: {} },
      ],
      [field('Band'), field('Gone')],
    );
    const after = scenario(
      [],
      [
        { name: 'small', values: { Band: 'B' } },
        { name: 'New', values: {} },
      ],
      [field('Band', 'code')],
    );
    expect(compareScenarios(before, after).data).toEqual([
      'Column Gone is gone.',
      'Column Band: text → code.',
      'Row “New” is new.',
      'Row “Old” is gone.',
      'Row “small”, Band: A → B.',
    ]);
    expect(compareScenarios(before, before).isSame).toBe(true);
  });
});

describe('overlap between scenarios', () => {
  it('finds one within another, the same legs twice, and shared stretches', () => {
    const found = findOverlaps([
      { code: 'S1', tests: ['a', 'b', 'c', 'd'] },
      { code: 'S2', tests: ['a', 'c', 'd'] },
      { code: 'S3', tests: ['x', 'b', 'c', 'd'] },
      { code: 'S4', tests: ['x', 'b', 'c', 'd'] },
    ]);
    expect(found.contained).toEqual([
      { inner: 'S2', outer: 'S1', isEqual: false },
      { inner: 'S4', outer: 'S3', isEqual: true },
    ]);
    expect(found.stretches.map(({ tests, places }) => `${tests.join('')} ${places.map(({ scenario }) => scenario).join('+')}`)).toEqual([
      'bcd S1+S3+S4',
      'xbcd S3+S4',
    ]);
  });

  it('finds what brute force finds (seed 4217)', () => {
    const texts = fc.array(fc.array(fc.constantFrom('a', 'b', 'c'), { minLength: 2, maxLength: 6 }), { maxLength: 6 });
    const isWithin = (part: string[], whole: string[]): boolean =>
      part.length === 0 || (whole.length > 0 && isWithin(part[0] === whole[0] ? part.slice(1) : part, whole.slice(1)));
    fc.assert(
      fc.property(texts, (tests) => {
        const found = findOverlaps(tests.map((list, i) => ({ code: String(i), tests: list }))).contained.map(
          ({ inner, outer }) => `${inner} ${outer}`,
        );
        const brute = tests.flatMap((inner, i) =>
          tests.flatMap((outer, o) => (i !== o && isWithin(inner, outer) && (inner.length < outer.length || o < i) ? [`${i} ${o}`] : [])),
        );
        expect(found.sort()).toEqual(brute.sort());
      }),
      { seed: 4217 },
    );
  });
});
