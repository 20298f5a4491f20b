import type { CycleScope } from '@kindred-baton/contracts/cycles/cycle';
import type { Choices } from '@kindred-baton/contracts/programmes/programme';
import { CYCLE_PURPOSES } from '@kindred-baton/core/cycles/cycle';
import { addDays } from '@kindred-baton/core/cycles/calendar';
import { useState } from 'react';
import { SelectField, TextField } from '../../ui/field.tsx';
import { countOf, formatMinutes, getToday } from '../../ui/format.ts';
import { PageTitle } from '../../ui/page-title.tsx';
import { sendJson } from '../../ui/request.ts';
import { SidePanel } from '../../ui/side-panel.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { AppFrame } from '../frame/app-frame.tsx';
import type { PageProps } from '../frame/app-frame.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { useInScope } from '../frame/use-in-scope.ts';
import { ScopeTable } from './scope-table.tsx';

export interface NewCycleContent {
  readonly scope: CycleScope;
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
  const { api, base, timeZone, nowMs, can } = useProgramme();
  const inScope = useInScope();
  const { scope, choices } = content;
  const [chosen, setChosen] = useState<ReadonlyMap<string, ReadonlySet<string>>>(new Map());
  const scenarios = scope.scenarios.filter((scenario) => inScope(scenario.node.code));
  const form = useForm(async (values) => {
    const picked = [...chosen].map(([scenarioId, rowIds]) => ({ scenarioId, rowIds: [...rowIds] }));
    const { code } = await sendJson<{ code: string }>('POST', `${api}/cycles`, { ...values, scope: picked });
    location.href = `${base}/cycles/${code}`;
  });
  const runs = [...chosen.values()].reduce((sum, rows) => sum + Math.max(1, rows.size), 0);
  const turns = scope.scenarios.reduce(
    (sum, scenario) => sum + (chosen.has(scenario.id) ? Math.max(1, chosen.get(scenario.id)?.size ?? 0) * scenario.legs : 0),
    0,
  );
  const minutes = scope.scenarios.reduce(
    (sum, scenario) => sum + (chosen.has(scenario.id) ? Math.max(1, chosen.get(scenario.id)?.size ?? 0) * scenario.minutes : 0),
    0,
  );
  const today = getToday(timeZone, nowMs);
  if (!can('run cycles')) return <PageTitle title="Only the lead plans cycles" />;
  return (
    <form onSubmit={form.onSubmit}>
      <PageTitle
        title="Plan a cycle"
        about={
          runs === 0
            ? 'choose scenarios and their data rows'
            : `${countOf(runs, 'run')}, ${countOf(turns, 'turn')}, ${formatMinutes(minutes)} of work`
        }
      />
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_320px]">
        <ScopeTable scenarios={scenarios} chosen={chosen} onChange={setChosen} />
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
              defaultValue={scope.suggestedCode}
              problem={form.problemOf('code')}
            />
            <SelectField label="Purpose" name="purpose" defaultValue="acceptance">
              {CYCLE_PURPOSES.map((purpose) => (
                <option key={purpose}>{purpose}</option>
              ))}
            </SelectField>
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
            {form.problemOf('scope') && (
              <p role="alert" className="mb-3 font-semibold text-failed">
                {form.problemOf('scope')}
              </p>
            )}
            <p className="hint mb-4">
              Every leg becomes a turn and goes to the person of its lane with the least work. Nothing begins until you open the cycle.
            </p>
            <FormFoot form={form} label="Plan it" onCancel={() => (location.href = `${base}/cycles`)} />
          </div>
        </SidePanel>
      </div>
    </form>
  );
}
