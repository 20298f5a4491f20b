import { describe, expect, it } from 'vitest';
import { assignTurns } from './assign-turns.ts';

const turn = (id: string, minutes = 10, more: object = {}) => ({ id, team: 'lane', minutes, ...more });
const person = (id: string, loadMinutes = 0, more: object = {}) => ({ id, team: 'lane', loadMinutes, ...more });

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

  it('leaves turns of a lane without people', () =>
    expect(assignTurns([turn('a', 1, { team: 'other' })], [person('ada')]).unassigned).toEqual(['a']));
});
