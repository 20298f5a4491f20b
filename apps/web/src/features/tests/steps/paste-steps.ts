import { findAction } from '@kindred-baton/core/tests/step-verbs';
import { readPlainSentence } from '@kindred-baton/core/tests/read-plain-sentence';
import type { Step } from '@kindred-baton/core/tests/step';
import { normalizeStep } from '@kindred-baton/core/tests/step';

/**
 * Steps from the clipboard: spreadsheet rows (Do, On, With, You should see, Keep as, separated by tabs), or a sentence a line. What is
 * not understood becomes a step by hand.
 */
export function pasteSteps(text: string): { steps: Step[]; byHand: number } {
  const lines = text
    .replace(/\r/g, '')
    .split('\n')
    .filter((line) => line.trim() !== '');
  const read = lines.map((line) => {
    const cells = line.includes('\t') ? readCells(line.split('\t')) : undefined;
    return cells ? { steps: [cells], isUnderstood: true } : readPlainSentence(line.replace(/\t+/g, ' '));
  });
  return { steps: read.flatMap(({ steps }) => steps), byHand: read.filter(({ isUnderstood }) => !isUnderstood).length };
}

function readCells([verb = '', target = '', value = '', expect = '', keepAs = '']: string[]): Step | undefined {
  const action = findAction(verb);
  return action && target.trim() !== '' ? normalizeStep({ do: action, target, value, expect, keepAs }) : undefined;
}
