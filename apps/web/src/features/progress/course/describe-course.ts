import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { CourseFacts } from '@kindred-baton/core/progress/course';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { LEAST_DAYS } from '@kindred-baton/core/progress/forecast';
import { addDays } from '@kindred-baton/core/time/calendar';
import { countOf, formatDay, listNames } from '../../../ui/format.ts';

export const nameDay = ({ firstDay }: Pick<PackedCourse, 'firstDay'>, day: number) => formatDay(addDays(firstDay, day));

/** The answer in the first line; what it is over and against comes behind. */
export function describeEnd(course: PackedCourse, forecast: Forecast | null): { readonly strong: string; readonly rest: string } {
  const planned = `planned ${nameDay(course, course.plannedDay)}`;
  if (course.isOver) return { strong: `Closed ${nameDay(course, course.today)}`, rest: `; ${planned}` };
  if (!forecast) return { strong: 'Drawing what may come …', rest: ` ${planned}` };
  const { ends, stuck } = forecast.all;
  if (!ends)
    return stuck > 0 ? { strong: 'No end can be foretold', rest: `; ${planned}` } : { strong: 'All is through', rest: `; ${planned}` };
  const but = stuck > 0 ? `, but for ${countOf(stuck, 'turn')} without an end` : '';
  if (ends.median === null)
    return { strong: 'At this pace it does not end', rest: ` within the days that were looked at${but}; ${planned}` };
  const late = ends.late === null ? '85% not within the days that were looked at' : `85% by ${nameDay(course, ends.late)}`;
  return { strong: `Even odds by ${nameDay(course, ends.median)}`, rest: `, ${late}${but}; ${planned}` };
}

/** What the forecast rests on, and what it had to guess. */
export function describeGrounds({ lanes }: PackedCourse, { turns }: CourseFacts, forecast: Forecast): string[] {
  const busy = new Set(turns.flatMap(({ isThrough, lane }) => (isThrough ? [] : [lane])));
  const guessed = lanes.filter(({ people }, lane) => forecast.paces[lane]?.from === 'plan' && people > 0 && busy.has(lane));
  const { stuck } = forecast.all;
  const empty = lanes.filter(({ people }, lane) => people === 0 && busy.has(lane)).map(({ name }) => name);
  return [
    `From this cycle’s own days, drawn ${forecast.paths.toLocaleString('en')} times.`,
    ...(guessed.length > 0
      ? [
          `A guess: ${listNames(guessed.map(({ name }) => name))} ${guessed.length === 1 ? 'has' : 'have'} fewer than ${LEAST_DAYS} days of work to go by; the plan’s pace is taken.`,
        ]
      : []),
    describeRepairs(forecast.repairs),
    ...(stuck > 0
      ? [
          `${countOf(stuck, 'turn')} ${stuck === 1 ? 'is' : 'are'} left out: ${empty.length > 0 ? `nobody is in ${listNames(empty)}, or they wait for that` : 'nobody has time for them'}.`,
        ]
      : []),
  ];
}

function describeRepairs({ done, waiting, median, isGuess }: Forecast['repairs']): string {
  if (median === null) return 'A guess: nothing that went wrong has been tried again yet; a repair is taken to last until the next day.';
  const half = median === 0 ? 'on the same day' : `within ${countOf(median, 'day')}`;
  if (isGuess)
    return `A guess: of what went wrong only ${done} ${done === 1 ? 'was' : 'were'} tried again, ${waiting} ${waiting === 1 ? 'waits' : 'wait'}; half is taken to be tried again ${half}.`;
  return `Of what went wrong half is tried again ${half} (${done} ${done === 1 ? 'was' : 'were'}, ${waiting} ${waiting === 1 ? 'waits' : 'wait'}).`;
}
