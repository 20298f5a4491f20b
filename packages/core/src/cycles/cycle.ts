interface CycleStateFacts {
  /** Which attempts may be made. */
  readonly attempts: 'all' | 'retests' | 'none';
  /** Its batons travel: turns of it are with people. */
  readonly isLive: boolean;
  readonly next: readonly string[];
}

/** In the order in which a cycle goes through them. */
const STATE_FACTS = {
  planning: { attempts: 'none', isLive: false, next: ['open'] },
  open: { attempts: 'all', isLive: true, next: ['closing'] },
  closing: { attempts: 'retests', isLive: true, next: ['open', 'closed'] },
  closed: { attempts: 'none', isLive: false, next: [] },
} as const satisfies Readonly<Record<string, CycleStateFacts>>;
export type CycleState = keyof typeof STATE_FACTS;
export const CYCLE_STATES = Object.keys(STATE_FACTS) as [CycleState, ...CycleState[]];

/** Which state may follow. */
export const listCycleMoves = (state: CycleState): readonly CycleState[] => STATE_FACTS[state].next;
export const isLive = (state: CycleState): boolean => STATE_FACTS[state].isLive;
/** The states in which batons travel, for questions to a database. */
export const LIVE_STATES = CYCLE_STATES.filter(isLive);

/** Whether an attempt may be made: at all turns while open, only as a retest while closing. */
export function canAttempt(state: CycleState, isRetest: boolean): boolean {
  const { attempts } = STATE_FACTS[state];
  return attempts === 'all' || (attempts === 'retests' && isRetest);
}

export const CYCLE_PURPOSES = ['integration', 'acceptance', 'regression', 'smoke'] as const;
export type CyclePurpose = (typeof CYCLE_PURPOSES)[number];

export const SIGN_OFF_DECISIONS = ['accepted', 'accepted with reservations', 'refused'] as const;
export type SignOffDecision = (typeof SIGN_OFF_DECISIONS)[number];

/** What an owner accepts only for now: what, and until when it is put right. */
export interface Reservation {
  readonly text: string;
  readonly dueOn: string;
}

interface LeavingFacts {
  readonly label: string;
  /** Its turns count in the figures of the cycle. */
  readonly isInScope: boolean;
  /** What nobody tried of it is skipped. */
  readonly skipsRest: boolean;
  /** A run that is not through when its cycle closes can go this way. */
  readonly isForLeftovers: boolean;
}

/** How a run leaves its cycle without being through. */
const LEAVING_FACTS = {
  'next cycle': { label: 'left to the next cycle', isInScope: true, skipsRest: false, isForLeftovers: true },
  dropped: { label: 'dropped at the end', isInScope: true, skipsRest: true, isForLeftovers: true },
  'taken out': { label: 'taken out', isInScope: false, skipsRest: true, isForLeftovers: false },
} as const satisfies Readonly<Record<string, LeavingFacts>>;
export type LeavingWay = keyof typeof LEAVING_FACTS;
export const LEAVING_WAYS = Object.keys(LEAVING_FACTS) as [LeavingWay, ...LeavingWay[]];
const listWays = (takes: (facts: LeavingFacts) => boolean) => LEAVING_WAYS.filter((way) => takes(LEAVING_FACTS[way]));

/** What may be chosen when a cycle closes. */
export const LEFTOVER_WAYS = listWays(({ isForLeftovers }) => isForLeftovers) as [LeavingWay, ...LeavingWay[]];
/** What a run went that no longer counts in its cycle: the one meaning of *in scope*. */
export const OUT_OF_SCOPE = listWays(({ isInScope }) => !isInScope);
export const SKIPS_REST = listWays(({ skipsRest }) => skipsRest);
export const getLeavingLabel = (way: LeavingWay): string => LEAVING_FACTS[way].label;
export const isInScope = (way: LeavingWay | null): boolean => way === null || !OUT_OF_SCOPE.includes(way);
export const skipsRest = (way: LeavingWay | null): boolean => way !== null && SKIPS_REST.includes(way);
