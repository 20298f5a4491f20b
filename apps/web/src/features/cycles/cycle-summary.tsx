import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { getPassShare, getRunShare, sumCounts } from '@kindred-baton/core/progress/tally';
import { BatonBar, Legend } from '../../ui/baton-mark.tsx';
import { countOf, formatMinutes, formatShare } from '../../ui/format.ts';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const OBSTACLES_SHOWN = 12;

/** Where the cycle stands, or what keeps it from being opened. */
export function CycleSummary({ cycle }: { readonly cycle: CycleDetail }) {
  return (
    <SidePanel label="Where the cycle stands">
      {cycle.state === 'planning' ? <Obstacles cycle={cycle} /> : <Standing cycle={cycle} />}
    </SidePanel>
  );
}

function Standing({ cycle }: { readonly cycle: CycleDetail }) {
  const { base } = useProgramme();
  const left = cycle.lanes.reduce((sum, lane) => sum + lane.minutesLeft, 0);
  return (
    <>
      <div className="px-4 py-3">
        <p className="text-[20px] font-bold">{formatShare(getRunShare(cycle.counts))} run</p>
        <p className="mb-2 text-[13px] text-soft">{formatShare(getPassShare(cycle.counts), 1)} of those passed</p>
        <BatonBar counts={cycle.counts} className="h-[13px]!" />
        <p className="mt-3 text-[13px]">
          {formatMinutes(left)} of work left in {countOf(sumCounts(cycle.counts), 'turn')}
        </p>
        <p className="mt-1 text-[13px]">
          <a className="underline" href={`${base}/progress?cycle=${cycle.code}`}>
            Progress and holds of this cycle
          </a>
        </p>
      </div>
      <PanelPart title="What the marks mean">
        <Legend />
      </PanelPart>
    </>
  );
}

function Obstacles({ cycle }: { readonly cycle: CycleDetail }) {
  const { base } = useProgramme();
  const { obstacles } = cycle;
  return (
    <div className="px-4 py-3">
      <h2 className="text-[17px]">
        {obstacles.length === 0 ? 'It can be opened' : `${countOf(obstacles.length, 'thing')} to settle before it opens`}
      </h2>
      <p className="mt-1 text-[13px] text-soft">Opening pins the version of every test: later changes are taken over only by a decision.</p>
      <ul className="mt-3 grid gap-2.5">
        {obstacles.slice(0, OBSTACLES_SHOWN).map(({ scenario, message }) => (
          <li key={scenario + message} className="border-l-[3px] border-l-failed pl-2.5 text-[13px]">
            <a className="font-mono underline" href={`${base}/scenarios/${scenario}`}>
              {scenario}
            </a>{' '}
            {message}
          </li>
        ))}
        {obstacles.length > OBSTACLES_SHOWN && <li className="text-[13px] text-soft">and {obstacles.length - OBSTACLES_SHOWN} more</li>}
      </ul>
    </div>
  );
}
