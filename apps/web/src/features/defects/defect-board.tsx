import { useChanges } from '../../client/use-changes.ts';
import type { DefectListItem } from '@kindred-baton/contracts/defects/defect';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { asksWhy, DEFECT_STATUSES, isOver, listDefectMoves } from '@kindred-baton/core/defects/defect';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';

/** Defects by state. One is dragged to where it may go; its page has the same moves as buttons, for the keyboard. */
export function DefectBoard({ defects, isAll }: { readonly defects: readonly DefectListItem[]; readonly isAll: boolean }) {
  const { can } = useProgramme();
  const { act } = useChanges();
  const [dragged, setDragged] = useState<DefectListItem | null>(null);
  const columns = DEFECT_STATUSES.filter((status) => isAll || !isOver(status));
  const move = async (to: DefectStatus) => {
    if (!dragged) return;
    const { code, status } = dragged;
    await act('moveDefect', { params: { code }, input: { from: status, to } }, `${code} is ${to}.`);
  };
  const mayGo = (to: DefectStatus) => dragged !== null && !asksWhy(to) && listDefectMoves(dragged.status).includes(to);
  return (
    <div className="grid gap-3 md:grid-cols-[repeat(auto-fit,minmax(220px,1fr))]">
      {columns.map((status) => {
        const own = defects.filter((defect) => defect.status === status);
        return (
          <section
            key={status}
            aria-label={status}
            className={`card min-h-[160px] p-2 ${mayGo(status) ? 'border-baton-wire! bg-baton-tint!' : ''}`}
            onDragOver={(event) => mayGo(status) && event.preventDefault()}
            onDrop={(event) => {
              event.preventDefault();
              void move(status);
            }}
          >
            <h2 className="px-2 py-1">
              {status} <span className="font-normal text-soft">{own.length}</span>
            </h2>
            <ul className="grid gap-2">
              {own.map((defect) => (
                <Card key={defect.code} defect={defect} onDrag={can('move defects') ? setDragged : null} />
              ))}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

function Card({ defect, onDrag }: { readonly defect: DefectListItem; readonly onDrag: ((defect: DefectListItem | null) => void) | null }) {
  const { base } = useProgramme();
  return (
    <li
      className="rounded-control border border-line px-3 py-2"
      draggable={onDrag !== null}
      onDragStart={() => onDrag?.(defect)}
      onDragEnd={() => onDrag?.(null)}
    >
      <a className="font-semibold hover:underline" href={`${base}/defects/${defect.code}`}>
        <span className="font-mono text-[13px] font-normal text-soft">{defect.code}</span> {defect.title}
      </a>
      <p className="text-[13px] text-soft">
        {defect.severity} · {defect.assignee ?? defect.team ?? 'nobody'}
        {defect.waiting > 0 && <b className="text-ink"> · {countOf(defect.waiting, 'turn')} waiting</b>}
      </p>
    </li>
  );
}
