import type { DragEvent } from 'react';
import { countOf, formatDay, formatMinutes, getToday } from '../../../ui/format.ts';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { LaneLoad, LoadChart, LoadRow } from './lay-out-load.ts';

interface LaneBarsProps {
  readonly chart: LoadChart;
  readonly chosen: string | null;
  readonly onChoose: (lane: string | null) => void;
  /** Turns that are dragged here go to the person; null: nobody may be given any. */
  readonly onDrop: ((person: string) => void) | null;
}

/** A row a lane, a bar a day: what is to do against what can be worked. The chosen lane opens to its people. */
export function LaneBars({ chart, chosen, onChoose, onDrop }: LaneBarsProps) {
  const { timeZone, nowMs } = useProgramme();
  const today = getToday(timeZone, nowMs);
  return (
    <div className="card overflow-x-auto">
      <table className="w-full border-collapse" aria-label="Load by lane and day">
        <thead>
          <tr className="border-b border-line text-left text-[13px] text-soft">
            <th scope="col" className="py-2 pl-4 font-semibold">
              Lane
            </th>
            {chart.days.map((day) => (
              <th
                key={day}
                scope="col"
                title={formatDay(day)}
                className={`px-0.5 text-center font-mono font-normal ${day === today ? 'font-bold! text-ink' : ''}`}
              >
                {Number(day.slice(8))}
              </th>
            ))}
            <th scope="col" className="pr-4 text-right font-semibold">
              Load
            </th>
          </tr>
        </thead>
        <tbody>
          {chart.lanes.map((lane) => (
            <LaneRows key={lane.key} lane={lane} chart={chart} isOpen={lane.key === chosen} onChoose={onChoose} onDrop={onDrop} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

const describePool = (sessions: number, hours: number) =>
  sessions === 0 ? 'runners: none was heard of yet' : `runners: ${countOf(sessions, 'session')}, ${hours} h a day`;

interface LaneRowsProps extends Pick<LaneBarsProps, 'chart' | 'onChoose' | 'onDrop'> {
  readonly lane: LaneLoad;
  readonly isOpen: boolean;
}

function LaneRows({ lane, chart, isOpen, onChoose, onDrop }: LaneRowsProps) {
  const isEmpty = lane.pool ? lane.pool.sessions === 0 : lane.people.length === 0;
  const testers = lane.pool
    ? describePool(lane.pool.sessions, lane.hoursPerDay)
    : isEmpty
      ? 'nobody yet'
      : `${countOf(lane.people.length, 'tester')}, ${lane.hoursPerDay} h a day`;
  return (
    <>
      <tr className={`border-b border-line-2 ${isOpen ? 'border-l-baton-wire border-l-[3px]' : ''}`}>
        <th scope="row" className="w-[170px] py-2 pl-4 text-left font-normal">
          <button type="button" className="text-left" aria-expanded={isOpen} onClick={() => onChoose(isOpen ? null : lane.key)}>
            <b className="block hover:underline">{lane.name}</b>
            <span className={`text-[13px] ${isEmpty ? 'font-semibold text-failed' : 'text-soft'}`}>{testers}</span>
          </button>
        </th>
        <Bars row={lane} days={chart.days} most={lane.pool?.most ?? chart.most} height={46} />
        <Sum row={lane} />
      </tr>
      {isOpen &&
        lane.people.map((person) => (
          <tr
            key={person.key}
            className="border-l-baton-wire border-b border-l-[3px] border-line-2"
            {...(onDrop ? toTarget(() => onDrop(person.key)) : {})}
          >
            <th scope="row" className="py-1 pl-7 text-left text-[13px] font-normal">
              {person.name}
            </th>
            <Bars row={person} days={chart.days} most={chart.mostOfPerson} height={28} />
            <Sum row={person} />
          </tr>
        ))}
    </>
  );
}

const toTarget = (drop: () => void) => ({
  onDragOver: (event: DragEvent) => event.preventDefault(),
  onDrop: (event: DragEvent) => {
    event.preventDefault();
    drop();
  },
});

function Sum({ row }: { readonly row: LoadRow }) {
  const isTooMuch = row.minutesLeft > row.minutesOfTime;
  return (
    <td className="pr-4 pl-2 text-right text-[13px] whitespace-nowrap text-soft">
      <b className={`block ${isTooMuch ? 'text-failed' : 'text-ink'}`}>{formatMinutes(row.minutesLeft)}</b>
      of {formatMinutes(row.minutesOfTime)}
    </td>
  );
}

interface BarsProps {
  readonly row: LoadRow;
  readonly days: readonly string[];
  readonly most: number;
  readonly height: number;
}

function Bars({ row, days, most, height }: BarsProps) {
  const toHeight = (minutes: number) => `${(100 * minutes) / most}%`;
  return row.days.map(({ done, toDo, time }, index) => {
    const isOver = time !== null && toDo > time;
    const words = [
      formatDay(days[index] ?? ''),
      ...(done > 0 ? [`${formatMinutes(Math.round(done))} done`] : []),
      `${formatMinutes(Math.round(toDo))} to do`,
      ...(time === null ? [] : [`${formatMinutes(time)} of time`]),
    ].join(', ');
    return (
      <td key={days[index]} className="px-0.5 py-1.5" title={words}>
        <span className="relative flex min-w-[18px] flex-col justify-end overflow-hidden rounded-[4px] bg-band" style={{ height }}>
          <span className={isOver ? 'load-over' : 'load-to-do'} style={{ height: toHeight(toDo) }} />
          <span className="load-done" style={{ height: toHeight(done) }} />
          {time !== null && time > 0 && <span className="absolute inset-x-0 border-t border-soft" style={{ bottom: toHeight(time) }} />}
          <span className="sr-only">{words}</span>
        </span>
      </td>
    );
  });
}
