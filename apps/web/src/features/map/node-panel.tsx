import type { NodeDetail } from '@kindred-baton/contracts/map/node';
import type { RequirementState } from '@kindred-baton/core/map/requirement';
import type { TurnStatus } from '@kindred-baton/core/turns/turn';
import { useQuery } from '@tanstack/react-query';
import Pencil from 'lucide-react/icons/pencil';
import { useState } from 'react';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { getJson } from '../../ui/request.ts';
import { useProgramme } from '../frame/programme-context.tsx';
import { EditNodeDialog } from './edit-node-dialog.tsx';

const STATE_MARKS: Readonly<Record<RequirementState, TurnStatus>> = {
  verified: 'passed',
  refuted: 'failed',
  partly: 'under way',
  'not yet': 'waiting',
};

/** What hangs on the chosen node. */
export function NodePanel({ code }: { readonly code: string | null }) {
  const { api } = useProgramme();
  const { data } = useQuery({ queryKey: ['map', code], queryFn: () => getJson<NodeDetail>(`${api}/map/${code}`), enabled: code !== null });
  if (code === null) {
    return (
      <SidePanel label="Node">
        <p className="px-4 py-5 text-soft">Choose a node to see its tests, scenarios and requirements.</p>
      </SidePanel>
    );
  }
  return (
    <SidePanel label={`Node ${code}`}>
      {data?.code === code ? <Detail node={data} /> : <p className="px-4 py-5 text-soft">Loading {code} …</p>}
    </SidePanel>
  );
}

function Detail({ node }: { readonly node: NodeDetail }) {
  const { base, can } = useProgramme();
  const [isEditing, setIsEditing] = useState(false);
  const about = [node.team?.name, node.owner && `owner ${node.owner.name}`, node.application?.name].filter(Boolean).join(' · ');
  return (
    <>
      <div className="px-4 py-3">
        <div className="flex items-start justify-between gap-2">
          <span className="font-mono text-[13px] text-soft">{node.code}</span>
          {can('edit map') && (
            <button type="button" className="button button-small button-quiet" onClick={() => setIsEditing(true)}>
              <Pencil size={14} aria-hidden /> Edit
            </button>
          )}
        </div>
        <h2 className="text-[17px] leading-6">{node.name}</h2>
        <p className="text-[13px] text-soft">{about}</p>
        {node.description !== '' && <p className="mt-2 whitespace-pre-line">{node.description}</p>}
      </div>
      <PanelPart title="Tests here" count={node.tests.length}>
        <Lines
          items={node.tests.map((test) => ({ ...test, href: `${base}/tests/${test.code}`, mark: test.status }))}
          none="No test covers this yet."
        />
      </PanelPart>
      <PanelPart title="Scenarios through here" count={node.scenarios.length}>
        <Lines
          items={node.scenarios.map((scenario) => ({ ...scenario, href: `${base}/scenarios/${scenario.code}`, mark: null }))}
          none="In no scenario."
        />
      </PanelPart>
      <PanelPart title="Requirements" count={node.requirements.length}>
        <Lines
          items={node.requirements.map((requirement) => ({
            ...requirement,
            href: null,
            mark: STATE_MARKS[requirement.state],
            word: requirement.state,
          }))}
          none="None."
        />
      </PanelPart>
      <EditNodeDialog node={node} isOpen={isEditing} onClose={() => setIsEditing(false)} />
    </>
  );
}

interface Line {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly href: string | null;
  readonly mark: TurnStatus | null;
  readonly word?: string;
}

const SHOWN = 8;

function Lines({ items, none }: { readonly items: readonly Line[]; readonly none: string }) {
  const [isWhole, setIsWhole] = useState(false);
  if (items.length === 0) return <p className="text-[13px] text-soft">{none}</p>;
  return (
    <>
      <ul>
        {items.slice(0, isWhole ? undefined : SHOWN).map((item) => (
          <li key={item.id} className="flex items-baseline gap-2.5 border-b border-line-2 py-1.5 last:border-b-0">
            <span className="flex-none font-mono text-[12px] text-soft">{item.code}</span>
            <span className="min-w-0 flex-1 text-[13px]">
              {item.href === null ? (
                item.name
              ) : (
                <a className="hover:underline" href={item.href}>
                  {item.name}
                </a>
              )}
            </span>
            {item.word !== undefined && <span className="sr-only">{item.word}</span>}
            {item.mark && <BatonMark status={item.mark} isDecoration={item.word !== undefined} />}
          </li>
        ))}
      </ul>
      {items.length > SHOWN && !isWhole && (
        <button type="button" className="button button-quiet button-small mt-1" onClick={() => setIsWhole(true)}>
          Show all {items.length}
        </button>
      )}
    </>
  );
}
