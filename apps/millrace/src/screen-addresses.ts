import type { Context, Hono } from 'hono';
import type { Pool } from 'pg';
import type { Environment } from './data/environments.ts';
import { findEnvironment } from './data/environments.ts';
import { openRecords } from './data/records.ts';
import { tellView, writeNewer } from './draw/newer.ts';
import { writeOlder } from './draw/older.ts';
import type { Markup } from './draw/page.ts';
import { writeFrame, writePage } from './draw/page.ts';
import { writeStop, writeTablet } from './draw/small-pages.ts';
import type { ApplicationName, Desk, Screen } from './kit/screen.ts';
import { APPLICATIONS } from './kit/screen.ts';
import { findScreen, listScreens, toSlug } from './screens/all-screens.ts';
import type { Sent } from './sent.ts';
import { NOTHING, readForm, readSent } from './sent.ts';
import { asUnit, touchScreen } from './spans.ts';
import type { User } from './users.ts';

interface OpenScreen {
  readonly screen: Screen;
  readonly environment: Environment;
  readonly user: User;
}

/** Where the screens of the applications are, for whoever is signed in. */
export function addScreens(app: Hono, pool: Pool, whoAsks: (c: Context) => User | undefined): void {
  app.get('/:environment/:application', (c) => {
    const { environment = '', application = '' } = c.req.param();
    const name = APPLICATIONS.find((one) => toSlug(one) === application);
    const [first] = name ? listScreens(name) : [];
    return first ? c.redirect(`/${environment}/${application}/${toSlug(first.name)}`) : c.notFound();
  });
  app.get('/:environment/works/tablet/:job', async (c) => {
    const environment = (await findEnvironment(pool, c.req.param('environment')))!;
    const records = openRecords(pool, environment.name);
    const job = await records.find('job', c.req.param('job'));
    const [permit] = job ? await records.list('permit', { job: job.number }) : [];
    return job ? c.html(writeTablet(job, environment.faults.has('permit') ? '' : (permit?.number ?? 'none'))) : c.notFound();
  });
  app.on(['GET', 'POST'], '/:environment/:application/:screen', async (c) => {
    const open = await findOpen(c);
    if (open === undefined) return c.notFound();
    return 'screen' in open ? answerScreen(c, open) : c.html(open, 403);
  });

  async function findOpen(c: Context): Promise<OpenScreen | Markup | undefined> {
    const { environment: name = '', application = '', screen: slug = '' } = c.req.param();
    const environment = await findEnvironment(pool, name);
    const screen = findScreen(application, slug);
    const user = whoAsks(c);
    if (!environment || !screen || !user) return undefined;
    if (!user.applications.includes(screen.application))
      return writeStop('Not for you', `${user.name}s have no right to Millrace ${screen.application}.`);
    return { screen, environment, user };
  }

  async function answerScreen(c: Context, { screen, environment, user }: OpenScreen): Promise<Response> {
    touchScreen(screen.application, screen.name);
    const isNewer = screen.look === 'newer' || screen.rebuiltIn === environment.release;
    const frame = { environment, user, application: screen.application as ApplicationName, screen: screen.name };
    const title = `${screen.name} – Millrace ${screen.application}`;
    if (c.req.method === 'GET' && isNewer) return c.html(writePage({ title, body: writeFrame(frame, writeNewer(screen)) }));
    const isJson = c.req.header('content-type')?.startsWith('application/json') ?? false;
    const sent = await readWhatWasSent(c, isJson);
    const { name, faults, release } = environment;
    const desk: Desk = {
      ...{ values: { ...sent.values }, record: sent.record, mode: sent.mode, message: '', isRefused: false },
      ...{ records: openRecords(pool, name), faults, user, environment: name, release },
    };
    await handle(screen, desk, sent.event);
    const view = await asUnit(`${toUnit(screen)}.draw`, () => screen.draw(desk));
    if (isJson) return c.json(tellView(view, desk));
    return c.html(writePage({ title, body: writeFrame(frame, writeOlder(screen, view, desk)) }));
  }
}

async function readWhatWasSent({ req }: Context, isJson: boolean): Promise<Sent> {
  if (req.method === 'GET') return NOTHING;
  return isJson ? readSent(await req.json()) : readForm(await req.parseBody());
}

const toUnit = ({ application, name }: Screen): string => `${toSlug(application)}.${toSlug(name)}`;

async function handle(screen: Screen, desk: Desk, event: string): Promise<void> {
  const at = event.indexOf(':');
  const [kind, label] = [event.slice(0, at), event.slice(at + 1)];
  const handlers = kind === 'press' ? screen.press : kind === 'change' ? screen.change : undefined;
  if (handlers && Object.hasOwn(handlers, label)) await asUnit(`${toUnit(screen)}.${kind}.${label}`, () => handlers[label]?.(desk));
}
