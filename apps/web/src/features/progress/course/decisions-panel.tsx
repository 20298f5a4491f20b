import type { DecisionView, Outlook } from '@kindred-baton/contracts/progress/outlook';
import { getDecisionLabel } from '@kindred-baton/core/progress/decision';
import { useChanges } from '../../../client/use-changes.ts';
import { countOf, formatDay, formatShare } from '../../../ui/format.ts';
import { Moment } from '../../../ui/moment.tsx';
import { Criteria } from '../../cycles/acceptance/criteria.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';
import { LeftOpenLines } from './left-open-lines.tsx';
import { OddsLine } from './odds-line.tsx';

interface OutlookPanelsProps {
  readonly outlook: Outlook | undefined;
  readonly problem: string | undefined;
}

/** What was decided about the end, and what the cycle has to reach besides. */
export function OutlookPanels({ outlook, problem }: OutlookPanelsProps) {
  if (!outlook) return problem === undefined ? null : <p className="card px-4 py-3 text-[13px]">{problem}</p>;
  return (
    <>
      <DecisionsPanel decisions={outlook.decisions} />
      <ExitPanel outlook={outlook} />
    </>
  );
}

/** How far the cycle is from what it has to reach, of which its end is one part. */
function ExitPanel({ outlook: { criteria, cycle } }: { readonly outlook: Outlook }) {
  if (cycle === null || criteria.length === 0) return null;
  const met = criteria.filter(({ isMet }) => isMet).length;
  return (
    <details className="card px-4 py-3" open={met < criteria.length}>
      <summary className="min-h-[26px] cursor-pointer text-[15px] font-semibold">
        {met === criteria.length
          ? 'Every exit criterion is met'
          : `${met} of ${countOf(criteria.length, 'exit criterion', 'exit criteria')} met`}
      </summary>
      <div className="mt-2">
        <Criteria criteria={criteria} cycle={cycle} />
      </div>
    </details>
  );
}

/** What was decided about the end, the newest first, with the figures as they stood. */
function DecisionsPanel({ decisions }: { readonly decisions: readonly DecisionView[] }) {
  if (decisions.length === 0) return null;
  return (
    <section className="card px-4 py-3.5" aria-label="What was decided">
      <h2 className="text-[15px] font-semibold">What was decided</h2>
      <ol className="mt-1 text-[14px]">
        {decisions.map((decision) => (
          <Decision key={decision.id} decision={decision} />
        ))}
      </ol>
    </section>
  );
}

function Decision({ decision }: { readonly decision: DecisionView }) {
  const { can } = useProgramme();
  const { act } = useChanges();
  const { id, kind, words, why, before, after, by, at, takenBack, turns, through, plannedOn, left } = decision;
  return (
    <li className="border-b border-line-2 py-2 last:border-b-0">
      <p className={takenBack ? 'line-through' : ''}>
        <strong>{kind === 'stay' ? words : `${getDecisionLabel(kind)}: ${words}`}</strong>
      </p>
      <p className="text-[13px] text-soft">
        {by}, <Moment at={at} />
      </p>
      <p className="break-words whitespace-pre-wrap">{why}</p>
      <details className="text-[13px]">
        <summary className="min-h-[24px] cursor-pointer">
          In time {formatShare(before.inTime)}
          {kind !== 'stay' && `, with it ${formatShare(after.inTime)}`}
        </summary>
        <p className="text-soft">
          As it stood: <OddsLine odds={before} />; planned for {formatDay(plannedOn)}; {through.toLocaleString('en')} of{' '}
          {countOf(turns, 'turn')} through.
        </p>
        {kind !== 'stay' && (
          <p className="text-soft">
            With it: <OddsLine odds={after} />.
          </p>
        )}
        {left && <LeftOpenLines left={left} />}
      </details>
      {takenBack ? (
        <p className="text-[13px] font-semibold">
          Taken back by {takenBack.by}, <Moment at={takenBack.at} />
        </p>
      ) : (
        can('run cycles') && (
          <button
            type="button"
            className="button button-quiet button-small -ml-2"
            onClick={() => void act('takeBackDecision', { params: { decision: id } }, 'Taken back. It stays in the list.')}
          >
            Take it back
          </button>
        )
      )}
    </li>
  );
}
