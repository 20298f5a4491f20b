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
