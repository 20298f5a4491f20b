import { useChanges } from '../../client/use-changes.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import type { Role } from '@kindred-baton/core/programmes/roles';
import { useState } from 'react';
import { DialogBox } from '../../ui/dialog.tsx';
import { TextArea } from '../../ui/field.tsx';
import { countOf } from '../../ui/format.ts';
import { useNotice } from '../../ui/notices.tsx';
import { FormFoot, useForm } from '../../ui/use-form.tsx';
import type { PeopleReading } from './read-people-list.ts';
import { readPeopleList } from './read-people-list.ts';
import { RoleFields } from './role-fields.tsx';

/** Asks one person or a whole list to come: lines as they come out of a spreadsheet or an address book. */
export function InviteDialog({ setUp, onClose }: { readonly setUp: SetUp; readonly onClose: () => void }) {
  const { change } = useChanges();
  const notify = useNotice();
  const [text, setText] = useState('');
  const [roles, setRoles] = useState<readonly Role[]>(['tester']);
  const [team, setTeam] = useState('');
  const { people, problems } = readPeopleList(text, setUp.teams, { roles, teamIds: team === '' ? [] : [team] });
  const form = useForm(async () => {
    const { invited, added, known } = await change('invitePeople', { input: { people } });
    const said = [
      ...(invited > 0 ? [`${countOf(invited, 'person gets', 'people get')} a letter.`] : []),
      ...(added > 0 ? [`${countOf(added, 'person', 'people')} with an account ${added === 1 ? 'is' : 'are'} in at once.`] : []),
      ...(known.length > 0 ? [`Here already: ${known.join(', ')}.`] : []),
    ];
    notify({ kind: 'done', text: said.join(' ') });
    onClose();
  });
  return (
    <DialogBox title="Invite people" isOpen onClose={onClose} width={640}>
      <form onSubmit={form.onSubmit}>
        <TextArea
          label="Names and mail addresses, a line each"
          rows={5}
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={'Ines Varga <ines.varga@example.org>\nBram Tolley\tbram@example.org\ttester\tBilling'}
          hint="Paste from a spreadsheet: name, address, and if you like role and team."
          problem={form.problemOf('people')}
        />
        {problems.length > 0 && (
          <ul className="mb-3 grid gap-1 text-[13px] text-failed">
            {problems.map((problem) => (
              <li key={problem}>{problem}</li>
            ))}
          </ul>
        )}
        <p className="mb-1 text-[13px] text-soft">For lines that name none:</p>
        <RoleFields roles={roles} onChange={setRoles} />
        <label className="label" htmlFor="invite-team">
          Team
        </label>
        <select id="invite-team" className="field mb-4" value={team} onChange={(event) => setTeam(event.target.value)}>
          <option value="">no team</option>
          {setUp.teams.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        <Listed people={people} setUp={setUp} />
        <FormFoot
          form={form}
          label={people.length > 0 ? `Invite ${countOf(people.length, 'person', 'people')}` : 'Invite'}
          onCancel={onClose}
        />
      </form>
    </DialogBox>
  );
}

const SHOWN = 8;

/** Who would get a letter, as what and in which team: seen before any goes out. */
function Listed({ people, setUp }: { readonly people: PeopleReading['people']; readonly setUp: SetUp }) {
  if (people.length === 0) return null;
  const nameOf = new Map<string, string>(setUp.teams.map(({ id, name }) => [id, name]));
  return (
    <ul className="mb-4 grid gap-0.5 text-[13px]" aria-label="Who is invited">
      {people.slice(0, SHOWN).map(({ name, email, roles, teamIds }) => (
        <li key={email}>
          <b>{name}</b> <span className="text-soft">{email}</span> · {roles.join(', ')} ·{' '}
          {teamIds.length === 0 ? 'no team' : teamIds.map((id) => nameOf.get(id)).join(', ')}
        </li>
      ))}
      {people.length > SHOWN && <li className="text-soft">and {people.length - SHOWN} more</li>}
    </ul>
  );
}
