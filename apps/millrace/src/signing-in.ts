import type { Context, Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { writeSignIn } from './draw/small-pages.ts';
import { toSlug } from './screens/all-screens.ts';
import type { Sessions } from './sessions.ts';
import type { User } from './users.ts';
import { passwordOf, USERS } from './users.ts';

const COOKIE = 'millrace';

/** Who asks, by the session of the environment that is asked. */
export const createWhoAsks =
  (sessions: Sessions) =>
  (c: Context): User | undefined =>
    sessions.find(getCookie(c, COOKIE), c.req.param('environment') ?? '');

/** Signing in and out; whatever is added after this is for those who are signed in. */
export function addSignIn(app: Hono, sessions: Sessions): void {
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
  const whoAsks = createWhoAsks(sessions);
  app.use('/:environment/:application/*', async (c, next) => {
    if (whoAsks(c)) return next();
    if (c.req.method === 'POST') return c.text('The session has ended.', 401);
    return c.redirect(`/${c.req.param('environment')}/sign-in?to=${encodeURIComponent(c.req.path)}`);
  });
}
