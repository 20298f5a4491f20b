import type { APIRoute } from 'astro';
import { getStore } from '../../server/store.ts';

/** 200 once the database answers. */
export const GET: APIRoute = async () => {
  await getStore().pool.query('select 1');
  return Response.json({ isReady: true });
};
