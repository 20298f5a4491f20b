import type { Output } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import type { TestDetail, TestSurroundings } from '@kindred-baton/contracts/tests/test';
import { useState } from 'react';
import { countOf } from '../../ui/format.ts';
import { PanelPart } from '../../ui/side-panel.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** Which cycle has which version; where it is an older one, the turns that nobody has begun can take the newest agreed one over. */
export default function PinnedPart({ test, around }: { readonly test: TestDetail; readonly around: TestSurroundings }) {
  const { base, can } = useProgramme();
  const { act } = useChanges();
  const [isBusy, setIsBusy] = useState(false);
  const newest = test.versions.find(({ state }) => state === 'agreed')?.number;
  if (around.pinned.length === 0) return null;
  const take = async (cycle: string) => {
    setIsBusy(true);
    const say = ({ changed, version }: Output<'takeNewerVersion'>) =>
      `${countOf(changed, 'turn')} of ${cycle} will be done with version ${version}.`;
    await act('takeNewerVersion', { params: { code: test.code }, input: { cycle } }, say);
    setIsBusy(false);
  };
  return (
    <PanelPart title="Pinned in cycles">
      <ul className="grid gap-1.5 text-[13px]">
        {around.pinned.map(({ cycle, version, turns, notBegun }) => (
          <li key={`${cycle.id} ${version}`}>
            <a className="hover:underline" href={`${base}/cycles/${cycle.code}`}>
              {cycle.code}
            </a>
            : version {version}, {countOf(turns, 'turn')}
            {newest !== undefined && version < newest && (
              <span className="block">
                <b>Version {newest} is newer.</b>{' '}
                {notBegun === 0 ? (
                  <span className="text-soft">All of them are begun or done.</span>
                ) : (
                  can('run cycles') && (
                    <button type="button" className="button button-small mt-1" disabled={isBusy} onClick={() => void take(cycle.code)}>
                      Take it over for {countOf(notBegun, 'turn')}
                    </button>
                  )
                )}
              </span>
            )}
          </li>
        ))}
      </ul>
    </PanelPart>
  );
}
