import { useState } from 'react';
import { useProgramme } from '../frame/programme-context.tsx';
import { countOf } from '../../ui/format.ts';
import type { PoolView } from './describe-queue.ts';
import { describeHours } from './describe-hours.ts';
import { PoolDialog } from './pool-dialog.tsx';

/** A pool: when its runners take turns. */
export function PoolCard({ pool, runners }: { readonly pool: PoolView; readonly runners: number }) {
  const { can } = useProgramme();
  const [isEditing, setIsEditing] = useState(false);
  return (
    <section className="card flex items-start justify-between gap-2 px-4 py-3" aria-label={`Pool ${pool.name}`}>
      <div>
        <b>{pool.name}</b>
        <p className="text-[13px] text-soft">
          {countOf(runners, 'runner')}; {describeHours(pool)}
          {!pool.isOpen && ' (closed now)'}
        </p>
      </div>
      {can('run cycles') && (
        <button
          type="button"
          className="button button-quiet button-small"
          onClick={() => setIsEditing(true)}
          aria-label={`Change ${pool.name}`}
        >
          Change
        </button>
      )}
      {isEditing && <PoolDialog pool={pool} onClose={() => setIsEditing(false)} />}
    </section>
  );
}
