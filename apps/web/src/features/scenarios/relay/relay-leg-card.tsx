import { getStatusLabel } from '@kindred-baton/core/outcomes';
import type { RunOverlay } from '@kindred-baton/contracts/scenarios/scenario';
import { LEG } from '@kindred-baton/core/scenarios/relay';
import type { RelayLeg } from '@kindred-baton/core/scenarios/relay';
import StickyNote from 'lucide-react/icons/sticky-note';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { toInitials } from '../../../ui/format.ts';
import type { LegDrag } from './use-relay-drag.ts';
import type { DrawnLeg } from '../use-scenario.ts';

interface RelayLegCardProps {
  readonly leg: RelayLeg;
  readonly drawn: DrawnLeg;
  readonly turn: RunOverlay['turns'][number] | null;
  readonly isChosen: boolean;
  readonly isDim: boolean;
  readonly errors: number;
  readonly onChoose: () => void;
  readonly drag?: LegDrag;
}

export function RelayLegCard({ leg, drawn, turn, isChosen, isDim, errors, onChoose, drag }: RelayLegCardProps) {
  const { test, title, document } = drawn;
  const isFolded = leg.height < LEG.height;
  const look = [
    'absolute flex flex-col justify-between rounded-leg border bg-sheet text-left',
    isFolded ? 'px-1.5' : 'px-2.5 pt-1 pb-1.5',
    document.test === null ? 'border-dashed border-soft' : errors > 0 ? 'border-failed' : 'border-line',
    isChosen ? 'border-ink! shadow-[0_0_0_3px_var(--baton)]' : 'hover:border-soft',
    isDim ? 'bg-paper! text-soft' : '',
  ].join(' ');
  const code = test?.code ?? document.test ?? 'open';
  const foot = turn ? (turn.assignee === null ? '' : toInitials(turn.assignee)) : `${code}${test?.newer ? ` v${test.version}` : ''}`;
  const about = [
    `Leg ${leg.index + 1}: ${title} ${foot}`.trim(),
    turn ? getStatusLabel(turn.status) : '',
    errors > 0 ? `${errors} to fix` : '',
    test?.newer ? `version ${test.newer} is newer` : '',
    document.note === '' ? '' : 'has a note',
  ];
  return (
    <button
      type="button"
      data-leg={leg.id}
      aria-pressed={isChosen}
      aria-label={about.filter((part) => part !== '').join(', ')}
      title={document.note === '' ? title : `${title}: ${document.note}`}
      className={look}
      style={{ left: leg.x, top: leg.y, width: LEG.width, height: leg.height }}
      onClick={onChoose}
      {...drag}
    >
      {isFolded ? (
        <span className="truncate text-[10.5px] leading-[16px] font-semibold">{title}</span>
      ) : (
        <>
          <span className="line-clamp-2 text-[12.5px] leading-[14px] font-semibold">{title}</span>{' '}
          <span className="flex items-center justify-between gap-1">
            {turn ? (
              <BatonMark status={turn.status} isDecoration />
            ) : (
              <span className="truncate font-mono text-[11px] text-soft">{code}</span>
            )}{' '}
            <span className="flex items-center gap-1">
              {document.note !== '' && <StickyNote size={11} aria-hidden className="text-soft" />}
              {test?.newer && !turn && <span className="text-[11px] font-bold text-soft">v{test.version}</span>}
              {errors > 0 && !turn && <b className="text-[12px] text-failed"> {errors}</b>}
              {turn?.assignee && <span className="text-[11px] text-soft">{toInitials(turn.assignee)}</span>}
            </span>
          </span>
        </>
      )}
    </button>
  );
}
