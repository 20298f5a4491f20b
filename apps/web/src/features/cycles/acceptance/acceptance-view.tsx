import { useRead } from '../../../client/use-read.ts';
import type { AcceptedNode } from '@kindred-baton/contracts/cycles/acceptance';
import type { CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import { getPassShare, getRunShare } from '@kindred-baton/core/progress/tally';
import { BatonBar } from '../../../ui/baton-mark.tsx';
import { EmptyView } from '../../../ui/empty-view.tsx';
import { countOf, formatDay, formatShare } from '../../../ui/format.ts';
import { Moment } from '../../../ui/moment.tsx';
import { PanelPart, SidePanel } from '../../../ui/side-panel.tsx';
import { FramedTable } from '../../../ui/framed-table.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { ProofLine } from '../../progress/standing-mark.tsx';
import { Criteria } from './criteria.tsx';
import { SignForm } from './sign-form.tsx';

/** Can it be accepted? Node by node: figures, what is open, and what the owner decided. */
export function AcceptanceView({ cycle }: { readonly cycle: CycleDetail }) {
  const { api } = useProgramme();
  const address = useAddress();
  const scope = address.get('scope');
  const { data, error } = useRead('getAcceptance', { params: { code: cycle.code }, input: scope === null ? {} : { scope } });
  if (!data) return <p className="text-soft">{error ? error.message : 'Loading the figures …'}</p>;
  const { nodes } = data;
  const chosen =
    nodes.find(({ code }) => code === address.get('node')) ?? nodes.find(({ canSign, signOff }) => canSign && !signOff) ?? nodes[0];
  if (!chosen)
    return (
      <div className="card">
        <EmptyView title="Nothing to accept yet">
          Once the cycle has turns, every process that they touch stands here for its owner to decide on.
        </EmptyView>
      </div>
    );
  const decided = nodes.filter(({ signOff }) => signOff !== null).length;
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="min-w-0">
        <p className="mb-2 text-[13px] text-soft">
          {decided} of {nodes.length} decided ·{' '}
          <a className="underline" href={`${api}/cycles/${cycle.code}/report?format=pdf`} download>
            Report (PDF)
          </a>{' '}
          ·{' '}
          <a className="underline" href={`${api}/cycles/${cycle.code}/report?format=xlsx`} download>
            Workbook
          </a>
        </p>
        <NodeTable nodes={nodes} chosen={chosen.code} onChoose={(code) => address.set({ node: code })} />
        <section className="card mt-4 px-4 py-3" aria-labelledby="cycle-exit">
          <h2 id="cycle-exit" className="mb-2">
            Exit criteria of the whole cycle
          </h2>
          <Criteria criteria={data.criteria} cycle={cycle.code} />
        </section>
      </div>
      <NodePanel key={chosen.code} node={chosen} cycle={cycle} />
    </div>
  );
}

const DECISION_LABELS = { accepted: 'accepted', 'accepted with reservations': 'with reservations', refused: 'refused' } as const;

function NodeTable({
  nodes,
  chosen,
  onChoose,
}: {
  readonly nodes: readonly AcceptedNode[];
  readonly chosen: string;
  readonly onChoose: (code: string) => void;
}) {
  return (
    <FramedTable heads={['Process', 'Owner', 'Outcomes', 'Criteria', 'Decision']}>
      {nodes.map((node) => (
        <tr key={node.code} className={node.code === chosen ? 'bg-baton-tint' : ''}>
          <th scope="row" className="border-b-line-2! font-normal! text-ink!" style={{ paddingLeft: 10 + node.depth * 16 }}>
            <button
              type="button"
              className="text-left hover:underline"
              aria-pressed={node.code === chosen}
              onClick={() => onChoose(node.code)}
            >
              <b className={node.depth === 0 ? '' : 'font-normal'}>{node.name}</b>{' '}
              <span className="font-mono text-[13px] text-soft">{node.code}</span>
              {node.isCritical && <span className="tag ml-2">critical</span>}
            </button>
          </th>
          <td className="text-[13px] whitespace-nowrap">{node.owner ?? <span className="text-soft">nobody</span>}</td>
          <td className="w-[170px]">
            <BatonBar counts={node.counts} className="h-[12px]!" />
            <span className="text-[13px] whitespace-nowrap text-soft">
              {formatShare(getRunShare(node.counts))} run, {formatShare(getPassShare(node.counts), 1)} passed
            </span>
          </td>
          <td className="text-[13px] whitespace-nowrap">
            {node.criteria.filter(({ isMet }) => isMet).length} of {node.criteria.length} met
          </td>
          <td className="text-[13px] whitespace-nowrap">
            {node.signOff ? (
              <>
                <b>{DECISION_LABELS[node.signOff.decision]}</b>
                {node.signOff.hasMoved && <span className="block text-soft">figures moved since</span>}
              </>
            ) : node.canSign ? (
              <span className="font-semibold">yours to decide</span>
            ) : (
              <span className="text-soft">open</span>
            )}
          </td>
        </tr>
      ))}
    </FramedTable>
  );
}

function NodePanel({ node, cycle }: { readonly node: AcceptedNode; readonly cycle: CycleDetail }) {
  const { api, base, nameOf } = useProgramme();
  const isMet = node.criteria.every((criterion) => criterion.isMet);
  const missing = node.criteria.filter((criterion) => !criterion.isMet).length;
  const progress = `${base}/progress?${new URLSearchParams({ cycle: cycle.code, scope: node.code })}`;
  return (
    <SidePanel label={`Acceptance of ${node.name}`}>
      <div className="px-4 py-3">
        <h2 className="text-[17px]">{node.name}</h2>
        <p className="mt-1 text-[20px] leading-tight font-bold">
          {isMet ? 'Every criterion is met' : `${countOf(missing, 'criterion', 'criteria')} not met`}
        </p>
        {node.canSign && (
          <a className="button button-primary mt-2" href="#decide">
            {node.signOff ? 'Decide again' : 'Decide'}
          </a>
        )}
        <p className="mt-2 flex flex-wrap gap-x-3 gap-y-1 text-[13px]">
          <a className="underline" href={`${progress}&view=course`}>
            Its course
          </a>
          <a className="underline" href={`${progress}&view=steps`}>
            Where it goes wrong
          </a>
          <a className="underline" href={`${api}/cycles/${cycle.code}/report?format=sheet&node=${encodeURIComponent(node.code)}`} download>
            Acceptance sheet to sign (PDF)
          </a>
        </p>
      </div>
      {node.signOff && <Decided node={node} />}
      <PanelPart title="Exit criteria">
        <Criteria criteria={node.criteria} cycle={cycle.code} node={node.code} />
      </PanelPart>
      <PanelPart title="Open defects" count={node.openDefects.length}>
        <ul className="grid gap-1 text-[13px]">
          {node.openDefects.map(({ code, title, severity }) => (
            <li key={code}>
              <a className="underline" href={`${base}/defects/${code}`}>
                {code}
              </a>{' '}
              {title} <span className="text-soft">{nameOf(severity)}</span>
            </li>
          ))}
        </ul>
      </PanelPart>
      <NodeRequirements key={node.code} requirements={node.requirements} />
      {node.canSign ? (
        <div id="decide" className="border-t border-line-2">
          <PanelPart title={node.signOff ? 'Decide again' : 'Decide'}>
            <SignForm node={node} cycle={cycle.code} />
          </PanelPart>
        </div>
      ) : (
        (cycle.state === 'open' || cycle.state === 'closing') && (
          <p className="border-t border-line-2 px-4 py-3 text-[13px] text-soft">
            {node.owner ? `${node.owner} decides on this process.` : 'Nobody owns this process yet; an owner is named on the map.'}
          </p>
        )
      )}
    </SidePanel>
  );
}

const SHOWN = 30;

/** What is not verified first; the rest when it is asked for. */
function NodeRequirements({ requirements }: Pick<AcceptedNode, 'requirements'>) {
  const isVerified = ({ state }: AcceptedNode['requirements'][number]) => state === 'verified';
  const [open, verified] = [requirements.filter((own) => !isVerified(own)), requirements.filter(isVerified)];
  return (
    <PanelPart title="Requirements not verified" count={open.length}>
      <RequirementLines requirements={open} />
      {verified.length > 0 && (
        <details className="mt-1.5 text-[13px]">
          <summary className="min-h-[24px] cursor-pointer">{countOf(verified.length, 'requirement')} verified</summary>
          <RequirementLines requirements={verified} />
        </details>
      )}
    </PanelPart>
  );
}

function RequirementLines({ requirements }: Pick<AcceptedNode, 'requirements'>) {
  const { base } = useProgramme();
  return (
    <ul className="grid gap-1 text-[13px]">
      {requirements.slice(0, SHOWN).map(({ code, title, state, proof }) => (
        <li key={code}>
          <a className="underline" href={`${base}/requirements?requirement=${encodeURIComponent(code)}`}>
            {code}
          </a>{' '}
          {title} <b className="font-semibold">{state}</b>{' '}
          <span className="block text-soft">
            <ProofLine code={code} proof={proof} />
          </span>
        </li>
      ))}
      {requirements.length > SHOWN && <li className="text-soft">and {(requirements.length - SHOWN).toLocaleString('en')} more</li>}
    </ul>
  );
}

function Decided({ node }: { readonly node: AcceptedNode }) {
  const { signOff } = node;
  if (!signOff) return null;
  return (
    <PanelPart title={`${signOff.decision.charAt(0).toUpperCase()}${signOff.decision.slice(1)}`}>
      <p className="text-[13px]">
        {signOff.by}, <Moment at={signOff.at} />
        {signOff.reason !== '' && <span className="block">{signOff.reason}</span>}
      </p>
      {signOff.reservations.length > 0 && (
        <ul className="mt-1 grid list-disc gap-1 pl-5 text-[13px]">
          {signOff.reservations.map(({ text, dueOn }) => (
            <li key={text + dueOn}>
              {text} <span className="text-soft">until {formatDay(dueOn)}</span>
            </li>
          ))}
        </ul>
      )}
      <p className="mt-2 text-[13px] text-soft">Figures as they stood</p>
      <BatonBar counts={signOff.counts} className="h-[12px]!" />
      <p className="text-[13px] text-soft">
        {formatShare(getRunShare(signOff.counts))} run, {formatShare(getPassShare(signOff.counts), 1)} passed
        {signOff.hasMoved && (
          <b className="text-ink">
            {' '}
            · now {formatShare(getRunShare(node.counts))} run, {formatShare(getPassShare(node.counts), 1)} passed
          </b>
        )}
      </p>
    </PanelPart>
  );
}

/** Each criterion with its figure and a way to what keeps it from being met. */
