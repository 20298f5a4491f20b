import { alg, Graph } from '@dagrejs/graphlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Field, FieldType } from '../values/field.ts';
import type { LegView } from './chain.ts';
import { findFindings } from './findings/rules.ts';
import { layOutColumns } from '../graph/lay-out-columns.ts';
import { findBehind } from '../graph/order-nodes.ts';
import { wireChain } from './wire-chain.ts';

const field = (name: string, type: FieldType = 'text'): Field => ({ name, type, required: true });
const leg = (id: string, more: Partial<LegView> = {}): LegView => ({
  id,
  title: `Leg ${id}`,
  isOpen: false,
  needs: [],
  gives: [],
  ...more,
});
const findingsOf = (legs: LegView[], columns: Field[] = [], isInOpenCycle = false) =>
  findFindings({ chain: wireChain(legs, columns), isInOpenCycle }).map(({ rule, weight, leg: at, value }) =>
    `${weight} ${rule} ${at} ${value ?? ''}`.trim(),
  );

describe('wiring a need', () => {
  const quote = leg('a', { gives: [field('Quote no.')] });

  it('takes the nearest earlier output of that name, whatever the case', () => {
    const chain = wireChain([quote, leg('b', { gives: [field('QUOTE  NO.')] }), leg('c', { needs: [field('quote no.')] })]);
    expect(chain.legs[2]?.needs[0]?.source).toMatchObject({ kind: 'leg', leg: 'b', passedOver: ['a'] });
  });

  it('passes over an output of another type', () => {
    const chain = wireChain([
      leg('a', { gives: [field('Due', 'money')] }),
      leg('b', { gives: [field('Due', 'date')] }),
      leg('c', { needs: [field('Due', 'money')] }),
    ]);
    expect(chain.legs[2]?.needs[0]?.source).toMatchObject({ kind: 'leg', leg: 'a' });
  });

  it('falls back to the row’s column, then to the test’s own row', () => {
    const needy = leg('b', { needs: [field('Band'), field('Length')], ownValues: { length: '14.5' } });
    const sources = wireChain([quote, needy], [field('Band')]).legs[1]?.needs.map(({ source }) => source.kind);
    expect(sources).toEqual(['column', 'own']);
  });

  it('follows what was set by hand, and says when that is lost', () => {
    const byHand = (from: NonNullable<LegView['wires']>[number]['from']) =>
      wireChain([quote, leg('b', { needs: [field('Quote no.')], wires: [{ need: 'Quote no.', from }] })]).legs[1]?.needs[0];
    expect(byHand({ kind: 'fixed', value: 'QT-1' })).toMatchObject({ isByHand: true, source: { kind: 'fixed', value: 'QT-1' } });
    expect(byHand({ kind: 'leg', leg: 'gone', gives: 'Quote no.' })?.source.kind).toBe('lost');
  });

  it('is stable under renaming the legs (seed 4217)', () => {
    const names = fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { maxLength: 3 });
    fc.assert(
      fc.property(fc.array(fc.tuple(names, names), { maxLength: 8 }), (plan) => {
        const draw = (prefix: string) =>
          wireChain(
            plan.map(([needs, gives], i) => leg(`${prefix}${i}`, { needs: needs.map((n) => field(n)), gives: gives.map((n) => field(n)) })),
          );
        const plain = (prefix: string) =>
          JSON.stringify(draw(prefix).legs.map(({ needs, after, column }) => ({ needs, after, column }))).replaceAll(`"${prefix}`, '"');
        expect(plain('x')).toBe(plain('y'));
      }),
      { seed: 4217 },
    );
  });

  it('never loses a need when a giver is added in front (seed 4217)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.constantFrom('a', 'b', 'c')), { minLength: 1, maxLength: 8 }),
        fc.constantFrom('a', 'b', 'c'),
        (plan, given) => {
          const legs = plan.map(([need, give], i) => leg(String(i), { needs: [field(need)], gives: [field(give)] }));
          const missing = (chain: ReturnType<typeof wireChain>) =>
            chain.legs.flatMap(({ needs }) => needs.filter(({ source }) => source.kind !== 'leg')).length;
          expect(missing(wireChain([leg('new', { gives: [field(given)] }), ...legs]))).toBeLessThanOrEqual(missing(wireChain(legs)));
        },
      ),
      { seed: 4217 },
    );
  });
});

describe('findings', () => {
  it('name the leg and the value of each', () => {
    const legs = [
      leg('1', { needs: [field('Survey no.'), field('Permit no.')], gives: [field('Quote no.'), field('Due', 'date')] }),
      leg('2', { needs: [field('Due', 'money')], gives: [field('Permit no.')] }),
      leg('3', { needs: [field('Quote no.')], gives: [field('Quote no.')] }),
      leg('4', { needs: [field('Quote no.')], isOpen: true }),
    ];
    expect(findingsOf(legs)).toEqual([
      'error never-given 1 Survey no.',
      'error given-later 1 Permit no.',
      'error types-differ 2 Due',
      'warning two-givers 4 Quote no.',
      'note needed-by-nobody 1 Due',
      'note needed-by-nobody 2 Permit no.',
      'note open-leg 4',
    ]);
  });

  it('take an open leg for an error once its cycle is open', () => {
    expect(findingsOf([leg('1', { isOpen: true })], [], true)).toEqual(['error open-leg 1']);
  });

  it('note an order that contradicts the map', () => {
    const placed = (id: string, order: number, parent = 'NS-2') => leg(id, { place: { parent, order } });
    expect(findingsOf([placed('1', 5), placed('2', 4), placed('3', 1, 'NS-1')])).toEqual(['note against-the-map 2']);
  });

  it('leave a clean chain alone', () => {
    expect(findingsOf([leg('1', { gives: [field('A')] }), leg('2', { needs: [field('A'), field('B')] })], [field('B')])).toEqual([]);
  });

  it('find a circle of waiting, and never hang on one', () => {
    const chain = wireChain([leg('1', { after: ['3'] }), leg('2'), leg('3'), leg('4', { after: [] })]);
    expect(chain.cyclic).toEqual([0, 1, 2]);
    expect(chain.legs[3]?.column).toBe(0);
  });
});

describe('columns of the relay', () => {
  it('let legs with no path between them share one', () => {
    const legs = [leg('1'), leg('2', { after: ['1'] }), leg('3', { after: ['1'] }), leg('4', { after: ['2', '3'] })];
    expect(wireChain(legs).legs.map(({ column }) => column)).toEqual([0, 1, 1, 2]);
  });

  // Source: @dagrejs/graphlib 4.0.6 (topological order and reachability), on seeded random graphs (seed 4217).
  it('agree with an independent graph library', () => {
    const graphs = fc.array(fc.array(fc.nat({ max: 11 }), { maxLength: 4 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(graphs, (wanted) => {
        const after = wanted.map((before, node) => [...new Set(before.filter((from) => from < node))]);
        const graph = new Graph({ directed: true });
        after.forEach((before, node) => {
          graph.setNode(String(node));
          before.forEach((from) => graph.setEdge(String(from), String(node)));
        });
        const longest = new Map<string, number>();
        for (const node of alg.topsort(graph))
          longest.set(node, Math.max(0, ...(graph.predecessors(node) ?? []).map((from) => (longest.get(from) ?? 0) + 1)));
        const { columnOf, cyclic } = layOutColumns(after);
        expect(cyclic).toEqual([]);
        expect(columnOf).toEqual(after.map((_, node) => longest.get(String(node))));
        const reached = alg
          .postorder(graph, ['0'])
          .map(Number)
          .filter((node) => node !== 0)
          .sort((a, b) => a - b);
        expect(findBehind(after, 0)).toEqual(reached);
      }),
      { seed: 4217 },
    );
  });
});

describe('a leg that gives what it needs', () => {
  it('does not get it from itself', () => {
    const both = leg('a', { needs: [field('Quote')], gives: [field('Quote')] });
    expect(wireChain([both]).legs[0]?.needs[0]?.source).toEqual({ kind: 'none' });
    expect(wireChain([leg('z'), both, leg('b', { gives: [field('Quote')] })]).legs[1]?.needs[0]?.source).toMatchObject({
      kind: 'later',
      leg: 'b',
    });
  });
});

describe('a leg whose test is retired', () => {
  it('is named by its number, counted from 1', () => {
    const chain = wireChain([leg('a'), leg('b', { isRetired: true })]);
    const found = findFindings({ chain, isInOpenCycle: false }).filter(({ rule }) => rule === 'retired-test');
    expect(found.map(({ leg: at, message }) => [at, message.slice(0, 33)])).toEqual([['b', 'The test of leg 2, Leg b, is reti']]);
  });
});

describe('what a leg waits for', () => {
  it('is named in the order of the legs, whatever the order in which it was said or needed', () => {
    const chain = wireChain([leg('a', { gives: [field('A')] }), leg('b'), leg('c'), leg('d', { after: ['c', 'b'], needs: [field('A')] })]);
    expect(chain.legs[3]?.after).toEqual([0, 1, 2]);
  });
});

describe('two givers', () => {
  it('are two legs: one that gives a name twice is not warned against itself', () => {
    const quote = { name: 'Quote no.', type: 'text' as const };
    const giver = { id: 'a', title: 'A', isOpen: false, needs: [], gives: [quote, { ...quote, name: 'quote no.' }] };
    const taker = { id: 'b', title: 'B', isOpen: false, needs: [quote], gives: [] };
    const rules = (...legs: (typeof giver)[]) =>
      findFindings({ chain: wireChain([...legs, taker]), isInOpenCycle: false }).map(({ rule }) => rule);
    expect(rules(giver)).not.toContain('two-givers');
    expect(rules({ ...giver, id: 'c' }, giver)).toContain('two-givers');
  });
});
