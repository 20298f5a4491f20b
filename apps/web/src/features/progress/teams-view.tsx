import type { TeamLine, TeamProgress } from '@kindred-baton/contracts/progress/teams';
import { getErrors } from '@kindred-baton/core/progress/rank-steps';
import { getPassShare, getRunShare, NO_COUNTS, addCounts, sumCounts } from '@kindred-baton/core/progress/tally';
import { keepPreviousData } from '@tanstack/react-query';
import { useRead } from '../../client/use-read.ts';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatMinutes, formatShare, listNames } from '../../ui/format.ts';
import { Choose } from '../../ui/menus/choose.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { Figure } from './figure.tsx';
import { isSlow } from './is-slow.ts';
import { OneCycleFrame } from './one-cycle-frame.tsx';
import { toTurnsPath } from './to-turns-path.ts';
import { useQueryOf } from './use-query-of.ts';

/** The teams of a cycle side by side. Without an answer of the page's own it is asked for. */
export function TeamsView({ initial, initialAddress }: { readonly initial: TeamProgress | null; readonly initialAddress: string }) {
  const { input, isFirst } = useQueryOf(['cycle', 'scope', 'each'], initialAddress);
  const { data, error, isPlaceholderData } = useRead(
    'getTeamProgress',
    { input },
    { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  return (
    <OneCycleFrame
      view="teams"
      answer={data}
      problem={error?.message}
      waiting="Looking at the teams …"
      isOld={isPlaceholderData}
      more={(view) => view.mayNameTesters && <EachChoice each={view.each} />}
    >
      {({ teams, each }, cycle) =>
        teams.length === 0 ? (
          <div className="card">
            <EmptyView title="No team has turns here">Take scenarios into the cycle; a turn goes to the team of its test.</EmptyView>
          </div>
        ) : (
          <>
            <TeamsHeadline teams={teams} each={each} />
            <TeamTable teams={teams} cycle={cycle} each={each} />
          </>
        )
      }
    </OneCycleFrame>
  );
}

const EACH = { team: 'Team', tester: 'Tester' } as const;
type Each = keyof typeof EACH;

/** Where the programme allows it. */
function EachChoice({ each }: { readonly each: Each }) {
  const address = useAddress();
  const choices = [
    { key: 'team', name: 'team' },
    { key: 'tester', name: 'tester' },
  ] as const;
  return <Choose label="Each" chosen={each} choices={choices} onChoose={(key) => address.set({ each: key === 'team' ? null : key })} />;
}

/** Who keeps others waiting most, and whose turns take longer than they were planned. */
export function TeamsHeadline({ teams, each }: Pick<TeamTableProps, 'teams' | 'each'>) {
  const [first] = [...teams].sort((a, b) => (b.keeps ?? 0) - (a.keeps ?? 0));
  const pace = describePace(teams, each);
  if (first?.keeps === null) return <p className="mb-3 text-[19px]">{`${pace.charAt(0).toUpperCase()}${pace.slice(1)}.`}</p>;
  return (
    <p className="mb-3 text-[19px]">
      {first && first.keeps > 0 ? (
        <>
          <strong className="text-[22px]">{countOf(first.keeps, 'turn')}</strong> {first.keeps === 1 ? 'waits' : 'wait'} for{' '}
          <strong className="text-[22px]">{first.name}</strong>
        </>
      ) : (
        'No turn waits for a team'
      )}
      <span className="text-[15px] text-soft">{`; ${pace}`}</span>
    </p>
  );
}

function describePace(teams: readonly TeamLine[], each: Each): string {
  if (teams.every(({ tried }) => tried === 0)) return 'nobody has tried a turn to the end yet';
  const slow = teams.filter(isSlow).map(({ name }) => name);
  const who = slow.length === 0 ? `no ${each} takes` : `${listNames(slow)} ${slow.length === 1 ? 'takes' : 'take'}`;
  return `${who} over a tenth longer than planned`;
}

const KEEPS = 'Keeps waiting';
const HEADS = ['Turns', 'Run', 'Passed', 'Failed, blocked', 'To do', 'Late', 'Held', KEEPS, 'Planned a turn', 'Spent a turn'];

interface TeamTableProps {
  readonly teams: readonly TeamLine[];
  readonly cycle: string;
  readonly each: Each;
}

export function TeamTable({ teams, cycle, each }: TeamTableProps) {
  const most = Math.max(...teams.map(({ counts }) => sumCounts(counts)));
  const sum = (of: (team: TeamLine) => number) => teams.reduce((total, team) => total + of(team), 0);
  const all: Omit<TeamLine, 'keeps'> = {
    ...{
      key: '',
      name: 'All',
      counts: teams.reduce((total, { counts }) => addCounts(total, counts), NO_COUNTS),
      late: sum(({ late }) => late),
    },
    ...{ tried: sum(({ tried }) => tried), planned: sum(({ planned }) => planned), spent: sum(({ spent }) => spent) },
  };
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col">{EACH[each]}</th>
            {HEADS.filter((head) => each === 'team' || head !== KEEPS).map((head) => (
              <th key={head} scope="col" className="text-right!">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {teams.map((team) => (
            <Line key={team.key} team={team} keeps={team.keeps} most={most} cycle={cycle} each={each} />
          ))}
        </tbody>
        <tfoot>
          <Line team={all} keeps={null} most={most} cycle={cycle} each={each} />
        </tfoot>
      </table>
      <p className="border-t border-line-2 px-2 py-2.5 text-[13px] text-soft">
        Minutes a turn are those of turns that people tried to the end, over all their attempts: the times between one word and the next. A
        pause longer than the turn was planned, and than a quarter of an hour, is taken out.
      </p>
    </div>
  );
}

const WIDEST_PX = 190;

interface LineProps {
  readonly team: Omit<TeamLine, 'keeps'>;
  /** null: of all, who waits for whom is said team by team. */
  readonly keeps: number | null;
  readonly most: number;
  readonly cycle: string;
  readonly each: Each;
}

function Line({ team, keeps, most, cycle, each }: LineProps) {
  const { base } = useProgramme();
  const { get, withScope } = useAddress();
  const { counts, late, tried, planned, spent } = team;
  const own: Record<string, string> = team.key === '' ? {} : { [each === 'team' ? 'team' : 'person']: team.key };
  const to = (filters: Record<string, string>) => toTurnsPath({ base, cycle, scope: get('scope'), filters: { ...own, ...filters } });
  const todo = counts.waiting + counts.ready + counts['under way'] + counts.held;
  const holds = `${base}/progress?${new URLSearchParams({ cycle, holdsOf: team.key })}`;
  return (
    <tr className={team.key === '' ? 'font-semibold' : 'hover:bg-band'}>
      <th scope="row" className="border-b-line-2! whitespace-normal! text-ink!">
        {team.name}
        <span className="block" style={{ width: team.key === '' ? WIDEST_PX : Math.max(12, (WIDEST_PX * sumCounts(counts)) / most) }}>
          <BatonBar counts={counts} />
        </span>
      </th>
      <Figure href={to({})} of={sumCounts(counts)} />
      <Figure href={to({ status: 'passed,failed' })} of={counts.passed + counts.failed} beside={formatShare(getRunShare(counts))} />
      <Figure href={to({ status: 'passed' })} of={counts.passed} beside={formatShare(getPassShare(counts))} />
      <Figure href={to({ status: 'failed,blocked' })} of={getErrors(counts)} isBad />
      <Figure href={to({ status: 'waiting,ready,under way,held' })} of={todo} />
      <Figure href={to({ late: 'yes' })} of={late} />
      <Figure href={to({ status: 'held' })} of={counts.held} />
      {each === 'team' && (keeps === null ? <td /> : <Figure href={withScope(holds)} of={keeps} />)}
      <td className="text-right font-mono text-soft">{tried === 0 ? '–' : formatMinutes(Math.round(planned / tried))}</td>
      <td className={`text-right font-mono ${isSlow(team) ? 'font-bold' : ''}`}>
        {tried === 0 ? '–' : formatMinutes(Math.round(spent / tried))}
      </td>
    </tr>
  );
}
