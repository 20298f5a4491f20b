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

/** Where a run goes that is not through when its cycle closes. */
export const LEFTOVER_WAYS = ['next cycle', 'dropped'] as const;
export type LeftoverWay = (typeof LEFTOVER_WAYS)[number];
