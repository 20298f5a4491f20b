import type { CourseView as CourseAnswer } from '@kindred-baton/contracts/progress/course';
import { useRead } from '../../client/use-read.ts';
import type { ProgressView } from '@kindred-baton/contracts/progress/progress';
import type { TeamProgress } from '@kindred-baton/contracts/progress/teams';
import type { WrongSteps } from '@kindred-baton/contracts/progress/wrong-steps';
import type { FacetName } from '@kindred-baton/core/progress/facet';
import { FACETS, getFacetLabel } from '@kindred-baton/core/progress/facet';
import { getPassShare, getRunShare, sumCounts } from '@kindred-baton/core/progress/tally';
import { keepPreviousData } from '@tanstack/react-query';
import { Legend } from '../../ui/baton-mark.tsx';
import { Choose } from '../../ui/menus/choose.tsx';
import { countOf, formatShare, formatSpan } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { CourseView } from './course/course-view.tsx';
import { HoldList } from './hold-list.tsx';
import { NoCycle } from './no-cycle.tsx';
import { ProgressTable } from './progress-table.tsx';
import { ProgressTabs } from './progress-tabs.tsx';
import { TeamsView } from './teams-view.tsx';
import { toTurnsPath } from './to-turns-path.ts';
import { useQueryOf } from './use-query-of.ts';
import { WrongStepsView } from './wrong-steps-view.tsx';

/** What the page came with: the answer of the view that its address names. */
export type ProgressContent =
  | { readonly view: 'course'; readonly answer: CourseAnswer }
  | { readonly view: 'teams'; readonly answer: TeamProgress }
  | { readonly view: 'where'; readonly answer: ProgressView }
  | { readonly view: 'steps'; readonly answer: WrongSteps };

export function ProgressApp({ content, ...frame }: PageProps<ProgressContent>) {
  return (
    <AppFrame {...frame} area="progress">
      <Shown content={content} initialAddress={frame.address} />
    </AppFrame>
  );
}

function Shown({ content, initialAddress }: { readonly content: ProgressContent; readonly initialAddress: string }) {
  const asked = useAddress().get('view');
  if (asked === 'course') return <CourseView initial={content.view === 'course' ? content.answer : null} initialAddress={initialAddress} />;
  if (asked === 'teams') return <TeamsView initial={content.view === 'teams' ? content.answer : null} initialAddress={initialAddress} />;
  return asked === 'steps' ? (
    <WrongStepsView initial={content.view === 'steps' ? content.answer : null} initialAddress={initialAddress} />
  ) : (
    <Progress initial={content.view === 'where' ? content.answer : null} initialAddress={initialAddress} />
  );
}

function Progress({ initial, initialAddress }: { readonly initial: ProgressView | null; readonly initialAddress: string }) {
  const address = useAddress();
  const { input, isFirst } = useQueryOf(QUERY_NAMES, initialAddress);
  const {
    data: view,
    error,
    isPlaceholderData,
  } = useRead('getProgress', { input }, { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData });
  if (!view) return <p className="text-soft">{error ? error.message : 'Counting the turns …'}</p>;
  const rows = (address.get('rows') ?? 'process') as FacetName;
  const columns = (address.get('columns') ?? 'team') as FacetName;
  if (!view.cycle) return <NoCycle />;
  const facets = FACETS.map((facet) => ({ key: facet, name: getFacetLabel(facet) }));
  return (
    <>
      <PageTitle title="Progress" about={formatSpan(view.cycle.startsOn, view.cycle.endsOn)}>
        <Choose
          label="Cycle"
          chosen={view.cycle.code}
          choices={view.cycles.map(({ code, name }) => ({ key: code, name }))}
          onChoose={(cycle) => address.set({ cycle, ...FIRST_PAGE, holdsOf: null })}
        />
        <Choose
          label="Rows"
          chosen={rows}
          choices={facets.filter(({ key }) => key !== columns)}
          onChoose={(key) => address.set({ rows: key, ...FIRST_PAGE })}
        />
        <Choose
          label="Columns"
          chosen={columns}
          choices={facets.filter(({ key }) => key !== rows)}
          onChoose={(key) => address.set({ columns: key, ...FIRST_PAGE })}
        />
      </PageTitle>
      <ProgressTabs view="where" />
      <div className={`grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px] ${isPlaceholderData ? 'opacity-70' : ''}`}>
        <div className="min-w-0">
          <Headline view={view} />
          <ProgressTable view={view} rows={rows} columns={columns} rowsName={getFacetLabel(rows)} />
          <div className="mt-3">
            <Legend />
          </div>
        </div>
        <HoldList view={view} />
      </div>
    </>
  );
}

const FIRST_PAGE = { fromRow: null, fromColumn: null };
const QUERY_NAMES = ['cycle', 'rows', 'columns', 'scope', 'fromRow', 'fromColumn', 'holdsOf'];

/** The answer in the first line: how far, how well, and what is stuck. Each number opens its turns. */
function Headline({ view }: { readonly view: ProgressView }) {
  const { base } = useProgramme();
  const address = useAddress();
  const to = (status?: string) =>
    toTurnsPath({ base, cycle: view.cycle?.code ?? '', scope: address.get('scope'), filters: status === undefined ? {} : { status } });
  const { total } = view;
  const all = sumCounts(total);
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-7 gap-y-1">
      <a href={to('passed,failed')} className="group">
        <strong className="text-[26px] group-hover:underline">{formatShare(getRunShare(total))}</strong>{' '}
        <span className="text-soft">
          run, {(total.passed + total.failed).toLocaleString('en')} of {countOf(all - total.skipped, 'turn')}
        </span>
      </a>
      <a href={to('passed')} className="group">
        <strong className="text-[19px] group-hover:underline">{formatShare(getPassShare(total), 1)}</strong>{' '}
        <span className="text-soft">of those passed</span>
      </a>
      <a href={to('failed,blocked')} className="group">
        <strong className="text-[19px] text-failed group-hover:underline">{total.failed + total.blocked}</strong>{' '}
        <span className="text-soft">failed or blocked</span>
      </a>
    </p>
  );
}
