import { describe, expect, it } from 'vitest';
import { layOutCalendar } from './lay-out-calendar.ts';

describe('the calendar of cycles', () => {
  it('reaches from the first day of all to the last, with today in it', () => {
    const calendar = layOutCalendar(
      [
        { first: '2026-11-11', last: '2026-11-20' },
        { first: '2026-11-21', last: '2026-11-30' },
      ],
      '2026-11-15',
    );
    expect(calendar.bandOf('2026-11-11', '2026-11-20')).toEqual({ left: 0, width: 0.5 });
    expect(calendar.bandOf('2026-11-30', '2026-11-30')).toEqual({ left: 0.95, width: 0.05 });
    expect(calendar.today).toBeCloseTo(4.5 / 20);
    expect(calendar.months).toEqual([]);
    expect(layOutCalendar([], '2026-11-15').bandOf('2026-11-15', '2026-11-15')).toEqual({ left: 0, width: 1 });
  });

  it('names the months, the year with January, and never more than fit', () => {
    const { months } = layOutCalendar([{ first: '2026-11-10', last: '2027-02-10' }], '2026-12-01');
    expect(months.map(({ label }) => label)).toEqual(['Dec', 'Jan 2027', 'Feb']);
    expect(months[0]?.left).toBeCloseTo(21 / 93);
    expect(layOutCalendar([{ first: '2020-01-15', last: '2026-12-31' }], '2026-12-01').months.length).toBeLessThanOrEqual(12);
  });
});
