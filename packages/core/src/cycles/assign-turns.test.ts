import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { AssignableTurn } from './assign-turns.ts';
import { assignTurns } from './assign-turns.ts';

const turn = (id: string, minutes = 10, more: object = {}) => ({ id, team: 'lane', minutes, ...more });
const person = (id: string, loadMinutes = 0, more: object = {}) => ({ id, team: 'lane', loadMinutes, ...more });

function isRight(turns: readonly AssignableTurn[], by: ReadonlyMap<string, string>): boolean {
  return turns.every(({ id, samePersonAs, otherPersonThan = [], notBy = [] }) => {
    const own = by.get(id);
    const isSame = samePersonAs === undefined || by.get(samePersonAs) === own;
    return own !== undefined && isSame && otherPersonThan.every((other) => by.get(other) !== own) && !notBy.includes(own);
  });
}

/** Plain: every way to give every turn to every person. */
function canAllBeGiven(turns: readonly AssignableTurn[], people: readonly string[]): boolean {
  const by = new Map<string, string>();
  const visit = (at: number): boolean => {
    const next = turns[at];
    if (!next) return isRight(turns, by);
    return people.some((own) => visit((by.set(next.id, own), at + 1)));
  };
  return visit(0);
}

describe('who does which turn', () => {
  it('is the one of whose time the least share would be taken with it', () => {
    const people = [person('ada', 0, { availableMinutes: 100 }), person('bea', 0, { availableMinutes: 300 })];
    const { assigneeOf, loadOf } = assignTurns([turn('a', 40), turn('b', 30), turn('c', 20), turn('d', 10)], people);
    expect(Object.fromEntries(assigneeOf)).toEqual({ a: 'bea', b: 'bea', c: 'ada', d: 'bea' });
    expect(Object.fromEntries(loadOf)).toEqual({ ada: 20, bea: 80 });
  });

  it('adds what a person has already, and passes over who has no time at all', () => {
    const { assigneeOf } = assignTurns([turn('a')], [person('ada', 5), person('bea', 4), person('eve', 0, { availableMinutes: 0 })]);
    expect(assigneeOf.get('a')).toBe('bea');
    expect(assignTurns([turn('a')], [person('eve', 0, { availableMinutes: 0 })]).unassigned).toEqual(['a']);
  });

  it('gives turns that belong together to one person, counted as one piece', () => {
    const { assigneeOf, loadOf } = assignTurns(
      [turn('a', 10), turn('b', 15, { samePersonAs: 'a' }), turn('c', 20)],
      [person('ada'), person('bea')],
    );
    expect([assigneeOf.get('a'), assigneeOf.get('b'), assigneeOf.get('c')]).toEqual(['ada', 'ada', 'bea']);
    expect(loadOf.get('ada')).toBe(25);
  });

  it('never gives both of two turns that need four eyes to one; with one person alone the second stays', () => {
    const turns = [turn('a', 20), turn('b', 10, { otherPersonThan: ['a'] })];
    const { assigneeOf } = assignTurns(turns, [person('ada'), person('bea', 100)]);
    expect([assigneeOf.get('a'), assigneeOf.get('b')]).toEqual(['ada', 'bea']);
    expect(assignTurns(turns, [person('ada')]).unassigned).toEqual(['b']);
  });

  it('looks at all that is tied together: nothing stays with nobody that could go to somebody (beside every way to give it out, seed 31)', () => {
    const pair = fc.tuple(fc.nat(5), fc.nat(5));
    const cases = fc.record({
      minutes: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 6 }),
      ...{ same: fc.array(pair, { maxLength: 2 }), other: fc.array(pair, { maxLength: 6 }), people: fc.integer({ min: 2, max: 3 }) },
      notBy: fc.array(pair, { maxLength: 2 }),
    });
    let possible = 0;
    for (const { minutes, same, other, people, notBy } of fc.sample(cases, { seed: 31, numRuns: 1_500 })) {
      const turns = minutes.map((time, i) =>
        turn(`t${i}`, time, {
          samePersonAs: same.flatMap(([a, b]) => (a === i && b < i ? [`t${b}`] : []))[0],
          otherPersonThan: other.flatMap(([a, b]) => (a === i && b < i ? [`t${b}`] : [])),
          notBy: notBy.flatMap(([a, b]) => (a === i ? [`p${b}`] : [])),
        }),
      ) as AssignableTurn[];
      const ids = Array.from({ length: people }, (_, i) => `p${i}`);
      if (!canAllBeGiven(turns, ids)) continue;
      possible += 1;
      const { assigneeOf, unassigned } = assignTurns(
        turns,
        ids.map((id) => person(id)),
      );
      expect(unassigned).toEqual([]);
      expect(isRight(turns, assigneeOf)).toBe(true);
    }
    expect(possible).toBeGreaterThan(500);
  });

  it('goes on with whoever had what it continues, and never to whoever had what it checks', () => {
    const people = [person('ada'), person('bea', 100)];
    const { assigneeOf } = assignTurns(
      [turn('a', 10, { onlyBy: 'bea' }), turn('b', 10, { notBy: ['ada'] }), turn('c', 10, { onlyBy: 'gone' })],
      people,
    );
    expect(Object.fromEntries(assigneeOf)).toEqual({ a: 'bea', b: 'bea', c: 'ada' });
  });

  it('leaves turns of a lane without people', () =>
    expect(assignTurns([turn('a', 1, { team: 'other' })], [person('ada')]).unassigned).toEqual(['a']));
});
