import type { OutlineTest } from '@kindred-baton/store/demo/read-outline';
import { readOutline } from '@kindred-baton/store/demo/read-outline';
import { createRowValues } from '@kindred-baton/store/demo/row-values';
import { SCENARIO_PLANS } from '@kindred-baton/store/demo/scenario-plans';
import { LEAK_TO_REPAIR } from '@kindred-baton/store/demo/streams/leak-to-repair';
import { MATERIALS_IN, PLANT_UPKEEP } from '@kindred-baton/store/demo/streams/materials-and-plant';
import { NEW_SUPPLY } from '@kindred-baton/store/demo/streams/new-supply';
import { READING_TO_BILL } from '@kindred-baton/store/demo/streams/reading-to-bill';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Session } from '@kindred-baton/runner/browser/open-session';
import type { Practice } from '../support/practice.ts';
import { openPractice } from '../support/practice.ts';

const STREAMS = [NEW_SUPPLY, LEAK_TO_REPAIR, READING_TO_BILL, MATERIALS_IN, PLANT_UPKEEP];
const TESTS = new Map<string, OutlineTest>(
  STREAMS.flatMap((stream) => readOutline(stream).tests.map((test) => [test.code, test] as const)),
);

const legsOf = (scenario: string) =>
  SCENARIO_PLANS.find(({ code }) => code === scenario)!
    .legs.split(' ')
    .map((leg) => leg.split('<')[0]!);

/** A whole scenario of each stream, and after it tests that no scenario has, or another one, with what was carried so far. */
const WAYS: readonly { readonly scenario: string; readonly row: number; readonly then: string }[] = [
  { scenario: 'NS-S1', row: 1, then: 'BIL-06 CUS-05 CUS-06 FIN-03 CUS-11 MET-02 CUS-02 CUS-04 BIL-04 BIL-03 FIN-02 BIL-05 BIL-02 CUS-03' },
  { scenario: 'LR-S1', row: 3, then: 'CUS-08 CUS-09 FLD-08 FLD-09 BIL-10' },
  { scenario: 'RB-S1', row: 7, then: 'FIN-08 MET-03 MET-06 MET-05 BIL-11 BIL-13 FIN-07 CUS-12' },
  { scenario: 'MI-S1', row: 2, then: 'FLD-10 STO-04 STO-05 STO-07 FIN-09' },
  { scenario: 'PU-S1', row: 0, then: '' },
];
const NAMES = [
  ...[
    'Customer',
    'Customer band',
    'Length measured',
    'Charge expected',
    'First reading',
    'Discount',
    'Place',
    'How bad',
    'Cause',
    'Crew hours',
  ],
  ...['District', 'Tariff', 'Total expected', 'Material', 'Quantity', 'Invoice amount', 'Plant', 'Interval', 'Hours run'],
];

describe('the practice application', { timeout: 180_000, retry: 2 }, () => {
  let practice: Practice;
  beforeAll(async () => {
    practice = await openPractice();
    await practice.deploy('rehearsal', { faults: [] });
  }, 60_000);
  afterAll(() => practice.close());

  const walk = async ({ scenario, row, then }: (typeof WAYS)[number]) => {
    const baton: Record<string, string> = { 'Own reading': '348', ...createRowValues({ index: row, names: NAMES }) };
    const done: string[] = [];
    // Whoever works in an application stays signed in to it, as people do.
    const sessions = new Map<string, Session>();
    for (const code of [...legsOf(scenario), ...then.split(' ').filter((word) => word !== '')]) {
      const test = TESTS.get(code)!;
      const session = sessions.get(test.application) ?? (await practice.open());
      sessions.set(test.application, session);
      const { outcome, steps, kept } = await practice.run(test.steps, baton, { session });
      const last = steps.at(-1);
      expect([
        scenario,
        code,
        outcome,
        outcome === 'passed' ? '' : `step ${(last?.index ?? 0) + 1}: ${last?.note} ${last?.actual}`,
      ]).toEqual([scenario, code, 'passed', '']);
      expect(steps).toHaveLength(test.steps.length);
      Object.assign(baton, kept);
      done.push(code);
    }
    for (const session of sessions.values()) await session.close();
    return done;
  };

  it('lets a runner do every test of the demo in its own words, a scenario of each stream from end to end', async () => {
    const queue = [...WAYS];
    const done: string[] = [];
    const work = async () => {
      for (let next = queue.shift(); next; next = queue.shift()) done.push(...(await walk(next)));
    };
    await Promise.all([work(), work()]);
    expect([...TESTS.keys()].filter((code) => !done.includes(code))).toEqual([]);
  });
});
