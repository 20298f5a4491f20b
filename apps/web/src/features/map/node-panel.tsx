import { useRead } from '../../client/use-read.ts';
import type { NodeChange, NodeDetail } from '@kindred-baton/contracts/map/node';
import { sumCounts } from '@kindred-baton/core/progress/tally';
import Pencil from 'lucide-react/icons/pencil';
import Trash2 from 'lucide-react/icons/trash-2';
import type { ReactNode } from 'react';
import { useEffect, useState } from 'react';
import { BatonBar, describeCounts } from '../../ui/baton-mark.tsx';
import { Moment } from '../../ui/moment.tsx';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { useLit } from '../frame/lit-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { RequirementMark, StandingMark } from '../progress/standing-mark.tsx';
import { EditNodeDialog } from './edit-node-dialog.tsx';
import type { MapEditing } from './use-map-editing.ts';

interface NodePanelProps {
  readonly code: string | null;
  readonly editing: MapEditing;
  readonly onRemove: (code: string) => void;
}

/** What hangs on the chosen node. */
export function NodePanel({ code, editing, onRemove }: NodePanelProps) {
  const { data } = useRead('getNode', { params: { code: code ?? '' } }, { enabled: code !== null });
  if (code === null) {
    return (
      <SidePanel label="Node">
        <p className="px-4 py-5 text-soft">Choose a node to see its tests, scenarios and requirements.</p>
      </SidePanel>
    );
  }
  return (
    <SidePanel label={`Node ${code}`}>
      {data?.code === code ? (
        <Detail node={data} editing={editing} onRemove={onRemove} />
      ) : (
        <p className="px-4 py-5 text-soft">Loading {code} …</p>
      )}
    </SidePanel>
  );
}

function Detail({ node, editing, onRemove }: Omit<NodePanelProps, 'code'> & { readonly node: NodeDetail }) {
  const { base, can } = useProgramme();
  const [isEditing, setIsEditing] = useState(false);
  const { light } = useLit();
  useEffect(() => () => light([]), [light, node.code]);
  const about = [node.level, node.team?.name, node.owner && `owner ${node.owner.name}`, node.application?.name].filter(Boolean).join(' · ');
  const turns = sumCounts(node.outcomes);
  return (
    <>
      <div className="px-4 py-3">
        <div className="flex items-start justify-between gap-2">
          <span className="font-mono text-[13px] text-soft">
            {node.code} {node.isRetired && <span className="tag">retired</span>}
          </span>
          {can('edit map') && (
            <span className="flex gap-1">
              <button type="button" className="button button-small button-quiet" onClick={() => setIsEditing(true)}>
                <Pencil size={14} aria-hidden /> Edit
              </button>
              <button
                type="button"
                className="button button-small button-quiet"
                aria-label={`Remove ${node.code}`}
                onClick={() => onRemove(node.code)}
              >
                <Trash2 size={14} aria-hidden />
              </button>
            </span>
          )}
        </div>
        <h2 className="text-[17px] leading-6">{node.name}</h2>
        <p className="text-[13px] text-soft">{about}</p>
        {turns > 0 && (
          <a className="mt-2 block hover:underline" href={`${base}/progress?scope=${encodeURIComponent(node.code)}`}>
            <BatonBar counts={node.outcomes} isDecoration />
            <span className="mt-1 block text-[13px]">{describeCounts(node.outcomes)}</span>
          </a>
        )}
        {node.descriptionHtml !== '' && <Prose html={node.descriptionHtml} />}
      </div>
      {node.documents.length > 0 && <Documents documents={node.documents} />}
      <PanelPart title="Tests here" count={node.tests.length}>
        <Lines
          items={node.tests.map((test) => ({
            ...test,
            href: `${base}/tests/${test.code}`,
            mark: <StandingMark test={test.code} standing={test.standing} />,
          }))}
          none="No test covers this yet."
        />
        {can('edit tests') && (
          <a className="button button-small mt-1.5" href={`${base}/tests?new=test&scope=${encodeURIComponent(node.code)}`}>
            Write one
          </a>
        )}
      </PanelPart>
      <PanelPart title="Scenarios through here" count={node.scenarios.length}>
        <Lines
          items={node.scenarios.map((scenario) => ({
            ...scenario,
            href: `${base}/scenarios/${scenario.code}`,
            mark: null,
            lights: scenario.nodes,
          }))}
          none="In no scenario."
        />
      </PanelPart>
      <PanelPart title="Requirements" count={node.requirements.length}>
        <Lines
          items={node.requirements.map((requirement) => ({
            ...requirement,
            href: `${base}/requirements?requirement=${encodeURIComponent(requirement.code)}`,
            mark: <RequirementMark code={requirement.code} state={requirement.state} proof={requirement.proof} />,
          }))}
          none="None."
        />
      </PanelPart>
      {node.history.length > 0 && (
        <PanelPart title="History" count={node.history.length}>
          <ChangeList changes={node.history} />
        </PanelPart>
      )}
      {isEditing && <EditNodeDialog node={node} editing={editing} onClose={() => setIsEditing(false)} />}
    </>
  );
}

/** Markdown that the server has made safe. */
function Prose({ html }: { readonly html: string }) {
  return <div className="prose mt-2" dangerouslySetInnerHTML={{ __html: html }} />;
}

const CHANGES_SHOWN = 6;

function ChangeList({ changes }: { readonly changes: readonly NodeChange[] }) {
  const [isWhole, setIsWhole] = useState(false);
  return (
    <>
      <ul>
        {changes.slice(0, isWhole ? undefined : CHANGES_SHOWN).map((change, index) => (
          <li key={index} className="border-b border-line-2 py-1.5 text-[13px] last:border-b-0">
            <b className="font-semibold">{change.action}</b> <span className="text-soft">by {change.by ?? 'the program'},</span>{' '}
            <Moment at={change.at} />
            {change.details.map(({ field, before, after }) => (
              <span key={field} className="block break-words text-soft">
                {field}: {shorten(before)} → {shorten(after)}
              </span>
            ))}
          </li>
        ))}
      </ul>
      {changes.length > CHANGES_SHOWN && !isWhole && (
        <button type="button" className="button button-quiet button-small mt-1" onClick={() => setIsWhole(true)}>
          Show all {changes.length}
        </button>
      )}
    </>
  );
}

const shorten = (text: string) => (text === '' ? 'nothing' : text.length > 60 ? `${text.slice(0, 57)} …` : text);

interface Line {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly href: string;
  readonly mark: ReactNode;
  /** Places that the strip lights while the line has the mouse or the focus. */
  readonly lights?: readonly string[];
}

const SHOWN = 8;

function Lines({ items, none }: { readonly items: readonly Line[]; readonly none: string }) {
  const [isWhole, setIsWhole] = useState(false);
  const { light } = useLit();
  if (items.length === 0) return <p className="text-[13px] text-soft">{none}</p>;
  return (
    <>
      <ul>
        {items.slice(0, isWhole ? undefined : SHOWN).map(({ lights = [], ...item }) => (
          <li key={item.id} className="flex items-baseline gap-2.5 border-b border-line-2 py-1.5 last:border-b-0">
            <span className="flex-none font-mono text-[12px] text-soft">{item.code}</span>
            <a
              className="min-w-0 flex-1 text-[13px] hover:underline"
              href={item.href}
              onMouseEnter={() => light(lights)}
              onMouseLeave={() => light([])}
              onFocus={() => light(lights)}
              onBlur={() => light([])}
            >
              {item.name}
            </a>
            {item.mark}
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

function Documents({ documents }: Pick<NodeDetail, 'documents'>) {
  return (
    <PanelPart title="Documents" count={documents.length}>
      <ul>
        {documents.map(({ title, address }) => (
          <li key={title + address} className="py-1 text-[13px]">
            {/^https?:/.test(address) ? (
              <a className="underline" href={address} rel="noreferrer" target="_blank">
                {title}
              </a>
            ) : (
              `${title}: ${address}`
            )}
          </li>
        ))}
      </ul>
    </PanelPart>
  );
}
