import { toHeadingKey } from './text-table.ts';
import type { Priority } from '../values/priority.ts';
import { PRIORITIES } from '../values/priority.ts';

/** Words that other lists use for a priority (common practice, no source). */
const PRIORITY_OF: Readonly<Record<string, Priority>> = {
  ...{ 'must have': 'high', must: 'high', critical: 'high', urgent: 'high', '1': 'high', h: 'high' },
  ...{ should: 'medium', 'should have': 'medium', normal: 'medium', '2': 'medium', m: 'medium' },
  ...{ could: 'low', 'could have': 'low', wont: 'low', '3': 'low', '4': 'low', l: 'low' },
};

/** A priority in the words of another list; null where the word is unknown. */
export function readPriority(text: string): Priority | null {
  const key = toHeadingKey(text);
  return PRIORITIES.find((word) => key === word || key.startsWith(`${word} `)) ?? PRIORITY_OF[key] ?? null;
}
