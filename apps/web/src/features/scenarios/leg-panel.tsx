import type { LegDetail, RunOverlay, ScenarioDetail } from '@kindred-baton/contracts/scenarios/scenario';
import type { NeedSource, WiredNeed } from '@kindred-baton/core/scenarios/chain';
import { toNameKey } from '@kindred-baton/core/values/field';
import Trash2 from 'lucide-react/icons/trash-2';
import { BatonChip } from '../../ui/baton-chip.tsx';
import { StatusLabel } from '../../ui/baton-mark.tsx';
import { countOf, formatMinutes } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { FindingLines } from './wiring-panel.tsx';
import type { ScenarioInHand } from './use-scenario.ts';

interface LegPanelProps {
  readonly hand: ScenarioInHand;
  readonly leg: LegDetail;
  readonly run: RunOverlay | null;
  readonly row: ScenarioDetail['rows'][number] | null;
  readonly canEdit: boolean;
}

/** The chosen leg: what comes in, what goes on, how it last went. */
export function LegPanel({ hand, leg, run, row, canEdit }: LegPanelProps) {
  const { base } = useProgramme();
  const wired = hand.chain.legs.find((candidate) => candidate.leg.id === leg.id);
  const turn = run?.turns.find((candidate) => candidate.legId === leg.id) ?? null;
  const findings = hand.findings.filter((finding) => finding.leg === leg.id);
  return (
    <SidePanel label={`Leg: ${leg.title}`}>
      <div className="px-4 py-3">
        <p className="text-[13px] text-soft">
          Leg {(wired?.index ?? 0) + 1} · {leg.team?.name ?? 'no team yet'}
        </p>
        <h2 className="text-[17px] leading-6">{leg.title}</h2>
        <p className="text-[13px] text-soft">
          {leg.test ? (
            <>
              <a className="underline" href={`${base}/tests/${leg.test.code}`}>
                Test {leg.test.code}
              </a>
              , version {leg.test.version}
              {leg.test.state === 'draft' && ' (draft)'} · {countOf(leg.test.steps, 'step')} · {formatMinutes(leg.test.minutes)}
            </>
          ) : (
            'An open leg: its test is still to be written.'
          )}
        </p>
      </div>
      {findings.length > 0 && (
        <PanelPart title="To look at">
          <FindingLines findings={findings} hand={hand} canEdit={canEdit} />
        </PanelPart>
      )}
      <PanelPart title="Comes in">
        {(wired?.needs ?? []).map((need) => (
          <div key={need.need.name} className="flex flex-wrap items-center justify-between gap-x-3 gap-y-1 py-1 text-[13px]">
            <span>{need.need.name}</span>
            <Source need={need} hand={hand} run={run} row={row} />
          </div>
        ))}
        {wired?.needs.length === 0 && <p className="text-[13px] text-soft">It needs nothing.</p>}
      </PanelPart>
      <PanelPart title="Goes on">
        {leg.gives.map((field) => (
          <div key={field.name} className="flex flex-wrap items-baseline justify-between gap-x-3 py-1 text-[13px]">
            <span>{field.name}</span>
            <span className="text-soft">{describeTakers(hand, leg, field.name)}</span>
          </div>
        ))}
        {leg.gives.length === 0 && <p className="text-[13px] text-soft">It gives nothing on.</p>}
      </PanelPart>
      {turn && <LastAttempt turn={turn} />}
      {canEdit && (
        <div className="border-t border-line-2 px-4 py-3">
          <button type="button" className="button button-small" onClick={() => void hand.removeLeg(leg)}>
            <Trash2 size={15} aria-hidden /> Take this leg out
          </button>
        </div>
      )}
    </SidePanel>
  );
}

function Source({
  need,
  hand,
  run,
  row,
}: {
  readonly need: WiredNeed;
  readonly hand: ScenarioInHand;
  readonly run: RunOverlay | null;
  readonly row: LegPanelProps['row'];
}) {
  const { source } = need;
  if (source.kind === 'leg') {
    const index = hand.chain.legs.findIndex(({ leg }) => leg.id === source.leg);
    const value = run?.baton.find((held) => held.index === index && toNameKey(held.name) === toNameKey(source.field.name))?.value;
    return <BatonChip name={`from leg ${index + 1}`} value={value ?? '…'} canCopy={value !== undefined} />;
  }
  if (source.kind === 'column') {
    const value = row?.values[source.field.name] ?? '';
    return <span className="text-soft">row: {value === '' ? 'empty' : <b className="text-ink">{value}</b>}</span>;
  }
  return (
    <span className={source.kind === 'fixed' || source.kind === 'own' || source.kind === 'new' ? 'text-soft' : 'font-semibold text-failed'}>
      {SOURCE_WORDS[source.kind](source as never)}
    </span>
  );
}

const SOURCE_WORDS: {
  readonly [Kind in Exclude<NeedSource['kind'], 'leg' | 'column'>]: (source: Extract<NeedSource, { kind: Kind }>) => string;
} = {
  fixed: ({ value }) => `always ${value}`,
  new: ({ pattern }) => `new ${pattern}`,
  own: ({ value }) => `from the test’s row: ${value}`,
  mismatch: () => 'another type',
  later: () => 'given only later',
  lost: () => 'wire is lost',
  none: () => 'from nowhere',
};

function describeTakers(hand: ScenarioInHand, leg: LegDetail, name: string): string {
  const takers = hand.chain.legs.filter(({ needs }) =>
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
