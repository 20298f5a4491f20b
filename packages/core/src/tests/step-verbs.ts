import type { StepAction } from './step.ts';
import { getActionFacts, STEP_ACTIONS } from './step.ts';

const ENTRIES = STEP_ACTIONS.flatMap((action) => getActionFacts(action).verbs.map((verb) => ({ action, verb }))).sort(
  (a, b) => b.verb.length - a.verb.length,
);

/** The action that a sentence begins with, and how long its verb is; undefined when no verb is known. */
export function findVerb(sentence: string): { action: StepAction; length: number } | undefined {
  const lower = sentence.toLowerCase();
  const entry = ENTRIES.find(({ verb }) => lower.startsWith(verb) && !/[a-z0-9]/.test(lower[verb.length] ?? ' '));
  return entry && { action: entry.action, length: entry.verb.length };
}

/** The action of a table's *Do* cell. */
export function findAction(cell: string): StepAction | undefined {
  const verb = findVerb(cell.trim());
  return verb && verb.length === cell.trim().length ? verb.action : undefined;
}
