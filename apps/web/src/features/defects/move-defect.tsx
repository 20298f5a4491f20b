import { useChanges } from '../../client/use-changes.ts';
import type { DefectDetail } from '@kindred-baton/contracts/defects/defect';
import type { DefectStatus } from '@kindred-baton/core/defects/defect';
import { asksWhy, isAtRetest, listDefectMoves, mayMoveDefect, nameDefectMove } from '@kindred-baton/core/defects/defect';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextArea } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** What may be done with the defect next. Retests themselves close it or open it again. */
export function MoveDefect({ defect }: { readonly defect: DefectDetail }) {
  const { can, viewer } = useProgramme();
  const { change, act } = useChanges();
  const [asked, setAsked] = useState<DefectStatus | null>(null);
  const toMove = (to: DefectStatus, reason = '') => ({ params: { code: defect.code }, input: { from: defect.status, to, reason } });
  const move = (to: DefectStatus) => {
    if (asksWhy(to)) return setAsked(to);
    const next = defect.turns.length > 0 ? 'its turns are back with their testers' : `${defect.foundBy} is asked whether it is gone`;
    const said = isAtRetest(to) ? `${defect.code} is fixed; ${next}.` : `${defect.code} is ${to}.`;
    void act('moveDefect', toMove(to), said);
  };
  const form = useForm(async (values) => {
    if (asked) await change('moveDefect', toMove(asked, values['reason']));
    setAsked(null);
  });
  const by = { person: viewer.person.id, decidesOnAll: can('move defects') };
  if (!mayMoveDefect(by, { ...defect, hasTurns: defect.turns.length > 0 })) return null;
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
