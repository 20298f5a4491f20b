import type { LegDetail, RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { STATUS_WORDS, toInitials } from '../../ui/format.ts';
import type { RelayLeg } from './lay-out-relay.ts';
import { LEG } from './lay-out-relay.ts';

interface RelayLegCardProps {
  readonly leg: RelayLeg;
  readonly detail: LegDetail;
  readonly turn: RunOverlay['turns'][number] | null;
  readonly isChosen: boolean;
  readonly isDragged: boolean;
  readonly errors: number;
  readonly onChoose: () => void;
  readonly onDrag?: (id: string | null) => void;
  readonly onDropBefore?: (id: string) => void;
}

export function RelayLegCard({ leg, detail, turn, isChosen, isDragged, errors, onChoose, onDrag, onDropBefore }: RelayLegCardProps) {
  const look = [
    'absolute flex flex-col justify-between rounded-leg border bg-sheet px-2.5 pt-1 pb-1.5 text-left',
    detail.test === null ? 'border-dashed border-soft' : errors > 0 ? 'border-failed' : 'border-line',
    isChosen ? 'border-ink! shadow-[0_0_0_3px_var(--baton)]' : 'hover:border-soft',
    isDragged ? 'opacity-50' : '',
  ].join(' ');
  const foot = turn ? (turn.assignee === null ? '' : toInitials(turn.assignee)) : (detail.test?.code ?? 'open');
  const about = [
    `Leg ${leg.index + 1}: ${detail.title} ${foot}`.trim(),
    turn ? STATUS_WORDS[turn.status] : '',
    errors > 0 ? `${errors} to fix` : '',
  ];
  return (
    <button
      type="button"
      data-leg={leg.id}
      aria-pressed={isChosen}
      aria-label={about.filter((part) => part !== '').join(', ')}
      title={detail.title}
      className={look}
      style={{ left: leg.x, top: leg.y, width: LEG.width, height: LEG.height }}
      onClick={onChoose}
      draggable={onDrag !== undefined}
      onDragStart={(event) => {
        event.dataTransfer.setData('text/plain', leg.id);
        event.dataTransfer.effectAllowed = 'move';
        onDrag?.(leg.id);
      }}
      onDragEnd={() => onDrag?.(null)}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.stopPropagation();
        onDropBefore?.(leg.id);
      }}
    >
      <span className="line-clamp-2 text-[12.5px] leading-[14px] font-semibold">{detail.title}</span>{' '}
      <span className="flex items-center justify-between">
        {turn ? (
          <BatonMark status={turn.status} isDecoration />
        ) : (
          <span className="font-mono text-[11px] text-soft">{detail.test?.code ?? 'open'}</span>
        )}
        {errors > 0 && !turn && <b className="text-[12px] text-failed"> {errors}</b>}
        {turn?.assignee && <span className="text-[11px] text-soft">{toInitials(turn.assignee)}</span>}
      </span>
    </button>
  );
}
