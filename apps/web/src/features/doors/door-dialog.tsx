import type { DoorView } from '@kindred-baton/contracts/doors/door';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import type { DoorKind, DoorSignIn } from '@kindred-baton/core/doors/door';
import { useState } from 'react';
import type { Given } from '../../client/call.ts';
import { fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextField } from '../../ui/field.tsx';
import type { Form } from '../../ui/use-form.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';

interface DoorDialogProps extends Pick<SetUp, 'applications' | 'environments'> {
  readonly door: DoorView | 'new';
  readonly onClose: () => void;
}

export function DoorDialog({ door, applications, environments, onClose }: DoorDialogProps) {
  const { change, act } = useChanges();
  const own = door === 'new' ? null : door;
  const form = useForm(async ({ secret = '', isCleared, ...values }) => {
    const kept = isCleared === 'on' ? { secret: '' } : secret === '' ? {} : { secret };
    const input = fromForm<Given<'addDoor'>['input']>({ ...values, ...kept });
    await (own ? change('saveDoor', { params: { door: own.id }, input }) : change('addDoor', { input }));
    onClose();
  });
  const remove = async () => {
    if (own && (await act('removeDoor', { params: { door: own.id } }, 'Taken away.'))) onClose();
  };
  return (
    <DialogBox title={own ? own.name : 'Add a door'} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit} autoComplete="off">
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          defaultValue={own?.name ?? ''}
          hint="Steps name it so"
          problem={form.problemOf('name')}
        />
        <div className="grid gap-x-4 sm:grid-cols-2">
          <Choice label="Environment" name="environmentId" rows={environments} value={own?.environmentId} form={form} />
          <Choice label="Application" name="applicationId" rows={applications} value={own?.applicationId} form={form} />
        </div>
        <Opening door={own} form={form} />
        <FormFoot form={form} label="Keep" onCancel={onClose}>
          {own && (
            <button type="button" className="button button-quiet text-failed" onClick={() => void remove()}>
              Take away
            </button>
          )}
        </FormFoot>
      </form>
    </DialogBox>
  );
}

interface ChoiceProps {
  readonly label: string;
  readonly name: string;
  readonly rows: readonly { readonly id: string; readonly name: string }[];
  readonly value: string | undefined;
  readonly form: Form;
}

function Choice({ label, name, rows, value, form }: ChoiceProps) {
  return (
    <SelectField label={label} name={name} required defaultValue={value} problem={form.problemOf(name)}>
      {rows.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </SelectField>
  );
}

const SIGN_INS: Readonly<Record<DoorSignIn, string>> = {
  none: 'Nothing: it is open',
  bearer: 'A bearer token',
  basic: 'A user and a password',
  header: 'A field of the header',
};

/** What kind of door it is, where, and what opens it. A secret is set and never shown. */
function Opening({ door, form }: { readonly door: DoorView | null; readonly form: Form }) {
  const [kind, setKind] = useState<DoorKind>(door?.kind ?? 'interface');
  const [signIn, setSignIn] = useState<DoorSignIn>(door?.signIn ?? 'none');
  const isDatabase = kind === 'database';
  const hasSecret = isDatabase || signIn !== 'none';
  return (
    <>
      <div className="grid gap-x-4 sm:grid-cols-2">
        <SelectField label="Kind" name="kind" value={kind} onChange={(event) => setKind(event.target.value as DoorKind)}>
          <option value="interface">Interface (HTTP)</option>
          <option value="database">Database (PostgreSQL, only read)</option>
        </SelectField>
        {isDatabase ? (
          <input type="hidden" name="signIn" value="none" />
        ) : (
          <SelectField label="Opened by" name="signIn" value={signIn} onChange={(event) => setSignIn(event.target.value as DoorSignIn)}>
            {Object.entries(SIGN_INS).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </SelectField>
        )}
      </div>
      <TextField
        label="Address"
        name="address"
        required
        placeholder={isDatabase ? 'postgresql://host:5432/database' : 'https://host/api'}
        defaultValue={door?.address ?? ''}
        hint={isDatabase ? 'Without user and password' : 'Where the paths of questions begin'}
        problem={form.problemOf('address')}
      />
      {(isDatabase || signIn === 'basic' || signIn === 'header') && (
        <TextField
          label={signIn === 'header' && !isDatabase ? 'Field of the header' : 'User'}
          name="userName"
          defaultValue={door?.userName ?? ''}
          problem={form.problemOf('userName')}
        />
      )}
      {hasSecret && (
        <TextField
          label={isDatabase || signIn === 'basic' ? 'Password' : 'Secret'}
          name="secret"
          type="password"
          autoComplete="new-password"
          placeholder={door?.hasSecret ? 'is set; left empty it stays' : ''}
          hint="Sealed where it is kept, and never shown. Another address needs it anew."
          problem={form.problemOf('secret')}
        />
      )}
      {hasSecret && door?.hasSecret && (
        <label className="mb-3 inline-flex items-center gap-2">
          <input type="checkbox" name="isCleared" /> Forget the one that is set
        </label>
      )}
    </>
  );
}
