import { leaveTo } from '../../../client/leave-to.ts';
import type { Finding, WayOut } from '@kindred-baton/core/scenarios/findings/finding';
import { findWaysOut } from '@kindred-baton/core/scenarios/findings/rules';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { ScenarioInHand } from '../use-scenario.ts';

const WEIGHT_LOOK: Readonly<Record<Finding['weight'], string>> = {
  error: 'border-l-failed',
  warning: 'border-l-baton',
  note: 'border-l-line',
};

interface FindingLinesProps {
  readonly findings: readonly Finding[];
  readonly hand: ScenarioInHand;
  readonly onChoose?: (leg: string) => void;
}

/** Findings with their ways out: a click makes the edit, or goes where one can choose. */
export function FindingLines({ findings, hand, onChoose }: FindingLinesProps) {
  return (
    <ul className="grid gap-2.5">
      {findings.map((finding) => (
        <li
          key={`${finding.rule} ${finding.leg} ${finding.value}`}
          className={`border-l-[3px] pl-2.5 text-[13px] ${WEIGHT_LOOK[finding.weight]}`}
        >
          <span className="sr-only">{finding.weight}: </span>
          {onChoose ? (
            <button type="button" className="text-left hover:underline" onClick={() => onChoose(finding.leg)}>
              {finding.message}
            </button>
          ) : (
            finding.message
          )}
          {hand.canEdit && <WaysOut hand={hand} finding={finding} />}
        </li>
      ))}
    </ul>
  );
}

function WaysOut({ hand, finding }: { readonly hand: ScenarioInHand; readonly finding: Finding }) {
  const { base } = useProgramme();
  const address = useAddress();
  const ways = findWaysOut(finding, hand.chain);
  if (ways.length === 0) return null;
  const take = (way: WayOut) => {
    if (way.kind === 'edit') return void hand.run(way.edits);
    if (way.look === 'tests that give it')
      address.set({ view: null, add: 'tests', leg: hand.legs[findIndex(hand, finding) - 1]?.id ?? null, find: finding.value ?? null });
    else if (way.look === 'tests that fit') address.set({ view: null, add: null, leg: finding.leg });
    else leaveTo(`${base}/scenarios?view=review&test=${hand.legs[findIndex(hand, finding)]?.document.test ?? ''}`);
  };
  return (
    <div className="mt-1 flex flex-wrap gap-1">
      {ways.map((way) => (
        <button key={way.label} type="button" className="button button-small" onClick={() => take(way)}>
          {way.label}
        </button>
      ))}
    </div>
  );
}

const findIndex = (hand: ScenarioInHand, { leg }: Finding) => hand.legs.findIndex(({ id }) => id === leg);
