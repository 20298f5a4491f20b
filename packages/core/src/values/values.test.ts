import { countFreshValues, countUntilRepeat } from './count-fresh.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkValue, isCalendarDate } from './check-value.ts';
import type { Field } from './field.ts';
import { guessFieldType, isCompatible } from './field.ts';
import { createFreshValue, createRandom, toSeed } from './fresh.ts';
import { toPatternExpression } from './pattern.ts';
import { fillTemplate, findTemplateNames, parseTemplate } from './template.ts';

const field = (type: Field['type'], more: Partial<Field> = {}): Field => ({ name: 'Value', type, ...more });

describe('a typed value', () => {
  it.each<[Field, string, string]>([
    [field('text'), '  Orla Fenn ', 'Orla Fenn'],
    [field('whole'), '1,200', '1200'],
    [field('number'), '14.5', '14.5'],
    [field('number'), '1 200.25', '1200.25'],
    [field('money'), '512.50', '512.50'],
    [field('date'), '2028-02-29', '2028-02-29'],
    [field('choice', { choices: ['A', 'B'] }), 'b', 'B'],
    [field('code', { pattern: '\\AP-99999' }), 'AP-90341', 'AP-90341'],
    [field('text', { required: false }), '', ''],
  ])('%o takes “%s”', (given, typed, value) => expect(checkValue(given, typed)).toEqual({ ok: true, value }));

  it.each<[Field, string, RegExp]>([
    [field('text'), ' ', /Type the Value/],
    [field('whole'), '12.5', /whole number/],
    [field('money'), '1.005', /at most 2 decimals/],
    [field('number'), 'twelve', /should be a number/],
    [field('date'), '2026-02-30', /should be a date/],
    [field('date'), '46082', /should be a date/],
    [field('choice', { choices: ['A', 'B'] }), 'D', /one of A, B/],
    [field('code', { pattern: '\\AP-99999', example: 'AP-90341' }), 'AP-12', /look like AP-90341/],
    [field('code', { pattern: '\\AP-99999', example: '' }), 'AP-12', /look like AP-\d{5};/],
    [field('text'), 'x'.repeat(2_001), /longer than/],
  ])('%o refuses “%s” with a sentence', (given, typed, message) => {
    const check = checkValue(given, typed);
    expect(check.ok ? '' : check.message).toMatch(message);
  });

  it('knows days that exist by the Gregorian rule (ISO 8601): 2000 has 29 February, 1900 has not', () => {
    expect([isCalendarDate('2000-02-29'), isCalendarDate('1900-02-29'), isCalendarDate('2026-13-01')]).toEqual([true, false, false]);
  });
});

describe('types', () => {
  it('join where a value of the one can be taken as the other', () => {
    expect(isCompatible(field('whole'), field('money'))).toBe(true);
    expect(isCompatible(field('money'), field('whole'))).toBe(false);
    expect(isCompatible(field('date'), field('number'))).toBe(false);
    expect(isCompatible(field('choice', { choices: ['A', 'B'] }), field('choice', { choices: ['A', 'B', 'C'] }))).toBe(true);
    expect(isCompatible(field('choice', { choices: ['A', 'D'] }), field('choice', { choices: ['A', 'B'] }))).toBe(false);
  });

  it.each([
    ['Quote no.', 'text'],
    ['Deposit due', 'money'],
    ['Valid until', 'date'],
    ['Pipe length', 'number'],
    ['Quantity', 'whole'],
  ])('are guessed from the name %s: %s', (name, type) => expect(guessFieldType(name)).toBe(type));
});

describe('a template', () => {
  const source = {
    valueOf: (name: string) => ({ 'Quote no.': 'QT-1' })[name],
    day: (n: number, w: boolean) => `${n}${w ? 'w' : 'd'}`,
    fresh: (p: string) => `<${p}>`,
  };

  it('fills names, days and new values in, and keeps doubled braces', () => {
    expect(fillTemplate('{Quote no.} until {today + 90 days}, {today - 5 working days}, {new AA-99} {{x}}', source)).toBe(
      'QT-1 until 90d, -5w, <AA-99> {x}',
    );
  });

  it('leaves an unknown name in its braces, so that it is seen to be missing', () => {
    expect(fillTemplate('{Receipt no.}', source)).toBe('{Receipt no.}');
  });

  it('names what it uses, each once, whatever the case', () => {
    expect(findTemplateNames('{Quote no.} {QUOTE NO.} {today} {new 9} {Band}')).toEqual(['Quote no.', 'Band']);
  });

  it('never throws, whatever is typed (seed 4217)', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        parseTemplate(text);
      }),
      { seed: 4217 },
    );
  });
});

describe('a fresh value', () => {
  it('matches its own pattern, and comes again from the same seed (seed 4217)', () => {
    const patterns = fc.string({ unit: fc.constantFrom('A', 'a', '9', '?', '-', '/', '\\', '.', 'x') });
    fc.assert(
      fc.property(patterns, fc.integer(), (pattern, seed) => {
        const value = createFreshValue(pattern, createRandom(seed));
        expect(value).toMatch(toPatternExpression(pattern));
        expect(createFreshValue(pattern, createRandom(seed))).toBe(value);
      }),
      { seed: 4217 },
    );
  });

  it('differs between attempts', () => {
    expect(toSeed('attempt 1')).not.toBe(toSeed('attempt 2'));
  });
});

describe('how soon fresh values repeat', () => {
  // The birthday problem: 365 days, 23 people (W. Feller, An Introduction to Probability Theory and Its Applications, vol. 1, II.3);
  // 366 days with leap years 23, 100 values 13, 10^6 values 1,178 (from memory; verified by multiplying).
  it.each([
    [365, 23],
    [366, 23],
    [100, 13],
    [1_000_000, 1_178],
    [1, 2],
  ])('of %i values a repeat is as likely as not after %i', (count, attempts) => expect(countUntilRepeat(count)).toBe(attempts));

  it('agrees with its formula where it changes over', () => {
    expect(Math.abs(countUntilRepeat(1e9) - countUntilRepeat(1e9 + 1))).toBeLessThanOrEqual(1);
  });

  it('counts the values of a pattern without the letters that are read as digits', () => {
    expect([countFreshValues('99'), countFreshValues('AA-9'), countFreshValues('?'), countFreshValues('SV')]).toEqual([100, 5_760, 34, 1]);
  });
});

describe('the seeded source', () => {
  // What attempts were shown must be shown again: these numbers are kept, they are from no outside source.
  it('gives the same numbers for the same seed, today and later', () => {
    const random = createRandom(4217);
    expect(Array.from({ length: 4 }, () => Math.floor(random() * 1_000_000))).toEqual([626_487, 49_428, 862_801, 675_660]);
  });

  it('is even: each tenth of the line gets its share of 20,000 numbers (χ², 9 degrees, 0.1 %: 27.88; tables of R. A. Fisher and F. Yates)', () => {
    const random = createRandom(1);
    const tenths = new Array<number>(10).fill(0);
    for (let count = 0; count < 20_000; count += 1) tenths[Math.floor(random() * 10)]! += 1;
    expect(tenths.reduce((sum, count) => sum + (count - 2_000) ** 2 / 2_000, 0)).toBeLessThan(27.88);
  });
});

describe('the seed of a text', () => {
  // Source: test vectors of FNV-1a, 32 bits (G. Fowler, L. C. Noll, K.-P. Vo; from memory).
  it.each([
    ['', 0x811c9dc5],
    ['a', 0xe40c292c],
    ['foobar', 0xbf9cf968],
  ])('of “%s” is as published', (text, seed) => expect(toSeed(text)).toBe(seed));
});

describe('a typed number', () => {
  const type = (text: string) => {
    const check = checkValue({ name: 'Length', type: 'number' }, text);
    return check.ok ? check.value : check.message;
  };
  it('takes commas as thousands only where nothing else can be meant, and a point at the beginning', () => {
    expect(['1,250', '12,500.75', '1,000,000', '.5', '-.25', '1250'].map(type)).toEqual([
      '1250',
      '12500.75',
      '1000000',
      '0.5',
      '-0.25',
      '1250',
    ]);
    expect(type('0,125')).toBe('Length: write “0,125” with a point, 0.125.');
    expect(type('12,5')).toBe('Length: write “12,5” with a point, 12.5.');
    expect([type('1,25,000'), type('1,2500')].every((text) => text.includes('Length'))).toBe(true);
  });
});
