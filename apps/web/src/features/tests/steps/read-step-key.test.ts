import { describe, expect, it } from 'vitest';
import { actOn, laySteps, markStep, NO_MARKS, readStepKey } from './read-step-key.ts';

const place = (index: number, marked: readonly number[] = []) => ({ index, marked: new Set(marked), count: 4 });
const press = (key: string, at: ReturnType<typeof place>, more: object = {}) =>
  readStepKey({ key, altKey: false, shiftKey: false, isCommand: false, isInText: true, ...more }, at);

describe('marking steps', () => {
  it('marks one, and again not; a stretch goes from the last clicked one, whichever way', () => {
    const one = markStep(NO_MARKS, 2, false);
    expect([...one.marked]).toEqual([2]);
    expect([...markStep(one, 2, false).marked]).toEqual([]);
    expect([...markStep(one, 0, true).marked]).toEqual([0, 1, 2]);
    expect([...markStep(markStep(one, 0, true), 3, true).marked]).toEqual([2, 3]);
    expect(markStep(one, 1, false)).toEqual({ anchor: 1, marked: new Set([2, 1]) });
  });
});

describe('keys of the step table', () => {
  it('begin a new step behind this one from a field of text, and nowhere else', () => {
    expect(press('Enter', place(1))).toEqual({ kind: 'insert', index: 2 });
    expect([
      press('Enter', place(1), { isInText: false }),
      press('Enter', place(1), { shiftKey: true }),
      press('Enter', place(1), { isCommand: true }),
    ]).toEqual([undefined, undefined, undefined]);
  });

  it('move what is marked, else the step itself, and stop at both ends', () => {
    expect(press('ArrowUp', place(1), { altKey: true })).toEqual({ kind: 'move', indexes: [1], by: -1, focus: 0 });
    expect(press('ArrowDown', place(0, [1, 2]), { altKey: true })).toEqual({ kind: 'move', indexes: [1, 2], by: 1, focus: 1 });
    expect(
      [
        press('ArrowUp', place(0), { altKey: true }),
        press('ArrowDown', place(3), { altKey: true }),
        press('ArrowUp', place(2, [0, 2]), { altKey: true }),
      ].map((act) => act?.kind),
    ).toEqual(['nothing', 'nothing', 'nothing']);
  });

  it('take out and double, and go on beside what is left', () => {
    expect(press('Delete', place(2), { altKey: true })).toEqual({ kind: 'remove', indexes: [2], focus: 1 });
    expect(press('Delete', place(0), { altKey: true })).toEqual({ kind: 'remove', indexes: [0], focus: 0 });
    expect(press('D', place(0, [1, 3]), { isCommand: true })).toEqual({ kind: 'duplicate', indexes: [1, 3], focus: 4 });
    expect(actOn('remove', place(3, [2, 3]))).toEqual({ kind: 'remove', indexes: [2, 3], focus: 1 });
  });

  it('walk up and down, unmark, and leave the browser its own', () => {
    expect([press('ArrowUp', place(2)), press('ArrowDown', place(2))]).toEqual([
      { kind: 'walk', index: 1 },
      { kind: 'walk', index: 3 },
    ]);
    expect(press('Escape', place(2, [1]))).toEqual({ kind: 'unmark' });
    expect([
      press('Escape', place(2)),
      press('ArrowUp', place(2), { isCommand: true }),
      press('Delete', place(2)),
      press('d', place(2)),
    ]).toEqual([undefined, undefined, undefined, undefined]);
  });
});

describe('pasted steps', () => {
  const steps = [{ target: 'One' }, { target: '' }, { target: 'Three' }];
  it('go behind a step, into the place of an empty one, and to the end', () => {
    const paste = (index: number) => laySteps(steps, [{ target: 'New' }], index).map(({ target }) => target);
    expect([paste(0), paste(1), paste(3)]).toEqual([
      ['One', 'New', '', 'Three'],
      ['One', 'New', 'Three'],
      ['One', '', 'Three', 'New'],
    ]);
  });
});
