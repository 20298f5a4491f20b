import type { RunOverlay, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import { toNameKey } from '@kindred-baton/core/values/field';
import Trash2 from 'lucide-react/icons/trash-2';
import { lazy, Suspense } from 'react';
import { StatusLabel } from '../../../ui/baton-mark.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { Moment } from '../../../ui/moment.tsx';
import { PanelPart, SidePanel } from '../../../ui/side-panel.tsx';
import { useAddress } from '../../frame/address-context.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { FindingLines } from '../wiring/finding-lines.tsx';
import { NeedLine } from './need-line.tsx';
import type { DrawnLeg, ScenarioEditor } from '../use-scenario.ts';

const LegSettings = lazy(() => import('./leg-settings.tsx').then(({ LegSettings: Part }) => ({ default: Part })));
const OpenLegPart = lazy(() => import('./open-leg-part.tsx').then(({ OpenLegPart: Part }) => ({ default: Part })));

interface LegPanelProps {
  readonly editor: ScenarioEditor;
  readonly leg: DrawnLeg;
  readonly run: RunOverlay | null;
  readonly row: ScenarioDetail['document']['rows'][number] | null;
}

/** The chosen leg: what comes in, what goes on, how it last went, and what may be changed of it. */
export function LegPanel({ editor, leg, run, row }: LegPanelProps) {
  const wired = editor.chain.legs[leg.index];
  const turn = run?.turns.find(({ legId }) => legId === leg.id) ?? null;
  const findings = editor.findings.filter((finding) => finding.leg === leg.id);
  return (
    <SidePanel label={`Leg: ${leg.title}`}>
      <Head leg={leg} />
      {findings.length > 0 && (
        <PanelPart title="To look at">
          <FindingLines findings={findings} editor={editor} />
        </PanelPart>
      )}
      {leg.document.test === null && (
        <Suspense fallback={null}>
          <OpenLegPart editor={editor} leg={leg} />
        </Suspense>
      )}
      <PanelPart title="Comes in">
        {(wired?.needs ?? []).map((need) => (
          <NeedLine key={need.need.name} {...{ editor, leg, need, run, row }} />
        ))}
        {wired?.needs.length === 0 && <p className="text-[13px] text-soft">It needs nothing.</p>}
      </PanelPart>
      <GoesOn editor={editor} leg={leg} />
      {turn && <LastAttempt turn={turn} />}
      {editor.canEdit && (
        <Suspense fallback={null}>
          <LegSettings editor={editor} leg={leg} />
        </Suspense>
      )}
      {editor.canEdit && (
        <div className="border-t border-line-2 px-4 py-3">
          <button type="button" className="button button-small" onClick={() => void editor.removeLeg(leg)}>
            <Trash2 size={15} aria-hidden /> Take this leg out
          </button>
        </div>
      )}
    </SidePanel>
  );
}

function Head({ leg }: { readonly leg: DrawnLeg }) {
  const { base } = useProgramme();
  const { test, document } = leg;
  return (
    <div className="px-4 py-3">
      <p className="text-[13px] text-soft">
        Leg {leg.index + 1} · {leg.team?.name ?? 'no team yet'}
      </p>
      <h2 className="text-[17px] leading-6">{leg.title}</h2>
      <p className="text-[13px] text-soft">
        {test ? (
          <>
            <a className="underline" href={`${base}/tests/${test.code}`}>
              Test {test.code}
            </a>
            , version {test.version}
            {test.state !== 'agreed' && ` (${test.state})`} · {countOf(test.steps, 'step')} · {formatMinutes(test.minutes)}
          </>
        ) : document.test === null ? (
          'An open leg: its test is still to be written.'
        ) : (
          `Test ${document.test}`
        )}
      </p>
      {test?.newer && (
        <a className="mt-1 inline-block text-[13px] font-semibold underline" href={`${base}/scenarios?view=review&test=${test.code}`}>
          Version {test.newer} is newer: does it still fit?
        </a>
      )}
      {document.note !== '' && <p className="mt-2 rounded-control bg-band px-3 py-2 text-[13px] whitespace-pre-line">{document.note}</p>}
    </div>
  );
}

/** What it hands on, and to whom; choosing a value lights its way. */
function GoesOn({ editor, leg }: { readonly editor: ScenarioEditor; readonly leg: DrawnLeg }) {
  const address = useAddress();
  const lit = address.get('value');
  const { gives } = leg.view;
  return (
    <PanelPart title="Goes on">
      {gives.map((field) => {
        const isLit = lit !== null && toNameKey(lit) === toNameKey(field.name);
        return (
          <button
            key={field.name}
            type="button"
            aria-pressed={isLit}
            title="Light the way of this value"
            className={`-mx-2 flex w-[calc(100%+16px)] flex-wrap items-baseline justify-between gap-x-3 rounded-control px-2 py-1 text-left text-[13px] hover:bg-band ${isLit ? 'bg-baton-tint text-baton-ink' : ''}`}
            onClick={() => address.set({ value: isLit ? null : field.name }, { replace: true })}
          >
            <span>{field.name}</span>
            <span className={isLit ? '' : 'text-soft'}>{describeTakers(editor, leg, field.name)}</span>
          </button>
        );
      })}
      {gives.length === 0 && <p className="text-[13px] text-soft">It gives nothing on.</p>}
    </PanelPart>
  );
}

function describeTakers(editor: ScenarioEditor, leg: DrawnLeg, name: string): string {
  const takers = editor.chain.legs.filter(({ needs }) =>
    needs.some(({ source }) => source.kind === 'leg' && source.leg === leg.id && toNameKey(source.field.name) === toNameKey(name)),
  );
  return takers.length > 0 ? `to ${takers.map(({ index }) => `leg ${index + 1}`).join(', ')}` : 'to nobody';
}

function LastAttempt({ turn }: { readonly turn: RunOverlay['turns'][number] }) {
  const { base } = useProgramme();
  const { latest } = turn;
  return (
    <PanelPart title={latest ? 'Last attempt' : 'In this run'}>
      <StatusLabel
        status={turn.status}
        word={latest?.step ? `${latest.outcome === 'blocked' ? 'Blocked' : 'Failed'} at step ${latest.step} of ${latest.steps}` : undefined}
      />
      {latest && latest.note !== '' && <p className="mt-1">{latest.note}</p>}
      <p className="mt-1 text-[13px] text-soft">
        {latest ? (
          <>
            {latest.by}, <Moment at={latest.at} />
          </>
        ) : (
          `with ${turn.assignee ?? 'nobody yet'}`
        )}{' '}
        ·{' '}
        <a className="underline" href={`${base}/turns/${turn.id}`}>
          open the turn
        </a>
      </p>
    </PanelPart>
  );
}
