import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, addWorkingDays, getWeekday, isWorkingDay, listWorkingDays, printDay, toDay } from './calendar.ts';
import { countDaysBetween, listWorkMinutes } from './work-days.ts';
import { addWork, countWorkBefore, createWorkingTime, findNextWork, uniteTimes } from './working-time.ts';

const WEEK = { workingDays: [1, 2, 3, 4, 5], holidays: ['2026-11-04'] };

describe('days', () => {
  it('are counted over months, leap years and both ends of summer time', () => {
    expect([addDays('2028-02-28', 1), addDays('2026-03-28', 2), addDays('2026-10-24', 2), addDays('2026-01-01', -1)]).toEqual([
      '2028-02-29',
      '2026-03-30',
      '2026-10-26',
      '2025-12-31',
    ]);
    expect([
      countDaysBetween('2026-03-28', '2026-03-30'),
      countDaysBetween('2026-11-05', '2026-11-02'),
      countDaysBetween('2026-11-02', '2026-11-02'),
    ]).toEqual([2, -3, 0]);
  });

  it('have ISO 8601 weekdays: Monday 1 to Sunday 7', () =>
    expect(['2026-11-02', '2026-11-07', '2026-11-08'].map(getWeekday)).toEqual([1, 6, 7]));

  it('are the programme’s, not the server’s: a moment is another day elsewhere', () => {
    const late = Date.parse('2026-11-02T23:30:00Z');
    expect(['Europe/London', 'Europe/Athens', 'America/New_York', 'Pacific/Kiritimati'].map((zone) => toDay(late, zone))).toEqual([
      '2026-11-02',
      '2026-11-03',
      '2026-11-02',
      '2026-11-03',
    ]);
  });

  it('are printed as the programme has them', () => {
    const late = Date.parse('2026-11-02T23:30:00Z');
    expect([printDay(late, 'Europe/London'), printDay(late, 'Asia/Tokyo')]).toEqual(['2 November 2026', '3 November 2026']);
  });

  it('are worked on by the calendar', () => {
    expect(['2026-11-03', '2026-11-04', '2026-11-07'].map((day) => isWorkingDay(day, WEEK))).toEqual([true, false, false]);
    expect(listWorkingDays('2026-11-03', '2026-11-09', WEEK)).toEqual(['2026-11-03', '2026-11-05', '2026-11-06', '2026-11-09']);
    expect(listWorkingDays('2026-11-09', '2026-11-03', WEEK)).toEqual([]);
  });

  it('that are added skip free ones, both ways; none is the day itself, and without working days all count', () => {
    expect([1, 2, 0, -1, -3].map((count) => addWorkingDays('2026-11-03', count, WEEK))).toEqual([
      '2026-11-05',
      '2026-11-06',
      '2026-11-03',
      '2026-11-02',
      '2026-10-29',
    ]);
    expect(addWorkingDays('2026-11-07', 0, WEEK)).toBe('2026-11-07');
    expect(addWorkingDays('2026-11-03', 5, { workingDays: [], holidays: [] })).toBe('2026-11-08');
  });
});

describe('minutes of work', () => {
  it('are the hours of a day, none on free days and days of absence, and never past midnight', () => {
    const hours = { ...WEEK, hoursPerDay: 2.5 };
    const away = [{ firstDay: '2026-11-05', lastDay: '2026-11-06' }];
    expect(listWorkMinutes('2026-11-02', 8, hours, away)).toEqual([150, 150, 0, 0, 0, 0, 0, 150]);
    expect(listWorkMinutes('2026-11-02', 1, { ...hours, hoursPerDay: 24 })).toEqual([15 * 60]);
  });
});

describe('working time', () => {
  const time = createWorkingTime([120, 0, 60], 540);
  it('finds the next work, at its beginning, within it, and after its end', () => {
    expect([0, 540, 600, 659, 660, 5_000].map((at) => findNextWork(time, at))).toEqual([540, 540, 600, 659, 3_420, Infinity]);
  });
  it('counts what was worked before a moment', () => {
    expect([0, 540, 600, 660, 2_000, 3_450, 9_999].map((at) => countWorkBefore(time, at))).toEqual([0, 0, 60, 120, 120, 150, 180]);
    expect(countWorkBefore(createWorkingTime([], 0), 100)).toBe(0);
  });
  it('ends work when enough was worked, and never where it does not suffice', () => {
    expect([
      addWork(time, 0, 120),
      addWork(time, 0, 121),
      addWork(time, 600, 60),
      addWork(time, 600, 180),
      addWork(time, 77, 0),
      addWork(time, 0, 181),
    ]).toEqual([660, 3_421, 660, Infinity, 77, Infinity]);
  });
  it('joins days that touch', () => {
    expect(createWorkingTime([1_440, 1_440], 0)).toEqual({ starts: [0], ends: [2_880], before: [0] });
    expect(createWorkingTime([60, 60], 0).starts).toEqual([0, 1_440]);
  });
  it('of several is the time in which one of them works', () => {
    const early = createWorkingTime([120], 480);
    expect(uniteTimes([time, early])).toEqual({ starts: [480, 3_420], ends: [660, 3_480], before: [0, 180] });
    expect(uniteTimes([createWorkingTime([60], 0), createWorkingTime([30], 60)])).toEqual({ starts: [0], ends: [90], before: [0] });
  });
  it('equals counting minute by minute (seed 5)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(0, 30, 60), { maxLength: 4 }),
        fc.integer({ min: 0, max: 6_000 }),
        fc.integer({ min: 1, max: 120 }),
        (days, at, minutes) => {
          const own = createWorkingTime(days, 60);
          const works = (minute: number) => own.starts.some((start, index) => start <= minute && minute < own.ends[index]!);
          let left = minutes;
          let end = at;
          while (left > 0 && end < 7_000) {
            if (works(end)) left -= 1;
            end += 1;
          }
          expect(addWork(own, at, minutes)).toBe(left === 0 ? end : Infinity);
        },
      ),
      { seed: 5, numRuns: 200 },
    );
  });
});
