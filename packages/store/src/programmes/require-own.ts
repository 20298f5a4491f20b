import { and, eq, isNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ApplicationId, EnvironmentId, PersonId, TeamId } from '@kindred-baton/core/ids';
import type { Context } from '../operation.ts';
import { isPerson } from './is-person.ts';
import { applications, environments, members, teams } from '../schema/programmes.ts';

export interface Reference {
  readonly teamId?: TeamId | null | undefined;
  readonly applicationId?: ApplicationId | null | undefined;
  readonly environmentId?: EnvironmentId | null | undefined;
  readonly ownerId?: PersonId | null | undefined;
}

/** Refuses ids of teams, applications, environments and people that are not this programme's. */
export async function requireOwn({ db, actor }: Context, reference: Reference): Promise<void> {
  const here = actor.programmeId;
  const { teamId, applicationId, environmentId, ownerId } = reference;
  const found = await Promise.all([
    teamId
      ? db
          .select({ id: teams.id })
          .from(teams)
          .where(and(eq(teams.id, teamId), eq(teams.programmeId, here)))
      : [1],
    applicationId
      ? db
          .select({ id: applications.id })
          .from(applications)
          .where(and(eq(applications.id, applicationId), eq(applications.programmeId, here)))
      : [1],
    environmentId
      ? db
          .select({ id: environments.id })
          .from(environments)
          .where(and(eq(environments.id, environmentId), eq(environments.programmeId, here)))
      : [1],
    ownerId
      ? db
          .select({ id: members.personId })
          .from(members)
          .where(and(eq(members.personId, ownerId), eq(members.programmeId, here), isNull(members.leftAt), isPerson))
      : [1],
  ]);
  const missing = ['team', 'application', 'environment', 'person'].filter((_, i) => found[i]?.length === 0);
  if (missing.length > 0) throw new AppError('invalid', `This programme has no such ${missing.join(' and no such ')}.`);
}
