import { describe, expect, it } from 'vitest';
import { writeCalendar } from './write-calendar.ts';
import { listHolidays } from './list-holidays.ts';

describe('the calendar of a person', () => {
  it('has a whole-day entry for each turn on its due day, with the address of the turn (RFC 5545)', () => {
    const text = writeCalendar(
      {
        programme: { key: 'north', name: 'North' } as never,
        turns: [
          {
            id: 'a' as never,
            title: 'Price; the quote',
            dueOn: '2026-11-30',
            state: 'ready',
            minutes: 12,
            rowName: 'band B',
            scenario: 'S',
            cycle: 'C',
          },
          { id: 'b' as never, title: 'No day', dueOn: null, state: 'waiting', minutes: 5, rowName: null, scenario: 'S', cycle: 'C' },
        ],
      },
      'https://baton.example',
      new Date('2026-11-26T08:00:00Z'),
    );
    const lines = text.replace(/\r\n /g, '').split('\r\n');
    expect(lines).toEqual(
      expect.arrayContaining([
        'DTSTART;VALUE=DATE:20261130',
        'DTEND;VALUE=DATE:20261201',
        'UID:a@kindred-baton',
        'SUMMARY:Price\\; the quote',
        'TRANSP:TRANSPARENT',
      ]),
    );
    expect(lines.some((line) => line.includes('https://baton.example/north/turns/a'))).toBe(true);
    expect(lines.filter((line) => line === 'BEGIN:VEVENT')).toHaveLength(1);
  });
});

// Source: date-holidays 3.37.0, public holidays of 2026: DE 9, DE-BY 12, US 12 (verified with the package).
describe('public holidays', () => {
  it.each([
    ['DE', 9],
    ['DE-BY', 12],
    ['US', 12],
  ])('of %s in 2026 are %i days', (region, days) => {
    const { holidays } = listHolidays({ region, from: '2026-01-01', to: '2026-12-31' });
    expect([...new Set(holidays.map(({ day }) => day))]).toHaveLength(days);
  });

  it('of nowhere are refused in a sentence', () => {
    expect(() => listHolidays({ region: 'XX', from: '2026-01-01', to: '2026-12-31' })).toThrow('No holidays are known for the country XX');
    expect(() => listHolidays({ region: 'DE-ZZ', from: '2026-01-01', to: '2026-12-31' })).toThrow('No region ZZ is known in DE');
  });
});
