import { useChanges } from '../../client/use-changes.ts';
import type { DefectListItem, DefectPage } from '@kindred-baton/contracts/defects/defect';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { asksWhy, listDefectMoves } from '@kindred-baton/core/defects/defect';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** Defects by who must act, each as tall as the turns that wait for it. Its page has what dragging does as buttons, for the keyboard. */
export function DefectBoard({ columns, more }: Pick<DefectPage, 'columns' | 'more'>) {
  const { can } = useProgramme();
  const address = useAddress();
  const { act } = useChanges();
  const [dragged, setDragged] = useState<DefectListItem | null>(null);
  const move = async (to: DefectStatus) => {
    if (!dragged) return;
    const { code, status } = dragged;
    await act('moveDefect', { params: { code }, input: { from: status, to } }, `${code} is ${to}.`);
  };
  const mayGo = (to: DefectStatus | null) =>
    dragged !== null && to !== null && !asksWhy(to) && listDefectMoves(dragged.status).includes(to);
  return (
    <>
      <div className="grid gap-3 md:grid-cols-[repeat(auto-fit,minmax(220px,1fr))]">
        {columns.map(({ key, who, does, to, total, defects: own }) => (
          <section
            key={key}
            aria-label={`${who}: ${does}`}
            className={`card min-h-[160px] p-2 ${mayGo(to) ? 'border-baton-wire! bg-baton-tint!' : ''}`}
            onDragOver={(event) => mayGo(to) && event.preventDefault()}
            onDrop={(event) => {
              event.preventDefault();
              if (to !== null) void move(to);
            }}
          >
            <h2 className="px-2 pt-1">
              {who} <span className="font-normal text-soft">{total}</span>
            </h2>
            <p className="px-2 pb-2 text-[13px] text-soft">{does}</p>
            <ul className="grid gap-2">
              {own.map((defect) => (
                <Card key={defect.code} defect={defect} onDrag={can('move defects') ? setDragged : null} />
              ))}
            </ul>
            {total > own.length && (
              <button
                type="button"
                className="button button-small button-quiet mt-2"
                onClick={() => address.set({ view: null, column: key, page: null, show: key === 'over' ? 'all' : address.get('show') })}
              >
                {`${total - own.length} more: all ${total} as a list`}
              </button>
            )}
          </section>
        ))}
      </div>
      {more.people > 0 && (
        <p className="mt-2 text-[13px] text-soft">
          {`${countOf(more.people, 'more person', 'more people')} ${more.people === 1 ? 'fixes' : 'fix'} ${countOf(more.defects, 'defect')}, with fewer turns waiting. Choose one of them above to see what is with her.`}
        </p>
      )}
    </>
  );
}

/** So many pixels for each turn that waits, up to TALLEST. */
const TURN_PX = 5;
const TALLEST = 260;

function Card({ defect, onDrag }: { readonly defect: DefectListItem; readonly onDrag: ((defect: DefectListItem | null) => void) | null }) {
  const { base, nameOf } = useProgramme();
  return (
    <li
      className="rounded-control border border-line px-3 py-2"
      style={{ minHeight: Math.min(TALLEST, defect.waiting * TURN_PX) }}
      draggable={onDrag !== null}
      onDragStart={() => onDrag?.(defect)}
      onDragEnd={() => onDrag?.(null)}
    >
      <a className="font-semibold hover:underline" href={`${base}/defects/${defect.code}`}>
        <span className="font-mono text-[13px] font-normal text-soft">{defect.code}</span> {defect.title}
      </a>
      <p className="text-[13px] text-soft">
        {nameOf(defect.severity)} · {defect.status}
        {defect.team !== null && ` · ${defect.team}`}
        {defect.waiting > 0 && <b className="block text-ink">{countOf(defect.waiting, 'turn')} waiting</b>}
      </p>
    </li>
  );
}
