import { randomUUID } from 'node:crypto';
import type { OpenDoor } from '@kindred-baton/doors/door';
import { readerOf } from '@kindred-baton/millrace/data/reader';
import type { Millrace } from '@kindred-baton/millrace/open-millrace';
import { openMillrace } from '@kindred-baton/millrace/open-millrace';
import type { BrowserHost } from '@kindred-baton/runner/browser/start-browser';
import { startBrowser } from '@kindred-baton/runner/browser/start-browser';
import type { Session } from '@kindred-baton/runner/browser/open-session';
import { openSession } from '@kindred-baton/runner/browser/open-session';
import { createReach } from '@kindred-baton/runner/browser/reach';
import type { GivenTest, OnStep } from '@kindred-baton/runner/drive/do-test';
import { doTest } from '@kindred-baton/runner/drive/do-test';
import type { TestReport } from '@kindred-baton/runner/drive/report';
import type { Step } from '@kindred-baton/core/tests/step';
import { deriveInterface } from '@kindred-baton/core/tests/interface';
import { toDemoField } from '@kindred-baton/store/demo/fields';
import { createBareDatabase } from './test-store.ts';

const ACCOUNTS: Readonly<Record<string, string>> = {
  ...{ Customer: 'DESK01', Works: 'PLAN01', Metering: 'METR01', Billing: 'BILL01', Stores: 'STOR01', Ledger: 'LEDG01' },
};
const PERSONAS: Readonly<Record<string, string>> = { 'billing lead': 'BILL09' };
const PATIENCE_MS = 6_000;

export interface Practice {
  readonly address: string;
  readonly databaseUrl: string;
  readonly host: BrowserHost;
  /** What a deployment changes, as a script sends it. */
  readonly deploy: (environment: string, change: Readonly<Record<string, unknown>>) => Promise<Response>;
  readonly open: () => Promise<Session>;
  /** Does steps with the values that the baton carries, in a profile of their own where no session is given. */
  readonly run: (
    steps: readonly Step[],
    baton: Readonly<Record<string, string>>,
    more?: Partial<GivenTest> & { readonly environment?: string; readonly session?: Session; readonly onStep?: OnStep },
  ) => Promise<TestReport>;
  readonly close: () => Promise<void>;
}

/** The demo's doors, as its environments have them (store/demo/lay-doors.ts). */
function listDoors(address: string, databaseUrl: string, environment: string): OpenDoor[] {
  const { host, pathname } = new URL(databaseUrl);
  const { user, password } = readerOf(environment);
  return [
    {
      ...{ name: 'Billing interface', kind: 'interface', address: `${address}/${environment}/billing/api`, signIn: 'bearer', user: '' },
      secret: `practice-${environment}`,
    },
    { name: 'Ledger database', kind: 'database', address: `postgresql://${host}${pathname}`, signIn: 'none', user, secret: password },
  ];
}

/** The practice application on a database of its own, and a browser to work in it. */
export async function openPractice(): Promise<Practice> {
  const bare = await createBareDatabase();
  const millrace: Millrace = await openMillrace({ databaseUrl: bare.url });
  const host = await startBrowser(process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium');
  const address = `http://127.0.0.1:${millrace.port}`;
  const open = () => openSession(host, { reach: createReach([address]) });
  const deploy: Practice['deploy'] = (environment, change) =>
    fetch(`${address}/deployments/${environment}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(change),
    });
  return {
    ...{ address, databaseUrl: bare.url, host, open, deploy },
    run: async (steps, baton, { environment = 'rehearsal', session: given, onStep, ...more } = {}) => {
      const session = given ?? (await open());
      const password = `practice-${environment}`;
      const toAccount = (user: string | undefined) => (user === undefined ? undefined : { user, password });
      try {
        return await doTest(
          session,
          {
            ...{ attempt: randomUUID(), steps, values: baton, gives: deriveInterface(steps).gives.map((give) => toDemoField(give.name)) },
            applications: Object.keys(ACCOUNTS).map((own) => ({
              name: `Millrace ${own}`,
              address: `${address}/${environment}/${own.toLowerCase()}`,
            })),
            doors: listDoors(address, bare.url, environment),
            account: toAccount(ACCOUNTS[steps[0]?.within?.replace('Millrace ', '') ?? '']),
            accountOf: (persona) => toAccount(PERSONAS[persona]),
            day: new Date().toISOString().slice(0, 10),
            ...{ calendar: { workingDays: [1, 2, 3, 4, 5], holidays: [] }, patienceMs: PATIENCE_MS, pictures: 'none' },
            ...more,
          },
          onStep ? { onStep } : {},
        );
      } finally {
        if (!given) await session.close();
      }
    },
    close: async () => {
      await host.close();
      await millrace.close();
      await bare.drop();
    },
  };
}
