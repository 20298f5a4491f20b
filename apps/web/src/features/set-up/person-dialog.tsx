import { useChanges } from '../../client/use-changes.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { SelectField } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { RoleFields } from './role-fields.tsx';

type Person = SetUp['people'][number];

interface PersonDialogProps {
  readonly person: Person;
  readonly setUp: SetUp;
  readonly onClose: () => void;
}

/** Roles, teams with hours of her own, and absences; and how she leaves. */
export function PersonDialog({ person, setUp, onClose }: PersonDialogProps) {
  const changes = useChanges();
  const [roles, setRoles] = useState<readonly Role[]>(person.roles);
  const [teams, setTeams] = useState(person.teams);
  const [absences, setAbsences] = useState(person.absences);
  const form = useForm(async () => {
    await changes.change('savePerson', { params: { id: person.id }, input: { roles, teams, absences } });
    onClose();
  });
  const change = (index: number, part: Partial<(typeof absences)[number]>) =>
    setAbsences(absences.map((own, at) => (at === index ? { ...own, ...part } : own)));
  return (
    <DialogBox title={person.name} isOpen onClose={onClose} width={620}>
      <form onSubmit={form.onSubmit}>
        <RoleFields roles={roles} onChange={setRoles} problem={form.problemOf('roles')} />
        <TeamFields setUp={setUp} teams={teams} onChange={setTeams} />
        <fieldset className="mb-4">
          <legend className="label">Away</legend>
          <ul className="grid gap-2">
            {absences.map((absence, index) => (
              <li key={index} className="grid grid-cols-[140px_140px_1fr_auto] gap-2">
                <input
                  type="date"
                  className="field"
                  aria-label={`Away from, ${index + 1}`}
                  required
                  value={absence.firstDay}
                  onChange={(event) => change(index, { firstDay: event.target.value })}
                />
                <input
                  type="date"
                  className="field"
                  aria-label={`Away until, ${index + 1}`}
                  required
                  value={absence.lastDay}
                  onChange={(event) => change(index, { lastDay: event.target.value })}
                />
                <input
                  className="field"
                  aria-label={`Why away, ${index + 1}`}
                  placeholder="Why (optional)"
                  value={absence.note}
                  onChange={(event) => change(index, { note: event.target.value })}
                />
                <button
                  type="button"
                  className="button button-quiet button-small"
                  aria-label={`Remove absence ${index + 1}`}
                  onClick={() => setAbsences(absences.filter((_, at) => at !== index))}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
          {form.problemOf('absences') && <p className="mt-1 text-[13px] font-semibold text-failed">{form.problemOf('absences')}</p>}
          <button
            type="button"
            className="button button-small mt-1"
            onClick={() => setAbsences([...absences, { firstDay: '', lastDay: '', note: '' }])}
          >
            Add days away
          </button>
        </fieldset>
        <FormFoot form={form} label="Keep" onCancel={onClose} />
      </form>
      <p className="mt-4 border-t border-line-2 pt-3 text-[13px]">
        <button
          type="button"
          className="button button-small mr-3"
          onClick={() =>
            void changes.act('sendPasswordLink', { params: { id: person.id } }, `A link for a new password goes to ${person.email}.`)
          }
        >
          Send a link for a new password
        </button>
        It works once, and for an hour.
      </p>
      <Leave person={person} setUp={setUp} onDone={onClose} />
    </DialogBox>
  );
}

interface TeamFieldsProps {
  readonly setUp: SetUp;
  readonly teams: Person['teams'];
  readonly onChange: (teams: Person['teams']) => void;
}

function TeamFields({ setUp, teams, onChange }: TeamFieldsProps) {
  return (
    <fieldset className="mb-3">
      <legend className="label">Teams</legend>
      <ul className="grid gap-1 sm:grid-cols-2">
        {setUp.teams.map((team) => {
          const own = teams.find(({ id }) => id === team.id);
          return (
            <li key={team.id} className="flex min-h-[34px] items-center justify-between gap-2">
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={own !== undefined}
                  onChange={(event) =>
                    onChange(
                      event.target.checked ? [...teams, { id: team.id, hoursPerDay: null }] : teams.filter(({ id }) => id !== team.id),
                    )
                  }
                />
                {team.name}
              </label>
              {own && (
                <input
                  type="number"
                  className="field w-[88px]!"
                  aria-label={`Hours a day in ${team.name}`}
                  placeholder={`${team.hoursPerDay} h`}
                  min={0.25}
                  max={24}
                  step={0.25}
                  value={own.hoursPerDay ?? ''}
                  onChange={(event) =>
                    onChange(
                      teams.map((each) =>
                        each.id === team.id
                          ? { ...each, hoursPerDay: event.target.value === '' ? null : Number(event.target.value) }
                          : each,
                      ),
                    )
                  }
                />
              )}
            </li>
          );
        })}
      </ul>
    </fieldset>
  );
}

/** She leaves: what she did stays, what is with her goes to somebody. */
function Leave({ person, setUp, onDone }: { readonly person: Person; readonly setUp: SetUp; readonly onDone: () => void }) {
  const { act } = useChanges();
  const [to, setTo] = useState('');
  const others = setUp.people.filter(({ id, leftAt }) => id !== person.id && leftAt === null);
  return (
    <details className="mt-4 border-t border-line-2 pt-3">
      <summary className="w-fit font-semibold">{person.name} leaves the programme</summary>
      <p className="mt-2 mb-2">
        What {person.name} did stays in that name. {countOf(person.turns, 'turn')} that {person.turns === 1 ? 'is' : 'are'} left{' '}
        {person.turns === 1 ? 'goes' : 'go'} to somebody, an attempt under way ends as blocked, and nobody gets in with that account any
        more.
      </p>
      <SelectField label="What is left goes to" value={to} onChange={(event) => setTo(event.target.value)}>
        <option value="">nobody yet: the lead gives it out</option>
        {others.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </SelectField>
      <button
        type="button"
        className="button"
        onClick={() =>
          void act('leaveProgramme', { params: { id: person.id }, input: { handTo: to || null } }, `${person.name} has left.`).then(
            (isDone) => isDone && onDone(),
          )
        }
      >
        {person.name} leaves
      </button>
    </details>
  );
}
