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
        {persona.starts.map(({ applicationId, environmentId, how, userName, hasPassword, isUsual }) => (
          <li key={applicationId + environmentId}>
            <b>{nameOf(choices.applications, applicationId)}</b> in {nameOf(choices.environments, environmentId)}: {how}
            {userName !== '' && (
              <span className="text-soft">
                {' '}
                Runners: {userName}
                {hasPassword ? '' : ', without a password yet'}
                {isUsual && ', where a turn says nothing of whom'}
              </span>
            )}
          </li>
        ))}
        {persona.starts.length === 0 && <li className="text-soft">How it starts an application is not said yet.</li>}
      </ul>
    </section>
  );
}

type StartPart = 'how' | 'account' | 'password' | 'usual';
const toStartKey = (part: StartPart, applicationId: string, environmentId: string) => `${part} ${applicationId} ${environmentId}`;
/** Typed where a password was, it takes it away. */
const NO_PASSWORD = '-';

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
      const of = (part: StartPart) => values[toStartKey(part, application.id, environment.id)]?.trim() ?? '';
      const userName = of('account');
      if (of('how') === '' && userName === '') return [];
      const start = { applicationId: application.id, environmentId: environment.id, how: of('how') || `signs in as ${userName}`, userName };
      // A password that is not typed stays as it is.
      const password = of('password');
      return [
        { ...start, isUsual: of('usual') !== '', ...(password === '' ? {} : { password: password === NO_PASSWORD ? '' : password }) },
      ];
    });
    const input = fromForm<Given<'addPersona'>['input']>({ name: values['name'], description: values['description'], starts });
    await (persona ? change('savePersona', { params: { persona: persona.id }, input }) : change('addPersona', { input }));
    onClose();
  });
  const remove = async () => {
    if (persona && (await act('removePersona', { params: { persona: persona.id } }))) onClose();
  };
  const startOf = (applicationId: string, environmentId: string) =>
    persona?.starts.find((start) => start.applicationId === applicationId && start.environmentId === environmentId);
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
          <p className="hint mb-2">
            In words for people; and the account with which runners sign in. A password is kept sealed and never shown again; type{' '}
            {NO_PASSWORD} to take it away.
          </p>
          <div className="grid max-h-[300px] gap-2 overflow-auto pr-1">
            {places.map(({ application, environment }) => (
              <StartFields
                key={application.id + environment.id}
                place={`${application.name} in ${environment.name}`}
                toName={(part) => toStartKey(part, application.id, environment.id)}
                start={startOf(application.id, environment.id)}
              />
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

interface StartFieldsProps {
  readonly place: string;
  readonly toName: (part: StartPart) => string;
  readonly start: PersonaView['starts'][number] | undefined;
}

/** How the persona starts one application in one environment. */
function StartFields({ place, toName, start }: StartFieldsProps) {
  return (
    <div className="grid gap-x-3 gap-y-1 border-b border-line-2 pb-2 text-[13px] last:border-b-0 sm:grid-cols-[170px_1fr]">
      <span className="pt-1.5 font-semibold">{place}</span>
      <div className="grid gap-1">
        <input
          className="field"
          aria-label={`${place}: in words`}
          placeholder="In words"
          name={toName('how')}
          maxLength={1_000}
          defaultValue={start?.how ?? ''}
        />
        <div className="grid grid-cols-2 gap-2">
          <input
            className="field"
            aria-label={`${place}: account`}
            placeholder="Account for runners"
            name={toName('account')}
            maxLength={200}
            autoComplete="off"
            defaultValue={start?.userName ?? ''}
          />
          <input
            className="field"
            type="password"
            aria-label={`${place}: password`}
            placeholder={start?.hasPassword ? 'Password is kept' : 'Password'}
            name={toName('password')}
            maxLength={1_000}
            autoComplete="new-password"
          />
        </div>
        <label className="inline-flex items-center gap-1.5 text-soft">
          <input type="checkbox" name={toName('usual')} defaultChecked={start?.isUsual ?? false} /> where a turn says nothing of whom
        </label>
      </div>
    </div>
  );
}
