import type { TurnStatus } from './outcomes.ts';
import { isNotRun } from './outcomes.ts';

interface StandingFacts {
  readonly label: string;
  /** The mark that it is drawn with. */
  readonly mark: TurnStatus;
}

/** How a test stands: what all its current turns in one cycle say together, the worst first. */
const STANDING_FACTS = {
  failing: { label: 'Failing', mark: 'failed' },
  blocked: { label: 'Blocked', mark: 'blocked' },
  partly: { label: 'Partly passed', mark: 'under way' },
  'not run': { label: 'Not run', mark: 'ready' },
  passed: { label: 'Passed', mark: 'passed' },
} as const satisfies Readonly<Record<string, StandingFacts>>;
export type Standing = keyof typeof STANDING_FACTS;
export const STANDINGS = Object.keys(STANDING_FACTS) as [Standing, ...Standing[]];
export const isStanding = (text: string): text is Standing => Object.hasOwn(STANDING_FACTS, text);
export const getStandingLabel = (standing: Standing): string => STANDING_FACTS[standing].label;
export const getStandingMark = (standing: Standing): TurnStatus => STANDING_FACTS[standing].mark;

/**
 * From the number of its turns at each status: failing if any failed, else blocked if any is blocked; passed only if every turn passed; not run
 * while none has passed. A skipped turn shows nothing, so that beside passed ones the test has passed partly.
 */
export function getStanding(counts: Readonly<Partial<Record<TurnStatus, number>>>): Standing {
  const at = (status: TurnStatus) => counts[status] ?? 0;
  if (at('failed') > 0) return 'failing';
  if (at('blocked') > 0) return 'blocked';
  if (at('passed') === 0) return 'not run';
  const isLeft = (Object.keys(counts) as TurnStatus[]).some((status) => (isNotRun(status) || status === 'skipped') && at(status) > 0);
  return isLeft ? 'partly' : 'passed';
}

/** How a test stands, over which turns. */
export interface TestStanding {
  readonly standing: Standing;
  /** Code of the cycle whose turns were counted. */
  readonly cycle: string;
  readonly turns: number;
  readonly passed: number;
}

/** “passed in 3 of 5 turns of ACC-1” */
export const describeStanding = ({ standing, cycle, turns, passed }: TestStanding): string =>
  `${getStandingLabel(standing)}: ${passed} of ${turns} ${turns === 1 ? 'turn' : 'turns'} of ${cycle} passed`;
