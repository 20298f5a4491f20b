import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import type { PoolView } from './describe-queue.ts';
import { toClock, WEEKDAYS } from './describe-hours.ts';

interface PoolDialogProps {
  /** null: a new one. */
  readonly pool: PoolView | null;
  readonly onClose: () => void;
}

const ALL_DAYS = [1, 2, 3, 4, 5, 6, 7];

/** 24:00 is written 00:00 by a field for times. */
const toMinutes = (clock: string, isEnd: boolean) => {
  const [hours = 0, minutes = 0] = clock.split(':').map(Number);
  const sum = hours * 60 + minutes;
  return isEnd && sum === 0 ? 1_440 : sum;
};

export function PoolDialog({ pool, onClose }: PoolDialogProps) {
  const { change, act } = useChanges();
  const [days, setDays] = useState<readonly number[]>(pool?.days ?? ALL_DAYS);
  const form = useForm(async (values) => {
    const hours = { opensAt: toMinutes(values['opensAt'] ?? '', false), closesAt: toMinutes(values['closesAt'] ?? '', true) };
    const input = { name: values['name'] ?? '', days: [...days], ...hours };
    await (pool ? change('savePool', { params: { pool: pool.id }, input }) : change('addPool', { input }));
    onClose();
  });
  const remove = async () => {
    if (pool && (await act('removePool', { params: { pool: pool.id } }, `${pool.name} is taken away; its turns are with nobody.`)))
      onClose();
  };
  const toggle = (day: number) => setDays(days.includes(day) ? days.filter((own) => own !== day) : [...days, day]);
  return (
    <DialogBox title={pool ? pool.name : 'New pool'} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          defaultValue={pool?.name ?? ''}
          hint="Turns are given to it by this name, such as: Office, Night"
          problem={form.problemOf('name')}
        />
        <fieldset className="mb-3">
          <legend className="label">Takes turns on</legend>
          <div className="flex flex-wrap gap-3">
            {WEEKDAYS.map((name, index) => (
              <label key={name} className="inline-flex items-center gap-1.5">
                <input type="checkbox" checked={days.includes(index + 1)} onChange={() => toggle(index + 1)} /> {name}
              </label>
            ))}
          </div>
          {form.problemOf('days') !== undefined && <p className="mt-1 font-semibold text-failed">{form.problemOf('days')}</p>}
        </fieldset>
        <div className="grid grid-cols-2 gap-3">
          <TextField
            label="From"
            name="opensAt"
            type="time"
            required
            defaultValue={toClock(pool?.opensAt ?? 0)}
            problem={form.problemOf('opensAt')}
          />
          <TextField
            label="To"
            name="closesAt"
            type="time"
            required
            defaultValue={toClock((pool?.closesAt ?? 1_440) % 1_440)}
            hint="00:00 is the end of the day"
            problem={form.problemOf('closesAt')}
          />
        </div>
        {pool && (
          <button type="button" className="button button-quiet button-small mb-2" onClick={() => void remove()}>
            Take this pool away
          </button>
        )}
        <FormFoot form={form} label="Save" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
