import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { Moment } from '../../../ui/moment.tsx';

/** What was changed of scope and rules since the cycle opened: who, why, before and after. */
export function ScopeChanges({ changes }: { readonly changes: CycleDetail['scopeChanges'] }) {
  if (changes.length === 0) return null;
  return (
    <section className="card mt-4" aria-labelledby="scope-changes">
      <h2 id="scope-changes" className="border-b border-line-2 px-4 py-2.5">
        Changed since it opened <span className="ml-1 font-normal text-soft">{changes.length}</span>
      </h2>
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
