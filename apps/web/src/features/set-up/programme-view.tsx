import type { SeverityNames } from '@kindred-baton/core/defects/defect';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import { useChanges } from '../../client/use-changes.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useState } from 'react';
import { TextField } from '../../ui/field.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import { NewProgrammeDialog } from './new-programme-dialog.tsx';
import { TimeZoneField } from './time-zone-field.tsx';

/** The programme itself: its name, its time zone, how things are numbered, and who is told of defects. */
export function ProgrammeView({ setUp }: { readonly setUp: SetUp }) {
  const { base } = useProgramme();
  const { change } = useChanges();
  const notify = useNotice();
  const [isNew, setIsNew] = useState(false);
  const { programme } = setUp;
  const form = useForm(async (values) => {
    const { own, rest } = splitNames(values);
    const { namesTesters, ...said } = rest;
    await change('changeProgramme', { input: { ...said, severityNames: own, namesTesters: namesTesters !== undefined } });
    notify({ kind: 'done', text: 'Kept.' });
  });
  return (
    <>
      <form onSubmit={form.onSubmit} className="card max-w-[860px] px-5 py-4">
        <div className="grid gap-x-4 md:grid-cols-2">
          <TextField label="Name" name="name" required maxLength={200} defaultValue={programme.name} problem={form.problemOf('name')} />
          <TimeZoneField chosen={programme.timeZone} problem={form.problemOf('timeZone')} />
          <TextField
            label="How cycles are numbered"
            name="cycleScheme"
            required
            defaultValue={programme.cycleScheme}
            problem={form.problemOf('cycleScheme')}
            hint="9 is the next free number, {purpose} its first letters, {year} the year: {purpose}-9, R{year}.99"
          />
          <TextField
            label="What defects begin with"
            name="defectPrefix"
            required
            defaultValue={programme.defectPrefix}
            problem={form.problemOf('defectPrefix')}
            hint={`${programme.defectPrefix}-1, ${programme.defectPrefix}-2 …`}
          />
        </div>
        <fieldset>
          <legend className="mb-1 font-semibold">What severities of defects are called here</legend>
          <div className="grid gap-x-4 md:grid-cols-4">
            {SEVERITIES.map((severity) => (
              <TextField
                key={severity}
                label={severity}
                name={`${NAMED}${severity}`}
                maxLength={60}
                defaultValue={programme.severityNames[severity] ?? ''}
                placeholder={severity}
                problem={form.problemOf(`severityNames.${severity}`)}
              />
            ))}
          </div>
        </fieldset>
        <TextField
          label="Web hook for defects"
          name="defectHook"
          inputMode="url"
          defaultValue={programme.defectHook}
          problem={form.problemOf('defectHook')}
          placeholder="https://"
          hint={
            programme.hookProblem === ''
              ? 'Each change of a defect is sent there as JSON, in order; empty: nothing is sent.'
              : `Not taken yet: ${programme.hookProblem}. It is tried again.`
          }
        />
        <label className="mb-3 flex min-h-[28px] items-center gap-2">
          <input type="checkbox" name="namesTesters" defaultChecked={programme.namesTesters} />
          Progress may show testers side by side, by name
        </label>
        <p className="hint mb-3">
          Levels of the map ({programme.levels.join(' › ')}) and how its nodes are numbered ({programme.codeScheme.join(', ')}) are changed
          on{' '}
          <a className="underline" href={`${base}/map`}>
            the map
          </a>
          .
        </p>
        <FormFoot form={form} label="Keep" onCancel={() => location.reload()} />
      </form>
      <p className="mt-4">
        <button type="button" className="button" onClick={() => setIsNew(true)}>
          Found another programme
        </button>
      </p>
      {isNew && <NewProgrammeDialog onClose={() => setIsNew(false)} />}
    </>
  );
}

const NAMED = 'severity ';

/** The programme's own words for severities, apart from what else the form says. */
function splitNames(values: Readonly<Record<string, string>>) {
  const entries = Object.entries(values);
  const own = entries.flatMap(([name, text]) => (name.startsWith(NAMED) ? [[name.slice(NAMED.length), text]] : []));
  return {
    own: Object.fromEntries(own) as SeverityNames,
    rest: Object.fromEntries(entries.filter(([name]) => !name.startsWith(NAMED))),
  };
}
