import { leaveTo } from '../../client/leave-to.ts';
import type { Form } from '../../ui/use-form.tsx';
import { fromForm } from '../../client/call.ts';
import { toMessage } from '../../client/request.ts';
import { useRead } from '../../client/use-read.ts';
import { useChanges } from '../../client/use-changes.ts';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import type { CyclePurpose } from '@kindred-baton/core/cycles/cycle';
import { CYCLE_PURPOSES } from '@kindred-baton/core/cycles/cycle';
import type { CycleRules } from '@kindred-baton/core/cycles/rules';
import { DEFAULT_RULES } from '@kindred-baton/core/cycles/rules';
import { addDays } from '@kindred-baton/core/time/calendar';
import { useState } from 'react';
import { SelectField, TextField } from '../../ui/field.tsx';
import { countOf, formatMinutes, getToday } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { SidePanel } from '../../ui/side-panel.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import type { Chosen } from './scope/choose-scope.ts';
import { measureChosen, toScopeItems } from './scope/choose-scope.ts';
import { RulesFields } from './rules-fields.tsx';
import { ScopePicker } from './scope/scope-picker.tsx';

export interface NewCycleContent {
  readonly choices: Choices;
}

export function NewCycleApp({ content, ...frame }: PageProps<NewCycleContent>) {
  return (
    <AppFrame {...frame} area="cycles">
      <NewCycle content={content} />
    </AppFrame>
  );
}

const FIRST_DAYS = 18;

function NewCycle({ content }: { readonly content: NewCycleContent }) {
  const { base, can } = useProgramme();
  const { change } = useChanges();
  const { data: scope, error } = useRead('getCycleScope', {});
  const [chosen, setChosen] = useState<Chosen>(new Map());
  const [purpose, setPurpose] = useState<CyclePurpose>('acceptance');
  const [code, setCode] = useState<string | null>(null);
  const [rules, setRules] = useState<CycleRules>(DEFAULT_RULES);
  const form = useForm(async (values) => {
    const { code: made } = await change('createCycle', { input: fromForm({ ...values, rules, scope: toScopeItems(chosen) }) });
    leaveTo(`${base}/cycles/${made}`);
  });
  const size = measureChosen(scope?.scenarios ?? [], chosen);
  if (!can('run cycles')) return <PageTitle title="Only the lead plans cycles" />;
  return (
    <form onSubmit={form.onSubmit}>
      <PageTitle
        title="Plan a cycle"
        about={
          size.runs === 0
            ? 'choose scenarios and their data rows'
            : `${countOf(size.runs, 'run')}, ${countOf(size.turns, 'turn')}, ${formatMinutes(size.minutes)} of work`
        }
      />
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
        {scope ? (
          <ScopePicker scope={scope} chosen={chosen} onChange={setChosen} />
        ) : (
          <p className="text-soft">{error ? toMessage(error) : 'Gathering what can be taken in …'}</p>
        )}
        <SidePanel label="The cycle">
          <div className="px-4 py-4">
            <TextField
              label="Name"
              name="name"
              required
              maxLength={200}
              placeholder="Acceptance round 3"
              problem={form.problemOf('name')}
            />
            <TextField
              label="Code"
              name="code"
              required
              maxLength={40}
              value={code ?? scope?.suggestedCodes[purpose] ?? ''}
              onChange={(event) => setCode(event.target.value)}
              problem={form.problemOf('code')}
            />
            <SelectField
              label="Purpose"
              name="purpose"
              value={purpose}
              onChange={(event) => setPurpose(event.target.value as CyclePurpose)}
            >
              {CYCLE_PURPOSES.map((own) => (
                <option key={own}>{own}</option>
              ))}
            </SelectField>
            <WhereWhenWho content={content} form={form} />
            <details className="mb-3">
              <summary className="font-semibold">Rules</summary>
              <div className="mt-2">
                <RulesFields rules={rules} onChange={setRules} />
              </div>
            </details>
            {form.problemOf('scope') && (
              <p role="alert" className="mb-3 font-semibold text-failed">
                {form.problemOf('scope')}
              </p>
            )}
            <p className="hint mb-4">
              Every leg becomes a turn and goes to the person of its lane with the least work. Nothing begins until you open the cycle.
            </p>
            <FormFoot form={form} label="Plan it" onCancel={() => leaveTo(`${base}/cycles`)} />
          </div>
        </SidePanel>
      </div>
    </form>
  );
}

/** In which environment, from when to when, and whose it is. */
function WhereWhenWho({ content: { choices }, form }: { readonly content: NewCycleContent; readonly form: Form }) {
  const { timeZone, nowMs, viewer } = useProgramme();
  const today = getToday(timeZone, nowMs);
  return (
    <>
      <SelectField label="Environment" name="environmentId" problem={form.problemOf('environmentId')}>
        {choices.environments.map((environment) => (
          <option key={environment.id} value={environment.id}>
            {environment.name}
          </option>
        ))}
      </SelectField>
      <div className="grid grid-cols-2 gap-3">
        <TextField label="From" name="startsOn" type="date" required defaultValue={today} problem={form.problemOf('startsOn')} />
        <TextField
          label="To"
          name="endsOn"
          type="date"
          required
          defaultValue={addDays(today, FIRST_DAYS)}
          problem={form.problemOf('endsOn')}
        />
      </div>
      <SelectField label="Owner" name="ownerId" defaultValue={viewer.person.id} problem={form.problemOf('ownerId')}>
        {choices.people.map((person) => (
          <option key={person.id} value={person.id}>
            {person.name}
          </option>
        ))}
      </SelectField>
    </>
  );
}
