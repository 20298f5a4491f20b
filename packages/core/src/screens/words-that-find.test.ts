import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Want } from './find-element.ts';
import { findElement } from './find-element.ts';
import { nameElement } from './name-element.ts';
import { isField } from './roles.ts';
import type { Made } from './screen.test-data.ts';
import { makeCapture } from './screen.test-data.ts';

const WORDS = ['Name', 'Amount', 'Save', 'Change', 'Number', 'Valid until', 'Größe', 'رقم', 'Save all'];
const words = fc.constantFrom(...WORDS);

/** One line of a page: an old one with its label beside, a new one with its own, or an act; the same words come again and again. */
const line = fc.record({
  kind: fc.constantFrom('old', 'new', 'button', 'link', 'list', 'text'),
  word: words,
  mark: words,
  value: fc.constantFrom('', '12', 'A'),
});
const part = fc.record({ title: words, lines: fc.array(line, { minLength: 1, maxLength: 6 }) });

function toMade(
  parts: readonly { title: string; lines: readonly { kind: string; word: string; mark: string; value: string }[] }[],
): Made[] {
  let y = 0;
  return parts.map(({ title, lines }) => {
    const from = y;
    const holds: Made[] = [{ tag: 'legend', holds: [title], at: [0, (y += 24), 120, 16] }];
    for (const { kind, word, mark, value } of lines) {
      y += 24;
      const at = [200, y, 160, 18] as const;
      holds.push({ tag: 'span', holds: [mark], at: [420, y, 100, 18] });
      if (kind === 'old')
        holds.push({ tag: 'td', holds: [word], at: [0, y, 150, 18] }, { tag: 'input', attributes: { type: 'text' }, value, at });
      if (kind === 'new') holds.push({ tag: 'input', attributes: { 'aria-label': word }, value, at });
      if (kind === 'button') holds.push({ tag: 'button', holds: [word], at });
      if (kind === 'link') holds.push({ tag: 'a', attributes: { href: '#' }, holds: [word], at });
      if (kind === 'list')
        holds.push({ tag: 'select', attributes: { 'aria-label': word }, holds: [{ tag: 'option', holds: ['A'], at }], at });
      if (kind === 'text') holds.push({ tag: 'p', holds: [word], at });
    }
    return { tag: 'fieldset', holds, at: [0, from, 800, y - from + 24] };
  });
}

const wantOf = (role: string): Want | undefined =>
  role === 'combobox' ? 'choice' : isField(role) ? 'field' : role === 'button' || role === 'link' ? 'press' : undefined;

describe('words that find', () => {
  it('find the element that they were given for, and no other (seed 11)', () => {
    let named = 0;
    let all = 0;
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 4 }), (parts) => {
        const capture = makeCapture(...toMade(parts));
        for (const element of capture.elements) {
          const want = wantOf(element.role);
          if (!want) continue;
          all += 1;
          const target = nameElement(capture, element, want);
          if (!target) continue;
          named += 1;
          const finding = findElement(capture, target);
          expect(finding.kind === 'found' && finding.element.index).toBe(element.index);
          // Shortest: what has a name of its own is not told apart by its place.
          const plain = findElement(capture, { want, name: target.name });
          if (plain.kind === 'found' && plain.element.index === element.index)
            expect([target.within, target.beside]).toEqual([undefined, undefined]);
        }
      }),
      { seed: 11, numRuns: 150 },
    );
    // Pages are made to be mixed up: the same words up to six times in one part. Most can be told apart all the same.
    expect(named / all).toBeGreaterThan(0.8);
  });
});
