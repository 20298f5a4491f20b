import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import type { PlanHelp } from '@kindred-baton/core/cycles/plan/find-what-helps';
import type { PlanChange } from '@kindred-baton/core/cycles/plan/plan-changes';
import type { CyclePlan } from '@kindred-baton/core/cycles/plan/plan-cycle';
import { countOf, formatDay, formatMinutes, formatShare } from '../../../ui/format.ts';
import { PanelPart, SidePanel } from '../../../ui/side-panel.tsx';
import { countWorkDays, describeChange, describeFit, toPlanDay } from './describe-fit.ts';
import type { FitPlan } from './use-plan.ts';

interface FitPanelProps {
  readonly view: CyclePlanView;
  readonly fit: FitPlan;
  readonly tried: readonly PlanChange[];
  readonly onTry: (changes: readonly PlanChange[]) => void;
  /** Does what is tried; null: the person may not. */
  readonly onUse: (() => void) | null;
  /** Keeps the plan as it is. */
  readonly onSetDays: (() => void) | null;
  readonly toTurn: (id: string) => string;
}

/** Will it fit? The answer first, then what it rests on, then what would help. */
export function FitPanel({ view, fit, tried, onTry, onUse, onSetDays, toTurn }: FitPanelProps) {
  if (fit.hasFailed)
    return (
      <SidePanel label="Will it fit?">
        <p className="px-4 py-3">The plan could not be computed in this browser.</p>
      </SidePanel>
    );
  const { plan } = fit;
  if (!plan)
    return (
      <SidePanel label="Will it fit?">
        <p className="px-4 py-3 text-soft">Planning …</p>
      </SidePanel>
    );
  const shown = fit.tried ?? plan;
  return (
    <div className="grid gap-4 self-start">
      <SidePanel label="Will it fit?">
        <Answer view={view} plan={shown} base={fit.tried ? plan : null} toTurn={toTurn} />
        {tried.length > 0 && (
          <PanelPart title="You are trying">
            <ul className="grid gap-1 text-[13px]">
              {tried.map((change) => (
                <li key={JSON.stringify(change)}>{describeChange(view, change)}</li>
              ))}
            </ul>
            <p className="mt-2 flex flex-wrap gap-2">
              <button type="button" className="button button-small" onClick={() => onTry([])}>
                Drop it
              </button>
              {onUse && (
                <button type="button" className="button button-small button-primary" onClick={onUse}>
                  Use it …
                </button>
              )}
            </p>
            <p className="hint mt-2">Nothing is kept yet; the lanes show it as it would be.</p>
          </PanelPart>
        )}
        {onSetDays && tried.length === 0 && plan.jobs.length > plan.stuck.length && (
          <PanelPart title="Keep this plan">
            <p className="hint mb-2">Every turn that is left gets the day on which the plan has it done as its due day.</p>
            <button type="button" className="button button-small" onClick={onSetDays}>
              Set due days by it
            </button>
          </PanelPart>
        )}
      </SidePanel>
      <Helps view={view} fit={fit} tried={tried} onTry={onTry} />
    </div>
  );
}

interface AnswerProps {
  readonly view: CyclePlanView;
  readonly plan: CyclePlan;
  /** The plan as it is, while another is tried. */
  readonly base: CyclePlan | null;
  readonly toTurn: (id: string) => string;
}

function Answer({ view, plan, base, toTurn }: AnswerProps) {
  const sum = (ids: ReadonlySet<string> | null) =>
    view.turns.reduce((total, turn) => total + (ids === null || ids.has(turn.id) ? turn.minutes : 0), 0);
  const left = sum(new Set(plan.jobs.map(({ id }) => id)));
  const end = Math.max(0, Math.round(view.endsAt / 1_440));
  const time = view.people.reduce((total, { minutesByDay }) => total + minutesByDay.slice(0, end).reduce((a, b) => a + b, 0), 0);
  const first = plan.longestChain[0];
  const lane = [...view.teams, ...view.pools].find(({ id }) => id === plan.busiestLane?.lane)?.name;
  return (
    <div className="px-4 py-3">
      <h2 className="text-[14px]">Will it fit?</h2>
      <p className={`mt-1 text-[20px] leading-tight font-bold ${plan.finish > view.endsAt ? 'text-failed' : ''}`}>
        {describeFit(view, plan)}
      </p>
      <p className="mt-1 mb-3 text-[13px] text-soft">
        {plan.jobs.length > plan.stuck.length
          ? `Planned to finish ${formatDay(toPlanDay(view, plan.finish))}, cycle ends ${formatDay(view.endsOn)}`
          : `The cycle ends ${formatDay(view.endsOn)}`}
        {base && `. Without it: ${formatDay(toPlanDay(view, base.finish))}`}
      </p>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3 gap-y-1.5">
        <dt>Work left</dt>
        <dd className="text-right font-bold">{formatMinutes(left)}</dd>
        <dt>Hours the teams have left</dt>
        <dd className="text-right font-bold">{formatMinutes(time)}</dd>
        <dt>Longest chain</dt>
        <dd className="text-right font-bold">
          {first === undefined ? (
            '–'
          ) : (
            <a
              className="underline"
              href={toTurn(first)}
            >{`${countOf(countWorkDays(view, view.startsAt - 1_440, plan.chainEnd), 'day')}`}</a>
          )}
        </dd>
        <dt>Busiest lane</dt>
        <dd className="text-right font-bold">{lane ? `${lane}, ${formatShare(plan.busiestLane?.share ?? null)}` : '–'}</dd>
        <dt title="No plan with these people, days and waits can end before that day.">Not before</dt>
        <dd className="text-right font-bold">
          {plan.jobs.length > plan.stuck.length ? `${formatDay(toPlanDay(view, plan.lowerBound))}` : '–'}
          {plan.gap > 0.0005 && (
            <span className="block text-[13px] font-normal text-soft">this plan is {formatShare(plan.gap, 1)} above</span>
          )}
        </dd>
      </dl>
      {plan.stuck.length > 0 && (
        <p className="mt-3 border-l-[3px] border-l-failed pl-2.5 text-[13px]">
          {countOf(plan.stuck.length, 'turn')} cannot be planned: nobody is in {plan.stuck.length === 1 ? 'its' : 'their'} lane, or nobody
          has days left.
        </p>
      )}
    </div>
  );
}

const isSame = (a: readonly PlanChange[], b: readonly PlanChange[]) => JSON.stringify(a) === JSON.stringify(b);

function Helps({ view, fit, tried, onTry }: Pick<FitPanelProps, 'view' | 'fit' | 'tried' | 'onTry'>) {
  if (fit.plan?.jobs.length === 0) return null;
  const { helps } = fit;
  return (
    <SidePanel label="What would help">
      <div className="px-4 py-3">
        <h2 className="text-[14px]">What would help</h2>
        {helps === null && <p className="mt-1 text-[13px] text-soft">Trying: {countOf(fit.plans, 'plan')} so far …</p>}
        {helps?.length === 0 && <p className="mt-1 text-[13px] text-soft">Nothing that was tried ends sooner.</p>}
      </div>
      {helps !== null && helps.length > 0 && (
        <ul>
          {helps.map((help) => (
            <HelpLine key={JSON.stringify(help.changes)} view={view} help={help} isTried={isSame(help.changes, tried)} onTry={onTry} />
          ))}
        </ul>
      )}
    </SidePanel>
  );
}

interface HelpLineProps extends Pick<FitPanelProps, 'view' | 'onTry'> {
  readonly help: PlanHelp;
  readonly isTried: boolean;
}

function HelpLine({ view, help, isTried, onTry }: HelpLineProps) {
  const words = help.changes.map((change) => describeChange(view, change)).join(', ');
  return (
    <li className="flex items-center justify-between gap-3 border-t border-line-2 px-4 py-2.5">
      <span className="min-w-0">
        <b className="block">{words}</b>
        <span className="text-[13px] text-soft">
          finishes {formatDay(toPlanDay(view, help.finish))}
          {help.isEnough && ', in time'}
          {help.stuck > 0 && `; ${countOf(help.stuck, 'turn')} nobody can do`}
        </span>
      </span>
      <button
        type="button"
        className="button button-small"
        aria-pressed={isTried}
        aria-label={`Try: ${words}`}
        onClick={() => onTry(isTried ? [] : help.changes)}
      >
        {isTried ? 'Tried' : 'Try'}
      </button>
    </li>
  );
}
