import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import { useState } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const SHOWN = 6;

/** What runners leave to people, apart: a failure wants somebody's eye, a block a mend or somebody who goes on by hand. */
export function ToLookAt({ turns }: { readonly turns: RunnersView['toLookAt'] }) {
  return (
    <section className="card px-4 py-3" aria-label="To be looked at">
      <h2 className="mb-1">To be looked at</h2>
      {turns.length === 0 ? (
        <p className="text-[13px] text-soft">Nothing: no turn of runners has failed or is blocked.</p>
      ) : (
        (['failed', 'blocked'] as const).map((outcome) => (
          <Left key={outcome} outcome={outcome} turns={turns.filter((turn) => turn.outcome === outcome)} />
        ))
      )}
    </section>
  );
}

function Left({ outcome, turns }: { readonly outcome: 'failed' | 'blocked'; readonly turns: RunnersView['toLookAt'] }) {
  const { base } = useProgramme();
  const [isAll, setIsAll] = useState(false);
  if (turns.length === 0) return null;
  return (
    <div className="mt-2">
      <p className="font-bold">
        {turns.length} {outcome === 'failed' ? 'failed: the application answered otherwise' : 'blocked: could not be done'}
      </p>
      <ul>
        {turns.slice(0, isAll ? turns.length : SHOWN).map(({ turn, title, run, words }) => (
          <li key={turn} className="border-b border-line-2 py-1.5 last:border-b-0">
            <a href={`${base}/turns/${turn}`} className="flex items-center gap-2 font-semibold hover:underline">
              <BatonMark status={outcome} /> {title}
            </a>
            <span className="block truncate text-[13px] text-soft">{run}</span>
            <span className="block text-[13px]">{words}</span>
          </li>
        ))}
      </ul>
      {turns.length > SHOWN && !isAll && (
        <button type="button" className="button button-small mt-1" onClick={() => setIsAll(true)}>
          Show all {turns.length}
        </button>
      )}
    </div>
  );
}
