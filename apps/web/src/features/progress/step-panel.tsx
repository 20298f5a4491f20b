import type { StepTriesView, WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';
import { useRead } from '../../client/use-read.ts';
import { BatonMark } from '../../ui/baton-mark.tsx';
import { countOf, formatMinutes } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';
import { PanelPart, SidePanel } from '../../ui/side-panel.tsx';
import { useAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { NudgeButton } from '../turns/nudge-button.tsx';
import { describeBounds } from './share-bounds.tsx';
import { toTurnsPath } from './to-turns-path.ts';

interface StepPanelProps {
  readonly step: WrongStepView;
  readonly cycle: string;
  /** What the list was asked with: the same tries are told here. */
  readonly query: Readonly<Record<string, string>>;
}

/** One step: what was seen instead, what waits behind it, and the tries themselves. */
export function StepPanel({ step, cycle, query }: StepPanelProps) {
  const { base } = useProgramme();
  const { withScope } = useAddress();
  const { page: _page, each: _each, target: _target, screen: _screen, ...asked } = query;
  const { data, error } = useRead('getStepTries', {
    input: { ...asked, test: step.test.code, version: String(step.version), index: String(step.index) } as never,
  });
  const share = (step.failed + step.blocked) / step.tries;
  return (
    <SidePanel label="The step that is chosen">
      <div className="px-4 py-3">
        <h2 className="text-[15px] break-words">{step.sentence}</h2>
        {step.expect !== '' && <p className="text-[13px] break-words">You should see: {step.expect}</p>}
        <p className="text-[13px] text-soft">
          Goes wrong {describeBounds({ low: step.low, share, high: step.high })}
          {step.versions.length > 0 && `. Tried in ${listVersions([step.version, ...step.versions])}`}
        </p>
        <p className="mt-2 flex flex-wrap gap-2">
          <a className="button button-small" href={`${base}/tests/${encodeURIComponent(step.test.code)}`}>
            Open the test
          </a>
          {step.waiting.turns > 0 && (
            <a className="button button-small" href={withScope(`${base}/cycles/${encodeURIComponent(cycle)}`)}>
              What would help
            </a>
          )}
        </p>
      </div>
      {data ? (
        <Details data={data} cycle={cycle} />
      ) : (
        <p className="px-4 pb-4 text-[13px] text-soft">{error ? error.message : 'Looking through the tries …'}</p>
      )}
    </SidePanel>
  );
}

/** “versions 3, 2 and 1” */
function listVersions(numbers: readonly number[]): string {
  const [last, ...rest] = [...numbers].reverse();
  return `versions ${rest.reverse().join(', ')} and ${last}`;
}

function Details({ data, cycle }: { readonly data: StepTriesView; readonly cycle: string }) {
  const { step, seen, otherSeen, holds, asked, wrong } = data;
  const { base } = useProgramme();
  const errors = step.failed + step.blocked;
  return (
    <>
      <PanelPart title="What was seen instead">
        <ul className="grid gap-1.5 text-[13px]">
          {seen.map(({ text, tries }) => (
            <li key={text} className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3">
              <span className={`break-words ${text === '' ? 'text-soft' : ''}`}>{text === '' ? 'Nothing was written' : text}</span>
              <strong>{tries}</strong>
              <span className="col-span-2 h-[5px] rounded-full bg-failed" style={{ width: `${(100 * tries) / errors}%` }} aria-hidden />
            </li>
          ))}
          {otherSeen > 0 && <li className="text-soft">and something else in {countOf(otherSeen, 'try', 'tries')}</li>}
        </ul>
      </PanelPart>
      {step.defects.length > 0 && (
        <PanelPart title="Defects" count={step.defects.length}>
          <ul className="text-[13px]">
            {step.defects.map(({ code, title, isOpen }) => (
              <li key={code} className="py-0.5">
                <a className="hover:underline" href={`${base}/defects/${code}`}>
                  <span className="font-mono text-[12px] text-soft">{code}</span> {title}
                </a>
                {!isOpen && <span className="text-soft"> · over</span>}
              </li>
            ))}
          </ul>
        </PanelPart>
      )}
      {holds.length > 0 && (
        <PanelPart title="What waits behind it">
          <p className="mb-1 text-[13px] text-soft">
            {countOf(step.waiting.turns, 'turn')}, {formatMinutes(step.waiting.minutes)} of work
          </p>
          <ul className="text-[13px]">
            {holds.map((hold) => (
              <li key={`${hold.kind}:${hold.key}`} className="flex items-baseline justify-between gap-3 py-0.5">
                <span className="min-w-0 break-words">{hold.title}</span>
                <a className="flex-none underline" href={toTurnsPath({ base, cycle, filters: { hold: `${hold.kind}:${hold.key}` } })}>
                  {countOf(hold.waiting, 'turn')}
                </a>
              </li>
            ))}
          </ul>
        </PanelPart>
      )}
      {asked.length > 0 && <AskedPart asked={asked} />}
      <PanelPart title="Tries that went wrong" count={errors}>
        <ol>
          {wrong.map((one) => (
            <li key={one.attempt} className="border-b border-line-2 py-1.5 text-[13px] last:border-b-0">
              <a className="flex items-baseline gap-2 font-semibold hover:underline" href={`${base}/turns/${one.turn}`}>
                <BatonMark status={one.outcome} /> <span className="min-w-0 break-words">{one.scenario}</span>
              </a>
              <span className="block text-soft">
                {one.by}, <Moment at={one.at} />
              </span>
            </li>
          ))}
        </ol>
        {errors > wrong.length && (
          <p className="mt-1 text-[13px] text-soft">
            The newest {wrong.length} of {errors}.
          </p>
        )}
      </PanelPart>
    </>
  );
}

/** Who is to go on, and a polite word to them. */
function AskedPart({ asked }: Pick<StepTriesView, 'asked'>) {
  const { base, viewer, can } = useProgramme();
  return (
    <PanelPart title="With whom it is">
      <ul className="text-[13px]">
        {asked.map(({ turn, person, defect, turns, nudges }) => (
          <li key={turn} className="flex items-baseline justify-between gap-3 py-0.5">
            <span className="min-w-0 break-words">
              <a className="font-semibold hover:underline" href={defect === null ? `${base}/turns/${turn}` : `${base}/defects/${defect}`}>
                {person ?? 'Nobody yet'}
              </a>{' '}
              <span className="text-soft">
                {defect === null ? 'to try again or say what is wrong' : `to fix ${defect}`}, {countOf(turns, 'turn')}
              </span>
            </span>
            {person !== null && person !== viewer.person.name && can('run cycles') && (
              <NudgeButton turn={turn} title={defect ?? person} nudges={nudges} />
            )}
          </li>
        ))}
      </ul>
    </PanelPart>
  );
}
