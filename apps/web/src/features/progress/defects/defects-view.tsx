import type { DefectCourseView, DefectSumsView } from '@kindred-baton/contracts/progress/defects';
import type { Happening } from '@kindred-baton/core/defects/happenings';
import { keepPreviousData } from '@tanstack/react-query';
import { useCallback } from 'react';
import { useRead } from '../../../client/use-read.ts';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatDay } from '../../../ui/format.ts';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { ChartFrame, ChartKey } from '../chart/chart-frame.tsx';
import type { ChartLook, DrawnChartProps } from '../chart/drawn-chart.tsx';
import { DrawnChart } from '../chart/drawn-chart.tsx';
import { Figure } from '../figure.tsx';
import { OneCycleFrame } from '../one-cycle-frame.tsx';
import { useQueryOf } from '../use-query-of.ts';
import { toDefectChartOption } from './defect-chart-option.ts';
import { toDefectsPath } from './to-defects-path.ts';

/** Defects of a cycle over time. Without an answer of the page's own it is asked for. */
export function DefectsView({ initial, initialAddress }: { readonly initial: DefectCourseView | null; readonly initialAddress: string }) {
  const { input, isFirst } = useQueryOf(['cycle', 'scope'], initialAddress);
  const { data, error, isPlaceholderData } = useRead(
    'getDefectCourse',
    { input },
    { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  return (
    <OneCycleFrame view="defects" answer={data} problem={error?.message} waiting="Looking at the defects …" isOld={isPlaceholderData}>
      {(view, cycle) =>
        view.all.found === 0 ? (
          <div className="card">
            <EmptyView title="No defect was found here">A defect is logged in the guide, at the step where something went wrong.</EmptyView>
          </div>
        ) : (
          <>
            <DefectsHeadline view={view} />
            <Picture view={view} cycle={cycle} />
            <SumsTable view={view} cycle={cycle} />
          </>
        )
      }
    </OneCycleFrame>
  );
}

/** How many are open, and how bad they are; what became of all that were found. */
export function DefectsHeadline({ view: { all, severities } }: { readonly view: DefectCourseView }) {
  const { nameOf } = useProgramme();
  const [worst] = severities.filter(({ sums }) => sums.open > 0);
  return (
    <p className="mb-3 text-[19px]">
      <strong className="text-[26px]">{all.open === 0 ? 'No defect is open' : `${countOf(all.open, 'defect')} open`}</strong>
      {worst && (
        <>
          , <strong className="text-[22px] text-failed">{worst.sums.open.toLocaleString('en')}</strong> of them “{nameOf(worst.severity)}”
        </>
      )}
      <span className="text-[15px] text-soft">
        {`; of ${all.found.toLocaleString('en')} found, ${all.fixed.toLocaleString('en')} ${all.fixed === 1 ? 'was' : 'were'} fixed at least once and ${all.reopened.toLocaleString('en')} opened again`}
        {all.oldestMs !== null && `. The oldest has been open for ${formatDays(all.oldestMs)}`}
        {all.atRetest > 0 && `; ${all.atRetest.toLocaleString('en')} ${all.atRetest === 1 ? 'waits for its' : 'wait for their'} retest`}.
      </span>
    </p>
  );
}

const DAY_MS = 86_400_000;

/** 2.4 days; less than a day in hours. */
function formatDays(ms: number): string {
  if (ms < DAY_MS) return `${Math.round(ms / 3_600_000)} h`;
  const days = Math.round((ms / DAY_MS) * 10) / 10;
  return `${days.toLocaleString('en')} ${days === 1 ? 'day' : 'days'}`;
}

interface OfCycle {
  readonly view: DefectCourseView;
  readonly cycle: string;
}

function useDefectsPath(cycle: string) {
  const { base } = useProgramme();
  const { get } = useAddress();
  return (filters: Record<string, string>) => toDefectsPath({ base, cycle, scope: get('scope'), filters });
}

/** The chart alone; a day opens what was found on it. */
export function DefectsChart({ view: { days }, cycle, onReady }: OfCycle & Pick<DrawnChartProps, 'onReady'>) {
  const { nameOf } = useProgramme();
  const toDefects = useDefectsPath(cycle);
  const toOption = useCallback((look: ChartLook) => toDefectChartOption({ days, nameOf }, look), [days, nameOf]);
  const last = days.at(-1);
  const sum = (of: 'found' | 'fixed' | 'over') => days.reduce((total, day) => total + day[of], 0);
  return (
    <DrawnChart
      toOption={toOption}
      label={`Defects from ${formatDay(days[0]?.date ?? '')} to ${formatDay(last?.date ?? '')}: ${sum('found')} found, ${sum('fixed')} fixed, ${sum('over')} closed or declined.`}
      onPoint={(place) => {
        const day = days[place];
        if (day && day.found > 0) location.assign(toDefects({ happened: 'found', on: day.date, show: 'all' }));
      }}
      onReady={onReady}
    />
  );
}

const SHADES = ['bg-failed', 'bg-ink/55', 'bg-ink/30', 'bg-ink/15'];

function Picture({ view, cycle }: OfCycle) {
  const { nameOf } = useProgramme();
  return (
    <section className="card mb-4 min-w-0" aria-label="Day by day">
      <ChartFrame
        name={`defects-${cycle}`}
        keys={view.severities.map(({ severity }, at) => (
          <ChartKey key={severity} className={`h-2.5 ${SHADES[at] ?? ''}`}>
            {nameOf(severity)}
          </ChartKey>
        ))}
      >
        {(keep) => <DefectsChart view={view} cycle={cycle} onReady={keep} />}
      </ChartFrame>
      <details className="border-t border-line-2">
        <summary className="min-h-[32px] cursor-pointer px-4 py-1.5 text-[14px] font-semibold">Day by day in numbers</summary>
        <DaysTable view={view} cycle={cycle} />
      </details>
    </section>
  );
}

/** What happened on each day, each number with the list behind it. */
function DaysTable({ view: { days, severities }, cycle }: OfCycle) {
  const { nameOf } = useProgramme();
  const toDefects = useDefectsPath(cycle);
  const kinds: readonly { readonly kind: Happening; readonly head: string }[] = [
    { kind: 'found', head: 'Found' },
    { kind: 'fixed', head: 'Fixed' },
    { kind: 'over', head: 'Closed or declined' },
    { kind: 'reopened', head: 'Opened again' },
  ];
  return (
    <div className="max-h-[380px] overflow-auto">
      <table className="grid-table">
        <thead>
          <tr>
            {['Day', ...kinds.map(({ head }) => head), ...severities.map(({ severity }) => `Open: ${nameOf(severity)}`)].map((head, at) => (
              <th key={head} scope="col" className={at > 0 ? 'text-right!' : ''}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {days.map((day) => (
            <tr key={day.date}>
              <th scope="row" className="whitespace-nowrap text-ink!">
                {formatDay(day.date)}
              </th>
              {kinds.map(({ kind }) => (
                <Figure key={kind} of={day[kind]} href={toDefects({ happened: kind, on: day.date, show: 'all' })} />
              ))}
              {severities.map(({ severity }) => (
                <td key={severity} className="text-right font-mono">
                  {day.open[severity] || <span className="text-soft">–</span>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const HEADS = ['Found', 'Open', 'Waits for retest', 'Fixed', 'Opened again', 'Days to fix', 'Oldest open'];

/** By the team at whose turns they were found, and by severity. */
function SumsTable({ view: { all, teams, severities }, cycle }: OfCycle) {
  const { nameOf } = useProgramme();
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col">Found at turns of</th>
            {HEADS.map((head) => (
              <th key={head} scope="col" className="text-right!">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {teams.map(({ key, name, sums }) => (
            <SumsLine key={key} name={name} sums={sums} cycle={cycle} own={{ team: key }} />
          ))}
        </tbody>
        <tbody>
          <tr>
            <th scope="rowgroup" colSpan={HEADS.length + 1} className="pt-3!">
              By what they do to the business
            </th>
          </tr>
          {severities
            .filter(({ sums }) => sums.found > 0)
            .map(({ severity, sums }) => (
              <SumsLine key={severity} name={nameOf(severity)} sums={sums} cycle={cycle} own={{ severity }} />
            ))}
        </tbody>
        <tfoot>
          <SumsLine name="All" sums={all} cycle={cycle} own={{}} />
        </tfoot>
      </table>
      <p className="border-t border-line-2 px-2 py-2.5 text-[13px] text-soft">
        Open is whatever is not closed or declined, also while a retest is waited for. Days to fix is the middle one of the times from found
        to the last time it was said to be fixed, nights and weekends counted; those that were opened again since are not in it.
      </p>
    </div>
  );
}

interface SumsLineProps {
  readonly name: string;
  readonly sums: DefectSumsView;
  readonly cycle: string;
  readonly own: Readonly<Record<string, string>>;
}

function SumsLine({ name, sums, cycle, own }: SumsLineProps) {
  const toDefects = useDefectsPath(cycle);
  const to = (filters: Record<string, string>) => toDefects({ ...own, ...filters });
  return (
    <tr className="hover:bg-band">
      <th scope="row" className="border-b-line-2! whitespace-normal! text-ink!">
        {name}
      </th>
      <Figure of={sums.found} href={to({ show: 'all' })} />
      <Figure of={sums.open} href={to({})} />
      <Figure of={sums.atRetest} href={to({ column: 'retest' })} />
      <Figure of={sums.fixed} href={to({ happened: 'fixed', show: 'all' })} />
      <Figure of={sums.reopened} href={to({ happened: 'reopened', show: 'all' })} />
      <td className="text-right whitespace-nowrap">
        {sums.medianFixMs === null ? (
          <span className="text-soft">–</span>
        ) : (
          <>
            {formatDays(sums.medianFixMs)} <span className="text-[12px] text-soft">of {sums.fixes}</span>
          </>
        )}
      </td>
      <td className="text-right whitespace-nowrap">
        {sums.oldestMs === null ? <span className="text-soft">–</span> : formatDays(sums.oldestMs)}
      </td>
    </tr>
  );
}
