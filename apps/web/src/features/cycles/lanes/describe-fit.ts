import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import { addDays } from '@kindred-baton/core/time/calendar';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import type { CyclePlan } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { DAY_MINUTES } from '@kindred-baton/core/time/working-time';
import { countOf, formatMinutes } from '../../../ui/format.ts';

/** The day on which a moment of the plan falls; a moment at midnight belongs to the day before. */
export function toPlanDay(view: Pick<CyclePlanView, 'firstDay'>, at: number): string {
  return addDays(view.firstDay, Math.max(0, Math.floor((at - 1) / DAY_MINUTES)));
}

/** Days between two moments on which anybody works. */
export function countWorkDays(view: CyclePlanView, from: number, to: number): number {
  const [first, last] = [Math.ceil(from / DAY_MINUTES), Math.floor((to - 1) / DAY_MINUTES)];
  let days = 0;
  for (let day = first; day <= last; day += 1) if (view.people.some(({ minutesByDay }) => (minutesByDay[day] ?? 0) > 0)) days += 1;
  return days;
}

const SMALL = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'];
const inWords = (days: number) => `${SMALL[days] ?? days} ${days === 1 ? 'day' : 'days'}`;
const capitalize = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The answer in a few words: “Two days late”, “It fits, with three days to spare”. */
export function describeFit(view: CyclePlanView, plan: CyclePlan): string {
  if (plan.jobs.length === 0) return 'Nothing is left to do';
  if (plan.jobs.length === plan.stuck.length) return 'Nobody can do it';
  const late = countWorkDays(view, view.endsAt, plan.finish);
  if (plan.finish > view.endsAt) return late > 0 ? capitalize(`${inWords(late)} late`) : 'Late by hours';
  const spare = countWorkDays(view, plan.finish, view.endsAt);
  return spare > 0 ? `It fits, with ${inWords(spare)} to spare` : 'It just fits';
}

/** What a change is, as somebody would say it. */
export function describeChange(view: CyclePlanView, change: PlanChange): string {
  const team = (id: string) => view.teams.find((own) => own.id === id)?.name ?? '';
  switch (change.kind) {
    case 'more people':
      return change.count === 1 ? `One more tester in ${team(change.lane)}` : `${change.count} more testers in ${team(change.lane)}`;
    case 'move person':
      return `${view.people.find(({ id }) => id === change.person)?.name ?? ''} to ${team(change.lane)}`;
    case 'join lane':
      return `${view.people.find(({ id }) => id === change.person)?.name ?? ''} joins ${team(change.lane)}`;
    case 'more hours':
      return `${formatMinutes(change.minutes)} more a day in ${team(change.lane)}`;
    case 'share':
      return `In ${team(change.lane)} whoever is free takes the next turn`;
    case 'leave out':
      return `Leave out ${countOf(change.runs.length, 'run')} of the lowest priority`;
  }
}
