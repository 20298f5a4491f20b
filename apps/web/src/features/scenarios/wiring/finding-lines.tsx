import { leaveTo } from '../../../client/leave-to.ts';
import type { Finding, WayOut } from '@kindred-baton/core/scenarios/findings/finding';
import { findWaysOut } from '@kindred-baton/core/scenarios/findings/rules';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import type { ScenarioEditor } from '../use-scenario.ts';

const WEIGHT_LOOK: Readonly<Record<Finding['weight'], string>> = {
  error: 'border-l-failed',
  warning: 'border-l-baton',
  note: 'border-l-line',
};

interface FindingLinesProps {
  readonly findings: readonly Finding[];
  readonly editor: ScenarioEditor;
  readonly onChoose?: (leg: string) => void;
}

/** Findings with their ways out: a click makes the edit, or goes where one can choose. */
export function FindingLines({ findings, editor, onChoose }: FindingLinesProps) {
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
          {editor.canEdit && <WaysOut editor={editor} finding={finding} />}
        </li>
      ))}
    </ul>
  );
}

function WaysOut({ editor, finding }: { readonly editor: ScenarioEditor; readonly finding: Finding }) {
  const { base } = useProgramme();
  const address = useAddress();
  const ways = findWaysOut(finding, editor.chain);
  if (ways.length === 0) return null;
  const take = (way: WayOut) => {
    if (way.kind === 'edit') return void editor.run(way.edits);
    if (way.look === 'tests that give it')
      address.set({ view: null, add: 'tests', leg: editor.legs[findIndex(editor, finding) - 1]?.id ?? null, find: finding.value ?? null });
    else if (way.look === 'tests that fit') address.set({ view: null, add: null, leg: finding.leg });
    else if (way.look === 'data rows') address.set({ view: 'rows' });
    else leaveTo(`${base}/scenarios?view=review&test=${editor.legs[findIndex(editor, finding)]?.document.test ?? ''}`);
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

const findIndex = (editor: ScenarioEditor, { leg }: Finding) => editor.legs.findIndex(({ id }) => id === leg);
