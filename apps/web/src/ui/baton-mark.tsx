import { TURN_STATUSES } from '@kindred-baton/core/outcomes';
import type { TurnStatus } from '@kindred-baton/core/outcomes';
import type { Counts } from '@kindred-baton/core/progress/tally';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import { getStatusLabel } from '@kindred-baton/core/outcomes';

const toFill = (status: TurnStatus) => `fill-${status.replace(' ', '-')}`;

interface BatonMarkProps {
  readonly status: TurnStatus;
  /** Where the word stands beside it already. */
  readonly isDecoration?: boolean;
}

export function BatonMark({ status, isDecoration = false }: BatonMarkProps) {
  const className = `baton-mark ${toFill(status)}`;
  return isDecoration ? (
    <span className={className} aria-hidden />
  ) : (
    <span className={className} role="img" aria-label={getStatusLabel(status)} title={getStatusLabel(status)} />
  );
}

export function StatusLabel({ status, word }: { readonly status: TurnStatus; readonly word?: string }) {
  return (
    <span className="inline-flex items-center gap-2 text-[13px] whitespace-nowrap">
      <BatonMark status={status} isDecoration />
      {word ?? getStatusLabel(status)}
    </span>
  );
}

/** “9 passed, 2 failed”: what a bar says in words. */
export function describeCounts(counts: Counts): string {
  const parts = TURN_STATUSES.filter((status) => counts[status] > 0).map(
    (status) => `${counts[status]} ${getStatusLabel(status).toLowerCase()}`,
  );
  return parts.length > 0 ? parts.join(', ') : 'nothing to run';
}

interface BatonBarProps {
  readonly counts: Counts;
  readonly className?: string;
  readonly isDecoration?: boolean;
}

/** Many turns as one bar: a stretch for each status, in the fills of the mark. */
export function BatonBar({ counts, className = '', isDecoration = false }: BatonBarProps) {
  const total = sumCounts(counts);
  const stretches = TURN_STATUSES.filter((status) => counts[status] > 0 && status !== 'waiting').map((status) => (
    <span key={status} className={toFill(status)} style={{ width: `${((100 * counts[status]) / total).toFixed(2)}%` }} />
  ));
  const label = isDecoration
    ? { 'aria-hidden': true }
    : { role: 'img', 'aria-label': describeCounts(counts), title: describeCounts(counts) };
  return (
    <span className={`baton-bar ${className}`.trimEnd()} {...label}>
      {stretches}
    </span>
  );
}

export function Legend({ statuses = TURN_STATUSES }: { readonly statuses?: readonly TurnStatus[] }) {
  return (
    <ul className="flex flex-wrap gap-x-6 gap-y-1 text-[13px]" aria-label="What the marks mean">
      {statuses.map((status) => (
        <li key={status}>
          <StatusLabel status={status} />
        </li>
      ))}
    </ul>
  );
}
