import { useRead } from '../../client/use-read.ts';
import type { RequirementItem, Traceability } from '@kindred-baton/contracts/requirements/requirement';
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
import { useInScope } from '../frame/use-in-scope.ts';
import { filterRequirements, listMatrixTests, REQUIREMENT_FILTERS } from './filter-requirements.ts';
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
  const { api, base, can } = useProgramme();
  const address = useAddress();
  const isInScope = useInScope();
  const { data = initial } = useRead('getTraceability', {}, { initialData: initial });
  const [editing, setEditing] = useState<RequirementItem | 'new' | null>(null);
  const query = { kind: address.get('kind'), words: address.get('q') ?? '', isInScope, hasScope: address.get('scope') !== null };
  const inScope = filterRequirements(data.requirements, { ...query, show: null });
  const shown = filterRequirements(inScope, { ...query, show: address.get('show') });
  const isMatrix = address.get('view') === 'matrix';
  const chosen = data.requirements.find(({ code }) => code === address.get('requirement'));
  const tests = listMatrixTests(data, inScope, isInScope);
  return (
    <>
      <PageTitle
        title="Requirements"
        about={<Gaps all={inScope} unserved={tests.filter(({ requirements }) => requirements.length === 0).length} />}
      >
        <Narrowing words={query.words} kind={query.kind} isMatrix={isMatrix} />
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
            <button type="button" className="button button-primary" onClick={() => setEditing('new')}>
              <Plus size={17} aria-hidden /> New requirement
            </button>
          </>
        )}
      </PageTitle>
      {shown.length === 0 ? (
        <div className="card">
          <EmptyView title={data.requirements.length === 0 ? 'No requirement yet' : 'None is like that here'}>
            What must hold for the business, linked to the processes it is about and the tests that show it.
          </EmptyView>
        </div>
      ) : isMatrix ? (
        <TraceMatrix requirements={shown} tests={tests} canEdit={can('edit map')} />
      ) : (
        <div className={`grid gap-4 ${chosen ? 'lg:grid-cols-[minmax(0,1fr)_316px]' : ''}`}>
          <RequirementTable requirements={shown} chosen={chosen?.code ?? null} />
          {chosen && (
            <Suspense fallback={null}>
              <RequirementPanel requirement={chosen} onEdit={() => setEditing(chosen)} />
            </Suspense>
          )}
        </div>
      )}
      {editing !== null && (
        <Suspense fallback={null}>
          <RequirementDialog
            requirement={editing === 'new' ? null : editing}
            tests={data.tests}
            taken={data.requirements.map(({ code }) => code)}
            onClose={() => setEditing(null)}
          />
        </Suspense>
      )}
    </>
  );
}

/** The gaps in the first line, each opening what it counts. */
function Gaps({ all, unserved }: { readonly all: readonly RequirementItem[]; readonly unserved: number }) {
  const address = useAddress();
  const { base } = useProgramme();
  const show = address.get('show');
  const gaps = REQUIREMENT_FILTERS.map((filter) => ({ ...filter, count: all.filter(filter.takes).length })).filter(
    ({ count }) => count > 0,
  );
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      <button
        type="button"
        className={`min-h-[24px] hover:underline ${show === null ? 'font-bold text-ink' : ''}`}
        onClick={() => address.set({ show: null })}
      >
        {countOf(all.length, 'requirement')}
      </button>
      {gaps.map(({ key, name, count }) => (
        <button
          key={key}
          type="button"
          aria-pressed={show === key}
          className={`min-h-[24px] hover:underline ${show === key ? 'font-bold text-ink' : ''} ${key === 'refuted' || key === 'no-test' ? 'font-bold text-ink' : ''}`}
          onClick={() => address.set({ show: show === key ? null : key })}
        >
          {`· ${count} ${name}`}
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
        onChange={(event) => address.set({ q: event.target.value || null }, { replace: true })}
      />
      <Choose
        label="Kind"
        chosen={chosen ?? ''}
        choices={[{ key: '', name: 'all' }, ...REQUIREMENT_KINDS.map((kind) => ({ key: kind, name: kind }))]}
        onChoose={(kind) => address.set({ kind: kind || null })}
      />
      <Choose
        label="As"
        chosen={isMatrix ? 'matrix' : 'list'}
        choices={[
          { key: 'list', name: 'list' },
          { key: 'matrix', name: 'matrix' },
        ]}
        onChoose={(view) => address.set({ view: view === 'matrix' ? view : null })}
      />
    </>
  );
}
