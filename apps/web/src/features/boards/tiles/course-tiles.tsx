import type { CourseView, PackedCourse } from '@kindred-baton/contracts/progress/course';
import { FORECAST_PATHS } from '@kindred-baton/core/progress/forecast';
import { addDays } from '@kindred-baton/core/time/calendar';
import { useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { CourseChart } from '../../progress/course/course-chart.tsx';
import { CourseTable } from '../../progress/course/course-table.tsx';
import { OddsPanel } from '../../progress/course/odds-panel.tsx';
import { useCourse } from '../../progress/course/use-course.ts';
import { toTurnsPath } from '../../progress/to-turns-path.ts';
import type { TileProps } from './tile-props.ts';

interface OpenCourse {
  readonly course: PackedCourse;
  readonly cycle: NonNullable<CourseView['cycle']>;
}

/** The picture of the course, with its first line and its figures. */
export const CurveTile = ({ answer }: TileProps<'curve'>) => <WithCourse answer={answer} Draw={Curve} />;

/** When it ends: even odds, 85 of 100, and the chance of the planned date. */
export const OddsTile = ({ answer }: TileProps<'odds'>) => <WithCourse answer={answer} Draw={Odds} />;

interface WithCourseProps {
  readonly answer: CourseView;
  readonly Draw: (open: OpenCourse) => React.ReactNode;
}

function WithCourse({ answer: { cycle, course }, Draw }: WithCourseProps) {
  if (cycle && course) return <Draw cycle={cycle} course={course} />;
  return (
    <div className="card flex-1">
      <EmptyView title={cycle ? `${cycle.name} has not opened yet` : 'There is no cycle yet'} />
    </div>
  );
}

function useOwnCourse(open: OpenCourse) {
  const { get } = useAddress();
  const unit = get('count') === 'minutes' ? 'minutes' : 'turns';
  return { ...useCourse({ ...open, unit, team: get('team'), scope: get('scope') }), unit } as const;
}

const keepNothing = () => undefined;

function Curve({ course, cycle }: OpenCourse) {
  const { base } = useProgramme();
  const { get } = useAddress();
  const [scope, team] = [get('scope'), get('team')];
  const { drawing, group, line, format, end, unit } = useOwnCourse({ course, cycle });
  const [isOpen, setIsOpen] = useState(false);
  const own: Record<string, string> = group === null || team === null ? {} : { team };
  const toDay = (date: string) => toTurnsPath({ base, cycle: cycle.code, scope, filters: { tried: date, ...own } });
  return (
    <div className="card flex-1 px-1 pt-3">
      <First end={end} about={`${format(drawing.through)} of ${format(drawing.total)} through`} />
      <CourseChart
        {...{ points: drawing.points, today: course.today, plannedDay: course.plannedDay, format, unit, isOver: course.isOver }}
        median={line?.ends?.median ?? null}
        late={line?.ends?.late ?? null}
        label={`${end.strong}${end.rest}. ${format(drawing.through)} of ${format(drawing.total)} through.`}
        onDay={(day) => day <= course.today && location.assign(toDay(addDays(course.firstDay, day)))}
        onReady={keepNothing}
      />
      <details className="no-print border-t border-line-2" onToggle={({ currentTarget }) => setIsOpen(currentTarget.open)}>
        <summary className="min-h-[32px] cursor-pointer px-3 py-1.5 text-[13px]">Day by day in numbers</summary>
        {isOpen && <CourseTable isOver={course.isOver} points={drawing.points} format={format} toDay={toDay} />}
      </details>
    </div>
  );
}

function Odds({ course, cycle }: OpenCourse) {
  const { facts, forecast, hasFailed, end } = useOwnCourse({ course, cycle });
  if (course.isOver) return <First isCard end={end} about="" />;
  if (!forecast)
    return (
      <p className="card flex-1 px-4 py-3.5 text-[13px] text-soft">
        {hasFailed ? 'The forecast could not be drawn in this browser.' : `Drawing ${FORECAST_PATHS.toLocaleString('en')} ends …`}
      </p>
    );
  return <OddsPanel course={course} facts={facts} forecast={forecast} />;
}

interface FirstProps {
  readonly end: { readonly strong: string; readonly rest: string };
  readonly about: string;
  readonly isCard?: boolean;
}

const First = ({ end, about, isCard = false }: FirstProps) => (
  <p className={`px-3 text-[15px] ${isCard ? 'card flex-1 py-3' : ''}`}>
    <strong className="text-[19px]">{end.strong}</strong>
    <span className="text-soft">{end.rest}</span>
    {about !== '' && <span className="block text-[13px] text-soft">{about}</span>}
  </p>
);
