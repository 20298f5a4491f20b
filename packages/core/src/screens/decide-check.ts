import type { StepCheck } from '../tests/step-checks.ts';
import type { Capture, ScreenElement } from './capture.ts';
import { compareList, compareShown, isListCheck } from './compare-shown.ts';
import { describeFinding } from './describe-finding.ts';
import type { Target } from './find-element.ts';
import { findElement } from './find-element.ts';
import { listUnder } from './list-under.ts';
import { readShown } from './read-shown.ts';

/** Whether what a step says of a thing holds on a screen, what stands there instead, and where. */
export interface Checked {
  readonly holds: boolean;
  readonly actual: string;
  readonly element: ScreenElement | null;
  /** It cannot be told which thing is meant: the step is at fault, not the application. */
  readonly isUnclear: boolean;
}

/**
 * Decides one check. Without one: that the thing is there, or shows the value, whole or as words in what it shows. Lists are the rows below a
 * heading, the cells of a column, or all things of the name.
 */
export function decideCheck(capture: Capture, target: Target, check: StepCheck | undefined, value: string): Checked {
  if (isListCheck(check)) return { ...compareList(listUnder(capture, target), check, value), element: null, isUnclear: false };
  const finding = findElement(capture, target);
  const isThere = finding.kind === 'found' || finding.kind === 'several' || finding.kind === 'fixed';
  const element = finding.kind === 'found' || finding.kind === 'fixed' ? finding.element : null;
  const unsaid = { actual: describeFinding(finding, target), element, isUnclear: finding.kind === 'several' };
  if (check === 'not there') return { ...unsaid, actual: isThere ? 'It is there.' : '', holds: !isThere, isUnclear: false };
  // That it is there holds of each of several.
  if (check === undefined && value === '') return { ...unsaid, holds: isThere, isUnclear: false };
  if (!element) return { ...unsaid, holds: false };
  const actual = readShown(element);
  return { actual, element, isUnclear: false, holds: compareShown(actual, check, value) };
}
