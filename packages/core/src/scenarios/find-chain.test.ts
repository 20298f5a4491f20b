import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { ChainTest } from './chain-library.ts';
import { createChainLibrary } from './chain-library.ts';
import { findChain } from './find-chain.ts';
import { findFindings } from './findings/rules.ts';
import { wireChain } from './wire-chain.ts';

const field = (name: string, type: Field['type'] = 'text'): Field => ({ name, type, required: true });
const test = (code: string, needs: string, gives: string, minutes = 10): ChainTest => ({
  ...{ code, name: `Test ${code}`, minutes, ownValues: {} },
  needs: needs
    .split(' ')
    .filter(Boolean)
    .map((name) => field(name)),
  gives: gives
    .split(' ')
    .filter(Boolean)
    .map((name) => field(name)),
});
const find = (tests: ChainTest[], goal: string, atHand: string[] = []) => {
  const chain = findChain(
    createChainLibrary(tests),
    tests.some(({ code }) => code === goal) ? { kind: 'test', code: goal } : { kind: 'value', name: goal },
    atHand,
  );
  return (
    chain &&
    `${chain.legs.map((leg) => leg.test.code).join(' ')} = ${chain.minutes}${chain.missing.map(({ need }) => ` ?${need.name}`).join('')}`
  );
};

describe('the cheapest chain', () => {
  const library = [
    test('apply', 'name', 'application'),
    test('survey', 'application', 'survey length', 30),
    test('estimate', 'application', 'survey', 20),
    test('price', 'survey length', 'quote', 15),
    test('pay', 'quote', 'receipt', 5),
  ];

  it('goes from what is there to the goal, in order, and says what nothing gives', () => {
    expect(find(library, 'pay')).toBe('apply survey price pay = 60 ?name');
    expect(find(library, 'receipt', ['name'])).toBe('apply survey price pay = 60');
    expect(find(library, 'receipt', ['quote'])).toBe('pay = 5');
  });

  it('says why each test is in it', () => {
    const chain = findChain(createChainLibrary(library), { kind: 'value', name: 'Receipt' });
    expect(chain?.legs.map(({ gives }) => gives.map(({ value, to }) => `${value}→${to}`).join(' '))).toEqual([
      'application→survey',
      'survey→price length→price',
      'quote→pay',
      'Receipt→the goal',
    ]);
  });

  it('takes a dearer test that two others share', () => {
    // Each need alone is cheapest from its own test (6 + 6); one test of 9 gives both.
    expect(find([test('a', '', 'x', 6), test('b', '', 'y', 6), test('c', '', 'x y', 9), test('goal', 'x y', '', 1)], 'goal')).toBe(
      'c goal = 10',
    );
  });

  it('passes over what has another type, and finds nothing where nothing gives the goal', () => {
    const dated = { ...test('a', '', ''), gives: [field('due', 'date')] };
    const typed = { ...test('b', '', ''), needs: [field('due', 'money')] };
    expect(find([dated, typed], 'b')).toBe('b = 10 ?due');
    expect(find([dated], 'nothing')).toBeUndefined();
  });

  it('gets out of a circle by a value from outside, and says which', () => {
    const chain = findChain(createChainLibrary([test('a', 'x', 'y'), test('b', 'y', 'x'), test('goal', 'x', '')]), {
      kind: 'test',
      code: 'goal',
    });
    expect(chain?.missing.map(({ need, why }) => `${need.name}: ${why}`)).toEqual(['x: only what needs it gives it']);
  });

  const VALUES = ['p', 'q', 'r', 's', 't', 'u'];
  const names = fc.uniqueArray(fc.constantFrom(...VALUES), { maxLength: 2 });
  const tests = fc
    .array(fc.record({ needs: names, gives: names, minutes: fc.integer({ min: 1, max: 9 }) }), { minLength: 1, maxLength: 7 })
    .map((list) => list.map(({ needs, gives, minutes }, i) => test(`t${i}`, needs.join(' '), gives.join(' '), minutes)));

  /** Plain: every set of tests with every set of values from outside; the fewest of those, then the fewest that nothing gives, then the minutes. */
  const findBest = (list: readonly ChainTest[], goal: string) => {
    const givable = new Set(list.flatMap(({ gives }) => gives.map(({ name }) => name)));
    const subsets = <Item>(items: readonly Item[]) =>
      Array.from({ length: 2 ** items.length }, (_, bits) => items.filter((_each, i) => (bits >> i) % 2 === 1));
    let best = [Infinity, Infinity, Infinity];
    for (const outside of subsets([...givable])) {
      if (outside.length > (best[0] ?? 0)) continue;
      for (const chosen of subsets(list)) {
        if (!chosen.some(({ code }) => code === goal)) continue;
        const held = new Set(outside);
        const left = [...chosen];
        for (let i = 0; i >= 0;) {
          i = left.findIndex(({ needs }) => needs.every(({ name }) => held.has(name) || !givable.has(name)));
          const [next] = i >= 0 ? left.splice(i, 1) : [];
          next?.gives.forEach(({ name }) => held.add(name));
        }
        if (left.length > 0) continue;
        const lacks = new Set(
          chosen.flatMap(({ needs, ownValues }) => needs.flatMap(({ name }) => (givable.has(name) || ownValues[name] ? [] : [name]))),
        );
        const cost = [outside.length, lacks.size, chosen.reduce((sum, { minutes }) => sum + minutes, 0)];
        const at = cost.findIndex((value, i) => value !== best[i]);
        if (at >= 0 && (cost[at] ?? 0) < (best[at] ?? 0)) best = cost;
      }
    }
    return best;
  };

  it('lacks the least, and is then the cheapest, by brute force over all sets of tests (seed 4217)', () => {
    const own = fc.array(fc.constantFrom(...VALUES), { maxLength: 1 });
    fc.assert(
      fc.property(tests, fc.array(own, { minLength: 7, maxLength: 7 }), (plain, owns) => {
        const list = plain.map((each, i) => ({ ...each, ownValues: Object.fromEntries((owns[i] ?? []).map((name) => [name, '1'])) }));
        const chain = findChain(createChainLibrary(list), { kind: 'test', code: 't0' });
        const [outside, lacks, minutes] = findBest(list, 't0');
        const count = (why: string, isOwnCounted: boolean) =>
          chain?.missing.filter((value) => value.why === why && (isOwnCounted || value.own === null)).length;
        expect([count('only what needs it gives it', true), count('nothing gives it', false), chain?.minutes]).toEqual([
          outside,
          lacks,
          minutes,
        ]);
        if (chain?.isCheapest) expect(chain.missing.every((value) => value.own !== null)).toBe(true);
      }),
      { seed: 4217, numRuns: 250 },
    );
  });

  it('takes the nearer of two that cost the same, says which streams it draws on, and still calls the cheaper one cheapest', () => {
    const from = (stream: string, each: ChainTest): ChainTest => ({ ...each, stream });
    const goal = from('Bills', test('goal', 'x', ''));
    const chainOf = (...list: ChainTest[]) => findChain(createChainLibrary([goal, ...list]), { kind: 'test', code: 'goal' });
    const near = from('Bills', test('near', '', 'x'));
    const far = from('Stores', test('far', '', 'x'));
    for (const list of [
      [near, far],
      [far, near],
    ]) {
      const chain = chainOf(...list);
      expect([chain?.legs[0]?.test.code, chain?.otherStreams, chain?.isCheapest]).toEqual(['near', [], true]);
    }
    expect(chainOf(from('Bills', test('near', '', 'x', 12)), far)).toMatchObject({
      otherStreams: ['Stores'],
      minutes: 20,
      isCheapest: true,
    });
  });

  it('always wires clean, with a column for what is missing (seed 4217)', () => {
    fc.assert(
      fc.property(tests, (list) => {
        const chain = findChain(createChainLibrary(list), { kind: 'test', code: 't0' });
        const legs = (chain?.legs ?? []).map((leg) => ({
          id: leg.test.code,
          title: leg.test.name,
          isOpen: false,
          needs: leg.test.needs,
          gives: leg.test.gives,
        }));
        const columns = (chain?.missing ?? []).map(({ need }) => need);
        expect(new Set(columns.map(({ name }) => toNameKey(name))).size).toBe(columns.length);
        const errors = findFindings({ chain: wireChain(legs, columns), isInOpenCycle: false }).filter(({ weight }) => weight === 'error');
        expect(errors).toEqual([]);
      }),
      { seed: 4217, numRuns: 400 },
    );
  });
});
