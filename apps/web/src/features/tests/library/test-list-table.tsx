import type { TestListItem } from '@kindred-baton/contracts/tests/library';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { KeyboardEvent } from 'react';
import { useEffect, useRef } from 'react';
import { StandingMark } from '../../progress/standing-mark.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { TestPages } from './use-test-pages.ts';

interface TestListTableProps {
  readonly pages: TestPages;
  readonly marked: ReadonlySet<string>;
  /** Null where nothing can be marked. */
  readonly onMark: ((code: string, isMarked: boolean, isRange: boolean) => void) | null;
}

const ROW_PX = 37;
const COLUMNS = 'grid grid-cols-[24px_82px_minmax(150px,1.5fr)_minmax(100px,1fr)_92px_86px_68px_44px] items-center gap-x-2.5';
const SORTS = { Code: 'code', Test: 'name', Team: 'team', Uses: 'used' } as const;
const HEADS = ['', 'Code', 'Test', 'Activity', 'Team', 'Version', 'Uses', 'Stands'];

/** The tests that are found, a page at a time; only the rows that are seen are drawn. */
export function TestListTable({ pages, marked, onMark }: TestListTableProps) {
  const frame = useRef<HTMLDivElement>(null);
  const address = useAddress();
  const { total } = pages.list;
  // eslint-disable-next-line react-hooks/incompatible-library -- the library's own advice; nothing here is memoized by it
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 10,
    initialRect: { width: 1000, height: 560 },
  });
  const items = rows.getVirtualItems();
  const [from, to] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  const { look } = pages;
  useEffect(() => look(from, to));
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    const at = Number((document.activeElement as HTMLElement | null)?.closest<HTMLElement>('[data-row]')?.dataset['row'] ?? -1);
    const next = Math.min(total - 1, Math.max(0, at + by));
    rows.scrollToIndex(next);
    setTimeout(() => frame.current?.querySelector<HTMLElement>(`[data-row="${next}"] a`)?.focus(), 30);
  };
  return (
    <div className="card min-w-0 overflow-x-auto" role="table" aria-label="Tests" aria-rowcount={total}>
      <div className="min-w-[760px]">
        <div role="row" className={`${COLUMNS} border-b border-line px-3.5 text-[13px] font-semibold text-soft`}>
          {HEADS.map((head) => {
            const sort = SORTS[head as keyof typeof SORTS] as string | undefined;
            const isSorted = sort !== undefined && address.get('sort') === sort;
            return (
              <span
                key={head}
                role="columnheader"
                aria-sort={isSorted ? 'ascending' : undefined}
                className="flex min-h-[40px] items-center"
              >
                {head === '' ? (
                  <span className="sr-only">Marked</span>
                ) : sort === undefined ? (
                  head
                ) : (
                  <button
                    type="button"
                    className={`min-h-[24px] hover:underline ${isSorted ? 'text-ink' : ''}`}
                    onClick={() => address.set({ sort: isSorted ? null : sort })}
                  >
                    {head}
                    {isSorted && ' ↓'}
                  </button>
                )}
              </span>
            );
          })}
        </div>
        {/* The frame scrolls by keys, and walks the links of its rows. */}
        {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
        <div
          ref={frame}
          role="rowgroup"
          // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a scrolling frame takes the focus to be scrolled by keys
          tabIndex={0}
          onKeyDown={onKeyDown}
          className="max-h-[max(320px,calc(100vh-262px))] overflow-y-auto outline-offset-[-2px]"
        >
          <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {items.map(({ index, start }) => (
              <Row key={index} index={index} test={pages.at(index)} top={start} {...{ marked, onMark }} />
            ))}
          </div>
        </div>
      </div>
    </div>
  );
}

interface RowProps extends Pick<TestListTableProps, 'marked' | 'onMark'> {
  readonly index: number;
  readonly test: TestListItem | undefined;
  readonly top: number;
}

function Row({ index, test, top, marked, onMark }: RowProps) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  const isMarked = test !== undefined && marked.has(test.code);
  return (
    <div
      role="row"
      data-row={index}
      aria-rowindex={index + 1}
      className={`${COLUMNS} absolute inset-x-0 border-b border-line-2 px-3.5 ${isMarked ? 'bg-baton-tint' : 'hover:bg-band'}`}
      style={{ top, height: ROW_PX }}
    >
      {test === undefined ? (
        <span role="cell" className="col-start-3 text-soft">
          …
        </span>
      ) : (
        <>
          <span role="cell">
            {onMark && (
              <input
                type="checkbox"
                aria-label={`Mark ${test.code}`}
                checked={isMarked}
                onChange={(event) => onMark(test.code, event.target.checked, (event.nativeEvent as MouseEvent).shiftKey)}
              />
            )}
          </span>
          <span role="cell" className="truncate font-mono text-[13px] text-soft">
            {test.code}
          </span>
          <span role="cell" className="truncate">
            <a className="font-semibold hover:underline" href={withScope(`${base}/tests/${test.code}`)} title={test.name}>
              {test.name}
            </a>
            {test.tags.map((tag) => (
              <span key={tag} className="tag ml-1.5">
                {tag}
              </span>
            ))}
          </span>
          <span role="cell" className="truncate text-[13px]" title={test.node.name}>
            {test.node.name}
          </span>
          <span role="cell" className="truncate text-[13px]">
            {test.team}
          </span>
          <span role="cell" className="text-[13px] whitespace-nowrap">
            {test.version} {test.state === 'agreed' ? <span className="text-soft">agreed</span> : <span className="tag">{test.state}</span>}
          </span>
          <span role="cell" className="text-[13px]" title={test.usedIn > 0 ? `A leg in ${test.usedIn}` : 'In no scenario'}>
            {test.usedIn > 0 ? test.usedIn : <span className="text-soft">none</span>}
          </span>
          <span role="cell">
            <StandingMark test={test.code} standing={test.standing} />
          </span>
        </>
      )}
    </div>
  );
}
