import { and, eq, isNull, ne } from 'drizzle-orm';
import type { PersonId, ProgrammeId } from '@kindred-baton/core/ids';
import type { Actor } from '../actor.ts';
import type { Store } from '../database.ts';
import { perform } from '../operation.ts';
import { nameSecretPlace } from '../personas/personas.ts';
import { addPool } from '../runners/pools.ts';
import { addRunner } from '../runners/runners.ts';
import { people } from '../schema/people.ts';
import { personaStarts } from '../schema/personas.ts';
import { environments, members, programmes } from '../schema/programmes.ts';
import type { Seal } from '../secrets.ts';
import { pools, runners } from '../schema/runners.ts';

const POOL = 'Office';
const RUNNER = 'office-1';
const ALWAYS = { days: [1, 2, 3, 4, 5, 6, 7], opensAt: 0, closesAt: 1_440 };

/**
 * The demo's personas get the practice application's passwords, and its pool the runner of this machine; answers that runner's token where it is new.
 * What somebody has set or taken away stays as it is.
 */
export async function letDemoRunnersIn(
  store: Store,
  { seal, token }: { readonly seal: Seal; readonly token: string },
): Promise<string | undefined> {
  const [demo] = await store.db.select().from(programmes).where(eq(programmes.isDemo, true)).limit(1);
  if (!demo) return undefined;
  await setPasswords(store, demo.id, seal);
  if (token !== '' && (await hasRunner(store, demo.id))) return undefined;
  const [lead] = await store.db
    .select({ id: members.personId })
    .from(members)
    .innerJoin(people, eq(people.id, members.personId))
    .where(and(eq(members.programmeId, demo.id), eq(people.name, 'Lea Marsh'), isNull(members.leftAt)));
  if (!lead) return undefined;
  const { id: programmeId, key: programmeKey, name: programmeName, timeZone, severityNames } = demo;
  const actor: Actor = { programmeId, programmeKey, programmeName, timeZone, severityNames, personId: lead.id, roles: ['lead'] };
  const poolId = (await findPool(store, programmeId)) ?? (await perform(store, actor, addPool, { name: POOL, ...ALWAYS })).id;
  return (await perform(store, actor, addRunner, { poolId, name: RUNNER })).token;
}

async function hasRunner(store: Store, programmeId: ProgrammeId): Promise<boolean> {
  const [known] = await store.db
    .select({ id: runners.id })
    .from(runners)
    .where(and(eq(runners.programmeId, programmeId), eq(runners.name, RUNNER)));
  return known !== undefined;
}

async function findPool(store: Store, programmeId: ProgrammeId): Promise<PersonId | undefined> {
  const [pool] = await store.db
    .select({ id: pools.id })
    .from(pools)
    .innerJoin(people, eq(people.id, pools.id))
    .where(and(eq(pools.programmeId, programmeId), eq(people.name, POOL)));
  return pool?.id;
}

async function setPasswords(store: Store, programmeId: ProgrammeId, seal: Seal): Promise<void> {
  const starts = await store.db
    .select({ start: personaStarts, environment: environments.name })
    .from(personaStarts)
    .innerJoin(environments, eq(environments.id, personaStarts.environmentId))
    .where(and(eq(personaStarts.programmeId, programmeId), isNull(personaStarts.secret), ne(personaStarts.userName, '')));
  for (const { start, environment } of starts)
    await store.db
      .update(personaStarts)
      .set({ secret: seal(`practice-${environment.toLowerCase()}`, nameSecretPlace(start)) })
      .where(
        and(
          eq(personaStarts.personaId, start.personaId),
          eq(personaStarts.applicationId, start.applicationId),
          eq(personaStarts.environmentId, start.environmentId),
        ),
      );
}
