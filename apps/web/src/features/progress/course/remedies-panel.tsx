import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { Remedy, TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import { REMEDY_PATHS } from '@kindred-baton/core/progress/find-remedies';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { countOf, formatShare } from '../../../ui/format.ts';
import { nameDay } from './describe-course.ts';

interface RemediesPanelProps {
  readonly course: PackedCourse;
  readonly forecast: Forecast;
  /** null while they are tried. */
  readonly remedies: readonly TriedRemedy[] | null;
  /** Where people are moved and runs are left out. */
  readonly helpPath: string;
}

/** More people, less scope, quicker repairs, or later: the best of each kind, with its odds. */
export function RemediesPanel({ course, forecast, remedies, helpPath }: RemediesPanelProps) {
  const { ends } = forecast.all;
  if (!ends) return null;
  return (
    <section className="card px-4 py-3.5" aria-label="What would help">
      <h2 className="text-[15px] font-semibold">What would help</h2>
      <ul className="mt-1 text-[14px]">
        {remedies?.map(({ remedy, ends: then }) => (
          <li key={remedy.kind} className="border-b border-line-2 py-1.5 last:border-b-0">
            <span className="font-semibold">{describeRemedy(remedy, course)}</span>
            <span className="block text-soft">
              even odds by {nameOrLater(course, then.median)}, 85% by {nameOrLater(course, then.late)}; in time {formatShare(then.inTime)}
            </span>
          </li>
        ))}
        {ends.late !== null && ends.late > course.plannedDay && (
          <li className="py-1.5">
            <span className="font-semibold">An end on {nameDay(course, ends.late)}</span>
            <span className="block text-soft">in time 85%, with nothing else changed</span>
          </li>
        )}
      </ul>
      {remedies === null && <p className="text-[13px] text-soft">Trying people, scope and repairs …</p>}
      {remedies && remedies.length > 0 && <p className="text-[12.5px] text-soft">Each drawn {REMEDY_PATHS} times.</p>}
      {remedies?.length === 0 && (
        <p className="text-[13px] text-soft">One more person, less scope or quicker repairs would not change the end.</p>
      )}
      <a className="mt-1.5 inline-block min-h-[24px] text-[14px] font-semibold underline" href={helpPath}>
        Try it in the lanes
      </a>
    </section>
  );
}

const nameOrLater = (course: PackedCourse, day: number | null) => (day === null ? 'a later day' : nameDay(course, day));

function describeRemedy(remedy: Remedy, { lanes }: PackedCourse): string {
  if (remedy.kind === 'repair') return 'What goes wrong repaired by the next day';
  if (remedy.kind === 'person') return `One more in ${lanes[remedy.lane]?.name ?? 'the lane'}`;
  return `Runs of low priority that nobody has begun left out: ${countOf(remedy.turns, 'turn')}`;
}
