import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { getStandingWord, isWhole, listStatuses, PARTS, pickParts } from '@kindred-baton/core/progress/counted';
import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { formatMinutes } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { joinCodes } from './join-codes.ts';
import type { TableQuery } from './table-query.ts';
import { toTurnsPath } from './to-turns-path.ts';

interface CellProps {
  readonly counts: Counts;
  /** The largest cell, which gets the widest bar; 0: a bar of full width. */
  readonly largest: number;
  /** What the row and the column stand for. */
  readonly filters: Readonly<Record<string, string>>;
  readonly view: ProgressView;
  readonly query: TableQuery;
}

const WIDEST_PX = 52;
const NARROWEST_PX = 20;

/** A bar and a number that opens the turns of it: how much is run of what is to run, or how much there is of the parts that are shown. */
export function ProgressCell({ counts, largest, filters, view, query }: CellProps) {
  const { base } = useProgramme();
  const scope = useAddress().get('scope');
  const { counted, parts, narrowed } = query;
  const shown = pickParts(counts, parts);
  const total = sumCounts(shown);
  if (total === 0) return <span className="text-soft">–</span>;
  const width = largest === 0 ? WIDEST_PX : NARROWEST_PX + ((WIDEST_PX - NARROWEST_PX) * sumCounts(counts)) / largest;
  const say = (amount: number) => (counted === 'minutes' ? formatMinutes(amount) : amount.toLocaleString('en'));
  const isAll = parts.length === PARTS.length;
  const text = isAll ? `${say(counts.passed + counts.failed)}/${say(total - counts.skipped)}` : say(total);
  const only: Record<string, string> = isAll ? {} : { status: listStatuses(parts).join(','), ...(isWhole(counted) ? { counted } : {}) };
  const own = Object.fromEntries(narrowed.map(({ filter, value }) => [filter, value]));
  const said = TURN_STATUSES.filter((status) => shown[status] > 0).map(
    (status) => `${say(shown[status])} ${getStandingWord(counted, status)}`,
  );
  return (
    <a
      className="group inline-flex flex-col justify-center gap-0.5 py-0.5 whitespace-nowrap"
      href={toTurnsPath({ base, cycle: joinCodes(view), scope, filters: { ...own, ...filters, ...only } })}
      aria-label={`${text}${isAll ? ' run' : ''}: ${said.join(', ')}`}
    >
      <span style={{ width }} className="flex-none">
        <BatonBar counts={shown} isDecoration />
      </span>
      <span className="font-mono text-[12.5px] leading-4 text-soft group-hover:text-ink group-hover:underline">{text}</span>
    </a>
  );
}
