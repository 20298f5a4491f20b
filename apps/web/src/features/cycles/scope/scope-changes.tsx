import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { Moment } from '../../../ui/moment.tsx';

interface ScopeChangesProps {
  readonly changes: CycleDetail['scopeChanges'];
  /** What is said when there are none. */
  readonly empty: string;
}

/** What was changed of scope and rules since the cycle opened: who, why, before and after. */
export function ScopeChanges({ changes, empty }: ScopeChangesProps) {
  return (
    <section className="card" aria-labelledby="scope-changes">
      <h2 id="scope-changes" className="border-b border-line-2 px-4 py-2.5">
        Scope and rules changed <span className="ml-1 font-normal text-soft">{changes.length}</span>
      </h2>
      {changes.length === 0 && <EmptyView title={empty} />}
      <ol className="px-4">
        {changes.map((change) => (
          <li key={change.at + change.action} className="border-b border-line-2 py-2.5 last:border-b-0">
            <p>
              <b>{change.action}</b>
              {change.why !== '' && `: ${change.why}`}{' '}
              <span className="text-[13px] text-soft">
                {change.by ?? 'the program'}, <Moment at={change.at} />
              </span>
            </p>
            {change.added.length > 0 && <p className="text-[13px]">In: {change.added.join('; ')}</p>}
            {change.dropped.length > 0 && <p className="text-[13px]">Out: {change.dropped.join('; ')}</p>}
            <p className="text-[13px] break-words text-soft">{change.details}</p>
          </li>
        ))}
      </ol>
    </section>
  );
}
