import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import type { CyclePlan } from '@kindred-baton/core/cycles/plan/plan-cycle';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import type { PlanHelp } from '@kindred-baton/core/cycles/plan/find-what-helps';
import { useEffect, useState } from 'react';
import type { PlanMessage, PlanRequest } from './plan.worker.ts';

export interface FitPlan {
  readonly plan: CyclePlan | null;
  readonly tried: CyclePlan | null;
  /** null while it is still computed. */
  readonly helps: readonly PlanHelp[] | null;
  /** How many plans were made to find what helps. */
  readonly plans: number;
  readonly hasFailed: boolean;
}

const NOTHING: FitPlan = { plan: null, tried: null, helps: null, plans: 0, hasFailed: false };

/** The plan of a cycle, computed in a worker whenever the cycle or what is tried changes; the one before stays until then. */
export function usePlan(cycle: CyclePlanView | undefined, changes: readonly PlanChange[], isHelpAsked = true): FitPlan {
  const [fit, setFit] = useState(NOTHING);
  useEffect(() => {
    if (!cycle) return undefined;
    const worker = new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<PlanMessage>) => {
      if (data.kind === 'plan')
        setFit((before) => ({ ...before, plan: data.plan, tried: data.tried, helps: null, plans: 0, hasFailed: false }));
      else if (data.kind === 'progress') setFit((before) => ({ ...before, plans: data.plans }));
      else {
        setFit((before) => ({ ...before, helps: data.helps }));
        worker.terminate();
      }
    });
    worker.addEventListener('error', () => setFit((before) => ({ ...before, hasFailed: true })));
    worker.postMessage({ cycle, tried: changes, isHelpAsked } satisfies PlanRequest);
    return () => worker.terminate();
  }, [cycle, changes, isHelpAsked]);
  return fit;
}
