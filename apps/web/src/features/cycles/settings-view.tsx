import type { Form } from '../../ui/use-form.tsx';
import { fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import { useRead } from '../../client/use-read.ts';
import type { ChangeCycle, CycleDetail } from '@kindred-baton/contracts/cycles/cycle';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import { CYCLE_PURPOSES } from '@kindred-baton/core/cycles/cycle';
import type { CycleRules } from '@kindred-baton/core/cycles/rules';
import { useState } from 'react';
import { SelectField, TextField } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { FormProblem, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { DocumentFields } from './document-fields.tsx';
import { RulesFields } from './rules-fields.tsx';

/** What the cycle is and by which rules it is run. Once it is open every change asks why. */
export function SettingsView({ cycle }: { readonly cycle: CycleDetail }) {
  const { can } = useProgramme();
  const { change } = useChanges();
  const notify = useNotice();
  const { data: choices } = useRead('getChoices', {});
  const [rules, setRules] = useState<CycleRules>(cycle.rules);
  const [documents, setDocuments] = useState(cycle.documents);
  const [isChanged, setIsChanged] = useState(false);
  const isPlanning = cycle.state === 'planning';
  const form = useForm(async (values) => {
    const input = fromForm<ChangeCycle>(toChange(cycle, values, { rules, documents }));
    await change('changeCycle', { params: { code: cycle.code }, input });
    setIsChanged(false);
    notify({ kind: 'done', text: 'Kept.' });
  });
  if (!choices) return <p className="text-soft">Loading …</p>;
  const isLocked = !can('run cycles') || cycle.state === 'closed';
  return (
    <form onSubmit={form.onSubmit} onInput={() => setIsChanged(true)} className="grid gap-4">
      <section className="card px-5 py-4" aria-labelledby="cycle-basics">
        <h2 id="cycle-basics" className="mb-3 text-[17px]">
          The cycle
        </h2>
        <fieldset disabled={isLocked} className="grid gap-x-4 md:grid-cols-3">
          <TextField label="Name" name="name" required maxLength={200} defaultValue={cycle.name} problem={form.problemOf('name')} />
          <SelectField label="Purpose" name="purpose" defaultValue={cycle.purpose}>
            {CYCLE_PURPOSES.map((purpose) => (
              <option key={purpose}>{purpose}</option>
            ))}
          </SelectField>
          <SelectField label="Owner" name="ownerId" defaultValue={cycle.ownerId ?? ''}>
            <option value="">Nobody</option>
            {choices.people.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
          <TextField
            label="From"
            name="startsOn"
            type="date"
            required
            disabled={!isPlanning}
            defaultValue={cycle.startsOn}
            problem={form.problemOf('startsOn')}
          />
          <TextField label="To" name="endsOn" type="date" required defaultValue={cycle.endsOn} problem={form.problemOf('endsOn')} />
          <Environment label="Environment" name="environmentId" choices={choices} chosen={cycle.environmentId} />
        </fieldset>
        <Elsewhere cycle={cycle} choices={choices} isLocked={isLocked} />
      </section>
      <section className="card px-5 py-4" aria-labelledby="cycle-rules">
        <h2 id="cycle-rules" className="mb-3 text-[17px]">
          Rules
        </h2>
        <RulesFields rules={rules} onChange={setRules} isDisabled={isLocked} />
      </section>
      <section className="card px-5 py-4" aria-labelledby="cycle-documents">
        <h2 id="cycle-documents" className="mb-3 text-[17px]">
          Documents
        </h2>
        <DocumentFields documents={documents} onChange={setDocuments} isDisabled={isLocked} />
        {form.problemOf('documents') && <p className="mt-1 text-[13px] font-semibold text-failed">{form.problemOf('documents')}</p>}
      </section>
      {!isLocked && <Keep form={form} asksWhy={!isPlanning} isChanged={isChanged} />}
    </form>
  );
}

interface EnvironmentProps {
  readonly label: string;
  readonly name: string;
  readonly choices: Choices;
  readonly chosen: string;
  readonly none?: string;
}

function Environment({ label, name, choices, chosen, none }: EnvironmentProps) {
  return (
    <SelectField label={label} name={name} defaultValue={chosen}>
      {none !== undefined && <option value="">{none}</option>}
      {choices.environments.map((environment) => (
        <option key={environment.id} value={environment.id}>
          {environment.name}
        </option>
      ))}
    </SelectField>
  );
}

type Made = Pick<CycleDetail, 'documents'> & { readonly rules: CycleRules };

/** Only what differs is sent, so that the history says what was changed. */
function toChange(cycle: CycleDetail, values: Readonly<Record<string, string>>, { rules, documents }: Made): ChangeCycle {
  const wanted = {
    ...{ name: values['name'], purpose: values['purpose'], ownerId: values['ownerId'] || null, endsOn: values['endsOn'] },
    ...{ environmentId: values['environmentId'], ...(values['startsOn'] === undefined ? {} : { startsOn: values['startsOn'] }) },
    ...{ rules, documents },
  };
  const before = cycle as unknown as Record<string, unknown>;
  const differs = Object.entries(wanted).filter(([name, value]) => JSON.stringify(before[name]) !== JSON.stringify(value));
  const elsewhere = Object.entries(values).flatMap(([name, environmentId]) =>
    name.startsWith('application ') && environmentId !== '' ? [{ applicationId: name.slice(12), environmentId }] : [],
  );
  const isSame =
    JSON.stringify(sortById(elsewhere)) ===
    JSON.stringify(sortById(cycle.environments.map(({ applicationId, environmentId }) => ({ applicationId, environmentId }))));
  return {
    ...Object.fromEntries(differs),
    ...(isSame ? {} : { environments: elsewhere }),
    ...(values['why'] ? { why: values['why'] } : {}),
  } as ChangeCycle;
}

const sortById = (items: readonly { readonly applicationId: string; readonly environmentId: string }[]) =>
  [...items].sort((a, b) => (a.applicationId < b.applicationId ? -1 : 1));

/** Applications that are tested in another environment than the cycle's. */
function Elsewhere({ cycle, choices, isLocked }: { readonly cycle: CycleDetail; readonly choices: Choices; readonly isLocked: boolean }) {
  return (
    <details className="mt-1">
      <summary className="font-semibold">
        Applications that are tested elsewhere{' '}
        {cycle.environments.length > 0 && <span className="font-normal text-soft">{cycle.environments.length}</span>}
      </summary>
      <fieldset disabled={isLocked} className="mt-2 grid gap-x-4 md:grid-cols-3">
        {choices.applications.map(({ id, name }) => (
          <Environment
            key={id}
            label={name}
            name={`application ${id}`}
            choices={choices}
            chosen={cycle.environments.find(({ applicationId }) => applicationId === id)?.environmentId ?? ''}
            none="the cycle’s environment"
          />
        ))}
      </fieldset>
    </details>
  );
}

/** Once the cycle is open, what is changed asks why. It stays in sight from the first change on. */
function Keep({ form, asksWhy, isChanged }: { readonly form: Form; readonly asksWhy: boolean; readonly isChanged: boolean }) {
  return (
    <div className={`card px-5 py-3 ${isChanged ? 'sticky bottom-2 shadow-float' : ''}`}>
      <FormProblem form={form} />
      <div className="flex flex-wrap items-center gap-3">
        {asksWhy && (
          <input
            className="field w-auto! min-w-[240px] flex-1"
            name="why"
            maxLength={2_000}
            aria-label="Why it is changed"
            placeholder="Why it is changed: kept with who changed it, since the cycle is open"
          />
        )}
        <button type="submit" className="button button-primary ml-auto" disabled={form.isBusy}>
          {form.isBusy ? 'Keeping …' : 'Keep'}
        </button>
      </div>
    </div>
  );
}
