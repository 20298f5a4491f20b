import { findWayIn } from '@kindred-baton/core/tests/find-way-in';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { fillStep } from '@kindred-baton/core/defects/describe-steps';
import { useState } from 'react';
import { useChanges } from '../../../client/use-changes.ts';
import { useRead } from '../../../client/use-read.ts';
import { DialogBox } from '../../../ui/dialog.tsx';
import { SelectField } from '../../../ui/field.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import type { ScreenProps } from './guide-attempt.tsx';
import { getWord } from './guide-state.ts';

/** Gives what is left of an attempt to runners, from the first step at which nothing was said. */
export function GiveRest(props: ScreenProps) {
  const { data } = useRead('listPools', {});
  const [isAsked, setIsAsked] = useState(false);
  const { state, steps } = props.recorder;
  const at = steps.findIndex((_, index) => getWord(state, index).outcome === null);
  if (!data || data.pools.length === 0 || at < 0 || props.guide.isBare) return null;
  return (
    <>
      <button type="button" className="button w-full" onClick={() => setIsAsked(true)}>
        Give the rest to runners …
      </button>
      {isAsked && <GiveDialog {...props} at={at} pools={data.pools} onClose={() => setIsAsked(false)} />}
    </>
  );
}

interface GiveDialogProps extends ScreenProps {
  readonly at: number;
  readonly pools: readonly { readonly id: string; readonly name: string; readonly sessions: number }[];
  readonly onClose: () => void;
}

function GiveDialog({ attempt, recorder, source, at, pools, onClose }: GiveDialogProps) {
  const { change } = useChanges();
  const { steps } = recorder;
  const from = findWayIn(steps, at);
  const again = steps.slice(from, at);
  const form = useForm(async ({ personId = '' }) => {
    await recorder.flush();
    await change('handOver', { params: { attempt: attempt.id }, input: { personId: personId as never, word: '' } });
    onClose();
  });
  return (
    <DialogBox title={`Give it to runners from step ${at + 1}`} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <SelectField label="To" name="personId" required problem={form.problemOf('personId')}>
          {pools.map(({ id, name, sessions }) => (
            <option key={id} value={id}>
              {name} ({sessions === 0 ? 'no runner is at work now' : `${sessions} ${sessions === 1 ? 'session' : 'sessions'} at work`})
            </option>
          ))}
        </SelectField>
        {again.length === 0 ? (
          <p className="mb-3 text-[13px]">Step {at + 1} opens its screen by itself: nothing is done twice.</p>
        ) : (
          <div className="mb-3 text-[13px]">
            <p className="mb-1">
              The runner has a browser of its own. To come to step {at + 1} it does <b>again</b>, without recording them:
            </p>
            <ol className="ml-1 grid gap-1">
              {again.map((step, index) => (
                <li key={index}>
                  <span className="mr-2 font-mono text-soft">{from + index + 1}</span>
                  {printStep(fillStep({ ...step, expect: undefined }, source))}
                </li>
              ))}
            </ol>
            <p className="mt-1 text-soft">
              Where that would save something a second time, go on by hand to the next step that opens a screen. A value that comes out
              otherwise than before stops the runner.
            </p>
          </div>
        )}
        <FormFoot form={form} label="Give it to them" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
