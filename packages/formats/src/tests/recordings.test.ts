import { describe, expect, it } from 'vitest';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { readTestFile } from './read-test-file.ts';

const encode = (value: unknown) => new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value));
const read = (steps: readonly unknown[], title = 'Price a quote') => readTestFile({ name: 'quote.json', bytes: encode({ title, steps }) });
const click = (...selectors: string[][]) => ({ type: 'click', target: 'main', selectors, offsetX: 4, offsetY: 4 });

describe('a recording of a browser', () => {
  it('comes in as a test: things by their names, keys, checks; what the recorder notes of the browser is no step', async () => {
    const { format, entries, problems } = await read([
      { type: 'setViewport', width: 1280, height: 800 },
      { type: 'navigate', url: 'http://x.example/quotes' },
      click(['aria/New quote'], ['#new'], ['xpath///*[@id="new"]']),
      { type: 'change', value: 'SV-40172', selectors: [['aria/Survey number'], ['#survey']] },
      { type: 'keyDown', key: 'Enter' },
      { type: 'keyUp', key: 'Enter' },
      { type: 'keyDown', key: 'a' },
      { type: 'waitForElement', selectors: [['text/Quote saved']] },
    ]);
    expect([format, problems]).toEqual(['recording', []]);
    expect(entries.map(({ name, byHand }) => [name, byHand])).toEqual([['Price a quote', 1]]);
    expect(entries[0]?.steps.map(printStep)).toEqual([
      'By hand "Open http://x.example/quotes".',
      'Press "New quote".',
      'Fill "Survey number" with "SV-40172".',
      'Press "Enter".',
      'See "Quote saved".',
    ]);
  });

  it('says what has no name as a step by hand, and takes no password along', async () => {
    const { entries } = await read([
      click(['#ember-231 > div'], ['xpath///*[@id="ember-231"]/div']),
      { type: 'change', value: 'very-secret', selectors: [['aria/Password'], ['#p']] },
    ]);
    expect(entries[0]?.steps.map(printStep)).toEqual(['By hand "Press what stands at #ember-231 > div".', 'By hand "Fill Password".']);
    expect(JSON.stringify(entries)).not.toContain('very-secret');
  });

  it('is refused with a sentence where it is broken, empty or endless', async () => {
    const broken = await readTestFile({ name: 'x.json', bytes: encode('{"steps": [ {"type": "click"') });
    expect(broken.problems[0]?.message).toMatch(/^This is no JSON/);
    expect((await read([{ type: 'setViewport' }])).problems[0]?.message).toBe('Nothing in this recording is a step.');
    const many = Array.from({ length: 501 }, () => click(['aria/Save']));
    expect((await read(many)).problems[0]?.message).toBe('A test has at most 500 steps; this recording has 501.');
  });
});
