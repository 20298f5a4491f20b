import { isTrouble } from '@kindred-baton/core/outcomes';
import type { Given } from '../../../client/call.ts';
import { fromForm } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import { describeSteps } from '@kindred-baton/core/defects/describe-steps';
import { fillTemplate } from '@kindred-baton/core/values/template';
import { useState } from 'react';
import { TextArea, TextField } from '../../../ui/field.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { LikelySame } from './likely-same.tsx';
import type { ScreenProps } from './guide-attempt.tsx';
import { getWord } from './guide-state.ts';
import { DefectPicks } from '../../defects/defect-picks.tsx';

/** A defect at the failing step; what the program knows is filled in. */
export function LogDefectForm({ attempt, recorder, source }: ScreenProps) {
  const notify = useNotice();
  const { change } = useChanges();
  const { state, dispatch, steps } = recorder;
  const [id] = useState(() => crypto.randomUUID());
  const [title, setTitle] = useState('');
  const step = steps[state.index];
  const word = getWord(state, state.index);
  const soFar = describeSteps({ steps, upTo: state.index, source, outcomeAt: (index) => getWord(state, index).outcome });
  // Where the step itself went well, the test goes on.
  const goOn = () => dispatch(isTrouble(word.outcome) ? { kind: 'show', screen: 'finish' } : { kind: 'go', index: state.index });
  const form = useForm(async (values) => {
    await recorder.flush();
    const input = fromForm<Given<'logDefect'>['input']>({ ...values, id, attemptId: attempt.id, stepIndex: state.index });
    const { code } = await change('logDefect', { input });
    notify({ kind: 'done', text: `${code} is logged.` });
    goOn();
  });
  const joined = async (code: string) => {
    notify({ kind: 'done', text: `Joined to ${code}: this turn waits for the same fix.` });
    goOn();
  };
  const expected = step?.expect ?? (step?.value === undefined ? '' : `${step.target}: ${step.value}`);
  return (
    <form onSubmit={form.onSubmit} className="px-4 py-3">
      <h2 className="mb-3 text-[19px]">Log a defect at step {state.index + 1}</h2>
      <TextField
        label="In a few words"
        name="title"
        required
        maxLength={200}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        problem={form.problemOf('title')}
      />
      <LikelySame recorder={recorder} attempt={attempt.id} stepIndex={state.index} title={title} seen={word.note} onJoined={joined} />
      <TextArea
        label="Expected"
        name="expected"
        rows={2}
        defaultValue={fillTemplate(expected, source)}
        problem={form.problemOf('expected')}
      />
      <TextArea label="Seen" name="seen" rows={2} required defaultValue={word.note} problem={form.problemOf('seen')} />
      <DefectPicks />
      <details className="mb-3">
        <summary className="text-[13px] font-semibold">Filled in for you: steps, values, environment, browser, pictures</summary>
        <ol className="mt-2 grid gap-1 text-[13px]">
          {soFar.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ol>
        <p className="mt-2 text-[13px] text-soft">
          {attempt.environment} · {attempt.browser} · {attempt.evidence.filter((file) => file.stepIndex === state.index).length} pictures of
          this step
        </p>
      </details>
      <FormFoot form={form} label="Log it" onCancel={() => dispatch({ kind: 'go', index: state.index })} />
    </form>
  );
}
