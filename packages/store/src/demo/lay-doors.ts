import { and, eq } from 'drizzle-orm';
import type { DoorKind, DoorSignIn } from '@kindred-baton/core/doors/door';
import type { Store } from '../database.ts';
import { createId } from '../ids.ts';
import { doors } from '../schema/doors.ts';
import { applications, environments, programmes } from '../schema/programmes.ts';
import type { Seal } from '../secrets.ts';

export interface PracticePlace {
  /** Where the practice application stands: http://host:port. */
  readonly address: string;
  /** Its database, as it opens it itself. */
  readonly databaseUrl: string;
}

interface DemoDoor {
  readonly name: string;
  readonly application: string;
  readonly kind: DoorKind;
  readonly signIn: DoorSignIn;
  readonly userOf: (environment: string) => string;
  readonly secretOf: (environment: string) => string;
  readonly addressOf: (place: PracticePlace, environment: string) => string;
}

const DOORS: readonly DemoDoor[] = [
  {
    ...{ name: 'Billing interface', application: 'Billing', kind: 'interface', signIn: 'bearer', userOf: () => '' },
    secretOf: (environment) => `practice-${environment}`,
    addressOf: ({ address }, environment) => `${address}/${environment}/billing/api`,
  },
  {
    ...{ name: 'Ledger database', application: 'Ledger', kind: 'database', signIn: 'none' },
    userOf: (environment) => `millrace_${environment}_reader`,
    secretOf: () => 'practice-reader',
    addressOf: ({ databaseUrl }) => {
      const url = new URL(databaseUrl);
      return `postgresql://${url.host}${url.pathname}`;
    },
  },
];

/** The doors that the demo's tests ask, where the practice application stands now. What people have set of them stays, but for an address of before. */
export async function layDemoDoors(store: Store, place: PracticePlace, seal: Seal): Promise<void> {
  const [demo] = await store.db.select({ id: programmes.id }).from(programmes).where(eq(programmes.isDemo, true)).limit(1);
  if (!demo) return;
  const places = await store.db
    .select({
      environmentId: environments.id,
      environment: environments.name,
      applicationId: applications.id,
      application: applications.name,
    })
    .from(environments)
    .innerJoin(applications, eq(applications.programmeId, environments.programmeId))
    .where(eq(environments.programmeId, demo.id));
  for (const { environmentId, environment, applicationId, application } of places)
    for (const door of DOORS.filter((one) => `Millrace ${one.application}` === application || one.application === application)) {
      const own = environment.toLowerCase();
      const address = door.addressOf(place, own);
      const [known] = await store.db
        .select({ id: doors.id, address: doors.address })
        .from(doors)
        .where(and(eq(doors.environmentId, environmentId), eq(doors.name, door.name)));
      if (known) {
        // Another port of this machine is the same practice application, started anew.
        if (new URL(known.address).hostname === '127.0.0.1') await store.db.update(doors).set({ address }).where(eq(doors.id, known.id));
        continue;
      }
      const id = createId<'door'>();
      await store.db.insert(doors).values({
        ...{ id, programmeId: demo.id, environmentId, applicationId, name: door.name, kind: door.kind, signIn: door.signIn, address },
        ...{ userName: door.userOf(own), secret: seal(door.secretOf(own), id) },
      });
    }
}
