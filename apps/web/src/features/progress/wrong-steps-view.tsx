import type { WrongSteps, WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';
import type { Ranking } from '@kindred-baton/core/progress/rank-things';
import { getRankingLabel, RANKINGS } from '@kindred-baton/core/progress/rank-things';
import { keepPreviousData } from '@tanstack/react-query';
import { useRead } from '../../client/use-read.ts';
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
import { DefectsCell, TriesCell } from './tries-cells.tsx';
import { useQueryOf } from './use-query-of.ts';
import { ThingTable } from './wrong-things.tsx';

const TRIES = [
  { key: 'all', name: 'by people and runners' },
  { key: 'people', name: 'by people' },
  { key: 'runners', name: 'by runners' },
];
const EACH = RANKINGS.map((key) => ({ key, name: getRankingLabel(key).one }));
const NOUNS: Readonly<Record<Ranking, string>> = { step: 'Steps', target: 'Fields and buttons', screen: 'Screens' };
const TOP = 10;

/** Which steps cost the round, and what waits behind them. Without an answer of the page's own it is asked for. */
export function WrongStepsView({ initial, initialAddress }: { readonly initial: WrongSteps | null; readonly initialAddress: string }) {
  const address = useAddress();
  const { input, isFirst } = useQueryOf(['cycle', 'scope', 'by', 'each', 'target', 'screen', 'page'], initialAddress);
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
          label="Each"
          chosen={data.each}
          choices={EACH}
          onChoose={(each) => address.set({ each: each === 'step' ? null : each, target: null, screen: null, page: null, step: null })}
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
      {data.only !== null && (
        <button
          type="button"
          className="button button-small mb-2"
          onClick={() => address.set({ target: null, screen: null, page: null, step: null })}
        >
          Show all steps
        </button>
      )}
      {data.wrong.length + data.things.length === 0 ? (
        <div className="card">
          <EmptyView title={data.tries === 0 ? 'Nothing was tried yet' : 'Nothing went wrong'}>
            {data.tries === 0
              ? 'As soon as somebody has said what was seen at a step, this tells where it goes wrong.'
              : `All ${countOf(data.tries, 'try', 'tries')} of ${countOf(data.steps, 'step')} passed.`}
          </EmptyView>
        </div>
      ) : (
        <div className={`grid gap-4 ${chosen ? 'lg:grid-cols-[minmax(0,1fr)_340px]' : ''} ${isPlaceholderData ? 'opacity-70' : ''}`}>
          <div className="min-w-0">
            {data.each === 'step' ? <StepTable view={data} chosen={chosen} /> : <ThingTable view={data} each={data.each} />}
            <PagesOf noun={NOUNS[data.each]} at={data.rows} shown={data.wrong.length + data.things.length} param="page" />
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
export function StepsHeadline({ view }: { readonly view: WrongSteps }) {
  const { steps, errors, errorsOfTen, tries, unwritten, rows, each, unplaced, only } = view;
  const [worst] = [...view.wrong, ...view.things];
  const { one, many } = getRankingLabel(each);
  const few = Math.min(TOP, rows.size);
  return (
    <p className="mb-3 text-[19px]">
      {errors > 0 && (
        <>
          <strong className="text-[22px]">
            {few} of {countOf(steps, one, many)}
          </strong>{' '}
          {few === 1 ? 'makes' : 'make'} <strong className="text-[22px] text-failed">{errorsOfTen.toLocaleString('en')}</strong> of{' '}
          {countOf(errors, 'error')} in {countOf(tries, 'try', 'tries')}
        </>
      )}
      {rows.page === 1 && only === null && worst && worst.waiting.turns > 0 && (
        <span className="text-[15px] text-soft">; the first alone keeps {countOf(worst.waiting.turns, 'turn')} waiting</span>
      )}
      {only !== null && (
        <span className="block text-[15px] font-semibold">
          Only steps {only.each === 'screen' ? 'on the screen' : 'that name'} “{only.name}”
        </span>
      )}
      {unplaced > 0 && (
        <span className="block text-[13px] text-soft">
          Not among these: {countOf(unplaced, 'error')} at steps{' '}
          {each === 'screen' ? 'before which no screen is gone to, or that are' : 'that are'} done by hand.
        </span>
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
      <TriesCell of={step} most={most} onOpen={choose} />
      <td>
        <ShareBoundsMark low={step.low} share={errors / step.tries} high={step.high} />
      </td>
      <DefectsCell defects={step.defects} />
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
