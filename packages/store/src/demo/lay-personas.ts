import type { Id, ProgrammeId } from '@kindred-baton/core/ids';
import { personas, personaStarts } from '../schema/personas.ts';
import type { DemoTools } from './lay-programme.ts';

interface DemoPersona {
  readonly name: string;
  readonly description: string;
  /** The application that it starts, and its sign-in there. */
  readonly application: string;
  readonly signIn: string;
  /** Said where it is not the one with whom most work is done there. */
  readonly isUsual?: false;
}

const DEMO_PERSONAS: readonly DemoPersona[] = [
  {
    name: 'desk clerk',
    description: 'Answers the telephone, opens applications and complaints.',
    application: 'Customer',
    signIn: 'DESK01',
  },
  { name: 'crew planner', description: 'Gives jobs to crews and moves them.', application: 'Works', signIn: 'PLAN01' },
  { name: 'billing clerk', description: 'Prices quotes and checks bills.', application: 'Billing', signIn: 'BILL01' },
  {
    name: 'billing lead',
    description: 'Reprices, waives and releases above 1,000.00.',
    application: 'Billing',
    signIn: 'BILL09',
    isUsual: false,
  },
  { name: 'meter reader', description: 'Plans rounds, takes readings in, registers meters.', application: 'Metering', signIn: 'METR01' },
  { name: 'store keeper', description: 'Takes goods in and gives them out.', application: 'Stores', signIn: 'STOR01' },
  { name: 'accountant', description: 'Posts and matches payments.', application: 'Ledger', signIn: 'LEDG01' },
];

/** Who steps are done as, and how each starts its application in every environment. */
export async function layPersonas(
  { db, id }: DemoTools,
  programmeId: ProgrammeId,
  {
    applicationOf,
    environmentOf,
  }: { applicationOf: ReadonlyMap<string, Id<'application'>>; environmentOf: ReadonlyMap<string, Id<'environment'>> },
): Promise<void> {
  const rows = DEMO_PERSONAS.map((persona) => ({ ...persona, id: id<'persona'>() }));
  await db.insert(personas).values(rows.map(({ id: personaId, name, description }) => ({ id: personaId, programmeId, name, description })));
  const starts = rows.flatMap(({ id: personaId, application, signIn, isUsual }) => {
    const applicationId = applicationOf.get(application);
    return applicationId === undefined
      ? []
      : [...environmentOf].map(([name, environmentId]) => ({
          ...{ personaId, applicationId, environmentId },
          ...{ userName: signIn, isUsual: isUsual ?? true },
          how: `signs in as ${signIn}; the practice password stands on the sign-in page of ${name}.`,
        }));
  });
  await db.insert(personaStarts).values(starts);
}
