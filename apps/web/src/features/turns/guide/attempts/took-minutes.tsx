import type { AttemptView } from '@kindred-baton/contracts/turns/turn';
import { getLongestWorkMinutes } from '@kindred-baton/core/progress/effort';
import { useState } from 'react';
import { useChanges } from '../../../../client/use-changes.ts';
import { DialogBox } from '../../../../ui/dialog.tsx';
import { TextField } from '../../../../ui/field.tsx';
import { formatMinutes } from '../../../../ui/format.ts';
import { FormFoot, useForm } from '../../../../ui/use-form.tsx';

interface Props {
  readonly attempt: AttemptView;
  /** Of the turn, in minutes. */
  readonly planned: number;
}

/** What people did of an attempt took so long; whoever made it can say better. */
export function TookMinutes({ attempt, planned }: Props) {
  const [isAsked, setIsAsked] = useState(false);
  if (!attempt.spent) return null;
  const { counted, said, canSay } = attempt.spent;
  return (
    <p className="text-[13px] text-soft">
      took {formatMinutes(said ?? Math.round(counted))}
      {said !== null && `, as ${attempt.isMine ? 'you' : attempt.person} said; by its words ${formatMinutes(Math.round(counted))}`}
      {canSay && (
        <>
          {' · '}
          <button type="button" className="min-h-[24px] underline" onClick={() => setIsAsked(true)}>
            Correct
          </button>
          {isAsked && <CorrectDialog {...{ attempt, planned, counted, said }} onClose={() => setIsAsked(false)} />}
        </>
      )}
    </p>
  );
}

interface DialogProps extends Props {
  readonly counted: number;
  readonly said: number | null;
  readonly onClose: () => void;
}

function CorrectDialog({ attempt, planned, counted, said, onClose }: DialogProps) {
  const { change, act } = useChanges();
  const params = { attempt: attempt.id };
  const form = useForm(async ({ minutes }) => {
    await change('sayMinutes', { params, input: { minutes: Number(minutes) } });
    onClose();
  });
  const takeBack = async () => {
    const done = await act('sayMinutes', { params, input: { minutes: null } });
    if (done) onClose();
  };
  return (
    <DialogBox title={`What attempt ${attempt.number} took`} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <p className="mb-3 text-soft">
          By its words it took {formatMinutes(Math.round(counted))}: the times between one word and the next, pauses of more than{' '}
          {formatMinutes(getLongestWorkMinutes(planned))} left out.
        </p>
        <TextField
          label="Minutes that it took"
          name="minutes"
          type="number"
          required
          min={1}
          max={10_000}
          defaultValue={said ?? Math.max(1, Math.round(counted))}
          problem={form.problemOf('minutes')}
        />
        <FormFoot form={form} label="It took that" onCancel={onClose}>
          {said !== null && (
            <button type="button" className="button button-quiet" onClick={() => void takeBack()}>
              As its words say
            </button>
          )}
        </FormFoot>
      </form>
    </DialogBox>
  );
}
