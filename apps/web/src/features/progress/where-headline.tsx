import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import { getCountedNoun, getStandingWord, isWhole, sumPart } from '@kindred-baton/core/progress/counted';
import { getPassShare, getRunShare, sumCounts } from '@kindred-baton/core/progress/tally';
import { countOf, formatMinutes, formatShare } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { joinCodes } from './join-codes.ts';
import type { TableQuery } from './table-query.ts';
import { toTurnsPath } from './to-turns-path.ts';

/** The answer in the first line: how far, how well, and what is stuck. Each number opens its turns. */
export function WhereHeadline({ view, query: { counted, narrowed } }: { readonly view: ProgressView; readonly query: TableQuery }) {
  const { base } = useProgramme();
  const scope = useAddress().get('scope');
  const own = Object.fromEntries(narrowed.map(({ filter, value }) => [filter, value]));
  const whole: Record<string, string> = isWhole(counted) ? { counted } : {};
  const to = (status: string) => toTurnsPath({ base, cycle: joinCodes(view), scope, filters: { ...own, ...whole, status } });
  const { total } = view;
  const toRun = sumCounts(total) - total.skipped;
  const run = total.passed + total.failed;
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-7 gap-y-1">
      <a href={to('passed,failed')} className="group">
        <strong className="text-[26px] group-hover:underline">{formatShare(getRunShare(total))}</strong>{' '}
        <span className="text-soft">
          run,{' '}
          {counted === 'minutes'
            ? `${formatMinutes(run)} of ${formatMinutes(toRun)} of work`
            : `${run.toLocaleString('en')} of ${countOf(toRun, getCountedNoun(counted))}`}
        </span>
      </a>
      <a href={to('passed')} className="group">
        <strong className="text-[19px] group-hover:underline">{formatShare(getPassShare(total), 1)}</strong>{' '}
        <span className="text-soft">of those {getStandingWord(counted, 'passed')}</span>
      </a>
      <a href={to('failed,blocked')} className="group">
        <strong className="text-[19px] text-failed group-hover:underline">
          {counted === 'minutes' ? formatMinutes(sumPart(total, 'errors')) : sumPart(total, 'errors').toLocaleString('en')}
        </strong>{' '}
        <span className="text-soft">failed or blocked</span>
      </a>
    </p>
  );
}
