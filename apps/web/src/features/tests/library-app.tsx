import type { TestList, TestListItem } from '@kindred-baton/contracts/tests/test';
import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import Plus from 'lucide-react/icons/plus';
import { useRef, useState } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { getJson } from '../../ui/request.ts';
import { useAddress } from '../frame/address-context.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { useInScope } from '../frame/use-in-scope.ts';
import { NewTestDialog } from './new-test-dialog.tsx';

export function LibraryApp({ content, ...frame }: PageProps<TestList>) {
  return (
    <AppFrame {...frame} area="tests">
      <Library initial={content} />
    </AppFrame>
  );
}

function Library({ initial }: { readonly initial: TestList }) {
  const { api, can } = useProgramme();
  const address = useAddress();
  const inScope = useInScope();
  const { data } = useQuery({ queryKey: ['tests'], queryFn: () => getJson<TestList>(`${api}/tests`), initialData: initial });
  const [isAdding, setIsAdding] = useState(false);
  const words = address.get('q') ?? '';
  const wanted = words.trim().toLowerCase().split(/\s+/);
  const shown = data.tests.filter(
    (test) =>
      inScope(test.node.code) &&
      wanted.every((word) => `${test.code} ${test.name} ${test.team ?? ''} ${test.node.name}`.toLowerCase().includes(word)),
  );
  const unused = shown.filter((test) => test.usedIn === 0).length;
  return (
    <>
      <PageTitle title="Tests" about={`${countOf(shown.length, 'test')}${unused > 0 ? ` · ${unused} in no scenario` : ''}`}>
        <input
          className="field w-[220px]!"
          type="search"
          aria-label="Narrow the list"
          placeholder="Code, name, team or activity"
          value={words}
          onChange={(event) => address.set({ q: event.target.value || null }, { replace: true })}
        />
        {can('edit tests') && (
          <button type="button" className="button button-primary" onClick={() => setIsAdding(true)}>
            <Plus size={17} aria-hidden /> New test
          </button>
        )}
      </PageTitle>
      {shown.length > 0 ? (
        <TestTable tests={shown} />
      ) : (
        <div className="card">
          <EmptyView title={words === '' ? 'No test here yet' : 'No test has these words'}>
            A test is one business transaction, written once and used in many scenarios.
          </EmptyView>
        </div>
      )}
      <NewTestDialog isOpen={isAdding} onClose={() => setIsAdding(false)} />
    </>
  );
}

const ROW_PX = 37;
const COLUMNS = 'grid grid-cols-[80px_minmax(200px,1.4fr)_minmax(120px,1fr)_110px_140px_96px_90px_60px] items-center gap-x-3';
const HEADS = ['Code', 'Test', 'Activity', 'Team', 'Application', 'Version', 'Scenarios', 'Last'];

function TestTable({ tests }: { readonly tests: readonly TestListItem[] }) {
  const frame = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the library's own advice; nothing here is memoized by it
  const rows = useVirtualizer({
    count: tests.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 10,
    initialRect: { width: 1200, height: 560 },
  });
  return (
    <div className="card overflow-x-auto" role="table" aria-label="Tests" aria-rowcount={tests.length}>
      <div className="min-w-[960px]">
        <div role="row" className={`${COLUMNS} border-b border-line px-4 py-2.5 text-[13px] font-semibold text-soft`}>
          {HEADS.map((head) => (
            <span key={head} role="columnheader">
              {head}
            </span>
          ))}
        </div>
        <div
          ref={frame}
          role="rowgroup"
          // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys
          tabIndex={0}
          className="max-h-[max(300px,calc(100vh-262px))] overflow-y-auto outline-offset-[-2px]"
        >
          <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {rows.getVirtualItems().map((row) => {
              const test = tests[row.index];
              return test ? <TestRow key={test.id} test={test} top={row.start} /> : null;
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

function TestRow({ test, top }: { readonly test: TestListItem; readonly top: number }) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  return (
    <div role="row" className={`${COLUMNS} absolute inset-x-0 border-b border-line-2 px-4 hover:bg-band`} style={{ top, height: ROW_PX }}>
      <span role="cell" className="truncate font-mono text-[13px] text-soft">
        {test.code}
      </span>
      <span role="cell" className="truncate">
        <a className="font-semibold hover:underline" href={withScope(`${base}/tests/${test.code}`)}>
          {test.name}
        </a>
      </span>
      <span role="cell" className="truncate text-[13px]">
        {test.node.name}
      </span>
      <span role="cell" className="truncate text-[13px]">
        {test.team}
      </span>
      <span role="cell" className="truncate text-[13px] text-soft">
        {test.application}
      </span>
      <span role="cell" className="text-[13px] whitespace-nowrap">
        {test.version} {test.state === 'agreed' ? <span className="text-soft">agreed</span> : <span className="tag">{test.state}</span>}
      </span>
      <span role="cell" className="text-[13px]">
        {test.usedIn > 0 ? test.usedIn : <span className="text-failed">in none</span>}
      </span>
      <span role="cell">{test.status && <BatonMark status={test.status} />}</span>
    </div>
  );
}
