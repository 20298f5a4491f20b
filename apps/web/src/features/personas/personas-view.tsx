import type { Given } from '../../client/call.ts';
import { fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import type { PersonaView } from '@kindred-baton/contracts/personas/persona';
import Plus from 'lucide-react/icons/plus';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { TextArea, TextField } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

/** As whom steps are done, and how each starts an application in an environment. */
export function PersonasView() {
  const { can } = useProgramme();
  const [editing, setEditing] = useState<PersonaView | 'new' | null>(null);
  const { data } = useRead('listPersonas', {});
  const { data: choices } = useRead('getChoices', {});
  if (!data || !choices) return <PageTitle title="Personas" about="Asking …" />;
  return (
    <>
      <PageTitle title="Personas" about={`${countOf(data.personas.length, 'persona')}: somebody as whom a step or a test is done`}>
        {can('edit tests') && (
          <button type="button" className="button button-primary" onClick={() => setEditing('new')}>
            <Plus size={17} aria-hidden /> New persona
          </button>
        )}
      </PageTitle>
      {data.personas.length === 0 ? (
        <div className="card">
          <EmptyView title="No persona yet">
            A field planner, an accountant: who does a step, and how that person starts each application.
          </EmptyView>
        </div>
      ) : (
        <div className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
          {data.personas.map((persona) => (
            <PersonaCard
              key={persona.id}
              persona={persona}
              choices={choices}
              onEdit={can('edit tests') ? () => setEditing(persona) : null}
            />
          ))}
        </div>
      )}
      {editing !== null && (
        <PersonaDialog persona={editing === 'new' ? null : editing} choices={choices} onClose={() => setEditing(null)} />
      )}
    </>
  );
}

interface PersonaCardProps {
  readonly persona: PersonaView;
  readonly choices: Choices;
  readonly onEdit: (() => void) | null;
}

function PersonaCard({ persona, choices, onEdit }: PersonaCardProps) {
  const nameOf = (list: readonly { id: string; name: string }[], id: string) => list.find((each) => each.id === id)?.name ?? '';
  return (
    <section className="card px-4 py-3" aria-label={persona.name}>
      <div className="flex items-center justify-between gap-2">
        <h2 className="min-w-0 truncate">{persona.name}</h2>
        {onEdit && (
          <button type="button" className="button button-quiet button-small" onClick={onEdit} aria-label={`Change ${persona.name}`}>
            Change
          </button>
        )}
      </div>
      {persona.description !== '' && <p className="mt-0.5 text-[13px] text-soft">{persona.description}</p>}
      <ul className="mt-2 grid gap-1.5 text-[13px]">
        {persona.starts.map(({ applicationId, environmentId, how }) => (
          <li key={applicationId + environmentId}>
            <b>{nameOf(choices.applications, applicationId)}</b> in {nameOf(choices.environments, environmentId)}: {how}
          </li>
        ))}
        {persona.starts.length === 0 && <li className="text-soft">How it starts an application is not said yet.</li>}
      </ul>
    </section>
  );
}

const toStartKey = (applicationId: string, environmentId: string) => `how ${applicationId} ${environmentId}`;

function PersonaDialog({
  persona,
  choices,
  onClose,
}: {
  readonly persona: PersonaView | null;
  readonly choices: Choices;
  readonly onClose: () => void;
}) {
  const { change, act } = useChanges();
  const places = choices.applications.flatMap((application) => choices.environments.map((environment) => ({ application, environment })));
  const form = useForm(async (values) => {
    const starts = places.flatMap(({ application, environment }) => {
      const how = values[toStartKey(application.id, environment.id)]?.trim() ?? '';
      return how === '' ? [] : [{ applicationId: application.id, environmentId: environment.id, how }];
    });
    const input = fromForm<Given<'addPersona'>['input']>({ name: values['name'], description: values['description'], starts });
    await (persona ? change('savePersona', { params: { persona: persona.id }, input }) : change('addPersona', { input }));
    onClose();
  });
  const remove = async () => {
    if (persona && (await act('removePersona', { params: { persona: persona.id } }))) onClose();
  };
  const howOf = (applicationId: string, environmentId: string) =>
    persona?.starts.find((start) => start.applicationId === applicationId && start.environmentId === environmentId)?.how ?? '';
  return (
    <DialogBox title={persona ? persona.name : 'New persona'} isOpen onClose={onClose} width={640}>
      <form onSubmit={form.onSubmit}>
        <TextField
          label="Name"
          name="name"
          required
          maxLength={200}
          defaultValue={persona?.name ?? ''}
          hint="Such as: field planner"
          problem={form.problemOf('name')}
        />
        <TextArea
          label="Who that is"
          name="description"
          rows={2}
          defaultValue={persona?.description ?? ''}
          problem={form.problemOf('description')}
        />
        <fieldset className="mb-3">
          <legend className="label">How it starts each application</legend>
          <p className="hint mb-2">Which sign-in, which role, where the password is kept; not the password itself.</p>
          <div className="grid max-h-[300px] gap-2 overflow-auto pr-1">
            {places.map(({ application, environment }) => (
              <label key={application.id + environment.id} className="grid items-center gap-x-3 text-[13px] sm:grid-cols-[210px_1fr]">
                <span>
                  {application.name} in {environment.name}
                </span>
                <input
                  className="field"
                  name={toStartKey(application.id, environment.id)}
                  maxLength={1_000}
                  defaultValue={howOf(application.id, environment.id)}
                />
              </label>
            ))}
          </div>
        </fieldset>
        {persona && (
          <button type="button" className="button button-quiet button-small mb-2" onClick={() => void remove()}>
            Remove this persona
          </button>
        )}
        <FormFoot form={form} label="Save" onCancel={onClose} />
      </form>
    </DialogBox>
  );
}
