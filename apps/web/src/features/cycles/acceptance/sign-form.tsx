import type { Reservation } from '@kindred-baton/core/cycles/cycle';
import type { Given } from '../../../client/call.ts';
import { fromForm } from '../../../client/call.ts';
import { useChanges } from '../../../client/use-changes.ts';
import type { AcceptedNode } from '@kindred-baton/contracts/cycles/acceptance';
import { addDays } from '@kindred-baton/core/time/calendar';
import type { SignOffDecision } from '@kindred-baton/core/cycles/cycle';
import { SIGN_OFF_DECISIONS } from '@kindred-baton/core/cycles/cycle';
import { useState } from 'react';
import { TextArea } from '../../../ui/field.tsx';
import { getToday } from '../../../ui/format.ts';
import { useNotice } from '../../../ui/notices.tsx';
import { FormProblem, useForm } from '../../../ui/use-form.tsx';
import { useProgramme } from '../../frame/programme-context.tsx';

const LABELS: Readonly<Record<SignOffDecision, string>> = {
  accepted: 'Accept',
  'accepted with reservations': 'Accept with reservations',
  refused: 'Refuse',
};
const FIRST_DAYS = 14;

/** An owner's decision: accept, accept with a list of what is not yet so, or refuse with a reason. */
export function SignForm({ node, cycle }: { readonly node: AcceptedNode; readonly cycle: string }) {
  const { timeZone, nowMs } = useProgramme();
  const changes = useChanges();
  const notify = useNotice();
  const [decision, setDecision] = useState<SignOffDecision | null>(null);
  const soon = addDays(getToday(timeZone, nowMs), FIRST_DAYS);
  const [reservations, setReservations] = useState<Reservation[]>([{ text: '', dueOn: soon }]);
  const form = useForm(async ({ reason = '' }) => {
    const own = decision === 'accepted with reservations' ? reservations : [];
    const input = fromForm<Given<'signOffNode'>['input']>({ node: node.code, decision, reason, reservations: own, seen: node.counts });
    await changes.change('signOffNode', { params: { code: cycle }, input });
    notify({ kind: 'done', text: `${node.name}: ${decision}. The figures are kept as they stand.` });
  });
  return (
    <form onSubmit={form.onSubmit}>
      <fieldset className="mb-3 grid gap-1">
        <legend className="sr-only">Decision</legend>
        {SIGN_OFF_DECISIONS.map((own) => (
          <label key={own} className="flex min-h-[28px] items-center gap-2">
            <input type="radio" name="decision" checked={decision === own} onChange={() => setDecision(own)} />
            {LABELS[own]}
          </label>
        ))}
      </fieldset>
      {decision === 'accepted with reservations' && <Reservations list={reservations} soon={soon} onChange={setReservations} />}
      {decision !== null && (
        <TextArea
          label={decision === 'refused' ? 'Why it is refused' : 'In your words'}
          name="reason"
          required={decision === 'refused'}
          rows={2}
          problem={form.problemOf('reason')}
        />
      )}
      <FormProblem form={form} />
      <button type="submit" className="button button-primary" disabled={decision === null || form.isBusy}>
        {form.isBusy ? 'Signing …' : decision === null ? 'Choose first' : `${LABELS[decision]} ${node.name}`}
      </button>
    </form>
  );
}

interface ReservationsProps {
  readonly list: readonly Reservation[];
  readonly soon: string;
  readonly onChange: (list: Reservation[]) => void;
}

/** What is accepted only for now: each with the day by which it is put right. */
function Reservations({ list, soon, onChange }: ReservationsProps) {
  const change = (index: number, part: Partial<Reservation>) => onChange(list.map((own, at) => (at === index ? { ...own, ...part } : own)));
  return (
    <fieldset className="mb-3 grid gap-2">
      <legend className="label">What is not yet accepted, and until when it is put right</legend>
      {list.map((reservation, index) => (
        <div key={index} className="grid grid-cols-[1fr_140px_auto] gap-2">
          <input
            className="field"
            aria-label={`Reservation ${index + 1}`}
            required
            value={reservation.text}
            onChange={(event) => change(index, { text: event.target.value })}
          />
          <input
            className="field"
            type="date"
            aria-label={`Until, reservation ${index + 1}`}
            required
            value={reservation.dueOn}
            onChange={(event) => change(index, { dueOn: event.target.value })}
          />
          <button
            type="button"
            className="button button-quiet button-small"
            aria-label={`Remove reservation ${index + 1}`}
            disabled={list.length === 1}
            onClick={() => onChange(list.filter((_, at) => at !== index))}
          >
            ✕
          </button>
        </div>
      ))}
      <span>
        <button type="button" className="button button-small" onClick={() => onChange([...list, { text: '', dueOn: soon }])}>
          Another
        </button>
      </span>
    </fieldset>
  );
}
