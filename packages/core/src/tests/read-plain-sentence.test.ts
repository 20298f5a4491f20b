import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PLAIN_SENTENCES, SENTENCES_SEEN_LATER } from './plain-sentences.test-data.ts';
import { printStep } from './print-step.ts';
import { readPlainSentence } from './read-plain-sentence.ts';

const CORPUS = [...PLAIN_SENTENCES, ...SENTENCES_SEEN_LATER];

describe('ordinary English', () => {
  it.each(CORPUS)('“%s”', (sentence, steps) => {
    const reading = readPlainSentence(sentence);
    expect(reading.isUnderstood ? reading.steps.map(printStep).join(' | ') : '').toBe(steps);
  });

  it('is understood in at least nine of ten of more than 300 different sentences', () => {
    expect(new Set(CORPUS.map(([sentence]) => sentence)).size).toBeGreaterThanOrEqual(300);
    const understood = CORPUS.filter(([sentence]) => readPlainSentence(sentence).isUnderstood).length;
    expect(understood / CORPUS.length).toBeGreaterThanOrEqual(0.9);
  });

  it('is never dropped: what is not understood is one step by hand in its own words', () => {
    expect(readPlainSentence('3. Repeat steps 3 to 5 for the <Kind> meter')).toEqual({
      isUnderstood: false,
      steps: [{ do: 'hand', target: 'Repeat steps 3 to 5 for the {Kind} meter' }],
    });
  });

  it('never throws and never gives nothing, whatever is written (seed 7)', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.string({ unit: 'grapheme' }), fc.constantFrom(...CORPUS.map(([line]) => line))), (line) => {
        const { steps } = readPlainSentence(line);
        expect(steps.length > 0).toBe(line.trim() !== '');
        for (const step of steps) expect(readPlainSentence(printStep(step)).steps).toEqual([step]);
      }),
      { seed: 7, numRuns: 1_500 },
    );
  });

  it('keeps right-to-left and combining letters as they are', () => {
    expect(readPlainSentence('Enter "שלום" in the "Näme" field').steps).toEqual([{ do: 'fill', target: 'Näme', value: 'שלום' }]);
  });

  it('reads a line of 10,000 words in its own time', () => {
    const { steps, isUnderstood } = readPlainSentence('click Save and '.repeat(3_500));
    expect(isUnderstood || steps.length === 1).toBe(true);
  });
});
