import { describe, expect, it } from 'vitest';
import { describeHours } from './describe-hours.ts';
import { describeKnown, endWith, findEnd, findSessionsFor, formatClock, isGuessed } from './describe-queue.ts';

const at = (time: string) => `2026-11-27T${time}:00.000Z`;
const pool = (more: object = {}) =>
  ({
    total: 10,
    withPeople: 0,
    known: 10,
    sessions: 2,
    ends: [1, 2, 3].map((sessions) => ({ sessions, at: at(`1${8 - sessions}:00`) })),
    ...more,
  }) as never;

describe('what is said of a queue', () => {
  it('finds the fewest sessions that end by then, of those that were tried', () => {
    const asked = ['17:00', '16:30', '15:00', '14:00'].map((time) => findSessionsFor(pool(), Date.parse(at(time))));
    expect(asked).toEqual([1, 2, 3, null]);
  });

  it('ends when the last pool does, and says nothing where no session is at work', () => {
    expect(findEnd([pool(), pool({ sessions: 1 })])).toBe(at('17:00'));
    expect(findEnd([pool({ sessions: 0 })])).toBeNull();
    expect(findEnd([pool({ withPeople: 10 })])).toBeNull();
    expect(endWith(pool(), 3)).toBe(at('15:00'));
  });

  it('marks what is guessed, and what from', () => {
    expect([isGuessed([pool()]), isGuessed([pool({ known: 4 })])]).toEqual([false, true]);
    expect(describeKnown({ known: 10, total: 10 })).toContain('median of the last ten');
    expect(describeKnown({ known: 4, total: 10 })).toContain('4 of 10 turns');
    expect(describeKnown({ known: 0, total: 10 })).toContain('All guessed');
  });

  it('says times of today as a clock, and others with their day', () => {
    const say = (iso: string) => formatClock(iso, at('12:00'), 'Europe/London');
    expect(['2026-11-27T14:20:00Z', '2026-11-28T01:40:00Z', '2026-12-09T08:00:00Z'].map(say)).toEqual([
      '14:20',
      'Sat 01:40',
      'Wed 9 Dec 08:00',
    ]);
  });

  it('says when a pool takes turns', () => {
    const hours = (days: number[], opensAt: number, closesAt: number) => describeHours({ days, opensAt, closesAt });
    expect(hours([1, 2, 3, 4, 5, 6, 7], 0, 1_440)).toBe('takes turns always');
    expect(hours([1, 2], 1_200, 1_440)).toBe('takes turns Mon, Tue, 20:00 to 24:00');
    expect(hours([1, 2, 3, 4, 5, 6, 7], 480, 600)).toBe('takes turns every day, 08:00 to 10:00');
  });
});
