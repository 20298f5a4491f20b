import type { ListedRequirement } from '@kindred-baton/contracts/requirements/requirement';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { KeyboardEvent } from 'react';
import { useRef } from 'react';
import { useAddress } from '../frame/address-context.tsx';
import { RequirementMark } from '../progress/standing-mark.tsx';

const ROW_PX = 37;
const COLUMNS = 'grid grid-cols-[84px_minmax(220px,1fr)_92px_70px_minmax(80px,140px)_minmax(90px,170px)_112px] items-center gap-x-3';
const HEADS = ['Code', 'What must hold', 'Kind', 'Priority', 'Processes', 'Tests', 'State'];

export function RequirementTable({
  requirements,
  chosen,
}: {
  readonly requirements: readonly ListedRequirement[];
  readonly chosen: string | null;
}) {
  const address = useAddress();
  const frame = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the library's own advice; nothing here is memoized by it
  const rows = useVirtualizer({
    count: requirements.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 10,
    initialRect: { width: 1200, height: 560 },
  });
  const at = requirements.findIndex(({ code }) => code === chosen);
  const choose = (index: number) => {
    const item = requirements[Math.min(requirements.length - 1, Math.max(0, index))];
    if (!item) return;
    address.set({ requirement: item.code }, { replace: true });
    rows.scrollToIndex(requirements.indexOf(item), { align: 'auto' });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    choose(at + by);
  };
  return (
    <div className="card min-w-0 self-start overflow-x-auto" role="table" aria-label="Requirements" aria-rowcount={requirements.length}>
      <div className="min-w-[820px]">
        <div role="row" className={`${COLUMNS} border-b border-line px-4 py-2.5 text-[13px] font-semibold text-soft`}>
          {HEADS.map((head) => (
            <span key={head} role="columnheader">
              {head}
            </span>
          ))}
        </div>
        {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- the list is walked by keys */}
        <div
          ref={frame}
          role="rowgroup"
          // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- so that it takes the focus
          tabIndex={0}
          onKeyDown={onKeyDown}
          className="max-h-[max(300px,calc(100vh-262px))] overflow-y-auto outline-offset-[-2px]"
        >
          <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {rows.getVirtualItems().map(({ index, start }) => {
              const item = requirements[index];
              return item ? (
                <Row key={item.id} item={item} top={start} isChosen={item.code === chosen} onChoose={() => choose(index)} />
              ) : null;
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

interface RowProps {
  readonly item: ListedRequirement;
  readonly top: number;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}

function Row({ item, top, isChosen, onChoose }: RowProps) {
  return (
    <div
      role="row"
      className={`${COLUMNS} absolute inset-x-0 border-b border-line-2 px-4 ${isChosen ? 'bg-baton-tint text-baton-ink' : 'hover:bg-band'}`}
      style={{ top, height: ROW_PX }}
    >
      <span role="cell" className="truncate font-mono text-[13px] opacity-80">
        {item.code}
      </span>
      <span role="cell" className="truncate">
        <button type="button" tabIndex={-1} className="max-w-full truncate text-left hover:underline" onClick={onChoose}>
          {item.title}
        </button>
      </span>
      <span role="cell" className="text-[13px]">
        {item.kind}
      </span>
      <span role="cell" className="text-[13px]">
        {item.priority}
      </span>
      <span role="cell" className="truncate font-mono text-[12px]">
        {item.nodes.join(' ') || <span className="font-sans text-[13px] text-soft">none</span>}
      </span>
      <span role="cell" className="truncate font-mono text-[12px]">
        {item.tests.join(' ') || <span className="font-sans text-[13px] font-bold">no test</span>}
      </span>
      <span role="cell" className="flex items-center gap-2 text-[13px]">
        <RequirementMark code={item.code} state={item.state} proof={item.proof}>
          {item.state}
        </RequirementMark>
      </span>
    </div>
  );
}
