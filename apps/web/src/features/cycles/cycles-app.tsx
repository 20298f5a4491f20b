import { useRead } from '../../client/use-read.ts';
import type { CycleList } from '@kindred-baton/contracts/cycles/cycle';
import Plus from 'lucide-react/icons/plus';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { CyclesTabs } from './cycles-tabs.tsx';
import { CycleBands } from './cycle-bands.tsx';

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
      <CyclesTabs place="cycles" />
      <PageTitle title="Cycles" about={`${countOf(data.cycles.length, 'cycle')}, ${open} open`}>
        {can('run cycles') && (
          <a className="button button-primary" href={withScope(`${base}/cycles/new`)}>
            <Plus size={17} aria-hidden /> Plan a cycle
          </a>
        )}
      </PageTitle>
      {data.cycles.length === 0 ? (
        <div className="card">
          <EmptyView title="No cycle yet">
            A cycle takes scenarios and their data rows, makes turns of them, and gives each to somebody.
          </EmptyView>
        </div>
      ) : (
        <CycleBands cycles={data.cycles} />
      )}
    </>
  );
}
