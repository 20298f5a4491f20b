import { expect, it } from 'vitest';
import { makeResult } from '../../../../test-support/fixtures.ts';
import { describeHands } from './describe-hands.ts';

it('says whose each step was, where it was not all one person’s', () => {
  const by = (index: number, who: string) => ({ ...makeResult(index, 'passed'), by: who });
  const hands = (results: ReturnType<typeof by>[]) => describeHands({ person: 'Lea Marsh', results });
  expect(hands([by(0, 'Lea Marsh'), by(1, 'Lea Marsh')])).toBe('');
  expect(hands([by(2, 'Lea Marsh'), by(0, 'north-1'), by(1, 'north-1')])).toBe('steps 1 to 2 by north-1, 3 by Lea Marsh');
  expect(hands([by(0, 'north-1')])).toBe('step 1 by north-1');
  expect(hands([{ ...by(0, 'north-1'), outcome: null }])).toBe('');
});
