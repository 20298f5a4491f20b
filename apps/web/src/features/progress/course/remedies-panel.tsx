import type { PackedCourse } from '@kindred-baton/contracts/progress/course';
import type { LeftOpen, Outlook } from '@kindred-baton/contracts/progress/outlook';
import type { DecisionKind, Odds } from '@kindred-baton/core/progress/decision';
import type { Remedy, TriedRemedy } from '@kindred-baton/core/progress/find-remedies';
import { REMEDY_PATHS } from '@kindred-baton/core/progress/find-remedies';
import type { Ends, Forecast } from '@kindred-baton/core/progress/forecast';
import { LATE } from '@kindred-baton/core/progress/forecast';
import { addDays } from '@kindred-baton/core/time/calendar';
import { useState } from 'react';
import { countOf, formatShare } from '../../../ui/format.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import { DecideDialog } from './decide-dialog.tsx';
import { nameDay } from './describe-course.ts';
import { LeftOpenLines } from './left-open-lines.tsx';
import { OddsLine } from './odds-line.tsx';

/** What could be decided, with the odds of it. */
export interface WayOut {
  readonly kind: DecisionKind;
  readonly words: string;
  readonly odds: Odds;
  /** What it leaves open; null: nothing that is not open anyhow. */
  readonly left: LeftOpen | null;
}

interface RemediesPanelProps {
  readonly cycle: string;
  readonly course: PackedCourse;
  readonly forecast: Forecast;
  /** null while they are tried. */
  readonly remedies: readonly TriedRemedy[] | null;
  /** null until it is there. */
  readonly outlook: Outlook | null;
  /** Where people are moved and runs are left out. */
  readonly helpPath: string;
  /** Of a branch nothing is decided: what ends is the cycle. */
  readonly isBranch: boolean;
}

/** More people, less scope, quicker repairs, or later: the best of each kind, with its odds and what it leaves open; and to be decided on. */
export function RemediesPanel({ cycle, course, forecast, remedies, outlook, helpPath, isBranch }: RemediesPanelProps) {
  const { can } = useProgramme();
  const [chosen, setChosen] = useState<WayOut | null>(null);
  const { ends } = forecast.all;
  if (!ends) return null;
  const before = toOdds(course, ends);
  const ways = remedies?.map((tried) => toWayOut(tried, course, outlook)) ?? [];
  const later: WayOut | null =
    ends.late !== null && ends.late > course.plannedDay
      ? { kind: 'later', words: `An end on ${nameDay(course, ends.late)}`, odds: { ...before, inTime: LATE }, left: null }
      : null;
  const stay: WayOut = { kind: 'stay', words: 'Nothing is changed', odds: before, left: null };
  const mayDecide = !isBranch && can('run cycles') && remedies !== null;
  const toDecide = (way: WayOut) =>
    mayDecide && (
      <button type="button" className="button button-small" aria-label={`Decide: ${way.words}`} onClick={() => setChosen(way)}>
        Decide …
      </button>
    );
  return (
    <section className="card px-4 py-3.5" aria-label="What would help">
      <h2 className="text-[15px] font-semibold">More people, less scope, or later?</h2>
      <ul className="mt-1 text-[14px]">
        {ways.map((way) => (
          <li key={way.kind} className="border-b border-line-2 py-1.5">
            <Way words={way.words}>{toDecide(way)}</Way>
            <span className="block text-soft">
              <OddsLine odds={way.odds} />
            </span>
            {way.left && <LeftOpenLines left={way.left} />}
          </li>
        ))}
        {later && (
          <li className="border-b border-line-2 py-1.5">
            <Way words={later.words}>{toDecide(later)}</Way>
            <span className="block text-soft">in time 85%, with nothing else changed</span>
          </li>
        )}
        <li className="py-1.5">
          <Way words={stay.words}>{toDecide(stay)}</Way>
          <span className="block text-soft">in time {formatShare(ends.inTime)}</span>
          {outlook && <StillOpen outlook={outlook} />}
        </li>
      </ul>
      {remedies === null && <p className="text-[13px] text-soft">Trying people, scope and repairs …</p>}
      {remedies && remedies.length > 0 && <p className="text-[12.5px] text-soft">Each drawn {REMEDY_PATHS} times.</p>}
      {remedies?.length === 0 && (
        <p className="text-[13px] text-soft">One more person, less scope or quicker repairs would not change the end.</p>
      )}
      <a className="mt-1.5 inline-block min-h-[24px] text-[14px] font-semibold underline" href={helpPath}>
        Try it in the lanes
      </a>
      {chosen && <DecideDialog cycle={cycle} way={chosen} before={before} onClose={() => setChosen(null)} />}
    </section>
  );
}

const Way = ({ words, children }: { readonly words: string; readonly children: React.ReactNode }) => (
  <span className="flex items-start justify-between gap-2">
    <span className="font-semibold">{words}</span>
    {children}
  </span>
);

/** What is open in any case: it is tested until the end, whatever is decided but to leave it out. */
function StillOpen({ outlook: { unmet } }: { readonly outlook: Outlook }) {
  const parts = [
    ...(unmet.requirements > 0 ? [`${countOf(unmet.requirements, 'requirement')} not verified`] : []),
    ...(unmet.nodes > 0 ? [`${countOf(unmet.nodes, 'critical process', 'critical processes')} not signed off`] : []),
  ];
  return <span className="block text-soft">{parts.length === 0 ? 'nothing is open today' : `open today: ${parts.join(', ')}`}</span>;
}

const toDate = (course: PackedCourse, day: number | null) => (day === null ? null : addDays(course.firstDay, day));
const toOdds = (course: PackedCourse, { median, late, inTime }: Ends): Odds => ({
  ...{ even: toDate(course, median), late: toDate(course, late), inTime },
});

const toWayOut = ({ remedy, ends }: TriedRemedy, course: PackedCourse, outlook: Outlook | null): WayOut => ({
  ...{ kind: remedy.kind, words: describeRemedy(remedy, course), odds: toOdds(course, ends) },
  left: remedy.kind === 'leave out' ? (outlook?.left ?? null) : null,
});

function describeRemedy(remedy: Remedy, { lanes }: PackedCourse): string {
  if (remedy.kind === 'repair') return 'What goes wrong repaired by the next day';
  if (remedy.kind === 'person') return `One more in ${lanes[remedy.lane]?.name ?? 'the lane'}`;
  return `Runs of low priority that nobody has begun left out: ${countOf(remedy.turns, 'turn')}`;
}
