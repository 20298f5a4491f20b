import { readFileSync } from 'node:fs';
import { Hono } from 'hono';
import type { Context } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { csrf } from 'hono/csrf';
import type { Pool } from 'pg';
import type { Environment } from './data/environments.ts';
import { findEnvironment, listEnvironments } from './data/environments.ts';
import { openRecords } from './data/records.ts';
import { addDeployments } from './deployments.ts';
import { tellView, writeNewer } from './draw/newer.ts';
import { writeOlder } from './draw/older.ts';
import type { Markup } from './draw/page.ts';
import { writeFrame, writePage } from './draw/page.ts';
import { writeHome, writeSignIn, writeTablet } from './draw/small-pages.ts';
import { addFiles } from './files.ts';
import type { ApplicationName, Desk, Screen } from './kit/screen.ts';
import { APPLICATIONS } from './kit/screen.ts';
import { findScreen, listScreens, toSlug } from './screens/all-screens.ts';
import { createSessions } from './sessions.ts';
import { addTakeOver } from './take-over-address.ts';
import type { User } from './users.ts';
import { passwordOf, USERS } from './users.ts';

const COOKIE = 'millrace';
const NEWER_SCREEN = readFileSync(new URL('./draw/newer-screen.js', import.meta.url), 'utf8');

/** The whole practice suite over one database. */
export function createApp(pool: Pool): Hono {
  const app = new Hono();
  const sessions = createSessions();
  app.use(csrf());
  app.get('/', async (c) => c.html(writeHome(await listEnvironments(pool))));
  app.get('/newer-screen.js', (c) => c.body(NEWER_SCREEN, 200, { 'content-type': 'text/javascript', 'cache-control': 'no-cache' }));
  app.get('/health', (c) => c.json({ ok: true }));
  addDeployments(app, pool, sessions);
  addFiles(app, pool);
  addTakeOver(app, pool);

  app.use('/:environment/*', async (c, next) => {
    const environment = await findEnvironment(pool, c.req.param('environment'));
    if (!environment) return c.notFound();
    if (environment.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, environment.slowMs));
    if (environment.isDown) return c.html(writeStop('Millrace is being serviced', 'Come back later.'), 503);
    return next();
  });
  const whoAsks = (c: Context): User | undefined => sessions.find(getCookie(c, COOKIE), c.req.param('environment') ?? '');

  app.get('/:environment/sign-in', (c) => c.html(writeSignIn(c.req.param('environment'), c.req.query('to') ?? '', '')));
  app.post('/:environment/sign-in', async (c) => {
    const name = c.req.param('environment');
    const { user = '', password = '', to = '' } = (await c.req.parseBody()) as Record<string, string>;
    const found = USERS.find(({ code }) => code === user.trim().toUpperCase());
    if (!found || password !== passwordOf(name)) return c.html(writeSignIn(name, to, 'User and password do not go together.'), 401);
    setCookie(c, COOKIE, sessions.begin(found, name), { httpOnly: true, sameSite: 'Lax', path: '/' });
    return c.redirect(to.startsWith(`/${name}/`) ? to : `/${name}/${toSlug(found.applications[0] ?? 'Customer')}`);
  });
  app.get('/:environment/sign-out', (c) => {
    deleteCookie(c, COOKIE);
    return c.redirect(`/${c.req.param('environment')}/sign-in`);
  });

  app.use('/:environment/:application/*', async (c, next) => {
    if (whoAsks(c)) return next();
    if (c.req.method === 'POST') return c.text('The session has ended.', 401);
    return c.redirect(`/${c.req.param('environment')}/sign-in?to=${encodeURIComponent(c.req.path)}`);
  });
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

  const findOpen = async (c: Context): Promise<{ screen: Screen; environment: Environment; user: User } | Markup | undefined> => {
    const { environment: name = '', application = '', screen: slug = '' } = c.req.param();
    const environment = await findEnvironment(pool, name);
    const screen = findScreen(application, slug);
    const user = whoAsks(c);
    if (!environment || !screen || !user) return undefined;
    if (!user.applications.includes(screen.application))
      return writeStop('Not for you', `${user.name}s have no right to Millrace ${screen.application}.`);
    return { screen, environment, user };
  };
  app.on(['GET', 'POST'], '/:environment/:application/:screen', async (c) => {
    const open = await findOpen(c);
    if (open === undefined) return c.notFound();
    if (!('screen' in open)) return c.html(open, 403);
    const { screen, environment, user } = open;
    const isNewer = screen.look === 'newer' || screen.rebuiltIn === environment.release;
    const frame = { environment, user, application: screen.application as ApplicationName, screen: screen.name };
    const title = `${screen.name} – Millrace ${screen.application}`;
    if (c.req.method === 'GET' && isNewer) return c.html(writePage({ title, body: writeFrame(frame, writeNewer(screen)) }));
    const isJson = c.req.header('content-type')?.startsWith('application/json') ?? false;
    const sent = c.req.method === 'GET' ? NOTHING : isJson ? readSent(await c.req.json()) : readForm(await c.req.parseBody());
    const desk: Desk = {
      ...{ values: { ...sent.values }, record: sent.record, mode: sent.mode, message: '', isRefused: false },
      ...{
        records: openRecords(pool, environment.name),
        faults: environment.faults,
        user,
        environment: environment.name,
        release: environment.release,
      },
    };
    await handle(screen, desk, sent.event);
    const view = await screen.draw(desk);
    if (isJson) return c.json(tellView(view, desk));
    return c.html(writePage({ title, body: writeFrame(frame, writeOlder(screen, view, desk)) }));
  });
  app.notFound((c) => c.html(writeStop('There is no such page', 'Look at the address again.'), 404));
  app.onError((error, c) => {
    process.stderr.write(`${error.stack ?? error.message}\n`);
    return c.html(writeStop('Millrace has made a mistake', 'What was done was not kept.'), 500);
  });
  return app;
}

const writeStop = (title: string, sentence: string): Markup => writePage({ title, body: writeHome([], title, sentence) });

interface Sent {
  readonly values: Readonly<Record<string, string>>;
  readonly record: string;
  readonly mode: string;
  readonly event: string;
}
const NOTHING: Sent = { values: {}, record: '', mode: '', event: '' };

const toText = (value: unknown) => (typeof value === 'string' ? value.slice(0, 2_000) : '');

function readSent(body: unknown): Sent {
  const { values, record, mode, event } = (typeof body === 'object' && body !== null ? body : {}) as Partial<Record<keyof Sent, unknown>>;
  const own = typeof values === 'object' && values !== null ? Object.entries(values) : [];
  return {
    values: Object.fromEntries(own.map(([label, value]) => [label, toText(value)])),
    record: toText(record),
    mode: toText(mode),
    event: toText(event),
  };
}

/** A form of the older generation: fields by f:label, and the button that was pressed by its name. */
function readForm(body: Record<string, unknown>): Sent {
  const values: Record<string, string> = {};
  let event = toText(body['event']);
  for (const [name, value] of Object.entries(body)) {
    if (name.startsWith('f:')) values[name.slice(2)] = toText(value);
    if (name.startsWith('press:')) event = name;
    const page = /^page:(\d+):(.*)$/.exec(name);
    if (page) values[`page of ${page[2]}`] = page[1] ?? '0';
  }
  return { values, record: toText(body['record']), mode: toText(body['mode']), event };
}

async function handle(screen: Screen, desk: Desk, event: string): Promise<void> {
  const at = event.indexOf(':');
  const [kind, label] = [event.slice(0, at), event.slice(at + 1)];
  const handlers = kind === 'press' ? screen.press : kind === 'change' ? screen.change : undefined;
  if (handlers && Object.hasOwn(handlers, label)) await handlers[label]?.(desk);
}
