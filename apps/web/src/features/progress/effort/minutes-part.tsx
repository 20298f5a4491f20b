import type { MinuteProposal, TakeMinutes } from '@kindred-baton/contracts/progress/effort';
import { LEAST_TURNS, TURNS_LOOKED_AT } from '@kindred-baton/core/progress/effort';
import { useState } from 'react';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import { useNotice } from '../../../ui/notices.tsx';
import { countOf, formatMinutes } from '../../../ui/format.ts';
import { useProgramme } from '../../frame/programme-context.tsx';

type Change = TakeMinutes['changes'][number];

/** Tests that are planned otherwise than their turns take, to be planned anew in one go. */
export function MinutesPart() {
  const { data, error } = useRead('getMinuteProposals', {});
  if (!data) return error ? <p className="text-soft">{error.message}</p> : null;
  const { proposals, total, fitting, seldom } = data;
  return (
    <section className="card px-4 py-3.5" aria-label="Better planned minutes">
      <h2 className="text-[17px]">
        {total === 0 ? 'Every test is planned as its turns take' : `${countOf(total, 'test')} could be planned better`}
      </h2>
      <p className="text-[13px] text-soft">
        By the middle one of what the last {TURNS_LOOKED_AT} turns of each took, over all cycles and attempts. {countOf(fitting, 'test')}{' '}
        {fitting === 1 ? 'is' : 'are'} planned well; {seldom.toLocaleString('en')} had fewer than {LEAST_TURNS} such turns, which say too
        little. Turns that are planned already keep their minutes.
      </p>
      {/* Others than before are chosen anew. */}
      <Proposals key={proposals.map(({ test, planned }) => `${test} ${planned}`).join()} proposals={proposals} total={total} />
    </section>
  );
}

function Proposals({ proposals, total }: { readonly proposals: readonly MinuteProposal[]; readonly total: number }) {
  const { base, can } = useProgramme();
  const { act } = useChanges();
  const notify = useNotice();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [isTaking, setTaking] = useState(false);
  const mayTake = can('edit tests');
  const chosen = proposals.filter(({ test }) => !left.has(test));
  const toggle = (test: string) => {
    const next = new Set(left);
    if (!next.delete(test)) next.add(test);
    setLeft(next);
  };
  const take = async () => {
    setTaking(true);
    const changes = chosen.map(({ test, planned, proposed }): Change => ({ test, from: planned, to: proposed }));
    const took = await act('takeMinutes', { input: { changes } });
    setTaking(false);
    if (!took) return;
    const back = changes.flatMap(({ test, from, to }): Change[] => (took.changed.includes(test) ? [{ test, from: to, to: from }] : []));
    const undo = { label: 'Take it back', run: () => void act('takeMinutes', { input: { changes: back } }, 'Planned as before.') };
    notify({ kind: 'done', text: describeTaken(took.changed.length, took.left), ...(back.length > 0 ? { action: undo } : {}) });
  };
  if (proposals.length === 0) return null;
  return (
    <>
      <div className="mt-2 max-h-[420px] overflow-auto">
        <table className="grid-table">
          <thead>
            <tr>
              {mayTake && (
                <th scope="col" className="w-8">
                  <input
                    type="checkbox"
                    aria-label="All of them"
                    checked={left.size === 0}
                    onChange={() => setLeft(left.size === 0 ? new Set(proposals.map(({ test }) => test)) : new Set())}
                  />
                </th>
              )}
              <th scope="col">Test</th>
              <th scope="col" className="text-right!">
                Planned
              </th>
              <th scope="col" className="text-right!">
                Better
              </th>
              <th scope="col" className="text-right!">
                Its turns took
              </th>
            </tr>
          </thead>
          <tbody>
            {proposals.map(({ test, name, planned, proposed, of, shortest, longest }) => (
              <tr key={test} className="hover:bg-band">
                {mayTake && (
                  <td>
                    <input type="checkbox" aria-label={`${test} ${name}`} checked={!left.has(test)} onChange={() => toggle(test)} />
                  </td>
                )}
                <th scope="row" className="border-b-line-2! font-normal! whitespace-normal! text-ink!">
                  <a className="hover:underline" href={`${base}/tests/${encodeURIComponent(test)}`}>
                    <span className="font-mono">{test}</span> {name}
                  </a>
                </th>
                <td className="text-right font-mono whitespace-nowrap text-soft">{formatMinutes(planned)}</td>
                <td className="text-right font-mono font-bold whitespace-nowrap">{formatMinutes(proposed)}</td>
                <td className="text-right text-[13px] whitespace-nowrap text-soft">
                  {formatMinutes(Math.round(shortest))} to {formatMinutes(Math.round(longest))}, {of} turns
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {total > proposals.length && (
        <p className="mt-1 text-[13px] text-soft">The {proposals.length} that differ most; the others come when these are taken over.</p>
      )}
      {mayTake && (
        <button type="button" className="button button-primary mt-3" disabled={chosen.length === 0 || isTaking} onClick={() => void take()}>
          {isTaking ? 'Planning anew …' : `Plan ${countOf(chosen.length, 'test')} anew`}
        </button>
      )}
    </>
  );
}

const describeTaken = (changed: number, left: readonly string[]) =>
  [
    `${countOf(changed, 'test')} planned anew.`,
    ...(left.length === 0 ? [] : [`Left as they are, since they were planned otherwise meanwhile: ${left.join(', ')}.`]),
  ].join(' ');
