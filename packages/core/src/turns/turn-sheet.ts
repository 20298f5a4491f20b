/** A turn on paper: what is printed of it, and what comes back. */
import type { StepOutcome } from '../outcomes.ts';
import { printStep } from '../tests/print-step.ts';
import type { Step } from '../tests/step.ts';
import { toNameKey } from '../values/field.ts';

/** Words that people write for an outcome (common practice, no source). */
const OUTCOME_LABELS: Readonly<Record<string, StepOutcome>> = {
  ...{ worked: 'passed', 'it worked': 'passed', passed: 'passed', pass: 'passed', ok: 'passed', yes: 'passed', p: 'passed', x: 'passed' },
  ...{ 'did not': 'failed', 'it did not': 'failed', failed: 'failed', fail: 'failed', no: 'failed', f: 'failed' },
  ...{ 'cannot go on': 'blocked', 'i cannot go on': 'blocked', blocked: 'blocked', b: 'blocked' },
  ...{ 'left out': 'skipped', skipped: 'skipped', skip: 'skipped', s: 'skipped', '-': 'skipped' },
};

/** What is offered in the sheet. */
export const SHEET_OUTCOMES = ['worked', 'did not', 'cannot go on', 'left out'] as const;

/** An outcome as it was written; undefined: the word is unknown. An empty cell is none yet. */
export function readOutcome(text: string): StepOutcome | null | undefined {
  const word = text
    .trim()
    .toLowerCase()
    .replace(/[.!]+$/, '');
  return word === '' ? null : OUTCOME_LABELS[word];
}

/**
 * Stands in a sheet for the turn and the very steps that were printed: a sheet whose steps are others by now is not taken. FNV-1a over the
 * printed steps; it guards against mix-ups, not against forgery.
 */
export function toSheetMark(turnId: string, steps: readonly Step[]): string {
  let hash = 0x811c9dc5;
  for (const character of steps.map(printStep).join('\n')) {
    hash ^= character.codePointAt(0) ?? 0;
    hash = Math.imul(hash, 0x01000193) >>> 0;
  }
  return `${turnId}/${hash.toString(16).padStart(8, '0')}`;
}

/** One step of a filled sheet. */
export interface SheetLine {
  readonly number: number;
  readonly step: string;
  readonly outcome: string;
  readonly note: string;
  readonly kept: string;
}

interface FilledStep {
  readonly stepIndex: number;
  readonly outcome: StepOutcome | null;
  readonly note: string;
  readonly kept: string;
}

interface SheetProblem {
  /** 1-based; null: the whole sheet. */
  readonly step: number | null;
  readonly message: string;
}

export type SheetReading =
  { readonly ok: true; readonly steps: readonly FilledStep[] } | { readonly ok: false; readonly problems: readonly SheetProblem[] };

/** What a filled sheet says of a turn's steps, with every problem and its place. Cost O(steps). */
export function readFilledSheet(
  sheet: { readonly mark: string; readonly lines: readonly SheetLine[] },
  turnId: string,
  steps: readonly Step[],
): SheetReading {
  const [turn] = sheet.mark.split('/');
  if (turn !== turnId) return refuse('This sheet is of another turn. Choose the turn that it was made from.');
  if (sheet.mark !== toSheetMark(turnId, steps))
    return refuse('The steps of this turn were changed since the sheet was made. Take a new sheet, and copy what you wrote.');
  const problems: SheetProblem[] = [];
  const filled = sheet.lines.map((line): FilledStep => {
    const step = steps[line.number - 1];
    if (!step) problems.push({ step: line.number, message: `There is no step ${line.number}; the test has ${steps.length}.` });
    else if (toPlain(line.step) !== toPlain(toSheetText(step)) && line.step !== '')
      problems.push({ step: line.number, message: `Step ${line.number} was changed in the sheet. It stays “${toSheetText(step)}”.` });
    const outcome = readOutcome(line.outcome);
    if (outcome === undefined)
      problems.push({ step: line.number, message: `“${line.outcome}” is no outcome; write ${SHEET_OUTCOMES.join(', ')}.` });
    return { stepIndex: line.number - 1, outcome: outcome ?? null, note: line.note.trim(), kept: line.kept.trim() };
  });
  const twice = sheet.lines.find(({ number }, index) => sheet.lines.findIndex((other) => other.number === number) < index);
  if (twice) problems.push({ step: twice.number, message: `Step ${twice.number} stands in the sheet twice.` });
  return problems.length > 0 ? { ok: false, problems } : { ok: true, steps: filled };
}

const refuse = (message: string): SheetReading => ({ ok: false, problems: [{ step: null, message }] });
/** What stands in the column of steps; what should be seen has its own. */
export const toSheetText = (step: Step) => printStep({ ...step, expect: undefined });
/** Printed values differ by run; the words of a step do not. */
const toPlain = (text: string) => toNameKey(text.replace(/"[^"]*"/g, '…').replace(/\{[^}]*\}/g, '…'));
