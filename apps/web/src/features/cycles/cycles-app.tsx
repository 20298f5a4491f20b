import { useRead } from '../../client/use-read.ts';
import type { CycleList } from '@kindred-baton/contracts/cycles/cycle';
import { getPassShare, getRunShare, sumCounts } from '@kindred-baton/core/progress/tally';
import Plus from 'lucide-react/icons/plus';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatShare, formatSpan } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

export function CyclesApp({ content, ...frame }: PageProps<CycleList>) {
  return (
    <AppFrame {...frame} area="cycles">
      <Cycles initial={content} />
    </AppFrame>
  );
}

function Cycles({ initial }: { readonly initial: CycleList }) {
  const { base, can } = useProgramme();
  const { withScope } = useAddress();
  const { data = initial } = useRead('listCycles', {}, { initialData: initial });
  const open = data.cycles.filter((cycle) => cycle.state === 'open').length;
  return (
    <>
      <PageTitle title="Cycles" about={`${countOf(data.cycles.length, 'cycle')}, ${open} open`}>
        {can('run cycles') && (
          <a className="button button-primary" href={withScope(`${base}/cycles/new`)}>
            <Plus size={17} aria-hidden /> Plan a cycle
          </a>
        )}
      </PageTitle>
      <ul className="grid gap-3">
        {data.cycles.length === 0 && (
          <li className="card">
            <EmptyView title="No cycle yet">
              A cycle takes scenarios and their data rows, makes turns of them, and gives each to somebody.
            </EmptyView>
          </li>
        )}
        {data.cycles.map((cycle) => (
          <li
            key={cycle.id}
            className="card grid items-center gap-x-6 gap-y-2 px-5 py-4 md:grid-cols-[minmax(0,1fr)_minmax(180px,320px)_190px]"
          >
            <div className="min-w-0">
              <p className="text-[13px] text-soft">
                <span className="font-mono">{cycle.code}</span> · {cycle.purpose} · {formatSpan(cycle.startsOn, cycle.endsOn)} · environment{' '}
                {cycle.environment}
              </p>
              <h2 className="text-[17px]">
                <a className="hover:underline" href={withScope(`${base}/cycles/${cycle.code}`)}>
                  {cycle.name}
                </a>
                <span className="tag ml-3 align-middle font-normal">{cycle.state}</span>
              </h2>
            </div>
            <BatonBar counts={cycle.counts} className="h-[13px]!" />
            <p className="text-[13px] text-soft">
              <b className="text-[17px] text-ink">{formatShare(getRunShare(cycle.counts))}</b> run,{' '}
              {formatShare(getPassShare(cycle.counts), 1)} passed
              <span className="block">
                {countOf(cycle.runs, 'run')}, {countOf(sumCounts(cycle.counts), 'turn')}
              </span>
            </p>
          </li>
        ))}
      </ul>
    </>
  );
}
