import type { Step } from '@kindred-baton/core/tests/step';
import { getActionFacts } from '@kindred-baton/core/tests/step';

/** Whether what is pasted is a list: rows of a spreadsheet, or several lines. A single line without tabs is text for the cell. */
export function isStepList(text: string): boolean {
  return text.includes('\t') || text.split(/\r?\n/).filter((line) => line.trim() !== '').length > 1;
}

/** Steps as spreadsheet rows; pasting them again gives the same. */
export function copySteps(steps: readonly Step[]): string {
  return steps
    .map(({ do: action, target, value, expect, keepAs }) =>
      [getActionFacts(action).word, target, value ?? '', expect ?? '', keepAs ?? ''].map((cell) => cell.replace(/[\t\n]/g, ' ')).join('\t'),
    )
    .join('\n');
}
