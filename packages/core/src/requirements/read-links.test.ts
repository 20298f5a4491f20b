import { describe, expect, it } from 'vitest';
import { readLinks } from './read-links.ts';

const TESTS = [
  { code: 'BIL-01', name: 'Price the quote' },
  { code: 'BIL-02', name: 'Send it' },
  { code: 'FLD-01', name: 'Survey' },
  { code: 'FLD-02', name: 'Survey' },
];

describe('links of a requirement', () => {
  it.each([
    ['BIL-01 FLD-01', ['BIL-01', 'FLD-01']],
    ['price the  quote, BIL-02; FLD-01', ['BIL-01', 'BIL-02', 'FLD-01']],
    ['Price the quote', ['BIL-01']],
    ['BIL-01\nSend it', ['BIL-01', 'BIL-02']],
    ['BIL-01, Price the quote', ['BIL-01']],
    ['', []],
  ])('are codes, or names: “%s”', (text, codes) => expect(readLinks(text, TESTS)).toEqual(codes));

  it('that nobody knows, or that two have, stay as they were typed', () => {
    expect(readLinks('Survey, Weigh the quote, BIL-01 NOPE', TESTS)).toEqual(['Survey', 'Weigh the quote', 'BIL-01', 'NOPE']);
  });
});
