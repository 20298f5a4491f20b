import { parseStep } from '@kindred-baton/core/tests/parse-step';
import { findAction } from '@kindred-baton/core/tests/step-verbs';
import { normalizeStep } from '@kindred-baton/core/tests/step';
import type { Step } from '@kindred-baton/core/tests/step';

/**
 * Steps from the clipboard: spreadsheet rows (Do, On, With, You should see, Keep as, separated by tabs), or a sentence a line.
 * Null when it is neither: a single line without tabs is text for the cell.
 */
export function pasteSteps(text: string): { steps: Step[]; refused: string[] } | null {
  const lines = text
    .replace(/\r/g, '')
    .split('\n')
    .filter((line) => line.trim() !== '');
  if (lines.length < 2 && !text.includes('\t')) return null;
  const steps: Step[] = [];
  const refused: string[] = [];
  for (const line of lines) {
    const step = line.includes('\t') ? readCells(line.split('\t')) : readSentence(line);
    if (step) steps.push(step);
    else refused.push(line);
  }
  return { steps, refused };
}

function readSentence(line: string): Step | undefined {
  const reading = parseStep(line);
  return reading.ok ? reading.step : undefined;
}

function readCells([verb = '', target = '', value = '', expect = '', keepAs = '']: string[]): Step | undefined {
  const action = findAction(verb);
  return action && target.trim() !== '' ? normalizeStep({ do: action, target, value, expect, keepAs }) : undefined;
}
