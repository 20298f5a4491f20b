import { describe, expect, it } from 'vitest';
import { findLane, readWorkshopText } from './read-workshop-line.ts';
import type { ProposableTest } from './propose-tests.ts';
import { proposeTests } from './propose-tests.ts';

const read = (text: string) =>
  readWorkshopText(text).map(({ lane, title, needs, gives }) =>
    [lane ?? '–', title, needs.map(({ name }) => name).join('+'), gives.map(({ name, type }) => `${name}:${type}`).join('+')].join(' | '),
  );

describe('legs as lines', () => {
  it('take lane, words, needed and given values from the line', () => {
    expect(read('Field crews: fit the meter → meter serial')).toEqual(['Field crews | Fit the meter |  | Meter serial:text']);
    expect(read('Billing: price the quote (survey no., pipe length) -> quote no. and deposit due')).toEqual([
      'Billing | Price the quote | Survey no.+Pipe length | Quote no.:text+Deposit due:money',
    ]);
    expect(read('Finance: record the deposit needs the quote no. => receipt no.')).toEqual([
      'Finance | Record the deposit | Quote no. | Receipt no.:text',
    ]);
  });

  it('tell a lane from words also where nothing stands between, and a time of day from a lane', () => {
    expect(read('Desk:x')).toEqual(['Desk | X |  | ']);
    expect(read('Ring at 9:30')).toEqual(['– | Ring at 9:30 |  | ']);
    expect(read('Ring the customer:')).toEqual(['– | Ring the customer |  | ']);
  });

  it('read numbered and bulleted lists, and leave empty lines out', () => {
    expect(read('1. Stores: reserve a meter\n\n  • Fit it\n- 2 meters at once')).toEqual([
      'Stores | Reserve a meter |  | ',
      '– | Fit it |  | ',
      '– | 2 meters at once |  | ',
    ]);
  });

  it('read rows of a spreadsheet', () => {
    expect(read('Metering\tregister the meter\tMeter serial\tAccount no.; Start date')).toEqual([
      'Metering | Register the meter | Meter serial | Account no.:text+Start date:date',
    ]);
  });

  it('keep what they cannot take apart', () => {
    expect(read('→ meter serial\nremember: \nTake the call at 10:30 and log it')).toEqual([
      '– | → meter serial |  | Meter serial:text',
      '– | Remember |  | ',
      '– | Take the call at 10:30 and log it |  | ',
    ]);
  });
});

describe('a lane', () => {
  const teams = ['Customer desk', 'Field crews', 'Metering', 'Billing'].map((name) => ({ name }));
  it('is the team that its words name', () => {
    expect(
      ['field crews', 'Field', 'The customer desk', 'Crew', 'Meter', 'Legal'].map((lane) => findLane(lane, teams)?.name ?? null),
    ).toEqual(['Field crews', 'Field crews', 'Customer desk', 'Field crews', 'Metering', null]);
  });
});

describe('proposals for an open leg', () => {
  const field = (name: string) => ({ name, type: 'text' as const });
  const test = (code: string, name: string, team: string, needs: string[], gives: string[]): ProposableTest => ({
    ...{ code, name, team },
    needs: needs.map(field),
    gives: gives.map(field),
  });
  const library = [
    test('FLD-03', 'Fit the meter', 'Field crews', ['Job no.'], ['Meter serial']),
    test('MET-01', 'Register the meter', 'Metering', ['Meter serial'], ['Account no.']),
    test('BIL-01', 'Price the quote', 'Billing', ['Survey no.'], ['Quote no.']),
    test('BIL-03', 'Reprice the quote', 'Billing', ['Quote no.'], ['Quote no.']),
  ];
  const propose = (title: string, team: string | null, gives: string[] = []) =>
    proposeTests({ title, team, needs: [], gives: gives.map(field) }, library);

  it('come with the best first and their reasons', () => {
    const [best] = propose('Fitting of meters', 'Field crews', ['Meter serial']);
    expect(best).toMatchObject({ code: 'FLD-03', reasons: ['same words: fit, meter', 'gives Meter serial', 'also Field crews'] });
    expect(propose('Price a quote', null)[0]?.code).toBe('BIL-01');
  });

  it('are none where nothing fits', () => {
    expect(propose('Train the night watch', 'Legal')).toEqual([]);
  });
});

describe('how well a test fits', () => {
  const test = (code: string, name: string, gives: string[] = []) => ({
    ...{ code, name, team: null as string | null, needs: [] },
    gives: gives.map((give) => ({ name: give, type: 'text' as const, required: true })),
  });
  const leg = { title: 'Price the quote', team: null, needs: [], gives: [] };

  it('is the share of words that both have, twice over both (L. R. Dice 1945), rarer words counting more', () => {
    const [same] = proposeTests(leg, [test('A', 'Price the quote'), test('B', 'Mend the lamp')]);
    expect(same?.score).toBeCloseTo(0.9, 9);
    // Four words that occur once each weigh the same: two shared of three here and two there is 4/5 of the words' share.
    const [part] = proposeTests({ ...leg, title: 'Price quote twice' }, [test('A', 'Price quote')]);
    const weight = (found: number) => Math.log(1 + 1 / Math.max(1, found));
    const [known, rare] = [weight(1), weight(0)];
    expect(part?.score).toBeCloseTo((0.9 * 4 * known) / (2 * known + rare + 2 * known), 2);
  });

  it('comes in the order of its score, then of its code, as many as are asked for', () => {
    const tests = ['C', 'A', 'B'].map((code) => test(code, 'Price the quote'));
    expect(proposeTests(leg, tests, 2).map(({ code }) => code)).toEqual(['A', 'B']);
  });
});
