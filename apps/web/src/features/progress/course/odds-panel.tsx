import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { CourseFacts } from '@kindred-baton/core/progress/course';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { addDays } from '@kindred-baton/core/time/calendar';
import { formatDay, formatShare } from '../../../ui/format.ts';
import { describeGrounds, nameDay } from './describe-course.ts';
import { DOTS, layOutOdds } from './lay-out-course.ts';

interface OddsPanelProps {
  readonly course: PackedCourse;
  readonly facts: CourseFacts;
  readonly forecast: Forecast;
}

/** Forty ends, equally likely: those in time are full. */
export function OddsPanel({ course, facts, forecast }: OddsPanelProps) {
  const { ends } = forecast.all;
  if (!ends) return null;
  const columns = layOutOdds(forecast, course.plannedDay);
  return (
    <section className="card px-4 py-3.5" aria-label="What the odds say">
      <h2 className="flex items-baseline justify-between text-[15px] font-semibold">
        What the odds say <span className="text-[12px] font-normal text-soft">{DOTS} ends, equally likely</span>
      </h2>
      <div className="mt-3 flex items-end gap-1 border-b border-line pb-1" aria-hidden>
        {columns.map(({ day, dots, isInTime }) => (
          <span key={day ?? 'later'} className="flex min-w-0 flex-1 flex-col items-center gap-0.5">
            {Array.from({ length: dots }, (_, dot) => (
              <span
                key={dot}
                className={`h-[7px] w-full max-w-[20px] rounded-full border border-ink ${isInTime ? 'bg-ink' : 'bg-sheet'}`}
              />
            ))}
          </span>
        ))}
      </div>
      <div className="mb-2 flex gap-1 text-center font-mono text-[12px] text-soft" aria-hidden>
        {columns.map(({ day }) => (
          <span key={day ?? 'later'} className="min-w-0 flex-1">
            {day === null ? 'later' : formatDay(addDays(course.firstDay, day)).split(' ')[1]}
          </span>
        ))}
      </div>
      <dl className="grid grid-cols-[1fr_auto] items-baseline gap-y-1 text-[14px]">
        <dt>In time, by {nameDay(course, course.plannedDay)}</dt>
        <dd className="font-mono text-[19px] font-semibold">{formatShare(ends.inTime)}</dd>
        <dt>Half of the ends by</dt>
        <dd className="font-semibold">{ends.median === null ? 'later' : nameDay(course, ends.median)}</dd>
        <dt>85% of them by</dt>
        <dd className="font-semibold">{ends.late === null ? 'later' : nameDay(course, ends.late)}</dd>
      </dl>
      {describeGrounds(course, facts, forecast).map((text) => (
        <p key={text} className="mt-1.5 text-[12.5px] text-soft">
          {text}
        </p>
      ))}
    </section>
  );
}
