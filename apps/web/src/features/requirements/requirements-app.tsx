import { useShown } from '../../client/use-read.ts';
import type { RequirementItem, Traceability } from '@kindred-baton/contracts/requirements/requirement';
import type { RequirementGap } from '@kindred-baton/core/requirements/filter-requirements';
import { REQUIREMENT_GAPS } from '@kindred-baton/core/requirements/filter-requirements';
import { REQUIREMENT_KINDS } from '@kindred-baton/core/requirements/requirement';
import FileDown from 'lucide-react/icons/file-down';
import FileUp from 'lucide-react/icons/file-up';
import Plus from 'lucide-react/icons/plus';
import { lazy, Suspense, useState } from 'react';
import { Choose } from '../../ui/menus/choose.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { MenuButton } from '../../ui/menus/menu-button.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { PagesOf } from '../frame/pages-of.tsx';
import { readRequirementQuery } from './read-requirement-query.ts';
import { RequirementTable } from './requirement-table.tsx';
import { TraceMatrix } from './trace-matrix.tsx';

const RequirementPanel = lazy(() => import('./requirement-panel.tsx').then(({ RequirementPanel: Panel }) => ({ default: Panel })));
const RequirementDialog = lazy(() => import('./requirement-dialog.tsx').then(({ RequirementDialog: Box }) => ({ default: Box })));

export function RequirementsApp({ content, ...frame }: PageProps<Traceability>) {
  return (
    <AppFrame {...frame} area="map">
      <Requirements initial={content} />
    </AppFrame>
  );
}

/** What must hold, and where nothing shows yet that it does. */
export function Requirements({ initial }: { readonly initial: Traceability }) {
  const { can } = useProgramme();
  const address = useAddress();
  const data = useShown('getTraceability', { input: readRequirementQuery(address.get) }, initial);
  const [editing, setEditing] = useState<RequirementItem | 'new' | null>(null);
  const isMatrix = address.get('view') === 'matrix';
  const chosen = address.get('requirement') === null ? null : data.chosen;
  return (
    <>
      <PageTitle title="Requirements" about={<Gaps data={data} />}>
        <Narrowing words={address.get('q') ?? ''} kind={address.get('kind')} isMatrix={isMatrix} />
        <Doings onNew={() => setEditing('new')} />
      </PageTitle>
      {data.requirements.length === 0 ? (
        <div className="card">
          <EmptyView title={data.all === 0 ? 'No requirement yet' : 'None is like that here'}>
            What must hold for the business, linked to the processes it is about and the tests that show it.
          </EmptyView>
        </div>
      ) : isMatrix ? (
        <TraceMatrix data={data} canEdit={can('edit map')} />
      ) : (
        <div className={`grid gap-4 ${chosen ? 'lg:grid-cols-[minmax(0,1fr)_316px]' : ''}`}>
          <RequirementTable requirements={data.requirements} chosen={address.get('requirement')} />
          {chosen && (
            <Suspense fallback={null}>
              <RequirementPanel requirement={chosen} onEdit={() => setEditing(chosen)} />
            </Suspense>
          )}
        </div>
      )}
      <PagesOf noun="Requirements" at={data.rows} shown={data.requirements.length} param="page" />
      {editing !== null && (
        <Suspense fallback={null}>
          <RequirementDialog requirement={editing === 'new' ? null : editing} nextCode={data.nextCode} onClose={() => setEditing(null)} />
        </Suspense>
      )}
    </>
  );
}

function Doings({ onNew }: { readonly onNew: () => void }) {
  const { api, base, can } = useProgramme();
  return (
    <>
      <MenuButton
        label="Export"
        icon={<FileDown size={17} aria-hidden />}
        choices={['xlsx', 'csv', 'reqif'].map((format) => ({
          key: format,
          name: format.toUpperCase(),
          href: `${api}/requirements/export?format=${format}`,
          isDownload: true,
        }))}
      />
      {can('edit map') && (
        <>
          <a className="button" href={`${base}/map/import?kind=requirements`}>
            <FileUp size={17} aria-hidden /> Import
          </a>
          <button type="button" className="button button-primary" onClick={onNew}>
            <Plus size={17} aria-hidden /> New requirement
          </button>
        </>
      )}
    </>
  );
}

const GAP_NAMES: Readonly<Record<RequirementGap, string>> = {
  'no-test': 'no test',
  ...{ refuted: 'refuted', 'not-yet': 'not yet shown', partly: 'partly', verified: 'verified', nowhere: 'at no process' },
};

/** The gaps in the first line, each opening what it counts. */
function Gaps({ data: { left, gaps, unserved } }: { readonly data: Traceability }) {
  const address = useAddress();
  const { base } = useProgramme();
  const show = address.get('show');
  const open = (gap: RequirementGap | null) => address.set({ show: show === gap ? null : gap, ...FIRST_PAGE });
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      <button
        type="button"
        className={`min-h-[24px] hover:underline ${show === null ? 'font-bold text-ink' : ''}`}
        onClick={() => open(null)}
      >
        {countOf(left, 'requirement')}
      </button>
      {REQUIREMENT_GAPS.filter((gap) => gaps[gap] > 0).map((gap) => (
        <button
          key={gap}
          type="button"
          aria-pressed={show === gap}
          className={`min-h-[24px] hover:underline ${show === gap || gap === 'refuted' || gap === 'no-test' ? 'font-bold text-ink' : ''}`}
          onClick={() => open(gap)}
        >
          {`· ${gaps[gap].toLocaleString('en')} ${GAP_NAMES[gap]}`}
        </button>
      ))}
      {unserved > 0 && (
        <a className="min-h-[24px] hover:underline" href={address.withScope(`${base}/tests?serves=none`)}>
          {`· ${countOf(unserved, 'test')} ${unserved === 1 ? 'serves' : 'serve'} none`}
        </a>
      )}
    </span>
  );
}

const FIRST_PAGE = { page: null, across: null };

interface NarrowingProps {
  readonly words: string;
  readonly kind: string | null;
  readonly isMatrix: boolean;
}

function Narrowing({ words, kind: chosen, isMatrix }: NarrowingProps) {
  const address = useAddress();
  return (
    <>
      <input
        className="field w-[170px]!"
        type="search"
        aria-label="Narrow the list"
        placeholder="Code or words"
        value={words}
        onChange={(event) => address.set({ q: event.target.value || null, ...FIRST_PAGE }, { replace: true })}
      />
      <Choose
        label="Kind"
        chosen={chosen ?? ''}
        choices={[{ key: '', name: 'all' }, ...REQUIREMENT_KINDS.map((kind) => ({ key: kind, name: kind }))]}
        onChoose={(kind) => address.set({ kind: kind || null, ...FIRST_PAGE })}
      />
      <Choose
        label="As"
        chosen={isMatrix ? 'matrix' : 'list'}
        choices={[
          { key: 'list', name: 'list' },
          { key: 'matrix', name: 'matrix' },
        ]}
        onChoose={(view) => address.set({ view: view === 'matrix' ? view : null, ...FIRST_PAGE })}
      />
    </>
  );
}
