import type { CycleState } from './cycle.ts';
import { isLive } from './cycle.ts';

interface CycleOf {
  readonly state: CycleState;
  readonly startsOn: string;
}

const LAST = 3;

/** Several cycles by what they are, not by their codes: no code begins with @. */
const GROUP_FACTS = {
  '@open': { word: 'All that are open', pick: (cycles: readonly CycleOf[]) => cycles.filter(({ state }) => isLive(state)) },
  '@last': {
    word: 'The last three',
    pick: (cycles: readonly CycleOf[]) =>
      cycles
        .filter(({ state }) => state !== 'planning')
        .sort((a, b) => (a.startsOn < b.startsOn ? 1 : -1))
        .slice(0, LAST),
  },
} as const;
export type CycleGroup = keyof typeof GROUP_FACTS;
export const CYCLE_GROUPS = Object.keys(GROUP_FACTS) as [CycleGroup, ...CycleGroup[]];
export const getCycleGroupLabel = (group: CycleGroup): string => GROUP_FACTS[group].word;
export const pickCycles = <Cycle extends CycleOf>(group: CycleGroup, cycles: readonly Cycle[]): Cycle[] =>
  GROUP_FACTS[group].pick(cycles) as Cycle[];
