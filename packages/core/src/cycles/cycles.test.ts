import { describe, expect, it } from 'vitest';
import { wireChain } from '../scenarios/wire-chain.ts';
import { assignTurns } from './assign-turns.ts';
import { addWorkingDays, getWeekday, listWorkingDays, toDay } from '../time/calendar.ts';
import { listCycleMoves, CYCLE_STATES, canAttempt } from './cycle.ts';
import { pinRun } from '../turns/pin-run.ts';
import { spreadDueDays } from './spread-due-days.ts';

const WEEKDAYS = { workingDays: [1, 2, 3, 4, 5], holidays: [] };

describe('assignment', () => {
  // Source: R. L. Graham 1969, the worst case of longest-first, from memory; verified by computing. Jobs 2m−1, 2m−1, …, m+1, m+1, m, m, m.
  it.each([
    [2, 7, 6],
    [3, 11, 9],
    [4, 15, 12],
    [5, 19, 15],
  ])('reaches Graham’s bound on %i people: %i against %i', (m, longest, best) => {
    const sizes = [...Array.from({ length: m - 1 }, (_, i) => [2 * m - 1 - i, 2 * m - 1 - i]).flat(), m, m, m];
    const turns = sizes.map((minutes, i) => ({ id: String(i), team: 't', minutes }));
    const people = Array.from({ length: m }, (_, i) => ({ id: `p${i}`, team: 't', loadMinutes: 0 }));
    const { loadOf } = assignTurns(turns, people);
    expect(Math.max(...loadOf.values())).toBe(longest);
    expect(longest / best).toBeCloseTo(4 / 3 - 1 / (3 * m), 10);
  });

  it('keeps to the lane, counts what people have already, and says what nobody can take', () => {
    const people = [
      { id: 'a', team: 'Billing', loadMinutes: 60 },
      { id: 'b', team: 'Billing', loadMinutes: 0 },
    ];
    const turns = [
      { id: '1', team: 'Billing', minutes: 30 },
      { id: '2', team: 'Billing', minutes: 20 },
      { id: '3', team: 'Stores', minutes: 10 },
    ];
    const { assigneeOf, unassigned } = assignTurns(turns, people);
    expect([...assigneeOf]).toEqual([
      ['1', 'b'],
      ['2', 'b'],
    ]);
    expect(unassigned).toEqual(['3']);
  });
});

describe('assignment with rules about people', () => {
  const people = ['a', 'b'].map((id) => ({ id, team: 'Billing', loadMinutes: 0 }));
  const turn = (id: string, minutes: number, more: object = {}) => ({ id, team: 'Billing', minutes, ...more });

  it('gives turns of the same person to one, also over several', () => {
    const { assigneeOf } = assignTurns(
      [turn('1', 30), turn('2', 20), turn('3', 5, { samePersonAs: '1' }), turn('4', 5, { samePersonAs: '3' })],
      people,
    );
    expect(new Set(['1', '3', '4'].map((id) => assigneeOf.get(id))).size).toBe(1);
    expect(assigneeOf.get('2')).not.toBe(assigneeOf.get('1'));
  });

  it('never gives both of two to one person; where nobody else is, it leaves the turn', () => {
    const eyes = [turn('1', 30), turn('2', 5, { otherPersonThan: ['1'] }), turn('3', 40)];
    const { assigneeOf } = assignTurns(eyes, people);
    expect(assigneeOf.get('2')).not.toBe(assigneeOf.get('1'));
    expect(assignTurns(eyes, people.slice(0, 1)).unassigned).toEqual(['2']);
  });

  it('takes a turn of another lane for itself', () => {
    const lanes = [...people, { id: 'c', team: 'Stores', loadMinutes: 0 }];
    const { assigneeOf } = assignTurns([turn('1', 30), { id: '2', team: 'Stores', minutes: 5, samePersonAs: '1' }], lanes);
    expect(assigneeOf.get('2')).toBe('c');
  });
});

describe('due days', () => {
  it('wait where a leg waits, and so do those behind it', () => {
    const days = Array.from({ length: 20 }, (_, i) => `day ${String(i).padStart(2, '0')}`);
    const plain = spreadDueDays([10, 10, 10], days);
    expect(spreadDueDays([10, 10, 10], days, [0, 7, 0])).toEqual([plain[0], 'day 18', 'day 19']);
  });
});

describe('the calendar', () => {
  // Source: ISO 8601 weekdays; 2026-01-01 was a Thursday, 2028-02-29 a Tuesday (from memory, verified by computing).
  it('numbers weekdays as ISO 8601 does', () => {
    expect([getWeekday('2026-01-01'), getWeekday('2028-02-29'), getWeekday('2026-11-29')]).toEqual([4, 2, 7]);
  });

  it('steps over weekends and holidays, both ways', () => {
    expect(addWorkingDays('2026-11-20', 1, WEEKDAYS)).toBe('2026-11-23');
    expect(addWorkingDays('2026-11-23', -1, WEEKDAYS)).toBe('2026-11-20');
    expect(addWorkingDays('2026-12-24', 1, { ...WEEKDAYS, holidays: ['2026-12-25', '2026-12-28'] })).toBe('2026-12-29');
    expect(listWorkingDays('2026-11-20', '2026-11-24', WEEKDAYS)).toEqual(['2026-11-20', '2026-11-23', '2026-11-24']);
  });

  it('does not hang on a calendar without working days', () => {
    expect(addWorkingDays('2026-11-20', 3, { workingDays: [], holidays: [] })).toBe('2026-11-23');
  });

  it('takes the day of the programme’s time zone', () => {
    expect(toDay(Date.parse('2026-11-24T23:30:00Z'), 'Europe/Berlin')).toBe('2026-11-25');
  });

  it('spreads due days by the share of the work, never backwards', () => {
    expect(spreadDueDays([10, 10, 20], ['d1', 'd2', 'd3', 'd4'])).toEqual(['d1', 'd2', 'd4']);
    expect(spreadDueDays([10], [])).toEqual([null]);
  });
});

describe('a cycle', () => {
  it('lets attempts be made while open, retests while closing, none otherwise', () => {
    expect(CYCLE_STATES.map((state) => [canAttempt(state, false), canAttempt(state, true)])).toEqual([
      [false, false],
      [true, true],
      [false, true],
      [false, false],
    ]);
  });

  it('is never opened again once closed', () => {
    expect(listCycleMoves('closed')).toEqual([]);
  });

  it('pins every source by place, so that later edits do not move it', () => {
    const text = (name: string) => ({ name, type: 'text' as const, required: true });
    const chain = wireChain(
      [
        { id: 'a', title: 'A', isOpen: false, needs: [text('Customer')], gives: [text('Quote no.')] },
        { id: 'b', title: 'B', isOpen: false, needs: [text('Quote no.'), text('Band'), text('Extra')], gives: [] },
      ],
      [text('Customer'), text('Band')],
    );
    expect(pinRun(chain, { customer: 'Orla', Band: '' })).toEqual([
      { leg: 'a', after: [], needs: [{ name: 'Customer', source: { kind: 'value', value: 'Orla', from: 'row' } }] },
      {
        leg: 'b',
        after: [0],
        needs: [
          { name: 'Quote no.', source: { kind: 'turn', index: 0, name: 'Quote no.' } },
          { name: 'Band', source: { kind: 'none' } },
          { name: 'Extra', source: { kind: 'none' } },
        ],
      },
    ]);
  });
});
