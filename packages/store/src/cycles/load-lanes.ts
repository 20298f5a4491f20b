import type { CyclePlanView } from '@kindred-baton/contracts/cycles/plan';
import type { PersonId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { DAY_BEGINS, listWorkMinutes } from '@kindred-baton/core/time/work-days';
import { and, asc, eq, gte, isNull } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { isTester } from '../programmes/is-tester.ts';
import { people } from '../schema/people.ts';
import { absences, members, teamMembers, teams } from '../schema/programmes.ts';

interface Span {
  readonly firstDay: string;
  readonly days: number;
}

/** The teams and the people in them who test, with the minutes that they have on each of so many days. Three queries. */
export async function loadLanes(
  { db, actor }: Pick<ReadContext, 'db' | 'actor'>,
  { firstDay, days }: Span,
): Promise<Pick<CyclePlanView, 'teams' | 'people'>> {
  const here = actor.programmeId;
  const [teamRows, personRows, awayRows] = await Promise.all([
    db.select().from(teams).where(eq(teams.programmeId, here)).orderBy(asc(teams.position), asc(teams.name)),
    db
      .select({ id: people.id, name: people.name, teamId: teamMembers.teamId, hoursPerDay: teamMembers.hoursPerDay })
      .from(teamMembers)
      .innerJoin(teams, eq(teams.id, teamMembers.teamId))
      .innerJoin(people, eq(people.id, teamMembers.personId))
      .innerJoin(members, and(eq(members.personId, people.id), eq(members.programmeId, here), isNull(members.leftAt), isTester))
      .where(eq(teams.programmeId, here))
      .orderBy(asc(people.name), asc(teams.position)),
    db
      .select()
      .from(absences)
      .where(and(eq(absences.programmeId, here), gte(absences.lastDay, firstDay)))
      .orderBy(asc(absences.firstDay)),
  ]);
  const hoursOf = new Map(teamRows.map((team) => [team.id, team]));
  const awayOf = new Map<PersonId, typeof awayRows>();
  for (const away of awayRows) pushTo(awayOf, away.personId, away);
  const rowsOf = new Map<PersonId, typeof personRows>();
  for (const row of personRows) pushTo(rowsOf, row.id, row);
  return {
    teams: teamRows.map((team) => ({
      ...{ id: team.id, name: team.name, hoursPerDay: team.hoursPerDay, startsAt: DAY_BEGINS },
      minutesByDay: listWorkMinutes(firstDay, days, team),
    })),
    people: [...rowsOf].flatMap(([id, own]) => {
      const [first] = own;
      const team = first && hoursOf.get(first.teamId);
      if (!team) return [];
      const away = awayOf.get(id) ?? [];
      const hours = { ...team, hoursPerDay: first.hoursPerDay ?? team.hoursPerDay };
      return [
        {
          ...{ id, name: first.name, teams: own.map(({ teamId }) => teamId as string), startsAt: DAY_BEGINS },
          minutesByDay: listWorkMinutes(firstDay, days, hours, away),
          absences: away.map(({ firstDay: from, lastDay, note }) => ({ firstDay: from, lastDay, note })),
        },
      ];
    }),
  };
}
