import type { StepAction } from './step.ts';

/** The verbs that are read for each action. The longest match wins, so `click on` is tried before `click`. */
const VERBS: Readonly<Record<StepAction, readonly string[]>> = {
  go: ['go to', 'go', 'open', 'navigate to', 'start', 'switch to', 'visit'],
  fill: ['fill in', 'fill', 'enter', 'type', 'write', 'set', 'key in'],
  pick: ['pick', 'select', 'choose'],
  press: ['press', 'click on', 'click', 'tap on', 'tap', 'push', 'submit'],
  see: ['see that', 'see', 'check that', 'check', 'verify that', 'verify', 'confirm that', 'make sure that', 'expect'],
  keep: ['keep', 'read', 'note down', 'note', 'remember', 'write down', 'record'],
  wait: ['wait for', 'wait until', 'wait'],
  hand: ['by hand'],
};

const ENTRIES = Object.entries(VERBS)
  .flatMap(([action, verbs]) => verbs.map((verb) => ({ action: action as StepAction, verb })))
  .sort((a, b) => b.verb.length - a.verb.length);

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
