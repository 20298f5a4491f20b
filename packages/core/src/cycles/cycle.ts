export const CYCLE_STATES = ['planning', 'open', 'closing', 'closed'] as const;
export type CycleState = (typeof CYCLE_STATES)[number];

export const CYCLE_PURPOSES = ['integration', 'acceptance', 'regression', 'smoke'] as const;
export type CyclePurpose = (typeof CYCLE_PURPOSES)[number];

/** Which state may follow which. */
export const CYCLE_MOVES: Readonly<Record<CycleState, readonly CycleState[]>> = {
  planning: ['open'],
  open: ['closing'],
  closing: ['open', 'closed'],
  closed: [],
};

/** In which states attempts may be made: all turns while open, only retests while closing. */
export function canAttempt(state: CycleState, isRetest: boolean): boolean {
  return state === 'open' || (state === 'closing' && isRetest);
}

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
