import { assertNever } from '../assert-never.ts';
import type { StepCheck } from '../tests/step-checks.ts';
import { convertValue } from '../values/convert-value.ts';
import type { Capture, ScreenElement } from './capture.ts';
import { foldWords } from './capture.ts';
import { describeFinding } from './describe-finding.ts';
import type { Target } from './find-element.ts';
import { findElement } from './find-element.ts';
import { listUnder } from './list-under.ts';
import { holdsWords, readShown } from './read-shown.ts';

/** Whether what a step says of a thing holds on a screen, what stands there instead, and where. */
export interface Checked {
  readonly holds: boolean;
  readonly actual: string;
  readonly element: ScreenElement | null;
  /** It cannot be told which thing is meant: the step is at fault, not the application. */
  readonly isUnclear: boolean;
}

const NUMBER = { name: 'number', type: 'number' } as const;
const toNumber = (text: string) => {
  const plain = convertValue(text, NUMBER);
  return plain === undefined ? undefined : Number(plain);
};

/**
 * Decides one check. Without one: that the thing is there, or shows the value, whole or as words in what it shows. Lists are the rows below a
 * heading, the cells of a column, or all things of the name.
 */
export function decideCheck(capture: Capture, target: Target, check: StepCheck | undefined, value: string): Checked {
  if (check === 'counting' || check === 'all different' || check === 'none empty' || check === 'with headings')
    return decideList(capture, target, check, value);
  const finding = findElement(capture, target);
  const isThere = finding.kind === 'found' || finding.kind === 'several' || finding.kind === 'fixed';
  const element = finding.kind === 'found' || finding.kind === 'fixed' ? finding.element : null;
  const unsaid = { actual: describeFinding(finding, target), element, isUnclear: finding.kind === 'several' };
  if (check === 'not there') return { ...unsaid, actual: isThere ? 'It is there.' : '', holds: !isThere, isUnclear: false };
  // That it is there holds of each of several.
  if (check === undefined && value === '') return { ...unsaid, holds: isThere, isUnclear: false };
  if (!element) return { ...unsaid, holds: false };
  const actual = readShown(element);
  return { actual, element, isUnclear: false, holds: compare(actual, check, value) };
}

function compare(actual: string, check: 'not showing' | 'containing' | 'at least' | 'at most' | undefined, value: string): boolean {
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

function decideList(
  capture: Capture,
  target: Target,
  check: 'counting' | 'all different' | 'none empty' | 'with headings',
  value: string,
): Checked {
  const { items, headings } = listUnder(capture, target);
  const plain = { element: null, isUnclear: false };
  switch (check) {
    case 'counting':
      return { ...plain, actual: String(items.length), holds: items.length === toNumber(value) };
    case 'with headings': {
      const wanted = value.split(/\s*[,|]\s*/).map(foldWords);
      return { ...plain, actual: headings.join(', '), holds: headings.map(foldWords).join('|') === wanted.join('|') };
    }
    case 'all different': {
      const twice = items.find((item, index) => items.findIndex((other) => foldWords(other) === foldWords(item)) < index);
      return {
        ...plain,
        actual: twice === undefined ? items.join(', ') : `“${twice}” is there twice.`,
        holds: items.length > 0 && twice === undefined,
      };
    }
    case 'none empty': {
      const empty = items.filter((item) => foldWords(item) === '').length;
      return {
        ...plain,
        actual: empty === 0 ? items.join(', ') : `${empty} of ${items.length} are empty.`,
        holds: items.length > 0 && empty === 0,
      };
    }
    default:
      return assertNever(check);
  }
}
