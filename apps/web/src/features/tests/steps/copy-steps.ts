import { printStep } from '@kindred-baton/core/tests/print-step';
import type { Step } from '@kindred-baton/core/tests/step';
import { getActionFacts } from '@kindred-baton/core/tests/step';

/** Whether what is pasted is a list: rows of a spreadsheet, or several lines. A single line without tabs is text for the cell. */
export function isStepList(text: string): boolean {
  return text.includes('\t') || text.split(/\r?\n/).filter((line) => line.trim() !== '').length > 1;
}

/** Steps as spreadsheet rows, those that say more than a row has columns for as sentences; pasting them again gives the same. */
export function copySteps(steps: readonly Step[]): string {
  return steps.map((step) => (saysMore(step) ? printStep(step) : toRow(step))).join('\n');
}

const saysMore = ({ within, beside, as, optional, check, seconds }: Step) =>
  [within, beside, as, optional, check, seconds].some((part) => part !== undefined);

const toRow = ({ do: action, target, value, expect, keepAs }: Step) =>
  [getActionFacts(action).word, target, value ?? '', expect ?? '', keepAs ?? ''].map((cell) => cell.replace(/[\t\n]/g, ' ')).join('\t');
