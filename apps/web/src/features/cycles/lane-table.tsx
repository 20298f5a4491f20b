import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatMinutes } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { toTurnsPath } from '../progress/to-turns-path.ts';

/** Each team's share of the cycle, and each person's in it. */
export function LaneTable({ cycle }: { readonly cycle: CycleDetail }) {
  const { base } = useProgramme();
  const most = Math.max(1, ...cycle.lanes.flatMap((lane) => lane.people.map((person) => person.minutes)));
  const path = (filters: Record<string, string>) => toTurnsPath({ base, cycle: cycle.code, filters });
  if (cycle.lanes.length === 0)
    return (
      <div className="card">
        <EmptyView title="No lanes yet">No turn of this cycle belongs to a team.</EmptyView>
      </div>
    );
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col">Lane</th>
            <th scope="col">Turns</th>
            <th scope="col">Outcomes</th>
            <th scope="col">Work left</th>
            <th scope="col">By person</th>
          </tr>
        </thead>
        <tbody>
          {cycle.lanes.map((lane) => (
            <tr key={lane.team}>
              <th scope="row" className="border-b-line-2! text-ink!">
                <b>{lane.team}</b>
                <span className="block font-normal text-soft">
                  {countOf(lane.people.length, 'tester')}, {lane.hoursPerDay} h a day
                </span>
              </th>
              <td>
                <a className="hover:underline" href={path({ team: lane.team })}>
                  {lane.turns}
                </a>
              </td>
              <td className="w-[180px]">
                <BatonBar counts={lane.counts} className="h-[12px]!" />
              </td>
              <td className="whitespace-nowrap">
                <b>{formatMinutes(lane.minutesLeft)}</b>
                <span className="block text-[13px] text-soft">of {formatMinutes(lane.minutes)}</span>
              </td>
              <td>
                <ul className="grid gap-1">
                  {lane.people.map((person) => (
                    <li key={person.id} className="grid min-h-[24px] grid-cols-[110px_1fr_96px] items-center gap-3 text-[13px]">
                      <a className="truncate leading-[24px] hover:underline" href={path({ person: person.name, team: lane.team })}>
                        {person.name}
                      </a>
                      <Load left={person.minutesLeft} all={person.minutes} most={most} />
                      <span className="whitespace-nowrap text-soft">{formatMinutes(person.minutesLeft)} left</span>
                    </li>
                  ))}
                </ul>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Load({ left, all, most }: { readonly left: number; readonly all: number; readonly most: number }) {
  return (
    <span
      className="flex h-[8px] min-w-[90px] overflow-hidden rounded-full bg-band"
      title={`${formatMinutes(all)} in all, ${formatMinutes(left)} left`}
    >
      <span className="bg-skipped opacity-60" style={{ width: `${(100 * (all - left)) / most}%` }} />
      <span className="bg-deep dark:bg-soft" style={{ width: `${(100 * left) / most}%` }} />
    </span>
  );
}
