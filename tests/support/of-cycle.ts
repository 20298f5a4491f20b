import type { TurnListQuery } from '@kindred-baton/contracts/turns/turn';

/** The list of a cycle's turns, from its first page. */
export const ofCycle = (code: string): TurnListQuery => ({ cycle: [code], counted: 'turns', page: 1 });
