import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { asksWhy, isAtRetest, listDefectMoves, nameDefectMove } from '@kindred-baton/core/defects/defect';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextArea } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { sendJson, toMessage } from '../../ui/request.ts';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** What may be done with the defect next. Retests themselves close it or open it again. */
export function MoveDefect({ defect }: { readonly defect: DefectDetail }) {
  const { api, can } = useProgramme();
  const client = useQueryClient();
  const notify = useNotice();
  const [asked, setAsked] = useState<DefectStatus | null>(null);
  const send = async (to: DefectStatus, reason = '') => {
    await sendJson('POST', `${api}/defects/${defect.code}/move`, { from: defect.status, to, reason });
    await client.invalidateQueries();
  };
  const move = (to: DefectStatus) => {
    if (asksWhy(to)) return setAsked(to);
    send(to).then(
      () =>
        notify({
          kind: 'done',
          text: isAtRetest(to) ? `${defect.code} is fixed; its turns are back with their testers.` : `${defect.code} is ${to}.`,
        }),
      (error: unknown) => notify({ kind: 'problem', text: toMessage(error) }),
    );
  };
  const form = useForm(async (values) => {
    if (asked) await send(asked, values['reason']);
    setAsked(null);
  });
  if (!can('move defects')) return null;
  return (
    <>
      {listDefectMoves(defect.status).map((to) => (
        <button key={to} type="button" className={`button ${isAtRetest(to) ? 'button-primary' : ''}`} onClick={() => move(to)}>
          {nameDefectMove(defect.status, to)}
        </button>
      ))}
      <DialogBox
        title={asked ? `${nameDefectMove(defect.status, asked)} ${defect.code}` : ''}
        isOpen={asked !== null}
        onClose={() => setAsked(null)}
      >
        <form onSubmit={form.onSubmit}>
          <TextArea label={`Why it is ${asked}`} name="reason" required problem={form.problemOf('reason')} />
          <FormFoot form={form} label={asked ? nameDefectMove(defect.status, asked) : ''} onCancel={() => setAsked(null)} />
        </form>
      </DialogBox>
    </>
  );
}
