import type { PersonId, TeamId } from '@kindred-baton/core/ids';
import type { Doer } from '@kindred-baton/core/turns/decide/runs-state';
import { and, eq } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { teamMembers, teams } from '../schema/programmes.ts';

/** The actor, with her name and the lanes of the programme that she is in. */
export async function loadDoer(context: Pick<ReadContext, 'db' | 'actor'>): Promise<Doer> {
  const { db, actor } = context;
  const [[person], own] = await Promise.all([
    db.select({ name: people.name }).from(people).where(eq(people.id, actor.personId)),
    loadTeamsOf(context, actor.personId),
  ]);
  return { personId: actor.personId, name: person?.name ?? '', roles: actor.roles, teams: own, runnerId: actor.runnerId ?? null };
}

export async function loadTeamsOf({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, personId: PersonId): Promise<TeamId[]> {
  const rows = await db
    .select({ id: teams.id })
    .from(teamMembers)
    .innerJoin(teams, and(eq(teams.id, teamMembers.teamId), eq(teams.programmeId, actor.programmeId)))
    .where(eq(teamMembers.personId, personId));
  return rows.map(({ id }) => id);
}
