import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import type { ApplicationId, EnvironmentId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { nameSecretPlace } from '../personas/personas.ts';
import type { cycles } from '../schema/cycles.ts';
import { cycleEnvironments } from '../schema/cycles.ts';
import { personas, personaStarts } from '../schema/personas.ts';
import { applications, environments, installations } from '../schema/programmes.ts';

/** An application as it stands in the environment in which it is tested. */
export interface Place {
  readonly name: string;
  readonly applicationId: ApplicationId;
  readonly environmentId: EnvironmentId;
  readonly address: string;
}

/** A password as it is stored, with what it is sealed to. */
export interface SealedAccount {
  readonly persona: string;
  readonly application: string;
  readonly user: string;
  readonly secret: Buffer | null;
  readonly place: string;
}

/** Where each application stands in one environment. */
export function loadEnvironmentPlaces({ db, actor }: ReadContext, environmentId: EnvironmentId): Promise<Place[]> {
  return db
    .select({
      name: applications.name,
      applicationId: applications.id,
      environmentId: installations.environmentId,
      address: installations.address,
    })
    .from(installations)
    .innerJoin(applications, eq(applications.id, installations.applicationId))
    .where(and(eq(installations.environmentId, environmentId), eq(applications.programmeId, actor.programmeId)));
}

export const toAccounts = (starts: Awaited<ReturnType<typeof loadStarts>>): SealedAccount[] =>
  starts.map(({ persona, application, userName, secret, ...start }) => ({
    ...{ persona, application, user: userName, secret, place: nameSecretPlace(start) },
  }));

/** Where each application stands in the cycle's environments. */
export function loadCyclePlaces({ db, actor }: ReadContext, cycleId: typeof cycles.$inferSelect.id, usual: EnvironmentId) {
  return db
    .select({ name: applications.name, applicationId: applications.id, environmentId: environments.id, address: installations.address })
    .from(applications)
    .leftJoin(cycleEnvironments, and(eq(cycleEnvironments.applicationId, applications.id), eq(cycleEnvironments.cycleId, cycleId)))
    .innerJoin(environments, eq(environments.id, sql`coalesce(${cycleEnvironments.environmentId}, ${usual})`))
    .innerJoin(installations, and(eq(installations.applicationId, applications.id), eq(installations.environmentId, environments.id)))
    .where(eq(applications.programmeId, actor.programmeId));
}

export async function loadStarts({ db, actor }: ReadContext, places: readonly Place[]) {
  if (places.length === 0) return [];
  const rows = await db
    .select({
      ...{ persona: personas.name, application: applications.name, userName: personaStarts.userName, secret: personaStarts.secret },
      ...{ personaId: personas.id, applicationId: personaStarts.applicationId, environmentId: personaStarts.environmentId },
      isUsual: personaStarts.isUsual,
    })
    .from(personaStarts)
    .innerJoin(personas, and(eq(personas.id, personaStarts.personaId), eq(personas.programmeId, actor.programmeId)))
    .innerJoin(applications, eq(applications.id, personaStarts.applicationId))
    .where(
      and(isNotNull(personaStarts.secret), inArray(personaStarts.environmentId, [...new Set(places.map((place) => place.environmentId))])),
    );
  const here = new Set(places.map(({ applicationId, environmentId }) => `${applicationId} ${environmentId}`));
  return rows.filter(({ applicationId, environmentId }) => here.has(`${applicationId} ${environmentId}`));
}
