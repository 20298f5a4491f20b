import type { CycleId } from '@kindred-baton/core/ids';
import type { FacetFilter } from '@kindred-baton/core/progress/facet';
import { FACETS, getFacetFilter } from '@kindred-baton/core/progress/facet';
import type { Counted } from '@kindred-baton/core/progress/counted';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { SQL } from 'drizzle-orm';
import { and, inArray } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { turns } from '../schema/turns.ts';
import { isStanding } from './counted.ts';
import { TURN_FACETS } from './facets.ts';
import type { TurnFilter } from './filter-turns.ts';
import { amongIds, byDayTried, bySpent, byDefect, byDoneSince, byReadySince, byRequirement, byRun, isLate } from './filter-turns.ts';

type FilterName = FacetFilter | 'requirement' | 'defect' | 'late' | 'tried' | 'spent' | 'doneSince' | 'readySince' | 'run' | 'hold';

/** Every filter by its name in the query: those of the facets, and those that no facet has. */
const FILTERS: Readonly<Record<FilterName, TurnFilter>> = {
  ...(Object.fromEntries(FACETS.map((facet) => [getFacetFilter(facet), TURN_FACETS[facet].filter])) as Record<FacetFilter, TurnFilter>),
  requirement: byRequirement,
  defect: byDefect,
  late: isLate,
  tried: byDayTried,
  spent: bySpent,
  doneSince: byDoneSince,
  readySince: byReadySince,
  run: byRun,
  hold: async (context, hold, cycleIds) => amongIds(turns.id, await listHeldTurns(context, hold, cycleIds)),
};
const NAMES = Object.keys(FILTERS) as FilterName[];

interface WantedTurns extends Readonly<Partial<Record<FilterName, unknown>>> {
  readonly counted: Counted;
  readonly status?: readonly TurnStatus[] | undefined;
}

/** The turns of some cycles that a query wants. Of a run that was taken out, only that run tells. */
export async function findWanted(context: ReadContext, query: WantedTurns, cycleIds: readonly CycleId[]): Promise<SQL | undefined> {
  const isCounted = query.run === undefined ? isTurnInScope : undefined;
  const fitting = and(inArray(turns.cycleId, [...cycleIds]), isCounted, ...(await listConditions(context, query, cycleIds)));
  return query.status ? and(fitting, isStanding(query.counted, query.status, fitting)) : fitting;
}

/** The conditions that a query names; cycles are chosen before. */
export function listConditions(
  context: ReadContext,
  query: Readonly<Partial<Record<FilterName, unknown>>>,
  cycleIds: readonly CycleId[],
): Promise<(SQL | undefined)[]> {
  return Promise.all(
    NAMES.flatMap((name) => {
      const value = query[name];
      return name === 'cycle' || value === undefined || value === '' ? [] : [FILTERS[name](context, String(value), cycleIds)];
    }),
  );
}

async function listHeldTurns(context: ReadContext, hold: string, cycleIds: readonly CycleId[]): Promise<string[]> {
  const { holds } = await loadHolds(context, cycleIds);
  const found = holds.find((candidate) => `${candidate.kind}:${candidate.key}` === hold);
  return found ? [...found.behind] : [];
}
