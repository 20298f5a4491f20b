import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { applyPlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import { isThrough, readWorker, toPlanProblem } from '@kindred-baton/core/cycles/plan/to-problem';

/** The cycle as it would be with what is tried: its people, their lanes and hours, and the turns that are left. Cost O(turns + people). */
export function toTriedView(view: CyclePlanView, changes: readonly PlanChange[]): CyclePlanView {
  if (changes.length === 0) return view;
  const { workers, jobs } = changes.reduce(applyPlanChange, toPlanProblem(view));
  const left = new Set(jobs.map(({ id }) => id));
  const known = new Map(view.people.map((person) => [person.id as string, person]));
  return {
    ...view,
    people: workers
      .filter(({ id }) => readWorker(id) === id)
      .map(({ id, lanes, minutesByDay, startsAt }) => ({
        ...(known.get(id) ?? { id: id as never, name: 'One more', absences: [] }),
        ...{ teams: [...lanes], minutesByDay: [...minutesByDay], startsAt },
      })),
    turns: view.turns.filter(({ id, status }) => left.has(id) || isThrough(status)),
  };
}
