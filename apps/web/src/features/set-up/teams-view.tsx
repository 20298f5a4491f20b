import type { Given } from '../../client/call.ts';
import { call, fromForm } from '../../client/call.ts';
import { useChanges } from '../../client/use-changes.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { EmptyView } from '../../ui/empty-view.tsx';
import { TextField } from '../../ui/field.tsx';
import { countOf, formatDay, getToday } from '../../ui/format.ts';
import { toMessage } from '../../client/request.ts';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import { FramedTable } from '../../ui/framed-table.tsx';
import { useProgramme } from '../frame/programme-context.tsx';

type Team = SetUp['teams'][number];
const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Teams with their days, hours and holidays: what the plan of every cycle is computed from. */
export function TeamsView({ setUp }: { readonly setUp: SetUp }) {
  const [edited, setEdited] = useState<Team | 'new' | null>(null);
  return (
    <>
      <div className="card">
        {setUp.teams.length === 0 ? (
          <EmptyView title="No teams yet">
            A team tests for one part of the business. Its days and hours decide whether a cycle fits.
          </EmptyView>
        ) : (
          <FramedTable heads={['Team', 'People', 'Days', 'Hours a day', 'Holidays to come', 'Tests']} isBare>
            {setUp.teams.map((team) => (
              <TeamRow key={team.id} team={team} onEdit={() => setEdited(team)} />
            ))}
          </FramedTable>
        )}
      </div>
      <p className="mt-3">
        <button type="button" className="button" onClick={() => setEdited('new')}>
          Add a team
        </button>
      </p>
      {edited !== null && (
        <TeamDialog key={edited === 'new' ? 'new' : edited.id} team={edited === 'new' ? null : edited} onClose={() => setEdited(null)} />
      )}
    </>
  );
}

function TeamRow({ team, onEdit }: { readonly team: Team; readonly onEdit: () => void }) {
  const { timeZone, nowMs } = useProgramme();
  const coming = team.holidays.filter((day) => day >= getToday(timeZone, nowMs));
  return (
    <tr>
      <th scope="row" className="border-b-line-2! text-ink!">
        <button type="button" className="flex items-center gap-2 font-bold hover:underline" onClick={onEdit}>
          <span className="h-3 w-3 rounded-[3px]" style={{ background: team.colour }} aria-hidden />
          {team.name}
        </button>
      </th>
      <td>{team.people}</td>
      <td>{team.workingDays.map((day) => WEEKDAYS[day - 1]).join(' ')}</td>
      <td>{team.hoursPerDay}</td>
      <td className="text-[13px]" suppressHydrationWarning>
        {coming.length === 0 ? (
          <span className="text-soft">none</span>
        ) : (
          `${coming.slice(0, 3).map(formatDay).join(', ')}${coming.length > 3 ? `, ${coming.length - 3} more` : ''}`
        )}
        {team.holidayRegion !== '' && <span className="text-soft"> {team.holidayRegion}</span>}
      </td>
      <td>{team.uses}</td>
    </tr>
  );
}

const FIRST_COLOURS = ['#4C6FA5', '#6B7F3A', '#2F7F86', '#8A5A83', '#9A6B3F', '#5C6470'];

function TeamDialog({ team, onClose }: { readonly team: Team | null; readonly onClose: () => void }) {
  const { change, act } = useChanges();
  const [days, setDays] = useState<readonly number[]>(team?.workingDays ?? [1, 2, 3, 4, 5]);
  const [holidays, setHolidays] = useState<readonly string[]>(team?.holidays ?? []);
  const [region, setRegion] = useState(team?.holidayRegion ?? '');
  const form = useForm(async ({ name, colour, hoursPerDay }) => {
    const fields = { name, colour, hoursPerDay: Number(hoursPerDay), workingDays: days, holidays, holidayRegion: region };
    const body = fromForm<Given<'addTeam'>['input']>(fields);
    await (team ? change('saveTeam', { params: { id: team.id }, input: body }) : change('addTeam', { input: body }));
    onClose();
  });
  const remove = async () => {
    if (team && (await act('removeTeam', { params: { id: team.id } }, `${team.name} is taken away.`))) onClose();
  };
  return (
    <DialogBox title={team ? team.name : 'Add a team'} isOpen onClose={onClose} width={620}>
      <form onSubmit={form.onSubmit}>
        <div className="grid grid-cols-[1fr_90px_130px] gap-3">
          <TextField label="Name" name="name" required maxLength={200} defaultValue={team?.name ?? ''} problem={form.problemOf('name')} />
          <TextField
            label="Colour"
            name="colour"
            type="color"
            defaultValue={team?.colour ?? FIRST_COLOURS[0]}
            problem={form.problemOf('colour')}
          />
          <TextField
            label="Hours a day"
            name="hoursPerDay"
            type="number"
            min={0.25}
            max={24}
            step={0.25}
            required
            defaultValue={team?.hoursPerDay ?? 2}
            problem={form.problemOf('hoursPerDay')}
          />
        </div>
        <fieldset className="mb-3">
          <legend className="label">Working days</legend>
          <div className="flex flex-wrap gap-3">
            {WEEKDAYS.map((name, index) => (
              <label key={name} className="flex min-h-[24px] items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={days.includes(index + 1)}
                  onChange={(event) => setDays(event.target.checked ? [...days, index + 1] : days.filter((day) => day !== index + 1))}
                />
                {name}
              </label>
            ))}
          </div>
          {form.problemOf('workingDays') && <p className="mt-1 text-[13px] font-semibold text-failed">{form.problemOf('workingDays')}</p>}
        </fieldset>
        <HolidayFields holidays={holidays} region={region} onHolidays={setHolidays} onRegion={setRegion} />
        <FormFoot form={form} label="Keep" onCancel={onClose}>
          {team && (
            <button type="button" className="button button-quiet text-failed" onClick={() => void remove()}>
              Take away
            </button>
          )}
        </FormFoot>
      </form>
    </DialogBox>
  );
}

interface HolidayFieldsProps {
  readonly holidays: readonly string[];
  readonly region: string;
  readonly onHolidays: (holidays: readonly string[]) => void;
  readonly onRegion: (region: string) => void;
}

/** Holidays by hand, or the public ones of a country or region for this year and the next. */
function HolidayFields({ holidays, region, onHolidays, onRegion }: HolidayFieldsProps) {
  const { api, timeZone, nowMs } = useProgramme();
  const [names, setNames] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const year = Number(getToday(timeZone, nowMs).slice(0, 4));
  const take = async () => {
    setProblem(null);
    try {
      const input = { region, from: `${year}-01-01`, to: `${year + 1}-12-31` };
      const { holidays: found } = await call(api, 'listHolidays', { input });
      setNames(Object.fromEntries(found.map(({ day, name }) => [day, name])));
      onHolidays([...new Set([...holidays, ...found.map(({ day }) => day)])].sort());
    } catch (error) {
      setProblem(toMessage(error));
    }
  };
  return (
    <fieldset className="mb-4">
      <legend className="label">Holidays</legend>
      <div className="flex flex-wrap items-center gap-2">
        <input
          className="field w-[110px]!"
          aria-label="Country or region"
          placeholder="GB, DE-BY"
          value={region}
          onChange={(event) => onRegion(event.target.value.toUpperCase())}
        />
        <button type="button" className="button button-small" disabled={region.trim() === ''} onClick={() => void take()}>
          Take its public holidays
        </button>
        <input
          className="field w-auto!"
          type="date"
          aria-label="Another holiday"
          onChange={(event) => event.target.value !== '' && onHolidays([...new Set([...holidays, event.target.value])].sort())}
        />
      </div>
      {problem !== null && (
        <p role="alert" className="mt-1 text-[13px] font-semibold text-failed">
          {problem}
        </p>
      )}
      <ul className="mt-2 flex max-h-[150px] flex-wrap gap-1.5 overflow-y-auto">
        {holidays.map((day) => (
          <li key={day}>
            <button
              type="button"
              className="tag min-h-[24px] hover:border-soft"
              aria-label={`Remove ${formatDay(day)}`}
              onClick={() => onHolidays(holidays.filter((own) => own !== day))}
            >
              {formatDay(day)} {day.slice(0, 4)}
              {names[day] && ` ${names[day]}`} ✕
            </button>
          </li>
        ))}
      </ul>
      <p className="hint mt-1">{countOf(holidays.length, 'day')} on which this team does not work.</p>
    </fieldset>
  );
}
