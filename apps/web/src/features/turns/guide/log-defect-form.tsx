import type { Given } from '../../../client/call.ts';
import { fromForm } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import type { AttemptView, GuideView } from '@kindred-baton/contracts/turns/turn';
import { describeSteps } from '@kindred-baton/core/defects/describe-steps';
import type { StepOutcome } from '@kindred-baton/core/outcomes';
import type { TemplateSource } from '@kindred-baton/core/values/template';
import { fillTemplate } from '@kindred-baton/core/values/template';
import { useState } from 'react';
import { TextArea, TextField } from '../../../ui/field.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { LikelySame } from './likely-same.tsx';
import { DefectPicks } from '../../defects/defect-picks.tsx';

/** The step at which something is wrong, and what is known of it. */
export interface LogDefectProps {
  readonly attempt: AttemptView;
  readonly steps: NonNullable<GuideView['version']>['steps'];
  readonly stepIndex: number;
  readonly source: TemplateSource;
  readonly outcomeAt: (index: number) => StepOutcome | null;
  /** What was noted there, and what was looked for where a runner said it. */
  readonly seen: string;
  readonly expected?: string;
  /** What is still on its way is sent first. */
  readonly flush?: () => Promise<unknown>;
  readonly onDone: () => void;
  readonly onCancel: () => void;
}

/** A defect at the failing step; what the program knows is filled in. */
export function LogDefectForm({ attempt, steps, stepIndex, source, outcomeAt, seen, expected, flush, onDone, onCancel }: LogDefectProps) {
  const notify = useNotice();
  const { change } = useChanges();
  const [id] = useState(() => crypto.randomUUID());
  const [title, setTitle] = useState('');
  const step = steps[stepIndex];
  const soFar = describeSteps({ steps, upTo: stepIndex, source, outcomeAt });
  const form = useForm(async (values) => {
    await flush?.();
    const input = fromForm<Given<'logDefect'>['input']>({ ...values, id, attemptId: attempt.id, stepIndex });
    const { code } = await change('logDefect', { input });
    notify({ kind: 'done', text: `${code} is logged.` });
    onDone();
  });
  const joined = (code: string) => {
    notify({ kind: 'done', text: `Joined to ${code}: this turn waits for the same fix.` });
    onDone();
  };
  const written = step?.expect ?? (step?.value === undefined ? '' : `${step.target}: ${step.value}`);
  return (
    <form onSubmit={form.onSubmit} className="px-4 py-3">
      <h2 className="mb-3 text-[19px]">Log a defect at step {stepIndex + 1}</h2>
      <TextField
        label="In a few words"
        name="title"
        required
        maxLength={200}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        problem={form.problemOf('title')}
      />
      <LikelySame {...{ attempt: attempt.id, stepIndex, title, seen, flush }} onJoined={joined} />
      <TextArea
        label="Expected"
        name="expected"
        rows={2}
        defaultValue={expected ?? fillTemplate(written, source)}
        problem={form.problemOf('expected')}
      />
      <TextArea label="Seen" name="seen" rows={2} required defaultValue={seen} problem={form.problemOf('seen')} />
      <DefectPicks />
      <details className="mb-3">
        <summary className="text-[13px] font-semibold">Filled in for you: steps, values, environment, browser, pictures</summary>
        <ol className="mt-2 grid gap-1 text-[13px]">
          {soFar.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ol>
        <p className="mt-2 text-[13px] text-soft">
          {attempt.environment} · {attempt.browser} · {attempt.evidence.filter((file) => file.stepIndex === stepIndex).length} pictures of
          this step
        </p>
      </details>
      <FormFoot form={form} label="Log it" onCancel={onCancel} />
    </form>
  );
}
