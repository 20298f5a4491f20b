import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { useState } from 'react';
import { useChanges } from '../../../client/use-changes.ts';
import { BatonMark } from '../../../ui/baton-mark.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

/** While runners have the turn: how far they are, and how somebody takes it out of their hands in the middle. */
export function WithRunners({ guide, attempt }: { readonly guide: GuideView; readonly attempt: AttemptView }) {
  const { base, can, viewer } = useProgramme();
  const { act } = useChanges();
  const [isBusy, setIsBusy] = useState(false);
  const steps = guide.version?.steps ?? [];
  const outcomeOf = new Map(attempt.results.map(({ stepIndex, outcome }) => [stepIndex, outcome]));
  const at = steps.findIndex((_, index) => (outcomeOf.get(index) ?? null) === null);
  const step = steps[at];
  const mayTake = can('run cycles') || (can('make attempts') && guide.mates.some(({ id }) => id === viewer.person.id));
  const take = async () => {
    setIsBusy(true);
    await act('handOver', { params: { attempt: attempt.id }, input: { personId: viewer.person.id, word: '' } });
    setIsBusy(false);
  };
  return (
    <section className="mt-4 rounded-control bg-band px-3 py-2" aria-label="With runners">
      <p className="font-bold">
        {attempt.isLeased
          ? `${attempt.runner ?? attempt.person} is at step ${at + 1} of ${steps.length}`
          : `Waits for a runner of ${attempt.person}, who goes on at step ${at + 1}`}
      </p>
      {step && <p className="text-[13px]">{printStep({ ...step, expect: undefined })}</p>}
      <p className="mt-1.5 flex flex-wrap gap-1">
        {steps.map((_, index) => (
          <BatonMark
            key={index}
            status={outcomeOf.get(index) ?? (index === at && attempt.isLeased ? 'under way' : 'waiting')}
            isDecoration
          />
        ))}
      </p>
      {attempt.isLeased && (
        <a className="button mt-2 w-full justify-center" href={`${base}/turns/${guide.turn.id}/window`}>
          Watch it
        </a>
      )}
      {mayTake && (
        <button type="button" className="button mt-2 w-full" onClick={() => void take()} disabled={isBusy}>
          {attempt.isLeased ? 'Stop it and go on by hand' : 'Go on by hand'}
        </button>
      )}
    </section>
  );
}
