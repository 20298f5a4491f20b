import type { RunnersView } from '@kindred-baton/contracts/runners/runner';
import { useState } from 'react';
import { useChanges } from '../../client/use-changes.ts';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField, TextField } from '../../ui/field.tsx';
import { useCopy } from '../../ui/use-copy.ts';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

interface AddRunnerProps {
  readonly pools: RunnersView['pools'];
  readonly onClose: () => void;
}

/** Lets a machine in. Its token is shown once, with the command that starts it. */
export function AddRunner({ pools, onClose }: AddRunnerProps) {
  const { change } = useChanges();
  const [token, setToken] = useState<string | null>(null);
  const form = useForm(async ({ name = '', poolId }) => {
    const added = await change('addRunner', { input: { name, poolId: (poolId ?? '') as never } });
    setToken(added.token);
  });
  if (token !== null) return <TokenDialog token={token} onClose={onClose} />;
  return (
    <DialogBox title="Add a runner" isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField label="Name" name="name" required maxLength={200} hint="Such as: north-2" problem={form.problemOf('name')} />
        <SelectField label="Pool" name="poolId" required problem={form.problemOf('poolId')}>
          {pools.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        <FormFoot form={form} label="Add it" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}

function TokenDialog({ token, onClose }: { readonly token: string; readonly onClose: () => void }) {
  const { base } = useProgramme();
  const copyText = useCopy();
  const command = [
    `KINDRED_BATON_RUNNER_ADDRESS=${window.location.origin}${base}`,
    `KINDRED_BATON_RUNNER_TOKEN=${token}`,
    'npm run runner',
  ].join(' \\\n  ');
  return (
    <DialogBox title="The runner’s token" isOpen onClose={onClose} width={640}>
      <p>
        This token is shown <b>now and never again</b>. It opens the turns of this pool in this programme, and nothing else. Start the
        runner on its machine with it; Node.js and Chromium are all that it needs there.
      </p>
      <pre className="mt-3 overflow-x-auto rounded-control bg-band px-3 py-2 font-mono text-[13px]" data-token={token}>
        {command}
      </pre>
      <p className="mt-4 flex justify-end gap-2">
        <button type="button" className="button" onClick={() => void copyText(command)}>
          Copy
        </button>
        <button type="button" className="button button-primary" onClick={onClose}>
          I have it
        </button>
      </p>
    </DialogBox>
  );
}
