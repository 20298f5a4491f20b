import { describe, expect, it } from 'vitest';
import type { Stacks } from './edit-stacks.ts';
import { EMPTY_STACKS, forget, remember, turnBack } from './edit-stacks.ts';

const back = (text: string) => Promise.resolve([text]);

describe('undo and redo', () => {
  it('takes the last edit back, makes it again, and forgets what was taken back once something new is done', async () => {
    const [a, b] = [back('a'), back('b')];
    const two = remember(remember(EMPTY_STACKS as Stacks<string>, a), b);
    const one = turnBack(two, 'undos', async (edits) => (await edits)?.map((edit) => `not ${edit}`) ?? null);
    expect([one.undos, await one.redos[0]]).toEqual([[a], ['not b']]);
    const again = turnBack(one, 'redos', (edits) => edits);
    expect([again.undos.length, again.redos.length]).toEqual([2, 0]);
    expect(remember(one, back('c')).redos).toEqual([]);
  });

  it('has nothing to take back of what was refused, or at the beginning', () => {
    const [a, b] = [back('a'), back('b')];
    expect(forget(remember(remember(EMPTY_STACKS as Stacks<string>, a), b), a).undos).toEqual([b]);
    expect(turnBack(EMPTY_STACKS as Stacks<string>, 'undos', (edits) => edits)).toBe(EMPTY_STACKS);
  });

  it('remembers a hundred', () => {
    let stacks: Stacks<string> = EMPTY_STACKS;
    for (let index = 0; index < 120; index += 1) stacks = remember(stacks, back(String(index)));
    expect(stacks.undos).toHaveLength(100);
  });
});
