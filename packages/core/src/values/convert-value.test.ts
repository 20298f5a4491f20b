import { describe, expect, it } from 'vitest';
import { compareNames } from './name-likeness.ts';
import { convertValue } from './convert-value.ts';
import { createExample } from './create-example.ts';
import { checkValue } from './check-value.ts';
import type { Field } from './field.ts';
import { FIELD_TYPES } from './field.ts';

const convert = (text: string, type: Field['type'], more: Partial<Field> = {}) => convertValue(text, { name: 'It', type, ...more });

describe('converting a value that was handed over', () => {
  it('takes the one number out of a text', () => {
    expect(['14.5 m', 'GBP 1,512.50', '12', '1 200', '3 of 4', 'none'].map((text) => convert(text, 'number'))).toEqual([
      '14.5',
      '1512.50',
      '12',
      '1200',
      undefined,
      undefined,
    ]);
    expect(convert('12.5', 'whole')).toBeUndefined();
  });

  it('takes a date where there is one reading of it', () => {
    expect(
      ['2026-03-31', 'due 31.3.2026', '31/03/2026', '03/31/2026', '03/04/2026', '30.02.2026'].map((text) => convert(text, 'date')),
    ).toEqual(['2026-03-31', '2026-03-31', '2026-03-31', '2026-03-31', undefined, undefined]);
  });

  it('guesses nothing: a code, a version, a range or a part of a date is no number, digits around a date make it none', () => {
    const numbers = ['INV-12', 'A12', '1.2.3', '2026-11-03', '10:30', '5-7', 'v.5'];
    expect(numbers.map((text) => convert(text, 'number'))).toEqual(numbers.map(() => undefined));
    expect(['.5 m', '-3 °C', '(12)', '12%', '1,250 kg', '0,125'].map((text) => convert(text, 'number'))).toEqual([
      '0.5',
      '-3',
      '12',
      '12',
      '1250',
      undefined,
    ]);
    const dates = ['12026-03-31', '2026-03-311', '1.31.03.2026', '31.03.20261', '2026-03-31 to 2026-04-01', '31.03.2026 or 2026-04-01'];
    expect(dates.map((text) => convert(text, 'date'))).toEqual(dates.map(() => undefined));
  });

  it('takes a choice or a code only as it is', () => {
    expect(convert('band b', 'choice', { choices: ['Band A', 'Band B'] })).toBe('Band B');
    expect(convert('AP-1', 'code', { pattern: '\\AP-99999' })).toBeUndefined();
  });
});

describe('an example', () => {
  it('is allowed by its own field, and the same each time', () => {
    for (const type of FIELD_TYPES) {
      const field: Field = { name: 'Account no.', type, choices: ['A', 'B'], pattern: '\\AC-9999' };
      expect(checkValue(field, createExample(field)).ok).toBe(true);
      expect(createExample(field)).toBe(createExample(field));
    }
  });
});

describe('names that may mean the same', () => {
  it('share most of their letter pairs, common words aside', () => {
    expect(compareNames('Meter serial', 'Serial of the meter')).toBe(1);
    expect(compareNames('Quote no.', 'Permit no.')).toBeLessThan(0.3);
    expect(compareNames('Survey no.', 'Survey number')).toBe(1);
    expect(compareNames('no.', 'id')).toBe(0);
    expect(compareNames('Plan no.', 'Plant')).toBeLessThan(0.5);
  });
});

describe('a date with slashes', () => {
  it('is read only where one part can be no month: 12 can, 13 cannot', () => {
    const read = (text: string) => convert(text, 'date');
    expect([read('13/12/2026'), read('12/13/2026')]).toEqual(['2026-12-13', '2026-12-13']);
    expect([read('12/11/2026'), read('11/12/2026'), read('13/13/2026')]).toEqual([undefined, undefined, undefined]);
    expect([read('12/12/2026'), read('12.11.2026')]).toEqual(['2026-12-12', '2026-11-12']);
  });
});
