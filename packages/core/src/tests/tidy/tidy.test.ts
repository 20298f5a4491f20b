import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { printStep } from '../print-step.ts';
import { readPlainSentence } from '../read-plain-sentence.ts';
import type { Step } from '../step.ts';
import { applyProposal } from './proposal.ts';
import { proposeTidying, tidyAll, toProposalKey } from './rules.ts';

const read = (...lines: string[]): Step[] => lines.flatMap((line) => readPlainSentence(line).steps);
const tidy = (...lines: string[]) => tidyAll(read(...lines)).steps.map(printStep);

/** What a machine would do: at each press, look or work by hand, what is done and what stands in every field; the same press twice in a row is one. */
function runSteps(steps: readonly Step[], inputs: Readonly<Record<string, string>>): string[] {
  const fields = new Map<string, string>();
  const fill = (text: string) => text.replace(/\{([^{}]+)\}/g, (all, name: string) => inputs[name] ?? all);
  const told: string[] = [];
  for (const { do: action, target, value, optional } of [...steps, { do: 'see', target: 'the end' } as Step]) {
    const key = `${target.toLowerCase()}${optional ? '?' : ''}`;
    if (action === 'fill' || action === 'pick') {
      if (value !== undefined) fields.set(key, fill(value));
      continue;
    }
    const line = JSON.stringify([action, target.toLowerCase(), optional, value === undefined ? null : fill(value), [...fields].sort()]);
    if (action !== 'press' || told.at(-1) !== line) told.push(line);
  }
  return told;
}

describe('tidying recorded steps', () => {
  it.each<[string, string[], string[]]>([
    ['drops pointer movements and changes of focus', ['Move the mouse to Save', 'Focus Surname', 'Press Save'], ['Press "Save".']],
    ['joins single keystrokes', ['Enter "a" in Code', 'Enter "b" in Code', 'Enter "c" in Code'], ['Fill "Code" with "abc".']],
    [
      'joins no two texts of which the second does not go on with the first',
      ['Enter "Hal" in Town', 'Press Save', 'Enter "Hull" in Town', 'Enter "Hal" in Town'],
      ['Fill "Town" with "Hal".', 'Press "Save".', 'Fill "Town" with "Hal".'],
    ],
    ['joins growing keystrokes', ['Enter "H" in Town', 'Enter "Ha" in Town', 'Enter "Hal" in Town'], ['Fill "Town" with "Hal".']],
    [
      'drops a fill that a later one overwrites before anything is pressed',
      ['Enter "10" in Amount', 'Enter "x" in Note', 'Enter "20" in Amount', 'Press Save'],
      ['Fill "Note" with "x".', 'Fill "Amount" with "20".', 'Press "Save".'],
    ],
    [
      'keeps a fill that was used before it is overwritten',
      ['Enter "10" in Amount', 'Press Save', 'Enter "20" in Amount'],
      ['Fill "Amount" with "10".', 'Press "Save".', 'Fill "Amount" with "20".'],
    ],
    ['joins repeated presses', ['Press Next', 'Press Next', 'Press Next', 'Press Save'], ['Press "Next".', 'Press "Save".']],
    [
      'does not join presses with something to see between them',
      ['Press Next → page 2', 'Press Next → page 3'],
      ['Press "Next". You should see: page 2', 'Press "Next". You should see: page 3'],
    ],
    [
      'names a value that occurs again as an input',
      ['Enter "Halden Row" in Street', 'Press Save', 'Check that Address is "Halden Row"'],
      ['Fill "Street" with {Street}.', 'Press "Save".', 'See "Address" showing {Street}.'],
    ],
  ])('%s', (_, lines, expected) => expect(tidy(...lines)).toEqual(expected));

  it('gives the named value to a data row', () => {
    expect(tidyAll(read('Enter "Halden Row" in Street', 'Check that Address is "Halden Row"')).inputs).toEqual({ Street: 'Halden Row' });
  });

  it('shows before and after, one by one, and leaves out what was refused', () => {
    const steps = read('Press Next', 'Press Next', 'Scroll down', 'Press Save');
    const [pointer, presses] = proposeTidying(steps);
    expect(presses?.replacements[0]).toMatchObject({
      at: 0,
      before: [{ target: 'Next' }, { target: 'Next' }],
      after: [{ target: 'Next' }],
    });
    expect(applyProposal(steps, presses!).map(({ target }) => target)).toEqual(['Next', 'Scroll down', 'Save']);
    expect(proposeTidying(steps, new Set([toProposalKey(pointer!)])).map(({ rule }) => rule)).toEqual(['presses']);
  });

  it.each<[string, Step[]]>([
    ['something to see between them', read('Enter "a" in Code → a list', 'Enter "b" in Code')],
    ['a reference among them', [...read('Enter "a" in Code'), { ...read('Enter "a" in Code')[0]!, value: 'a{Code}' }]],
    ['one alone', read('Enter "a" in Code')],
  ])('does not join keystrokes with %s', (_, steps) => {
    expect(proposeTidying(steps).map(({ rule }) => rule)).not.toContain('keystrokes');
  });

  it('names each of several values apart, also where their fields have one name, and never as a fresh value or a date', () => {
    const both = tidyAll(
      read(
        ...['Halden Row', 'Mill Lane'].flatMap((street) => [
          `Enter "${street}" in Street`,
          'Press Save',
          `Check that Address is "${street}"`,
        ]),
      ),
    );
    expect(both.inputs).toEqual({ Street: 'Halden Row', 'Street 2': 'Mill Lane' });
    const odd = (target: string) =>
      tidyAll([{ do: 'fill', target, value: 'Halden Row' }, ...read('Press Save', 'Check that Address is "Halden Row"')]).inputs;
    expect(['New address', 'Today', 'Newcomer'].map(odd)).toEqual([
      { 'Value of New address': 'Halden Row' },
      { 'Value of Today': 'Halden Row' },
      { Newcomer: 'Halden Row' },
    ]);
  });

  it('drops what moves the pointer, not what moves the goods', () => {
    const kept = ['Move the stock to warehouse 2', 'Scroll the drum by hand', 'Moved in on 1 May'];
    const step = (target: string): Step => ({ do: 'hand', target });
    expect(tidyAll(kept.map(step)).steps).toEqual(kept.map(step));
    expect(tidyAll(['Move the mouse to Save', 'Move pointer over Save', 'Scroll down', 'Hover Save'].map(step)).steps).toEqual([]);
  });

  it('does not join what is optional with what is not', () => {
    const fill = (value: string, optional?: true): Step => ({ do: 'fill', target: 'Town', value, ...(optional ? { optional } : {}) });
    expect(proposeTidying([fill('Ha', true), fill('Hal')])).toEqual([]);
    expect(
      proposeTidying([
        { do: 'press', target: 'Next' },
        { do: 'press', target: 'Next', optional: true },
      ]),
    ).toEqual([]);
    expect(tidyAll([fill('Ha', true), fill('Hal', true)]).steps).toEqual([fill('Hal', true)]);
  });

  it('loses nothing: with the inputs that it names, the steps fill and see what they did before (seed 17)', () => {
    const step = fc.record({
      do: fc.constantFrom('fill', 'fill', 'pick', 'press', 'see', 'hand'),
      target: fc.constantFrom('Street', 'street', 'New address', 'Today', 'Move the stock to warehouse 2'),
      value: fc.constantFrom(undefined, 'Halden Row', 'Mill Lane', 'Mi', 'Mill', '{Street}', '{Street 2}'),
      optional: fc.constantFrom(undefined, undefined, true),
    }) as fc.Arbitrary<Step>;
    fc.assert(
      fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
        const { steps: tidied, inputs } = tidyAll(steps);
        expect(runSteps(tidied, inputs)).toEqual(runSteps(steps, {}));
      }),
      { seed: 17, numRuns: 3_000 },
    );
  });

  it('ends, and then proposes nothing more (seed 11)', () => {
    const step = fc.record({
      do: fc.constantFrom('fill', 'press', 'see', 'hand'),
      target: fc.constantFrom('A', 'B', 'Scroll down'),
      value: fc.constantFrom(undefined, '1', '12', 'abc', 'abcd', '{X}'),
    }) as fc.Arbitrary<Step>;
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
        expect(proposeTidying(tidyAll(steps).steps)).toEqual([]);
      }),
      { seed: 11, numRuns: 400 },
    );
  });
});

describe('tidying all at once', () => {
  it('counts what was taken in, and takes in what follows from it', () => {
    const steps = read('Move the mouse to Save', 'Press Next', 'Press Next', 'Press Save');
    const one = tidyAll(read('Move the mouse to Save', 'Press Save'));
    expect([one.taken, tidyAll(read('Press Save')).taken]).toEqual([1, 0]);
    expect(tidyAll(steps).taken).toBe(2);
  });

  it('names a repeated value, but no plain word, no short one and none that is a name already', () => {
    const twice = (value: string) => tidyAll(read(`Enter "${value}" in Town`, 'Press Save', `Enter "${value}" in Place`)).inputs;
    expect(twice('Brindlemere')).toEqual({ Town: 'Brindlemere' });
    expect(['yes', 'ab', 'open', '{Town}', 'x {Town} y'].map(twice)).toEqual([{}, {}, {}, {}, {}]);
  });
});
