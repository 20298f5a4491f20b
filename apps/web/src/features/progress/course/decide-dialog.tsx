import type { Odds } from '@kindred-baton/core/progress/decision';
import { useState } from 'react';
import { useChanges } from '../../../client/use-changes.ts';
import { DialogBox } from '../../../ui/dialog.tsx';
import { TextArea } from '../../../ui/field.tsx';
import { useNotice } from '../../../ui/notices.tsx';
import { FormFoot, useForm } from '../../../ui/use-form.tsx';
import { LeftOpenLines } from './left-open-lines.tsx';
import { OddsLine } from './odds-line.tsx';
import type { WayOut } from './remedies-panel.tsx';

interface DecideDialogProps {
  readonly cycle: string;
  readonly way: WayOut;
  readonly before: Odds;
  readonly onClose: () => void;
}

/** What is decided, with its figures, and why: it is written down, and nothing is changed by it. */
export function DecideDialog({ cycle, way, before, onClose }: DecideDialogProps) {
  const { change } = useChanges();
  const notify = useNotice();
  // The same decision also where it is sent twice.
  const [id] = useState(() => crypto.randomUUID());
  const form = useForm(async ({ why = '' }) => {
    await change('keepDecision', { input: { id, cycle, kind: way.kind, words: way.words, why, before, after: way.odds } });
    notify({ kind: 'done', text: 'It is written down, with its figures.' });
    onClose();
  });
  return (
    <DialogBox title={way.words} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <dl className="mb-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-[14px]">
          <dt className="text-soft">As it stands</dt>
          <dd>
            <OddsLine odds={before} />
          </dd>
          {way.kind !== 'stay' && (
            <>
              <dt className="text-soft">With it</dt>
              <dd>
                <OddsLine odds={way.odds} />
                {way.left && <LeftOpenLines left={way.left} />}
              </dd>
            </>
          )}
        </dl>
        <TextArea
          label="Why"
          name="why"
          required
          rows={4}
          maxLength={4000}
          hint="It is kept as it is, for who asks later. What follows from it is done in the lanes, the scope or the settings."
          problem={form.problemOf('why')}
        />
        <FormFoot form={form} label="Write it down" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
