import { loadFeed } from '@kindred-baton/store/programmes/profile';
import type { APIRoute } from 'astro';
import { writeCalendar } from '../../server/answers/programmes/write-calendar.ts';
import { getStore } from '../../server/store.ts';

/** A person's calendar: whoever has the address reads it, so the address is a secret of its own. */
export const GET: APIRoute = async ({ params, url }) => {
  const feed = await loadFeed(getStore(), params['token'] ?? '');
  if (!feed) return new Response('There is no such calendar.', { status: 404 });
  return new Response(writeCalendar(feed, url.origin, new Date()), {
    headers: { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, no-cache' },
  });
};
