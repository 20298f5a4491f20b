import { useChanges } from '../../client/use-changes.ts';
import type { SetUp } from '@kindred-baton/contracts/programmes/programme';
import { useState } from 'react';
import { countOf, formatDay } from '../../ui/format.ts';
import { Moment } from '../../ui/moment.tsx';
import { FramedTable } from '../../ui/framed-table.tsx';
import { InviteDialog } from './invite-dialog.tsx';
import { PersonDialog } from './person-dialog.tsx';

/** People with their roles, teams and absences; who was invited and has not come; who has left. */
export function PeopleView({ setUp }: { readonly setUp: SetUp }) {
  const { act } = useChanges();
  const [edited, setEdited] = useState<string | null>(null);
  const [isInviting, setIsInviting] = useState(false);
  const teamOf = new Map(setUp.teams.map(({ id, name }) => [id, name]));
  const person = setUp.people.find(({ id }) => id === edited);
  return (
    <>
      <p className="mb-2">
        <button type="button" className="button button-small" onClick={() => setIsInviting(true)}>
          Invite people
        </button>
      </p>
      <FramedTable heads={['Name', 'Roles', 'Teams', 'Away', 'Turns left']}>
        {setUp.people.map(({ id, name, email, roles, teams, absences, turns, leftAt }) => (
          <tr key={id} className={leftAt === null ? '' : 'text-soft'}>
            <td>
              <button
                type="button"
                className="text-left font-semibold hover:underline"
                disabled={leftAt !== null}
                onClick={() => setEdited(id)}
              >
                {name}
              </button>
              <span className="block text-[13px] text-soft">{email}</span>
            </td>
            <td>{leftAt === null ? roles.join(', ') : <span>left {<Moment at={leftAt} />}</span>}</td>
            <td>
              {teams
                .map(({ id: team, hoursPerDay }) => `${teamOf.get(team) ?? ''}${hoursPerDay === null ? '' : ` (${hoursPerDay} h)`}`)
                .join(', ')}
            </td>
            <td className="text-[13px]">
              {absences
                .map(({ firstDay, lastDay }) =>
                  firstDay === lastDay ? formatDay(firstDay) : `${formatDay(firstDay)} to ${formatDay(lastDay)}`,
                )
                .join(', ')}
            </td>
            <td>{turns}</td>
          </tr>
        ))}
      </FramedTable>
      {setUp.invitations.length > 0 && (
        <section className="card mt-4" aria-labelledby="invited">
          <h2 id="invited" className="border-b border-line-2 px-4 py-2.5">
            Invited, not here yet <span className="font-normal text-soft">{setUp.invitations.length}</span>
          </h2>
          <ul className="px-4">
            {setUp.invitations.map(({ id, name, email, roles, invitedBy, invitedAt }) => (
              <li key={id} className="flex items-center justify-between gap-3 border-b border-line-2 py-2 last:border-b-0">
                <span>
                  <b>{name}</b> <span className="text-[13px] text-soft">{email}</span>
                  <span className="block text-[13px] text-soft">
                    {roles.join(', ')} · by {invitedBy}, <Moment at={invitedAt} />
                  </span>
                </span>
                <button
                  type="button"
                  className="button button-small"
                  aria-label={`Take the invitation of ${name} back`}
                  onClick={() => void act('revokeInvitation', { params: { id } }, `The invitation of ${name} is taken back.`)}
                >
                  Take back
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <p className="mt-2 text-[13px] text-soft">
        {countOf(setUp.people.filter(({ leftAt }) => leftAt === null).length, 'person', 'people')} in all.
      </p>
      {person && <PersonDialog key={person.id} person={person} setUp={setUp} onClose={() => setEdited(null)} />}
      {isInviting && <InviteDialog setUp={setUp} onClose={() => setIsInviting(false)} />}
    </>
  );
}
