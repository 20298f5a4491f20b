import { and, asc, eq, sql } from 'drizzle-orm';
import type { DoorKind, DoorSignIn } from '@kindred-baton/core/doors/door';
import type { CycleId, EnvironmentId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { cycleEnvironments, cycles } from '../schema/cycles.ts';
import { doors } from '../schema/doors.ts';

/** A door whose secret is still sealed, with what it is sealed to. */
export interface SealedDoor {
  readonly name: string;
  readonly kind: DoorKind;
  readonly address: string;
  readonly signIn: DoorSignIn;
  readonly user: string;
  readonly secret: Buffer | null;
  readonly place: string;
}

export const toSealedDoor = ({ id, name, kind, address, signIn, userName, secret }: typeof doors.$inferSelect): SealedDoor => ({
  ...{ name, kind, address, signIn, user: userName, secret, place: id },
});

/** The doors of the environments in which a cycle tests each application. One query. */
export async function loadDoors({ db, actor }: ReadContext, cycleId: CycleId): Promise<SealedDoor[]> {
  const rows = await db
    .select({ door: doors })
    .from(doors)
    .innerJoin(cycles, eq(cycles.id, cycleId))
    .leftJoin(cycleEnvironments, and(eq(cycleEnvironments.cycleId, cycleId), eq(cycleEnvironments.applicationId, doors.applicationId)))
    .where(
      and(
        eq(doors.programmeId, actor.programmeId),
        eq(doors.environmentId, sql`coalesce(${cycleEnvironments.environmentId}, ${cycles.environmentId})`),
      ),
    )
    .orderBy(asc(doors.name), asc(doors.id));
  return rows.map(({ door }) => toSealedDoor(door));
}

export async function loadEnvironmentDoors({ db, actor }: ReadContext, environmentId: EnvironmentId): Promise<SealedDoor[]> {
  const rows = await db
    .select()
    .from(doors)
    .where(and(eq(doors.programmeId, actor.programmeId), eq(doors.environmentId, environmentId)))
    .orderBy(asc(doors.name), asc(doors.id));
  return rows.map(toSealedDoor);
}
