import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { Curve } from '@kindred-baton/core/progress/draw-curve';
import type { Forecast } from '@kindred-baton/core/progress/forecast';
import { formatShare } from '../../../ui/format.ts';
import { nameDay } from './describe-course.ts';

interface CourseTeamsProps {
  readonly course: PackedCourse;
  readonly curves: readonly Curve[];
  readonly totals: readonly number[];
  readonly forecast: Forecast | null;
  readonly format: (value: number) => string;
  /** The team whose course is drawn alone. */
  readonly chosen: string | null;
  /** The last day of the picture above. */
  readonly lastDay: number;
  readonly onChoose: (team: string | null) => void;
  readonly toTurns: (team: string, status: string) => string;
  /** Where what would help is looked for. */
  readonly helpPath: string;
}

/** The teams by how far they are, each with its own end. Pressing one draws its course alone. */
export function CourseTeams({ lastDay, course, curves, totals, forecast, format, chosen, onChoose, toTurns, helpPath }: CourseTeamsProps) {
  return (
    <div className="overflow-x-auto">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col">By team</th>
            <th scope="col">Through</th>
            <th scope="col" className="max-xl:hidden">
              <span className="sr-only">Its course</span>
            </th>
            {!course.isOver && (
              <>
                <th scope="col">Even odds by</th>
                <th scope="col">In time</th>
                <th scope="col">Last of all</th>
                <th scope="col">
                  <span className="sr-only">What to do</span>
                </th>
              </>
            )}
          </tr>
        </thead>
        <tbody>
          {course.groups.map(({ key, name }, group) => {
            const through = curves[group]?.through.at(-1) ?? 0;
            const line = forecast?.groups[group];
            const isLate = line?.ends && line.ends.inTime < 0.5;
            return (
              <tr key={key} className={chosen === key ? 'bg-band' : 'hover:bg-band'}>
                <th scope="row" className="text-ink!">
                  <button
                    type="button"
                    aria-pressed={chosen === key}
                    className="min-h-[24px] text-left underline-offset-2 hover:underline"
                    onClick={() => onChoose(chosen === key ? null : key)}
                  >
                    {name}
                  </button>
                </th>
                <td className="whitespace-nowrap">
                  <a className="inline-block min-h-[24px] tabular-nums hover:underline" href={toTurns(key, 'passed,skipped')}>
                    {format(through)}
                  </a>
                  <span className="text-[13px] text-soft"> of {format(totals[group] ?? 0)}</span>
                </td>
                <td className="w-[40%] max-xl:hidden">
                  <Spark course={course} lastDay={lastDay} through={curves[group]?.through ?? []} total={totals[group] ?? 0} line={line} />
                </td>
                {!course.isOver && (
                  <>
                    <td className="whitespace-nowrap">{describeGroupEnd(course, line)}</td>
                    <td className={`font-mono ${isLate ? 'font-bold' : ''}`}>{line?.ends ? formatShare(line.ends.inTime) : '–'}</td>
                    <td className="font-mono">{forecast?.decides[group] ? formatShare(forecast.decides[group]) : '–'}</td>
                    <td>
                      {isLate && (
                        <a className="inline-block min-h-[24px] font-semibold whitespace-nowrap underline" href={helpPath}>
                          What would help
                        </a>
                      )}
                    </td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

type Line = Forecast['groups'][number];

function describeGroupEnd(course: PackedCourse, line: Line | undefined): string {
  if (!line) return '…';
  if (line.ends) return line.ends.median === null ? 'later' : nameDay(course, line.ends.median);
  return line.stuck > 0 ? 'no end: nobody is there' : 'through';
}

const [WIDE, HIGH] = [300, 30];

/** What was through day by day, and what is expected, on the days of the picture above. */
function Spark({
  course,
  lastDay,
  through,
  total,
  line,
}: {
  readonly course: PackedCourse;
  readonly lastDay: number;
  readonly through: readonly number[];
  readonly total: number;
  readonly line: Line | undefined;
}) {
  const last = Math.max(lastDay, 1);
  const toPoint = (day: number, value: number) =>
    `${((day / last) * WIDE).toFixed(1)},${(HIGH - 2 - (value / Math.max(1, total)) * (HIGH - 4)).toFixed(1)}`;
  const done = through.map((value, day) => toPoint(day, value));
  const fan = line?.fan ?? [];
  const band = [...fan.map(({ day, high }) => toPoint(day, high)), ...fan.toReversed().map(({ day, low }) => toPoint(day, low))];
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} preserveAspectRatio="none" className="h-[30px] w-full" aria-hidden>
      <line x1="0" x2={WIDE} y1="2" y2="2" className="stroke-line" vectorEffect="non-scaling-stroke" />
      <polygon
        points={[`0,${HIGH - 2}`, ...done, `${((course.today / last) * WIDE).toFixed(1)},${HIGH - 2}`].join(' ')}
        className="fill-passed/15"
      />
      <polygon points={band.join(' ')} className="fill-ink/15" />
      <polyline points={done.join(' ')} fill="none" className="stroke-ink" strokeWidth="1.8" vectorEffect="non-scaling-stroke" />
      <polyline
        points={fan.map(({ day, middle }) => toPoint(day, middle)).join(' ')}
        fill="none"
        className="stroke-ink"
        strokeWidth="1.5"
        strokeDasharray="2 3"
        vectorEffect="non-scaling-stroke"
      />
      <line
        x1={(course.plannedDay / last) * WIDE}
        x2={(course.plannedDay / last) * WIDE}
        y1="0"
        y2={HIGH}
        className="stroke-soft"
        strokeDasharray="3 3"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
