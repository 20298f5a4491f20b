import { describe, expect, it } from 'vitest';
import { countOf, formatDue, formatLasting, formatMinutes, formatMoment, formatShare, toInitials } from './format.ts';

const NOW = Date.parse('2026-11-25T12:00:00Z');

describe('figures as people say them', () => {
  it('never round to all or nothing when it is not', () => {
    expect([formatShare(null), formatShare(1), formatShare(0), formatShare(0.996), formatShare(0.001), formatShare(0.9346, 1)]).toEqual([
      '–',
      '100%',
      '0%',
      '99%',
      '1%',
      '93.5%',
    ]);
  });

  it('count one and many', () =>
    expect([countOf(1, 'turn'), countOf(1_200, 'turn'), countOf(0, 'more failure')]).toEqual(['1 turn', '1,200 turns', '0 more failures']));

  it('say minutes as hours once they are many', () =>
    expect([formatMinutes(45), formatMinutes(60), formatMinutes(125)]).toEqual(['45 min', '1 h', '2 h 05']));

  it('take the first and the last initial', () =>
    expect([toInitials('Lea Marsh'), toInitials('Ana de la Cruz'), toInitials('Bo')]).toEqual(['LM', 'AC', 'B']));
});

describe('moments as people say them', () => {
  const say = (iso: string, zone = 'UTC') => formatMoment(iso, zone, NOW);

  it('are near or far', () => {
    expect([
      say('2026-11-25T11:59:40Z'),
      say('2026-11-25T11:50:00Z'),
      say('2026-11-25T08:05:00Z'),
      say('2026-11-23T14:20:00Z'),
      say('2026-11-10T14:20:00Z'),
    ]).toEqual(['just now', '10 min ago', 'today 08:05', 'Mon 14:20', 'Tue 10 Nov']);
  });

  it('stand in the programme’s time zone', () => expect(say('2026-11-23T23:30:00Z', 'Europe/Berlin')).toBe('Tue 00:30'));

  it('say when something is due, and how late it is', () => {
    expect(['2026-11-25', '2026-11-26', '2026-11-24', '2026-11-20', '2026-12-03'].map((day) => formatDue(day, '2026-11-25'))).toEqual([
      'due today',
      'due tomorrow',
      'due yesterday',
      'due Fri 20 Nov, 5 days ago',
      'due Thu 3 Dec',
    ]);
  });

  it('say how long something has lasted', () => {
    expect(['2026-11-25T11:40:00Z', '2026-11-25T07:00:00Z', '2026-11-23T10:00:00Z'].map((iso) => formatLasting(iso, NOW))).toEqual([
      '20 min',
      '5 h',
      '2 days',
    ]);
  });
});
