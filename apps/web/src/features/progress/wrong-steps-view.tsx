import type { WrongSteps, WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { keepPreviousData } from '@tanstack/react-query';
import { useRead } from '../../client/use-read.ts';
import { BatonBar } from '../../ui/baton-mark.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { countOf, formatMinutes, formatSpan } from '../../ui/format.ts';
import { Choose } from '../../ui/menus/choose.tsx';
import { PageTitle } from '../../ui/page-title.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { PagesOf } from '../frame/pages-of.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { NoCycle } from './no-cycle.tsx';
import { ProgressTabs } from './progress-tabs.tsx';
import { ShareBoundsMark } from './share-bounds.tsx';
import { StepPanel } from './step-panel.tsx';
import { toStepKey } from './step-key.ts';
import { useQueryOf } from './use-query-of.ts';

const TRIES = [
  { key: 'all', name: 'by people and runners' },
  { key: 'people', name: 'by people' },
  { key: 'runners', name: 'by runners' },
];
const TOP = 10;

/** Which steps cost the round, and what waits behind them. Without an answer of the page's own it is asked for. */
export function WrongStepsView({ initial, initialAddress }: { readonly initial: WrongSteps | null; readonly initialAddress: string }) {
  const address = useAddress();
  const { input, isFirst } = useQueryOf(['cycle', 'scope', 'by', 'page'], initialAddress);
  const { data, error, isPlaceholderData } = useRead(
    'getWrongSteps',
    { input },
    { ...(initial && isFirst ? { initialData: initial } : {}), placeholderData: keepPreviousData },
  );
  if (!data) return <ProgressTabsOnly text={error ? error.message : 'Looking through the tries …'} />;
  if (!data.cycle) return <NoCycle />;
  const chosen = data.wrong.find((step) => toStepKey(step) === address.get('step')) ?? data.wrong[0];
  return (
    <>
      <PageTitle title="Progress" about={formatSpan(data.cycle.startsOn, data.cycle.endsOn)}>
        <Choose
          label="Cycle"
          chosen={data.cycle.code}
          choices={data.cycles.map(({ code, name }) => ({ key: code, name }))}
          onChoose={(cycle) => address.set({ cycle, page: null, step: null })}
        />
        <Choose
          label="Tries"
          chosen={input['by'] ?? 'all'}
          choices={TRIES}
          onChoose={(by) => address.set({ by: by === 'all' ? null : by, page: null, step: null })}
        />
      </PageTitle>
      <ProgressTabs view="steps" />
      <StepsHeadline view={data} />
      {data.wrong.length === 0 ? (
        <div className="card">
          <EmptyView title={data.tries === 0 ? 'Nothing was tried yet' : 'Nothing went wrong'}>
            {data.tries === 0
              ? 'As soon as somebody has said what was seen at a step, this tells where it goes wrong.'
              : `All ${countOf(data.tries, 'try', 'tries')} of ${countOf(data.steps, 'step')} passed.`}
          </EmptyView>
        </div>
      ) : (
        <div className={`grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px] ${isPlaceholderData ? 'opacity-70' : ''}`}>
          <div className="min-w-0">
            <StepTable view={data} chosen={chosen} />
            <PagesOf noun="Steps" at={data.rows} shown={data.wrong.length} param="page" />
          </div>
          {chosen && <StepPanel key={toStepKey(chosen)} step={chosen} cycle={data.cycle.code} query={input} />}
        </div>
      )}
    </>
  );
}

function ProgressTabsOnly({ text }: { readonly text: string }) {
  return (
    <>
      <PageTitle title="Progress" />
      <ProgressTabs view="steps" />
      <p className="text-soft">{text}</p>
    </>
  );
}

/** How much of what goes wrong the worst few steps make. */
export function StepsHeadline({ view: { steps, errors, errorsOfTen, tries, unwritten, rows, wrong } }: { readonly view: WrongSteps }) {
  const [worst] = wrong;
  const few = Math.min(TOP, rows.size);
  return (
    <p className="mb-3 text-[19px]">
      {errors > 0 && (
        <>
          <strong className="text-[22px]">
            {few} of {countOf(steps, 'step')}
          </strong>{' '}
          {few === 1 ? 'makes' : 'make'} <strong className="text-[22px] text-failed">{errorsOfTen.toLocaleString('en')}</strong> of{' '}
          {countOf(errors, 'error')} in {countOf(tries, 'try', 'tries')}
        </>
      )}
      {rows.page === 1 && worst && worst.waiting.turns > 0 && (
        <span className="text-[15px] text-soft">; the first alone keeps {countOf(worst.waiting.turns, 'turn')} waiting</span>
      )}
      {unwritten > 0 && (
        <span className="block text-[13px] text-soft">
          Not among these: {countOf(unwritten, 'turn')} without written steps that failed or {unwritten === 1 ? 'was' : 'were'} blocked.
        </span>
      )}
    </p>
  );
}

export function StepTable({ view, chosen }: { readonly view: WrongSteps; readonly chosen: WrongStepView | undefined }) {
  const most = Math.max(...view.wrong.map(({ tries }) => tries));
  return (
    <div className="card overflow-x-auto px-2">
      <table className="grid-table">
        <thead>
          <tr>
            <th scope="col" aria-label="Rank" />
            <th scope="col">Step</th>
            <th scope="col">Errors of tries</th>
            <th scope="col">Goes wrong, 0 to 100 %</th>
            <th scope="col">Defect</th>
            <th scope="col" className="text-right!">
              Waits behind it
            </th>
          </tr>
        </thead>
        <tbody>
          {view.wrong.map((step, place) => (
            <StepLine
              key={toStepKey(step)}
              step={step}
              rank={view.rows.from + place + 1}
              most={most}
              isChosen={chosen !== undefined && toStepKey(step) === toStepKey(chosen)}
            />
          ))}
        </tbody>
      </table>
      <p className="border-t border-line-2 px-2 py-2.5 text-[13px] text-soft">
        Ranked by what goes wrong <strong>at least</strong>, with 95 % confidence: 2 of 2 stands below 11 of 19, two tries prove little.
      </p>
    </div>
  );
}

const WIDEST_PX = 92;
const NARROWEST_PX = 10;

interface StepLineProps {
  readonly step: WrongStepView;
  readonly rank: number;
  /** The most tries of any step: its bar is the widest. */
  readonly most: number;
  readonly isChosen: boolean;
}

function StepLine({ step, rank, most, isChosen }: StepLineProps) {
  const { base } = useProgramme();
  const address = useAddress();
  const errors = step.failed + step.blocked;
  const choose = () => address.set({ step: toStepKey(step) });
  const counts = { ...NO_COUNTS, failed: step.failed, blocked: step.blocked, waiting: step.tries - errors };
  const [defect] = step.defects;
  return (
    <tr className={isChosen ? 'bg-band shadow-[inset_4px_0_0_var(--baton)]' : 'hover:bg-band'}>
      <td className="text-right font-mono text-soft">{rank}</td>
      <th scope="row" className="min-w-[210px] border-b-line-2! font-normal! whitespace-normal! text-ink!">
        <button
          type="button"
          aria-pressed={isChosen}
          className="min-h-[26px] text-left font-semibold break-words hover:underline"
          onClick={choose}
        >
          {step.sentence}
        </button>
        <span className="block text-[13px] text-soft">
          <a className="hover:underline" href={`${base}/tests/${encodeURIComponent(step.test.code)}`}>
            <span className="font-mono">{step.test.code}</span> {step.test.name}
          </a>
          , step {step.index + 1}
          {step.teams.length > 0 && ` · ${step.teams.join(', ')}`}
        </span>
      </th>
      <td>
        <span className="block" style={{ width: NARROWEST_PX + ((WIDEST_PX - NARROWEST_PX) * step.tries) / most }}>
          <BatonBar counts={counts} isDecoration />
        </span>
        <button type="button" className="min-h-[26px] text-[13px] whitespace-nowrap hover:underline" onClick={choose}>
          <strong>{errors}</strong> of {step.tries}
          {step.blocked > 0 && <span className="text-soft">{step.failed === 0 ? ' blocked' : `, ${step.blocked} blocked`}</span>}
        </button>
      </td>
      <td>
        <ShareBoundsMark low={step.low} share={errors / step.tries} high={step.high} />
      </td>
      <td className="whitespace-nowrap">
        {defect ? (
          <a className={`underline ${defect.isOpen ? '' : 'text-soft'}`} href={`${base}/defects/${defect.code}`} title={defect.title}>
            {defect.code}
          </a>
        ) : (
          <span className="text-soft">none</span>
        )}
        {step.defects.length > 1 && <span className="text-[13px] text-soft"> and {step.defects.length - 1}</span>}
      </td>
      <td className="text-right whitespace-nowrap">
        {step.waiting.turns === 0 ? (
          <span className="text-soft">–</span>
        ) : (
          <button type="button" className="min-h-[26px] font-mono hover:underline" onClick={choose} aria-label={describeWaiting(step)}>
            {formatMinutes(step.waiting.minutes)}
          </button>
        )}
      </td>
    </tr>
  );
}

const describeWaiting = ({ waiting }: WrongStepView) => `${countOf(waiting.turns, 'turn')}, ${formatMinutes(waiting.minutes)} of work`;
