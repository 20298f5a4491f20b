import type { RequirementItem } from '@kindred-baton/contracts/requirements/requirement';
import Pencil from 'lucide-react/icons/pencil';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { ProofLine, RequirementMark, StandingMark } from '../progress/standing-mark.tsx';
import { gatherProof } from '@kindred-baton/core/requirements/requirement';

/** The chosen requirement: what it says, which tests show it, and how they last went. */
export function RequirementPanel({ requirement, onEdit }: { readonly requirement: RequirementItem; readonly onEdit: () => void }) {
  const { base, can } = useProgramme();
  const proof = gatherProof(requirement.tests.map(({ standing }) => standing));
  const { code, title, description, kind, priority, state, nodes, tests } = requirement;
  return (
    <SidePanel label={`Requirement ${code}`}>
      <div className="px-4 py-3">
        <div className="flex items-start justify-between gap-2">
          <span className="font-mono text-[13px] text-soft">{code}</span>
          {can('edit map') && (
            <button type="button" className="button button-small button-quiet" onClick={onEdit}>
              <Pencil size={14} aria-hidden /> Edit
            </button>
          )}
        </div>
        <h2 className="text-[17px] leading-6">{title}</h2>
        <p className="flex items-center gap-2 text-[13px] text-soft">
          <RequirementMark code={code} state={state} proof={proof} /> {`${state} · ${kind} · ${priority} priority`}
        </p>
        {tests.length > 0 && (
          <p className="text-[13px] text-soft">
            <ProofLine code={code} proof={proof} />
          </p>
        )}
        {description !== '' && <p className="mt-2 whitespace-pre-line">{description}</p>}
      </div>
      <PanelPart title="Tests that show it" count={tests.length}>
        {tests.length === 0 && <p className="text-[13px] font-bold">No test shows it yet.</p>}
        <ul>
          {tests.map((test) => (
            <li key={test.code} className="flex items-baseline gap-2.5 py-1 text-[13px]">
              <span className="flex-none font-mono text-[12px] text-soft">{test.code}</span>
              <a className="min-w-0 flex-1 hover:underline" href={`${base}/tests/${test.code}`}>
                {test.name}
              </a>
              <StandingMark test={test.code} standing={test.standing} />
            </li>
          ))}
        </ul>
      </PanelPart>
      <PanelPart title="Processes" count={nodes.length}>
        <ul>
          {nodes.map((node) => (
            <li key={node.code} className="py-1 text-[13px]">
              <span className="mr-2 font-mono text-[12px] text-soft">{node.code}</span>
              <a className="hover:underline" href={`${base}/map?node=${encodeURIComponent(node.code)}`}>
                {node.name}
              </a>
            </li>
          ))}
        </ul>
      </PanelPart>
    </SidePanel>
  );
}
