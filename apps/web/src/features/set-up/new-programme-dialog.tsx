import { leaveTo } from '../../client/leave-to.ts';
import { fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/field.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { TimeZoneField } from './time-zone-field.tsx';

const DEFAULT_LEVELS = 'Value stream, Process, Activity';

/** A programme from nothing: name, address, time zone, levels of its map. Whoever founds it leads it. */
export function NewProgrammeDialog({ onClose }: { readonly onClose: () => void }) {
  const { timeZone } = useProgramme();
  const { change } = useChanges();
  const [name, setName] = useState('');
  const [key, setKey] = useState<string | null>(null);
  const form = useForm(async ({ levels = '', ...values }) => {
    const names = levels
      .split(',')
      .map((level) => level.trim())
      .filter((level) => level !== '');
    const made = await change('createProgramme', { input: fromForm({ ...values, levels: names }) });
    leaveTo(`/${made.key}/set-up`);
  });
  return (
    <DialogBox title="Found a programme" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
          problem={form.problemOf('name')}
        />
        <TextField
          label="Address"
          name="key"
          required
          value={key ?? toKey(name)}
          onChange={(event) => setKey(event.target.value)}
          problem={form.problemOf('key')}
          hint="Small letters, digits, hyphens; it stands in every link."
        />
        <TimeZoneField chosen={timeZone} problem={form.problemOf('timeZone')} />
        <TextField
          label="Levels of the process map"
          name="levels"
          required
          defaultValue={DEFAULT_LEVELS}
          problem={form.problemOf('levels')}
          hint="Two to six, from the top, with commas between."
        />
        <FormFoot form={form} label="Found it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}

function toKey(name: string): string {
  return name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '')
    .slice(0, 40);
}
