import type { Finding } from '@kindred-baton/core/scenarios/findings/finding';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';
import { SidePanel } from '../../ui/side-panel.tsx';
import type { ScenarioInHand } from './use-scenario.ts';

interface WiringPanelProps {
  readonly hand: ScenarioInHand;
  readonly canEdit: boolean;
  readonly onChoose: (leg: string) => void;
}

const WEIGHT_LOOK: Readonly<Record<Finding['weight'], string>> = {
  error: 'border-l-failed',
  warning: 'border-l-baton',
  note: 'border-l-line',
};

/** Will the baton arrive? Every finding of the chain, errors first. */
export function WiringPanel({ hand, canEdit, onChoose }: WiringPanelProps) {
  const { findings, scenario } = hand;
  const errors = findings.filter((finding) => finding.weight === 'error').length;
  const headline =
    scenario.legs.length === 0 ? 'Nothing to wire yet.' : errors > 0 ? 'The baton does not arrive everywhere.' : 'Every baton arrives.';
  return (
    <SidePanel label="Wiring">
      <div className="px-4 py-3">
        <p className="text-[13px] text-soft">Wiring</p>
        <h2 className="text-[17px] leading-6">{headline}</h2>
      </div>
      {findings.length > 0 && (
        <div className="border-t border-line-2 px-4 py-3">
          <FindingLines findings={findings} hand={hand} canEdit={canEdit} onChoose={onChoose} />
        </div>
      )}
    </SidePanel>
  );
}

interface FindingLinesProps {
  readonly findings: readonly Finding[];
  readonly hand: ScenarioInHand;
  readonly canEdit: boolean;
  readonly onChoose?: (leg: string) => void;
}

export function FindingLines({ findings, hand, canEdit, onChoose }: FindingLinesProps) {
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
          {canEdit && finding.rule === 'never-given' && finding.value !== undefined && (
            <AddColumn hand={hand} finding={finding} value={finding.value} />
          )}
        </li>
      ))}
    </ul>
  );
}

/** The quick way out of a need that nothing gives: a column for it in the data rows. */
function AddColumn({ hand, finding, value }: { readonly hand: ScenarioInHand; readonly finding: Finding; readonly value: string }) {
  const need: Field | undefined = hand.scenario.legs
    .find(({ id }) => id === finding.leg)
    ?.needs.find(({ name }) => toNameKey(name) === toNameKey(value));
  if (!need) return null;
  const column = { ...need, choices: need.choices ? [...need.choices] : undefined };
  return (
    <button
      type="button"
      className="button button-small mt-1 block"
      onClick={() => void hand.changeScenario({ columns: [...hand.scenario.columns, column] })}
    >
      Add a column for it
    </button>
  );
}
