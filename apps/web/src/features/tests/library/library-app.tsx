import { call } from '../../../client/call.ts';
import type { TestList } from '@kindred-baton/contracts/tests/library';
import FileUp from 'lucide-react/icons/file-up';
import Plus from 'lucide-react/icons/plus';
import { useRef, useState } from 'react';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf } from '../../../ui/format.ts';
import { PageTitle } from '../../../ui/page-title.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { AppFrame } from '../../frame/app-frame.tsx';
import type { PageProps } from '../../frame/app-frame.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { BulkBar } from './bulk-bar.tsx';
import { ExportButton } from './export-button.tsx';
import { FacetPanel } from './facet-panel.tsx';
import { LibraryFindingsView } from './library-findings-view.tsx';
import { LibraryTabs, LIBRARY_VIEWS } from './library-tabs.tsx';
import { NewTestDialog } from './new-test-dialog.tsx';
import { PersonasView } from '../../personas/personas-view.tsx';
import { TestListTable } from './test-list-table.tsx';
import type { TestPages } from './use-test-pages.ts';
import { useTestPages } from './use-test-pages.ts';

const KEYS = [
  { keys: '↑ ↓', does: 'Walk the tests' },
  { keys: 'Enter', does: 'Open the test' },
  { keys: 'Tab', does: 'From the name to its mark and back' },
];

export function LibraryApp({ content, ...frame }: PageProps<TestList>) {
  return (
    <AppFrame {...frame} area="tests" keys={KEYS}>
      <Library initial={content} />
    </AppFrame>
  );
}

function Library({ initial }: { readonly initial: TestList }) {
  const asked = useAddress().get('view');
  const view = LIBRARY_VIEWS.find(({ key }) => key === asked)?.key ?? 'list';
  return (
    <>
      <LibraryTabs view={view} />
      {view === 'list' ? <AllTests initial={initial} /> : view === 'look' ? <LibraryFindingsView /> : <PersonasView />}
    </>
  );
}

function AllTests({ initial }: { readonly initial: TestList }) {
  const { api, base, can } = useProgramme();
  const address = useAddress();
  const pages = useTestPages(initial);
  const isAdding = address.get('new') === 'test';
  const marks = useMarks(pages);
  const { list, query } = pages;
  const listCodes = async () => (await call(api, 'listTestCodes', { input: query })).codes;
  return (
    <>
      <PageTitle title="Tests" about={describe(list)}>
        <input
          className="field w-[210px]!"
          type="search"
          aria-label="Words in tests"
          placeholder="Words in names and steps"
          value={address.get('q') ?? ''}
          onChange={(event) => address.set({ q: event.target.value || null }, { replace: true })}
        />
        {list.total > 0 && <ExportButton codes={() => (marks.marked.size > 0 ? [...marks.marked] : listCodes())} />}
        {can('edit tests') && (
          <>
            <a className="button" href={address.withScope(`${base}/map/import?kind=tests`)}>
              <FileUp size={17} aria-hidden /> Import
            </a>
            <button type="button" className="button button-primary" onClick={() => address.set({ new: 'test' })}>
              <Plus size={17} aria-hidden /> New test
            </button>
          </>
        )}
      </PageTitle>
      {marks.marked.size > 0 && (
        <BulkBar
          codes={[...marks.marked]}
          total={list.total}
          onMarkAll={() => void listCodes().then(marks.set)}
          onClear={() => marks.set([])}
        />
      )}
      <div className="grid gap-4 lg:grid-cols-[212px_minmax(0,1fr)]">
        <FacetPanel facets={list.facets} />
        {list.total > 0 ? (
          <TestListTable pages={pages} marked={marks.marked} onMark={can('edit tests') ? marks.mark : null} />
        ) : (
          <div className="card self-start">
            <EmptyView title={list.all === 0 ? 'No test yet' : 'No test is like that'}>
              A test is one business transaction, written once and used in many scenarios. Write one, or bring a list of them in.
            </EmptyView>
          </div>
        )}
      </div>
      <NewTestDialog isOpen={isAdding} onClose={() => address.set({ new: null })} />
    </>
  );
}

function describe({ total, all, facets }: TestList): string {
  const of = total === all ? countOf(all, 'test') : `${total.toLocaleString('en')} of ${countOf(all, 'test')}`;
  const unused = facets.used.find(({ key }) => key === 'none')?.count ?? 0;
  const failing = facets.stands.find(({ key }) => key === 'failing')?.count ?? 0;
  return [of, ...(failing > 0 ? [`${failing} failing`] : []), ...(unused > 0 ? [`${unused} in no scenario`] : [])].join(' · ');
}

/** The marked tests; with Shift, from the last one marked to this one. */
function useMarks(pages: TestPages) {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const last = useRef<string | null>(null);
  const mark = (code: string, isMarked: boolean, isRange: boolean) => {
    const codes = isRange && last.current !== null ? listBetween(pages, last.current, code) : [code];
    last.current = code;
    setMarked((before) => {
      const next = new Set(before);
      for (const each of codes)
        if (isMarked) next.add(each);
        else next.delete(each);
      return next;
    });
  };
  return { marked, mark, set: (codes: readonly string[]) => setMarked(new Set(codes)) };
}

function listBetween({ list, at }: TestPages, a: string, b: string): string[] {
  const codes = Array.from({ length: list.total }, (_, index) => at(index)?.code);
  const [from, to] = [codes.indexOf(a), codes.indexOf(b)].sort((x, y) => x - y);
  return from === undefined || to === undefined || from < 0 ? [b] : codes.slice(from, to + 1).flatMap((code) => code ?? []);
}
