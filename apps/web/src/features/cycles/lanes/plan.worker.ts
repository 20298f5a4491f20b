import type { CyclePlan } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { planCycle } from '@kindred-baton/core/cycles/plan/plan-cycle';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { applyPlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import type { PlanHelp } from '@kindred-baton/core/cycles/plan/find-what-helps';
import { findWhatHelps } from '@kindred-baton/core/cycles/plan/find-what-helps';
import type { CycleToPlan } from '@kindred-baton/core/cycles/plan/to-problem';
import { toPlanProblem } from '@kindred-baton/core/cycles/plan/to-problem';

export interface PlanRequest {
  readonly cycle: CycleToPlan;
  /** What is tried, without being kept. */
  readonly tried: readonly PlanChange[];
  /** Whether what would help is looked for too. */
  readonly isHelpAsked: boolean;
}

export type PlanMessage =
  | { readonly kind: 'plan'; readonly plan: CyclePlan; readonly tried: CyclePlan | null }
  | { readonly kind: 'progress'; readonly plans: number }
  | { readonly kind: 'helps'; readonly helps: readonly PlanHelp[] };

const REPORT_MS = 100;

addEventListener('message', ({ data }: MessageEvent<PlanRequest>) => {
  const send = (message: PlanMessage) => postMessage(message);
  const problem = toPlanProblem(data.cycle);
  const plan = planCycle(problem);
  const tried = data.tried.length > 0 ? planCycle(data.tried.reduce(applyPlanChange, problem)) : null;
  send({ kind: 'plan', plan, tried });
  if (!data.isHelpAsked) return;
  const work = findWhatHelps(problem, plan);
  let reportedAt = performance.now();
  for (let step = work.next(); ; step = work.next()) {
    if (step.done) return send({ kind: 'helps', helps: step.value });
    if (performance.now() - reportedAt < REPORT_MS) continue;
    reportedAt = performance.now();
    send({ kind: 'progress', plans: step.value });
  }
});
