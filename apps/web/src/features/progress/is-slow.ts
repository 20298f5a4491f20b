import type { EffortCell } from '@kindred-baton/contracts/progress/effort';

/** From a tenth more than was planned on, it is said. */
const SLOW = 1.1;

export const isSlow = ({ planned, spent }: Pick<EffortCell, 'planned' | 'spent'>): boolean => planned > 0 && spent > planned * SLOW;
