import { useRead } from '../../../client/use-read.ts';
import type { CyclePlanView, PlanTurn } from '@kindred-baton/contracts/cycles/plan';
import { unpackRows } from '@kindred-baton/core/tables/pack-rows';
import { useMemo } from 'react';

/** A cycle's work, people and days; undefined until they are there, with what keeps them from coming. */
export function useCyclePlan(code: string): { readonly view: CyclePlanView | undefined; readonly error: Error | null } {
  const { data, error } = useRead('getPlan', { params: { code } });
  const view = useMemo(() => data && { ...data, turns: unpackRows<PlanTurn>(data.turns) }, [data]);
  return { view, error };
}
