import type { CourseView as Answer, PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { CourseUnit } from '@kindred-baton/core/progress/course';
import { weighTurn } from '@kindred-baton/core/progress/course';
import { addDays } from '@kindred-baton/core/time/calendar';
import { keepPreviousData } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useRead } from '../../../client/use-read.ts';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatShare, formatSpan } from '../../../ui/format.ts';
import { Choose } from '../../../ui/menus/choose.tsx';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { ChartFrame, ChartKey } from '../chart/chart-frame.tsx';
import { NoCycle } from '../no-cycle.tsx';
import { ProgressTabs } from '../progress-tabs.tsx';
import { toTurnsPath } from '../to-turns-path.ts';
import { useQueryOf } from '../use-query-of.ts';
import { CourseChart } from './course-chart.tsx';
import { CourseSide } from './course-side.tsx';
import { OutlookPanels } from './decisions-panel.tsx';
import { CourseTable } from './course-table.tsx';
import { CourseTeams } from './course-teams.tsx';
import { nameDay } from './describe-course.ts';
import { useCourse } from './use-course.ts';

const UNITS = [
  { key: 'turns', name: 'Turns' },
  { key: 'minutes', name: 'Minutes of work' },
] as const;

/** The course of a cycle. Without an answer of the page's own it is asked for. */
export function CourseView({ initial, initialAddress }: { readonly initial: Answer | null; readonly initialAddress: string }) {
  const address = useAddress();
  const { input, isFirst } = useQueryOf(['cycle', 'scope'], initialAddress);
  const { data, error, isPlaceholderData } = useRead(
    'getCourse',
    { input },
    { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  if (data && !data.cycle) return <NoCycle />;
  const unit: CourseUnit = address.get('count') === 'minutes' ? 'minutes' : 'turns';
  return (
    <>
      <PageTitle title="Progress" about={data?.cycle ? formatSpan(data.cycle.startsOn, data.cycle.endsOn) : undefined}>
        {data?.cycle && (
          <Choose
            label="Cycle"
            chosen={data.cycle.code}
            choices={data.cycles.map(({ code, name }) => ({ key: code, name }))}
            onChoose={(cycle) => address.set({ cycle, team: null })}
          />
        )}
        <Choose label="Count" chosen={unit} choices={UNITS} onChoose={(key) => address.set({ count: key === 'turns' ? null : key })} />
      </PageTitle>
      <ProgressTabs view="course" />
      {!data?.cycle ? (
        <p className="text-soft">{error ? error.message : 'Reading the course …'}</p>
      ) : data.course ? (
        <div className={isPlaceholderData ? 'opacity-70' : ''}>
          <Course course={data.course} cycle={data.cycle} unit={unit} />
        </div>
      ) : (
        <div className="card">
          <EmptyView title={`${data.cycle.name} has not opened yet`}>
            Its course begins when it opens. Whether it fits is said in its lanes.
          </EmptyView>
        </div>
      )}
    </>
  );
}

interface CourseProps {
  readonly course: PackedCourse;
  readonly cycle: NonNullable<Answer['cycle']>;
  readonly unit: CourseUnit;
}

function Course({ course, cycle, unit }: CourseProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const team = address.get('team');
  const scope = address.get('scope');
  const { facts, groups, group, forecast, remedies, hasFailed, line, drawing, format, end } = useCourse({
    course,
    cycle,
    unit,
    team,
    scope,
  });
  // Asked for apart: the picture does not wait for it.
  const outlook = useRead('getOutlook', { input: { cycle: cycle.code } });
  const totals = useMemo(
    () =>
      course.groups.map((_, own) =>
        facts.turns.reduce((sum, turn) => sum + (turn.isCounted && turn.group === own ? weighTurn(turn, unit) : 0), 0),
      ),
    [course, facts, unit],
  );
  const own: Record<string, string> = group === null || team === null ? {} : { team };
  const toTurns = (filters: Record<string, string>) => toTurnsPath({ base, cycle: cycle.code, scope, filters });
  const helpPath = address.withScope(`${base}/cycles/${encodeURIComponent(cycle.code)}`);
  const shown = { points: drawing.points, today: course.today, plannedDay: course.plannedDay, format, unit, isOver: course.isOver };
  return (
    <>
      <p className="text-[19px]" aria-live="polite">
        <strong className="text-[26px]">{end.strong}</strong>
        <span className="text-soft">{end.rest}</span>
      </p>
      <p className="mb-3 flex flex-wrap gap-x-4">
        <span>
          <a className="font-semibold hover:underline" href={toTurns({ status: 'passed,skipped', ...own })}>
            {format(drawing.through)}
          </a>{' '}
          of {unit === 'turns' ? countOf(drawing.total, 'turn') : format(drawing.total)} through
          {group === null ? '' : ` at ${course.groups[group]!.name}`}
        </span>
        {drawing.wrong > 0 && (
          <a className="font-semibold hover:underline" href={toTurns({ status: 'failed,blocked', ...own })}>
            {format(drawing.wrong)} went wrong
          </a>
        )}
        <span>{describeBehind(drawing.behind, course, format)}</span>
        {forecast && <span>{describeDecider(course, forecast.decides)}</span>}
        {hasFailed && <span className="font-semibold">The forecast could not be drawn in this browser.</span>}
      </p>
      <div className={`grid items-start gap-4 ${course.isOver ? '' : 'lg:grid-cols-[minmax(0,1fr)_300px]'}`}>
        <div className="grid min-w-0 gap-4">
          <section className="card min-w-0" aria-label="Day by day">
            <Picture
              {...shown}
              median={line?.ends?.median ?? null}
              late={line?.ends?.late ?? null}
              name={`course-${cycle.code}`}
              label={`${end.strong}${end.rest}. ${format(drawing.through)} of ${format(drawing.total)} through.`}
              onDay={(day) => {
                if (day <= course.today) location.assign(toTurns({ tried: addDays(course.firstDay, day), ...own }));
              }}
            />
            <details className="border-t border-line-2">
              <summary className="min-h-[32px] cursor-pointer px-4 py-1.5 text-[14px] font-semibold">Day by day in numbers</summary>
              <CourseTable
                isOver={course.isOver}
                points={drawing.points}
                format={format}
                toDay={(date) => toTurns({ tried: date, ...own })}
              />
            </details>
            <div className="border-t border-line-2">
              <CourseTeams
                {...{ course, curves: groups, totals, forecast, format, chosen: group === null ? null : team }}
                lastDay={drawing.points.at(-1)?.day ?? course.today}
                onChoose={(key) => address.set({ team: key })}
                toTurns={(key, status) => toTurns({ team: key, status })}
                helpPath={helpPath}
              />
            </div>
          </section>
          <OutlookPanels outlook={outlook.data} problem={outlook.error?.message} />
        </div>
        {!course.isOver && (
          <CourseSide
            {...{ course, cycle, scope, facts, forecast, remedies, helpPath, toTurns }}
            outlook={outlook.data ?? null}
            end={`${end.strong}${end.rest}.`}
          />
        )}
      </div>
    </>
  );
}

function Picture({ name, ...props }: Omit<Parameters<typeof CourseChart>[0], 'onReady'> & { readonly name: string }) {
  return (
    <ChartFrame
      name={name}
      keys={
        <>
          <ChartKey className="border-t-[2.5px] border-ink">Through</ChartKey>
          <ChartKey className="border-t-4 border-failed">Went wrong, to be done again</ChartKey>
          <ChartKey className="border-t-2 border-dashed border-soft">Planned, as kept when it opened</ChartKey>
          {!props.isOver && <ChartKey className="h-2.5 bg-ink/15">Forecast: 85 of 100 lie in here</ChartKey>}
        </>
      }
    >
      {(keep) => <CourseChart {...props} onReady={keep} />}
    </ChartFrame>
  );
}

/** Against what should have been through by last evening, as it was planned when the cycle opened. */
function describeBehind(behind: number | null, course: PackedCourse, format: (value: number) => string): string {
  if (behind === null) return 'What was planned when it opened was not kept';
  const by = course.isOver ? 'at its end' : `by last evening (${nameDay(course, Math.max(0, course.today - 1))})`;
  if (behind === 0) return `as planned ${by}`;
  return `${format(Math.abs(behind))} ${behind > 0 ? 'behind' : 'ahead of'} the plan ${by}`;
}

function describeDecider({ groups }: PackedCourse, decides: readonly number[]): string {
  const most = decides.reduce((best, share, at) => (share > (decides[best] ?? 0) ? at : best), 0);
  return (decides[most] ?? 0) > 0 ? `${groups[most]?.name ?? ''} is last in ${formatShare(decides[most] ?? null)} of the paths` : '';
}
