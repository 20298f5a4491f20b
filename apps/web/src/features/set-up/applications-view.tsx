import type { Given } from '../../client/call.ts';
import { fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { TextField } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { DoorsCard } from '../doors/doors-card.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';

type Environment = SetUp['environments'][number];

/** Applications across, environments down, and in each cell where it is opened. */
export function ApplicationsView({ setUp }: { readonly setUp: SetUp }) {
  const { act } = useChanges();
  const [edited, setEdited] = useState<Environment | 'new' | null>(null);
  const [named, setNamed] = useState<{ readonly id: string; readonly name: string } | 'new' | null>(null);
  const { applications, environments } = setUp;
  return (
    <>
      <div className="card overflow-x-auto px-2">
        {applications.length + environments.length === 0 ? (
          <EmptyView title="No applications yet">
            Name the packaged applications that are tested, and the environments in which they are installed.
          </EmptyView>
        ) : (
          <InstallationTable setUp={setUp} onName={setNamed} onEdit={setEdited} />
        )}
      </div>
      <p className="mt-3 flex gap-2">
        <button type="button" className="button" onClick={() => setNamed('new')}>
          Add an application
        </button>
        <button type="button" className="button" onClick={() => setEdited('new')}>
          Add an environment
        </button>
      </p>
      <DoorsCard {...{ applications, environments }} />
      {named !== null && (
        <NameDialog
          application={named}
          onClose={() => setNamed(null)}
          onRemove={async (id) => {
            if (await act('removeApplication', { params: { id } }, 'Taken away.')) setNamed(null);
          }}
        />
      )}
      {edited !== null && (
        <EnvironmentDialog
          environment={edited}
          applications={applications}
          onClose={() => setEdited(null)}
          onRemove={async (id) => {
            if (await act('removeEnvironment', { params: { id } }, 'Taken away.')) setEdited(null);
          }}
        />
      )}
    </>
  );
}

interface NameDialogProps {
  readonly application: { readonly id: string; readonly name: string } | 'new';
  readonly onClose: () => void;
  readonly onRemove: (id: string) => Promise<void>;
}

function NameDialog({ application, onClose, onRemove }: NameDialogProps) {
  const { change } = useChanges();
  const form = useForm(async ({ name }) => {
    await (application === 'new'
      ? change('addApplication', { input: fromForm({ name }) })
      : change('saveApplication', { params: { id: application.id }, input: fromForm({ name }) }));
    onClose();
  });
  return (
    <DialogBox title={application === 'new' ? 'Add an application' : application.name} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          defaultValue={application === 'new' ? '' : application.name}
          problem={form.problemOf('name')}
        />
        <FormFoot form={form} label="Keep" onCancel={onClose}>
          {application !== 'new' && <Remove onRemove={() => void onRemove(application.id)} />}
        </FormFoot>
      </form>
    </DialogBox>
  );
}

interface EnvironmentDialogProps {
  readonly environment: Environment | 'new';
  readonly applications: SetUp['applications'];
  readonly onClose: () => void;
  readonly onRemove: (id: string) => Promise<void>;
}

function EnvironmentDialog({ environment, applications, onClose, onRemove }: EnvironmentDialogProps) {
  const { change } = useChanges();
  const own = environment === 'new' ? null : environment;
  const form = useForm(async ({ name, ...addresses }) => {
    const input = fromForm<Given<'addEnvironment'>['input']>({ name, addresses });
    await (own ? change('saveEnvironment', { params: { id: own.id }, input }) : change('addEnvironment', { input }));
    onClose();
  });
  return (
    <DialogBox title={own ? own.name : 'Add an environment'} isOpen onClose={onClose}>
      <form onSubmit={form.onSubmit}>
        <TextField label="Name" name="name" required maxLength={200} defaultValue={own?.name ?? ''} problem={form.problemOf('name')} />
        {applications.map(({ id, name }) => (
          <TextField
            key={id}
            label={`Address of ${name}`}
            name={id}
            inputMode="url"
            placeholder="https://"
            defaultValue={own?.addresses[id] ?? ''}
            problem={form.problemOf(`addresses.${id}`)}
          />
        ))}
        <FormFoot form={form} label="Keep" onCancel={onClose}>
          {own && <Remove onRemove={() => void onRemove(own.id)} />}
        </FormFoot>
      </form>
    </DialogBox>
  );
}

function Remove({ onRemove }: { readonly onRemove: () => void }) {
  return (
    <button type="button" className="button button-quiet text-failed" onClick={onRemove}>
      Take away
    </button>
  );
}

interface InstallationTableProps {
  readonly setUp: SetUp;
  readonly onName: (application: SetUp['applications'][number]) => void;
  readonly onEdit: (environment: Environment) => void;
}

function InstallationTable({ setUp: { applications, environments }, onName, onEdit }: InstallationTableProps) {
  return (
    <table className="grid-table">
      <thead>
        <tr>
          <th scope="col">Environment</th>
          {applications.map((application) => (
            <th key={application.id} scope="col">
              <button type="button" className="font-semibold hover:underline" onClick={() => onName(application)}>
                {application.name}
              </button>
              <span className="block font-normal">{countOf(application.uses, 'test')}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {environments.map((environment) => (
          <tr key={environment.id}>
            <th scope="row" className="border-b-line-2! text-ink!">
              <button type="button" className="font-bold hover:underline" onClick={() => onEdit(environment)}>
                {environment.name}
              </button>
              <span className="block font-normal text-soft">{countOf(environment.uses, 'cycle')}</span>
            </th>
            {applications.map(({ id }) => (
              <td key={id} className="max-w-[200px] truncate text-[13px]">
                {environment.addresses[id] ? (
                  <a className="underline" href={environment.addresses[id]} target="_blank" rel="noreferrer">
                    {environment.addresses[id].replace(/^https?:\/\//, '')}
                  </a>
                ) : (
                  <span className="text-soft">–</span>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
