import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { useProgramme } from '../frame/programme-context.tsx';

const SHOWN = 4;

/** The versions that opening would pin although newer ones are agreed, each leading to what the newer one would change. */
export function OlderVersions({ cycle }: { readonly cycle: CycleDetail }) {
  const { base } = useProgramme();
  if (cycle.older.length === 0) return null;
  return (
    <p className="mt-1.5 text-[13px]">
      <b className="font-semibold">{`${countOf(cycle.older.length, 'older version')} will be pinned: `}</b>
      {cycle.older.map(({ test, version, newest, scenarios }, index) => (
        <span key={`${test} ${version}`}>
          {index > 0 && ', '}
          <a className="underline" href={`${base}/scenarios?view=review&test=${encodeURIComponent(test)}`}>
            {test}
          </a>
          {` version ${version} though ${newest} is agreed, in ${scenarios.join(', ')}`}
        </span>
      ))}
    </p>
  );
}

/** What keeps a planned cycle from being opened. */
export function Obstacles({ cycle }: { readonly cycle: CycleDetail }) {
  const { base } = useProgramme();
  const [isWhole, setIsWhole] = useState(false);
  const { obstacles } = cycle;
  return (
    <section
      className={`card mb-4 border-l-[4px]! px-4 py-3 ${obstacles.length === 0 ? 'border-l-passed!' : 'border-l-failed!'}`}
      aria-labelledby="obstacles"
    >
      <h2 id="obstacles">
        {obstacles.length === 0 ? 'It can be opened' : `${countOf(obstacles.length, 'thing')} to settle before it opens`}
        <span className="ml-2 text-[13px] font-normal text-soft">
          Opening pins the version of every test; later changes are taken over only by a decision.
        </span>
      </h2>
      {obstacles.length > 0 && (
        <ul className="mt-1.5 grid gap-1 text-[13px]">
          {(isWhole ? obstacles : obstacles.slice(0, SHOWN)).map(({ scenario, message }) => (
            <li key={scenario + message}>
              <a className="font-mono underline" href={`${base}/scenarios/${scenario}`}>
                {scenario}
              </a>{' '}
              {message}
            </li>
          ))}
        </ul>
      )}
      <OlderVersions cycle={cycle} />
      {obstacles.length > SHOWN && (
        <button type="button" className="mt-1 text-[13px] underline" onClick={() => setIsWhole(!isWhole)}>
          {isWhole ? 'Fewer' : `and ${obstacles.length - SHOWN} more`}
        </button>
      )}
    </section>
  );
}
