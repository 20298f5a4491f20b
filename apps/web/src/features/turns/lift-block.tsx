import type { TurnCard } from '@kindred-baton/contracts/turns/turn';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextArea } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** What blocked a turn is out of the way: the lead says so, and its tester is told. */
export function LiftBlock({ turn }: { readonly turn: TurnCard }) {
  const { can } = useProgramme();
  const { change } = useChanges();
  const notify = useNotice();
  const [isAsked, setIsAsked] = useState(false);
  const form = useForm(async ({ word = '' }) => {
    await change('liftBlock', { params: { turn: turn.id }, input: { word } });
    notify({ kind: 'done', text: `${turn.title} can go on${turn.assignee === null ? '' : `; ${turn.assignee} is told`}.` });
    setIsAsked(false);
  });
  const isBlocked = turn.status === 'blocked' && turn.stoppedBy !== null && turn.stoppedBy.defects.length === 0;
  if (!isBlocked || !can('run cycles')) return null;
  return (
    <>
      <button type="button" className="button button-quiet button-small" onClick={() => setIsAsked(true)}>
        Lift the block
      </button>
      <DialogBox title="It can go on" isOpen={isAsked} onClose={() => setIsAsked(false)}>
        <form onSubmit={form.onSubmit}>
          <TextArea
            label="What has changed (optional)"
            name="word"
            rows={2}
            maxLength={2_000}
            placeholder="The meter is registered now."
            problem={form.problemOf('word')}
          />
          <FormFoot form={form} label="It can go on" onCancel={() => setIsAsked(false)} />
        </form>
      </DialogBox>
    </>
  );
}
