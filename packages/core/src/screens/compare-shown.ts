import { assertNever } from '../assert-never.ts';
import type { StepCheck } from '../tests/step-checks.ts';
import { convertValue } from '../values/convert-value.ts';
import { foldWords } from './capture.ts';
import type { ShownList } from './list-under.ts';
import { holdsWords } from './read-shown.ts';

/** What is said of a list as a whole; all else is said of one thing. */
const LIST_CHECKS = ['counting', 'all different', 'none empty', 'with headings'] as const satisfies readonly StepCheck[];
export type ListCheck = (typeof LIST_CHECKS)[number];
export const isListCheck = (check: StepCheck | undefined): check is ListCheck => LIST_CHECKS.some((one) => one === check);

const NUMBER = { name: 'number', type: 'number' } as const;
const toNumber = (text: string) => {
  const plain = convertValue(text, NUMBER);
  return plain === undefined ? undefined : Number(plain);
};

/** Whether what is shown agrees with what is said of it; words in a longer text are enough where nothing else is said. */
export function compareShown(actual: string, check: Exclude<StepCheck, ListCheck | 'not there'> | undefined, value: string): boolean {
  const [is, wanted] = [foldWords(actual), foldWords(value)];
  const shows = is === wanted || (wanted !== '' && holdsWords(is, wanted));
  switch (check) {
    case undefined:
      return shows;
    case 'not showing':
      return !shows;
    case 'containing':
      return is.includes(wanted);
    case 'at least':
    case 'at most': {
      const [left, right] = [toNumber(actual), toNumber(value)];
      return left !== undefined && right !== undefined && (check === 'at least' ? left >= right : left <= right);
    }
    default:
      return assertNever(check);
  }
}

/** Whether what is said of a list holds, and what is there instead. Cost O(n log n) of its items. */
export function compareList({ items, headings }: ShownList, check: ListCheck, value: string): { holds: boolean; actual: string } {
  switch (check) {
    case 'counting':
      return { actual: String(items.length), holds: items.length === toNumber(value) };
    case 'with headings': {
      const wanted = value.split(/\s*[,|]\s*/).map(foldWords);
      return { actual: headings.join(', '), holds: headings.map(foldWords).join('|') === wanted.join('|') };
    }
    case 'all different': {
      const twice = findTwice(items);
      return {
        actual: twice === undefined ? items.join(', ') : `“${twice}” is there twice.`,
        holds: items.length > 0 && twice === undefined,
      };
    }
    case 'none empty': {
      const empty = items.filter((item) => foldWords(item) === '').length;
      return {
        actual: empty === 0 ? items.join(', ') : `${empty} of ${items.length} are empty.`,
        holds: items.length > 0 && empty === 0,
      };
    }
    default:
      return assertNever(check);
  }
}

function findTwice(items: readonly string[]): string | undefined {
  const known = new Set<string>();
  return items.find((item) => {
    const words = foldWords(item);
    if (known.has(words)) return true;
    known.add(words);
    return false;
  });
}
