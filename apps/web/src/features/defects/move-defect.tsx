import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { DEFECT_MOVES } from '@kindred-baton/core/defects/defect';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextArea } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { sendJson, toMessage } from '../../ui/request.ts';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

const LABELS: Readonly<Record<DefectStatus, string>> = {
  new: 'New',
  accepted: 'Accept',
  fixed: 'Mark as fixed',
  retested: 'Retested',
  closed: 'Close',
  declined: 'Decline',
};

/** What may be done with the defect next. Retests themselves close it or open it again. */
export function MoveDefect({ defect }: { readonly defect: DefectDetail }) {
  const { api, can } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const [isDeclining, setIsDeclining] = useState(false);
  const send = async (to: DefectStatus, reason = '') => {
    await sendJson('POST', `${api}/defects/${defect.code}/move`, { from: defect.status, to, reason });
    await client.invalidateQueries();
  };
  const move = (to: DefectStatus) => {
    if (to === 'declined') return setIsDeclining(true);
    send(to).then(
      () =>
        notify({
          kind: 'done',
          text: to === 'fixed' ? `${defect.code} is fixed; its turns are back with their testers.` : `${defect.code} is ${to}.`,
        }),
      (error: unknown) => notify({ kind: 'problem', text: toMessage(error) }),
    );
  };
  const form = useForm(async (values) => {
    await send('declined', values['reason']);
    setIsDeclining(false);
  });
  if (!can('move defects')) return null;
  return (
    <>
      {DEFECT_MOVES[defect.status].map((to) => (
        <button key={to} type="button" className={`button ${to === 'fixed' ? 'button-primary' : ''}`} onClick={() => move(to)}>
          {to === 'accepted' && defect.status !== 'new' ? 'Open again' : LABELS[to]}
        </button>
      ))}
      <DialogBox title={`Decline ${defect.code}`} isOpen={isDeclining} onClose={() => setIsDeclining(false)}>
        <form onSubmit={form.onSubmit}>
          <TextArea label="Why it is declined" name="reason" required problem={form.problemOf('reason')} />
          <FormFoot form={form} label="Decline" onCancel={() => setIsDeclining(false)} />
        </form>
      </DialogBox>
    </>
  );
}
