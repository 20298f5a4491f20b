import type { TestReading } from '@kindred-baton/core/imports/test-table';
import type { Step } from '@kindred-baton/core/tests/step';
import { normalizeStep } from '@kindred-baton/core/tests/step';

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> => typeof value === 'object' && value !== null;
const MOST_STEPS = 500;
/** What a recorder notes of the browser, and no step says. */
const SILENT = new Set(['setViewport', 'keyUp', 'scroll', 'emulateNetworkConditions', 'close', 'hover', 'waitForExpression']);

/** Whether a file is what browsers' recorders write: an object with a title and steps that have types. */
export function isRecording(text: string): boolean {
  return (
    /^\ufeff?\s*\{/.test(text) && /"steps"\s*:\s*\[/.test(text) && /"type"\s*:\s*"(?:navigate|click|change|setViewport|keyDown)"/.test(text)
  );
}

/**
 * Reads the JSON of browsers' own recorders as one test. A thing is named by its accessible name or text; one that is told only by its place in the
 * code becomes a step by hand that says so, for somebody to name. Passwords are left out.
 */
export function readRecording(text: string, file: string): TestReading {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    return refuse(file, `This is no JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  if (!isRecord(parsed) || !Array.isArray(parsed['steps'])) return refuse(file, 'A recording has a title and steps.');
  const recorded = parsed['steps'].filter(isRecord);
  if (recorded.length > MOST_STEPS) return refuse(file, `A test has at most ${MOST_STEPS} steps; this recording has ${recorded.length}.`);
  const title =
    typeof parsed['title'] === 'string' && parsed['title'].trim() !== '' ? parsed['title'].trim() : file.replace(/\.json$/i, '');
  const steps = recorded.flatMap(toStep).map((step) => normalizeStep(step));
  if (steps.length === 0) return refuse(file, 'Nothing in this recording is a step.');
  const byHand = steps.filter((step) => step.do === 'hand').length;
  return { entries: [{ place: { sheet: file }, code: null, name: title, steps, rows: [], sentences: steps.length, byHand }], problems: [] };
}

const refuse = (file: string, message: string): TestReading => ({ entries: [], problems: [{ sheet: file, message }] });

function toStep(recorded: Readonly<Record<string, unknown>>): Step[] {
  const type = String(recorded['type'] ?? '');
  if (SILENT.has(type)) return [];
  if (type === 'navigate') return [{ do: 'hand', target: `Open ${String(recorded['url'] ?? '')}` }];
  if (type === 'keyDown') {
    const key = String(recorded['key'] ?? '');
    return /^(?:Enter|Escape|Tab|Arrow\w+|Delete|Backspace|Page\w+|Home|End)$/.test(key) ? [{ do: 'press', target: spaced(key) }] : [];
  }
  const name = findName(recorded['selectors']);
  const value = String(recorded['value'] ?? '');
  if (type === 'click' || type === 'doubleClick')
    return [name ? { do: 'press', target: name } : { do: 'hand', target: `Press ${describe(recorded)}` }];
  if (type === 'change') {
    if (name === undefined) return [{ do: 'hand', target: `Fill ${describe(recorded)}`, value }];
    return [/pass(?:word|wort|phrase)/i.test(name) ? { do: 'hand', target: `Fill ${name}` } : { do: 'fill', target: name, value }];
  }
  if (type === 'waitForElement') return name === undefined ? [] : [{ do: 'see', target: name }];
  return [{ do: 'hand', target: `${spaced(type)}: ${describe(recorded)}` }];
}

const spaced = (word: string) => word.replace(/(?<=[a-z])(?=[A-Z])/g, ' ');

/** The words of a selector by accessible name or text; a path of cells names what stands before the field. */
function findName(selectors: unknown): string | undefined {
  const all = Array.isArray(selectors) ? selectors.flatMap((one: unknown) => (Array.isArray(one) ? one.slice(-1) : [one])).map(String) : [];
  const named = all.flatMap((selector) => {
    const words = /^(?:aria|text)\/(.+)$/s.exec(selector)?.[1] ?? /::-p-(?:aria|text)\((.+)\)$/s.exec(selector)?.[1];
    const cell = /^xpath\/\/\/td\[normalize-space\(\.\)=["'](.+?)["']\]/.exec(selector)?.[1];
    return (words ?? cell)?.replace(/\[role=.*\]$/, '').trim() ?? [];
  });
  return named.find((words) => words !== '');
}

const describe = ({ selectors }: Readonly<Record<string, unknown>>) =>
  Array.isArray(selectors) && selectors.length > 0 ? `what stands at ${String([selectors[0]].flat().at(-1))}` : 'what was pressed';
