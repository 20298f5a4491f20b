import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextArea } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** Hands a turn over, or takes one from somebody of the same lane, with a word. The lead gives any turn to anybody. */
export function PassTurn({ guide }: { readonly guide: GuideView }) {
  const { can, viewer } = useProgramme();
  const [isAsked, setIsAsked] = useState(false);
  const { turn } = guide;
  const isMine = turn.assignee === viewer.person.name;
  const isInLane = guide.mates.some(({ id }) => id === viewer.person.id);
  const mayGive = can('run cycles') || (can('make attempts') && isMine);
  const mayTake = can('make attempts') && !isMine && isInLane;
  const isOver = turn.state === 'done' && turn.stoppedBy === null;
  if (turn.state === 'under way' || isOver || (!mayGive && !mayTake)) return null;
  return (
    <>
      <button type="button" className="button button-quiet button-small" onClick={() => setIsAsked(true)}>
        {mayGive ? 'Hand it over' : `Take it${turn.assignee ? ` from ${turn.assignee}` : ''}`}
      </button>
      {isAsked && <PassDialog guide={guide} isTaken={!mayGive} onClose={() => setIsAsked(false)} />}
    </>
  );
}

function PassDialog({ guide, isTaken, onClose }: { readonly guide: GuideView; readonly isTaken: boolean; readonly onClose: () => void }) {
  const { can, viewer } = useProgramme();
  const { change } = useChanges();
  const notify = useNotice();
  const isLead = can('run cycles');
  const { data: choices } = useRead('getChoices', {}, { enabled: isLead && !isTaken });
  const people = isLead
    ? [...guide.mates, ...(choices?.people ?? []).filter(({ id }) => guide.mates.every((mate) => mate.id !== id))]
    : guide.mates;
  const { data: runners } = useRead('listPools', {}, { enabled: !isTaken });
  const pools = (runners?.pools ?? []).filter(({ name }) => name !== guide.turn.assignee);
  const others = people.filter(({ name }) => name !== guide.turn.assignee);
  const form = useForm(async ({ personId, word }) => {
    const input = { personId: isTaken ? viewer.person.id : (personId ?? ''), word };
    await change('passTurn', { params: { turn: guide.turn.id }, input });
    notify({ kind: 'done', text: isTaken ? 'It is with you now.' : 'Handed over.' });
    onClose();
  });
  const isNobodyLeft = !isTaken && others.length === 0 && pools.length === 0 && runners !== undefined && (!isLead || choices !== undefined);
  if (isNobodyLeft)
    return (
      <DialogBox title="Hand this turn over" isOpen onClose={onClose}>
        <p>
          {isLead
            ? 'Nobody else is in this programme yet. Invite people under Set up, then hand it over.'
            : 'Nobody else is in this lane. Ask the lead to give it to somebody, or to put somebody into the lane.'}
        </p>
        <p className="mt-4 text-right">
          <button type="button" className="button" onClick={onClose}>
            Close
          </button>
        </p>
      </DialogBox>
    );
  return (
    <DialogBox title={isTaken ? 'Take this turn' : 'Hand this turn over'} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        {!isTaken && (
          <SelectField label="To" name="personId" required problem={form.problemOf('personId')}>
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
                {guide.mates.some((mate) => mate.id === id) ? '' : ' (another lane)'}
              </option>
            ))}
            {pools.map(({ id, name }) => (
              <option key={id} value={id}>
                {name} (runners)
              </option>
            ))}
          </SelectField>
        )}
        <TextArea
          label="A word with it (optional)"
          name="word"
          rows={2}
          maxLength={2_000}
          placeholder="The customer is ready in the works system."
        />
        <FormFoot form={form} label={isTaken ? 'Take it' : 'Hand it over'} onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
